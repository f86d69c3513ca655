import fc from "fast-check";
import { onBody } from "../design/geometry";
import type { Design, Part, PinRef } from "../design/model";
import { EDITS } from "../edits";
import { ALL_DRAWN, runs } from "../test/runs";
import { DOT, enclosure, tiny } from "../test/tiny";
import { compute } from "./compute";
import { furnish, type Furnished, type FurnishAsk } from "./furnish";

const part = (w: number, more: Partial<Part> = {}): Part => ({
  ...DOT,
  number: `W${w}`,
  w,
  h: 80,
  pins: [
    { name: "up", x: w / 2, y: 70, z: 0 },
    { name: "down", x: 3, y: 5, z: 0 },
  ],
  mounts: [{ kind: "rail", datumY: 40 }],
  ...more,
});
const PARTS = [part(10), part(18), part(45), part(30, { clearances: { left: 6, right: 15 } })];
const NAMES = PARTS.map((p) => p.number);

const PLATE = "+A1/plate";
type Wired = readonly [from: string, pin: string, to: string, pin: string];

function design(
  loose: readonly string[],
  wires: readonly Wired[],
  lengths: readonly number[],
  fixed: Design["devices"] = [],
): Design {
  const base = tiny({ parts: PARTS, enclosures: [enclosure("+A1")], ducts: [] });
  return {
    ...base,
    rails: lengths.map((length, i) => ({
      tag: `R${i + 1}`,
      face: "+A1/plate",
      x: 100,
      y: 900 - 200 * i,
      run: "right" as const,
      length,
      part: "R",
    })),
    devices: [...loose.map((number, i) => ({ tag: `-D${i}`, part: number })), ...fixed],
    wires: wires.map(([a, p, b, q], i) => ({
      number: String(i + 1),
      net: "n",
      from: { device: a, pin: p },
      to: { device: b, pin: q },
    })),
    nets: [{ name: "n" }],
  };
}
const ask = (d: Design, more: Partial<FurnishAsk> = {}): FurnishAsk => ({
  devices: d.devices.filter((v) => !v.on).map((v) => v.tag),
  rails: d.rails.map((r) => r.tag),
  keepRows: false,
  sparePercent: 0,
  ...more,
});
const proposed = (d: Design, more: Partial<FurnishAsk> = {}): Furnished => {
  const p = furnish(d, compute(d), ask(d, more));
  if (!p.ok) throw new Error(p.reason);
  return p;
};

/** Sum of the distances of pins of a design as it stands, of wires that end on one of these. */
function spanOf(d: Design, tags: ReadonlySet<string>): number {
  const { devices } = compute(d);
  const at = ({ device, pin }: PinRef) => {
    const placed = devices.find((v) => v.tag === device)!;
    const { x, y } = d.parts.find((p) => p.number === placed.part)!.pins!.find((p) => p.name === pin)!;
    return onBody(placed, { x: x!, y: y!, z: 0 });
  };
  return d.wires
    .filter((w) => tags.has(w.from!.device) || tags.has(w.to!.device))
    .reduce((sum, w) => {
      const [a, b] = [at(w.from!), at(w.to!)];
      return sum + Math.abs(a.x - b.x) + Math.abs(a.y - b.y);
    }, 0);
}

/** Laid by its one edit. */
function laid(d: Design, { places }: Furnished): Design {
  const applied = EDITS.apply(d, { kind: "place many", payload: { places } });
  if (!applied.ok) throw new Error(applied.reason);
  return applied.design;
}

test("three in a row: the one that both are wired to comes between them, as worked out by hand", () => {
  // -D0 and -D1 to -D2, all 10 wide, pins in their middles: between them each wire is 10 long; in the order of the list 10 + 20.
  const d = design(["W10", "W10", "W10"], [["-D0", "up", "-D2", "up"], ["-D1", "up", "-D2", "up"]], [300]); // prettier-ignore
  expect(proposed(d)).toEqual({
    ok: true,
    places: [
      { device: "-D0", rail: "R1", x: 0 },
      { device: "-D1", rail: "R1", x: 20 },
      { device: "-D2", rail: "R1", x: 10 },
    ],
    spanMm: 20,
    listMm: 30,
    boundMm: 20,
    isBest: true,
  });
});

test("towards what stands already, with the room that parts ask for, and spare length", () => {
  // -S stands on the second rail from 200 to 210; -D0 goes there, behind it, and asks 6 mm on its left.
  const fixed = [{ tag: "-S", part: "W10", on: { rail: "R2", x: 200 } }];
  const d = design(["W30"], [["-D0", "up", "-S", "up"]], [300, 300], fixed);
  // Pins: 205 and 216 + 15 = 231 on one rail. On the first rail it would be 200 higher.
  expect(proposed(d)).toMatchObject({ places: [{ device: "-D0", rail: "R2", x: 216 }], spanMm: 26, listMm: 390, isBest: true }); // prettier-ignore
  // With 20 % left free the second rail ends at 240: no room.
  expect(proposed(d, { sparePercent: 20 }).places).toEqual([{ device: "-D0", rail: "R1", x: 0 }]);
  const full = furnish(d, compute(d), ask(d, { sparePercent: 95 }));
  expect(full).toMatchObject({ ok: false, reason: "they are 30 mm wide together, and no order is found in which the rails, with 15 mm free, hold them all" }); // prettier-ignore
});

test("past what lies over the rail: nothing is put where it would stand in that", () => {
  // A duct above the rail, from 150 to 190 of it, that bodies of 80 mm reach into.
  const d = design(["W45", "W45"], [], [400]);
  const at = { face: "+A1/plate", x: 250, y: 940, run: "right" as const, length: 40, part: "D" };
  const over = { ...d, ducts: [{ tag: "W1", ...at }] };
  // 0 to 45, then 45 to 90: both before 150. With a body of 100 before them the second must go past the duct, to 190.
  expect(proposed(over).places.map((p) => p.x)).toEqual([0, 45]);
  const long = { ...over, devices: [...over.devices, { tag: "-S", part: "W45", on: { rail: "R1", x: 60 } }] };
  expect(proposed(long).places.map((p) => p.x).sort((a, b) => a - b)).toEqual([105, 190]); // prettier-ignore
  expect(compute(laid(long, proposed(long))).clashes).toEqual([]);
});

test("towards the crossing that leads to another face, as it lies over the plate", () => {
  // The button on the door is reached on the far right of the rail: -D0, which is wired to it, comes last.
  const button = { tag: "-S", part: "W18", on: { face: "+A1/door", x: 50, y: 900 } };
  const d: Design = {
    ...design(["W10", "W10"], [["-D0", "up", "-S", "up"]], [300], [button]),
    crossings: [{ tag: "C1", kind: "edge", enclosure: "+A1", from: { face: PLATE }, to: { face: "+A1/door" }, points: [{ x: 1900, y: 900, z: 300 }, { x: 1900, y: 900, z: 0 }] }],
  }; // prettier-ignore
  expect(proposed(d).places.map((p) => p.x)).toEqual([10, 0]);
  const left = { ...d, crossings: d.crossings.map((c) => ({ ...c, points: c.points.map((p) => ({ ...p, x: 20 })) })) };
  expect(proposed(left).places.map((p) => p.x)).toEqual([0, 10]);
});

test("what cannot be is refused in words", () => {
  const d = design(["W10", "W10"], [], [300]);
  const reason = (more: Partial<FurnishAsk>, of = d): string => {
    const p = furnish(of, compute(of), ask(of, more));
    return p.ok ? "none" : p.reason;
  };
  expect(reason({ devices: ["-Z"] })).toBe("there is no device -Z in the design");
  expect(reason({ rails: ["R9"] })).toBe("rail R9 lies nowhere");
  expect(reason({ rails: [] })).toBe("no device or no rail is chosen");
  const held = { ...d, strips: [{ tag: "-X1", rail: "R1", members: ["-D0"], at: 0 }] };
  expect(reason({ devices: ["-D0"] }, held)).toBe("-D0 stands on strip -X1, which is laid on R1");
  const bare = {
    ...d,
    parts: d.parts.map((p) => (p.number === "W10" ? { ...p, mounts: [{ kind: "plate" as const }] } : p)),
  };
  expect(reason({}, bare)).toBe("part W10 of -D0 has no mount for a rail");
});

test("any few: the best of all orders, by the pins as they stand, never below the bound, nothing in or too near another", () => {
  let [several, kept] = [0, 0];
  fc.assert(
    fc.property(
      fc.array(fc.constantFrom(...NAMES), { minLength: 1, maxLength: 4 }),
      fc.array(fc.tuple(fc.nat(5), fc.constantFrom("up", "down"), fc.nat(5), fc.constantFrom("up", "down")), {
        maxLength: 6,
      }),
      fc.tuple(fc.integer({ min: 60, max: 260 }), fc.integer({ min: 60, max: 260 })),
      fc.boolean(),
      (loose, pairs, lengths, keepRows) => {
        const fixed = [{ tag: "-S", part: "W18", on: { rail: "R1", x: 0 } }];
        const tags = [...loose.map((_, i) => `-D${i}`), "-S"];
        const d = design(loose, pairs.map(([a, p, b, q]): Wired => [tags[a % tags.length]!, p, tags[b % tags.length]!, q]), lengths, fixed); // prettier-ignore
        const p = furnish(d, compute(d), ask(d, { keepRows }));
        if (!p.ok) return;
        expect(p.isBest).toBe(true);
        const after = laid(d, p);
        const told = compute(after);
        expect([told.clashes, told.open.filter((o) => o.kind === "off its rail")]).toEqual([[], []]);
        const own = new Set(loose.map((_, i) => `-D${i}`));
        expect(p.spanMm).toBeCloseTo(spanOf(after, own), 3);
        expect(p.boundMm).toBeLessThanOrEqual(p.spanMm + 1e-3);
        if (p.listMm !== null) expect(p.spanMm).toBeLessThanOrEqual(p.listMm + 1e-3);
        if (keepRows) {
          // All are of one row: side by side in their order.
          const row = p.places.map((at) => `${at.rail} ${String(at.x).padStart(9, "0")}`);
          expect(new Set(p.places.map((at) => at.rail)).size).toBe(1);
          expect([...row].sort((a, b) => Number(a.slice(3)) - Number(b.slice(3)))).toEqual(row);
          kept++;
          return;
        }
        // Every order on every split of the two rails, lined up by the edit of that name.
        const all = (list: string[]): string[][] => (list.length === 0 ? [[]] : list.flatMap((t) => all(list.filter((u) => u !== t)).map((rest) => [t, ...rest]))); // prettier-ignore
        let least = Infinity;
        for (const order of all([...own]))
          for (let n = 0; n <= order.length; n++) {
            let at: Design | null = d;
            for (const [rail, some] of [
              ["R1", order.slice(0, n)],
              ["R2", order.slice(n)],
            ] as const) {
              // prettier-ignore
              if (some.length === 0 || !at) continue;
              const applied: ReturnType<typeof EDITS.apply> = EDITS.apply(at, {
                kind: "line up",
                payload: { devices: some, rails: [rail] },
              });
              at = applied.ok ? applied.design : null;
            }
            if (at) least = Math.min(least, spanOf(at, own));
          }
        expect(p.spanMm).toBeCloseTo(least, 3);
        several++;
      },
    ),
    { numRuns: runs(120), seed: 285 },
  );
  if (ALL_DRAWN) expect([several > 35, kept > 20]).toEqual([true, true]);
});

test("thirty on three rails: shorter than the order of the list, the same each time, and a chain comes out nearly straight", () => {
  const n = 30;
  const order = Array.from({ length: n }, (_, i) => (i * 7) % n);
  // A chain through all of them, in an order that the list does not have.
  const chain = order.slice(1).map((b, i): Wired => [`-D${order[i]!}`, "up", `-D${b}`, "up"]);
  const d = design(order.map(() => "W10"), chain, [110, 110, 110]); // prettier-ignore
  const p = proposed(d);
  expect(proposed(d)).toEqual(p);
  expect(p.isBest).toBe(false);
  // 29 wires of 10 mm at the least, of which two change to another rail 200 mm below.
  expect(p.boundMm).toBe(290);
  expect(p.spanMm).toBeLessThan(p.listMm! / 3);
  expect(p.spanMm).toBeLessThan(1000);
  expect(compute(laid(d, p)).clashes).toEqual([]);
});
