import { METALWORK } from "../test/metalwork";
import fc from "fast-check";
import type { Aisle, StorePlace } from "./rules";
import { KIT_RULES, type KitRules } from "./rules";
import { defaultsOf } from "../shop/rule-kinds";
import { runs } from "../test/runs";
import { compute } from "./compute";
import { planOf } from "./plan";
import { joinedBy, storeOf, waysFrom } from "./walk";
import { tiny } from "../test/tiny";
import { runStages } from "../run";

const distancesOf = (start: string, aisles: readonly Aisle[]) => waysFrom(start, joinedBy(aisles)).metres;

const AISLES: Aisle[] = [
  { from: "desk", to: "A", metres: 5 },
  { from: "A", to: "B", metres: 4 },
  { from: "B", to: "C", metres: 4 },
  { from: "C", to: "desk", metres: 9 },
  { from: "A", to: "gate", metres: 3 },
];
const PLACES: StorePlace[] = ["A", "B", "C"].flatMap((r) =>
  [1, 2, 3].map((n) => ({ begins: `${r}-${n}`, at: r, metres: 2 * n })),
);
const store = (end: string) => storeOf({ aisles: AISLES, places: PLACES, start: "desk", end });

test("ways through the store are the shortest; the longest beginning names a place", () => {
  expect(Object.fromEntries(distancesOf("desk", AISLES))).toEqual({ desk: 0, A: 5, B: 9, C: 9, gate: 8 });
  const places = [{ begins: "A", at: "x", metres: 0 }, ...PLACES, { begins: "A-2", at: "twice", metres: 0 }];
  const { rowFor } = storeOf({ aisles: AISLES, places, start: "desk", end: "desk" });
  expect(rowFor("A-2-07")).toMatchObject({ at: "A", metres: 4 });
  expect(rowFor("A-9")).toMatchObject({ at: "x" });
  expect(rowFor("Z-1")).toBeUndefined();
  expect(store("desk").between("A-1", "B-2")).toBe(2 + 4 + 4);
  expect(store("desk").between("A-1", "Z-2")).toBeNull();
});

/** Metres of an order, worked out without the code that finds it. */
function far(order: readonly string[], end: string, aisles = AISLES, places = PLACES): number {
  const ways = new Map([...new Set(aisles.flatMap((a) => [a.from, a.to]))].map((p) => [p, distancesOf(p, aisles)]));
  const at = (p: string) => places.find((r) => p.startsWith(r.begins))!;
  const stops = [{ at: "desk", metres: 0 }, ...order.map(at), { at: end, metres: 0 }];
  return stops.slice(1).reduce((sum, b, i) => {
    const a = stops[i]!;
    return sum + (a.at === b.at ? Math.abs(a.metres - b.metres) : a.metres + ways.get(a.at)!.get(b.at)! + b.metres);
  }, 0);
}

/** The least of all orders, by parts of them that have been walked already (Held and Karp 1962). */
function bestOf(list: readonly string[], end: string, aisles = AISLES, places = PLACES): number {
  const at = (p: string) => places.find((r) => p.startsWith(r.begins))!;
  const ways = new Map([...new Set(aisles.flatMap((a) => [a.from, a.to]))].map((p) => [p, distancesOf(p, aisles)]));
  const way = (a: { at: string; metres: number }, b: { at: string; metres: number }): number =>
    a.at === b.at ? Math.abs(a.metres - b.metres) : a.metres + ways.get(a.at)!.get(b.at)! + b.metres;
  const known = new Map<string, number>();
  const from = (left: number, here: { at: string; metres: number }): number => {
    if (left === 0) return way(here, { at: end, metres: 0 });
    const key = `${left} ${here.at} ${here.metres}`;
    const before = known.get(key);
    if (before !== undefined) return before;
    const least = Math.min(
      ...list.flatMap((p, i) => (left & (1 << i) ? [way(here, at(p)) + from(left & ~(1 << i), at(p))] : [])),
    );
    known.set(key, least);
    return least;
  };
  return from((1 << list.length) - 1, { at: "desk", metres: 0 });
}

test("against all orders to eight places, round and from one end to another; what is nowhere stands last", () => {
  fc.assert(
    fc.property(
      fc.uniqueArray(fc.constantFrom(...PLACES.map((p) => `${p.begins}-x`)), { minLength: 1, maxLength: 8 }),
      fc.constantFrom("desk", "gate"),
      (list, end) => {
        const walk = store(end).walk([...list, "Z-9"]);
        expect([...walk.stops].sort()).toEqual([...list, "Z-9"].sort());
        expect([walk.stops[walk.stops.length - 1], walk.unknown]).toEqual(["Z-9", ["Z-9"]]);
        const best = bestOf(list, end);
        expect(walk.metres).toBeCloseTo(best, 6);
        expect(far(walk.stops.slice(0, -1), end)).toBeCloseTo(best, 6);
        expect(walk.boundMetres!).toBeLessThanOrEqual(best + 1e-6);
        expect(walk.listMetres).toBeCloseTo(far(list, end), 6);
      },
    ),
    { seed: 61, numRuns: runs(60) },
  );
});

test("in any store, with rings and without: the shortest to eight places, and a bound that is below it", () => {
  const corners = ["desk", "a", "b", "c", "d", "e"];
  const metres = fc.integer({ min: 1, max: 20 });
  const stores = fc.record({
    // Each corner hangs on one before it; more ways make rings.
    tree: fc.tuple(...corners.slice(1).map((_, i) => fc.record({ to: fc.integer({ min: 0, max: i }), metres }))),
    more: fc.array(fc.record({ a: fc.constantFrom(...corners), b: fc.constantFrom(...corners), metres }), {
      maxLength: 3,
    }),
    wanted: fc.uniqueArray(fc.integer({ min: 0, max: 17 }), { minLength: 1, maxLength: 8 }),
    end: fc.constantFrom("desk", "c", "e"),
  });
  fc.assert(
    fc.property(stores, ({ tree, more, wanted, end }) => {
      const aisles: Aisle[] = [
        ...tree.map((t, i) => ({ from: corners[i + 1]!, to: corners[t.to]!, metres: t.metres })),
        ...more.map((m) => ({ from: m.a, to: m.b, metres: m.metres })),
      ];
      const places = Array.from({ length: 18 }, (_, i) => ({
        begins: `p${String.fromCharCode(97 + i)}`,
        at: corners[i % 6]!,
        metres: (i * 7) % 5,
      }));
      const list = wanted.map((i) => places[i]!.begins);
      const walk = storeOf({ aisles, places, start: "desk", end }).walk(list);
      const best = bestOf(list, end, aisles, places);
      expect(walk.metres).toBeCloseTo(best, 6);
      expect(far(walk.stops, end, aisles, places)).toBeCloseTo(walk.metres, 6);
      expect(walk.boundMetres!).toBeLessThanOrEqual(best + 1e-6);
      // Without a ring the bound is the walk itself.
      if (more.length === 0) expect(walk.boundMetres!).toBeCloseTo(best, 6);
    }),
    { seed: 62, numRuns: runs(150) },
  );
});

test("a large walk is near its bound and shorter than its list, whichever end", () => {
  const shop = defaultsOf(KIT_RULES) as unknown as KitRules;
  const wanted = Array.from(
    { length: 60 },
    (_, i) => `${"ABCDR"[(i * 7) % 5]!}-${String(((i * 5) % 12) + 1).padStart(2, "0")}-${i % 3}${i}`,
  );
  for (const end of ["desk", "rack R"]) {
    const walk = storeOf({ ...shop, end }).walk(wanted);
    expect(new Set(walk.stops)).toEqual(new Set(wanted));
    expect(walk.metres).toBeLessThan(walk.listMetres);
    expect(walk.metres).toBeGreaterThanOrEqual(walk.boundMetres! - 1e-6);
    expect(walk.metres / walk.boundMetres!).toBeLessThan(1.04);
  }
});

test("nothing to fetch is no way; an end that is not there is no end", () => {
  expect(store("desk").walk([])).toMatchObject({ stops: [], metres: 0 });
  expect(store("gate").walk([]).metres).toBe(8);
  expect(store("nowhere").walk(["A-1"]).metres).toBe(2 * (5 + 2));
});

test("walks that begin nowhere, or end where no way leads, are open points", () => {
  const rules = defaultsOf(KIT_RULES) as unknown as KitRules;
  const { stages } = runStages(tiny({}));
  const kinds = (change: Partial<KitRules>): string[] =>
    compute(
      tiny({}),
      { ...rules, ...change },
      { colours: new Map(), pieces: [], threads: METALWORK.threads },
      stages as never,
    ).open.map((p) => `${p.kind}: ${p.text}`);
  expect(kinds({}).some((k) => k.startsWith("walk from nowhere"))).toBe(false);
  expect(kinds({ start: "moon" }).join()).toMatch(/walks begin at "moon"/);
  const island = { from: "isle", to: "rock", metres: 1 };
  expect(kinds({ aisles: [...rules.aisles, island], end: "isle" }).join()).toMatch(
    /no way leads from "desk" to "isle"/,
  );
});

test("on the plan the walk is as long as it is, passes every stop, and begins and ends where walks do", () => {
  const shop = defaultsOf(KIT_RULES) as unknown as KitRules;
  const walk = storeOf(shop).walk(["D-03-02", "A-07-01", "R-01-01", "B-02-05", "B-11-01", "Z-1", "yard"]);
  const plan = planOf(shop, walk);
  expect(plan.lacking).toEqual([]);
  const metres = plan.way
    .slice(1)
    .reduce((sum, p, i) => sum + Math.hypot(p.x - plan.way[i]!.x, p.y - plan.way[i]!.y), 0);
  // The shipped plan is to scale.
  expect(metres).toBeCloseTo(walk.metres, 6);
  expect([plan.way[0], plan.way[plan.way.length - 1]]).toEqual([
    { x: 0, y: 0 },
    { x: 0, y: 0 },
  ]);
  expect(plan.stops.map((s) => s.place)).toEqual(walk.stops.filter((p) => p !== "Z-1"));
  for (const stop of plan.stops) expect(plan.way).toContainEqual({ x: stop.x, y: stop.y });
  const without = planOf({ ...shop, plan: shop.plan.filter((p) => p.at !== "rack B") }, walk);
  expect(without.lacking).toEqual(["rack B"]);
  expect(without.stops.length).toBeLessThan(plan.stops.length);
});
