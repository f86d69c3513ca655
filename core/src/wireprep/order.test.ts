import fc from "fast-check";
import { runs } from "../test/runs";
import { bundled, leastChange } from "./order";
import type { ChangeTimes } from "./changes";
import type { Chain, Lead, LeadEnd } from "./result";

const TIMES: ChangeTimes = { reelS: 60, endS: 45 };
const end = (part: string | null): LeadEnd => ({
  device: "-K1",
  pin: "1",
  treatment: part === null ? "bare" : "ferrule",
  part,
  sleeve: null,
  stripMm: 10,
  stripWhy: null,
  label: "",
  labelOn: "none",
  shared: null,
});
let nth = 0;
const lead = (type: string, from: string | null, to: string | null, bundle = "-K1"): Lead => ({
  wire: String(++nth),
  net: null,
  colour: "BK",
  sizeMm2: 1,
  strand: "fine",
  type,
  lengthMm: 100,
  fallback: false,
  from: end(from),
  to: end(to),
  enclosure: "+A1",
  face: "+A1/plate",
  bundle,
});
const single = (l: Lead): Chain => ({ leads: [l] });
/** Seconds to change over as the document says, reckoned here: another reel, and on each side a piece that does not stand there yet. */
const reckoned = (list: readonly Lead[]): number =>
  list.reduce((sum, now, i) => {
    const before = list[i - 1];
    const put = (["from", "to"] as const).filter((k) => now[k].part !== null && now[k].part !== before?.[k].part);
    return sum + (before?.type === now.type ? 0 : 60) + 45 * put.length;
  }, 0);
const flat = (chains: readonly Chain[]): Lead[] => chains.flatMap((c) => c.leads);

const orders = <T>(list: readonly T[]): T[][] =>
  list.length <= 1 ? [[...list]] : list.flatMap((x, i) => orders(list.filter((_, k) => k !== i)).map((r) => [x, ...r]));

const parts = fc.constantFrom(null, "F1", "F2", "R1");
const leads = fc.record({ type: fc.constantFrom("W1", "W2", "W3"), from: parts, to: parts });

test("against all orders to eight leads: none changes over less, and the bound is below", () => {
  fc.assert(
    fc.property(fc.array(leads, { minLength: 1, maxLength: 8 }), (list) => {
      const chains = list.map((l) => single(lead(l.type, l.from, l.to)));
      const best = bestOf(chains);
      const found = leastChange(chains, TIMES);
      expect(found.changeS).toBe(best);
      expect(found.changeS).toBe(reckoned(flat(found.chains)));
      expect(found.boundS).toBeLessThanOrEqual(best + 1e-6);
      expect(new Set(flat(found.chains))).toEqual(new Set(flat(chains)));
    }),
    { seed: 5, numRuns: runs(60) },
  );
});

/** The least of all orders, by parts of them that are made already (Held and Karp 1962). */
function bestOf(chains: readonly Chain[]): number {
  const known = new Map<string, number>();
  const from = (left: number, last: number): number => {
    if (left === 0) return 0;
    const key = `${left} ${last}`;
    const before = known.get(key);
    if (before !== undefined) return before;
    let best = Infinity;
    for (let i = 0; i < chains.length; i++) {
      if (!(left & (1 << i))) continue;
      const pair = last < 0 ? chains[i]!.leads : [...chains[last]!.leads, ...chains[i]!.leads];
      const step = reckoned(pair) - (last < 0 ? 0 : reckoned(chains[last]!.leads));
      best = Math.min(best, step + from(left & ~(1 << i), i));
    }
    known.set(key, best);
    return best;
  };
  return from((1 << chains.length) - 1, -1);
}

test("chains stay whole and in order, one way round or the other, and no order of them does better", () => {
  const chain = fc.array(leads, { minLength: 2, maxLength: 3 });
  fc.assert(
    fc.property(
      fc.array(chain, { minLength: 1, maxLength: 4 }),
      fc.array(leads, { maxLength: 2 }),
      (several, alone) => {
        const chains: Chain[] = [
          ...several.map((c) => ({ leads: c.map((l) => lead(l.type, l.from, l.to)) })),
          ...alone.map((l) => single(lead(l.type, l.from, l.to))),
        ];
        const found = leastChange(chains, TIMES);
        const made = flat(found.chains).map((l) => l.wire);
        expect([...made].sort()).toEqual(
          flat(chains)
            .map((l) => l.wire)
            .sort(),
        );
        for (const { leads: own } of chains) {
          const text = own.map((l) => l.wire).join(" ");
          const back = [...own]
            .reverse()
            .map((l) => l.wire)
            .join(" ");
          const at = made.join(" ");
          expect(` ${at} `.includes(` ${text} `) || ` ${at} `.includes(` ${back} `)).toBe(true);
        }
        // All orders, each chain both ways round.
        const ways = (list: readonly Chain[]): Chain[][] =>
          list.length === 0
            ? [[]]
            : ways(list.slice(1)).flatMap((rest) => [
                [list[0]!, ...rest],
                [{ leads: [...list[0]!.leads].reverse() }, ...rest],
              ]);
        const best = Math.min(...orders(chains).flatMap((o) => ways(o).map((w) => reckoned(flat(w)))));
        expect(found.boundS).toBeLessThanOrEqual(best + 1e-6);
        expect(found.changeS).toBeLessThanOrEqual(found.listS);
        expect(found.changeS).toBe(best);
      },
    ),
    { seed: 6, numRuns: runs(25) },
  );
});

test("bundle by bundle in the order of work; the more lie mixed, the less is changed over", () => {
  const all = Array.from({ length: 40 }, (_, i) =>
    single(lead(`W${i % 3}`, `F${i % 2}`, `F${(i >> 1) % 2}`, `-K${i % 8}`)),
  );
  const rank = (b: string): number => -Number(b.slice(2));
  const strict = bundled(all, rank, 1, TIMES);
  const seen = flat(strict.chains).map((l) => l.bundle);
  expect([...new Set(seen)]).toEqual(["-K7", "-K6", "-K5", "-K4", "-K3", "-K2", "-K1", "-K0"]);
  expect(seen.filter((b, i) => b !== seen[i - 1])).toHaveLength(8);
  const some = bundled(all, rank, 3, TIMES);
  const free = bundled(all, rank, 99, TIMES);
  expect(some.changeS).toBeLessThanOrEqual(strict.changeS);
  expect(free.changeS).toBeLessThanOrEqual(some.changeS);
  expect(free.changeS).toBe(leastChange(all, TIMES).changeS);
  for (const o of [strict, some, free]) expect(o.boundS).toBeLessThanOrEqual(o.changeS);
});

test("nothing to make takes no time; one lead sets the machine up", () => {
  expect(leastChange([], TIMES)).toEqual({ chains: [], changeS: 0, boundS: 0, listS: 0 });
  expect(leastChange([single(lead("W1", "F1", null))], TIMES).changeS).toBe(105);
});
