import fc from "fast-check";
import type { Design, Duct, NetClass, Part } from "../design/model";
import { SHOP_RULES } from "../shop/rules";
import { compute as panel } from "../panel/compute";
import { randomDesigns } from "../test/random-design";
import { ALL_DRAWN, runs } from "../test/runs";
import { tapeLengths } from "../test/tape";
import { DOT, tiny, wire } from "../test/tiny";
import { compute } from "./compute";
import { explain } from "./explain";
import type { PieceEdge, RoutesResult, WireRoute } from "./result";
import { liesOf, stepsOf, wiresAtWorst, type Lie } from "./way";

const route = (design: Design): RoutesResult => compute(design, SHOP_RULES, panel(design));
const lengths = (design: Design): (number | null)[] => route(design).wires.map((w) => w.lengthMm);
const PIN = DOT.pins![0]!;

// ---- properties on random panels -------------------------------------------------------------------

const MARGIN = 700;

const LOW: Part = { ...DOT, number: "L", category: "duct", w: 2000, h: 40, d: 40, duct: { innerW: 36, innerH: 34 } };

const bars = fc.uniqueArray(fc.record({ n: fc.integer({ min: 0, max: 6 }), low: fc.boolean(), twin: fc.boolean() }), {
  minLength: 1,
  maxLength: 4,
  selector: (b) => b.n,
});

const pinPlaces = {
  x: fc.integer({ min: 0, max: 760 }),
  y: fc.integer({ min: 0, max: 760 }),
  exit: fc.constantFrom("up", "down", "left", "right", "out"),
  z: fc.constantFrom(27, 27, 12.5, 60),
  door: fc.constantFrom(false, false, true),
};

/**
 * A grid of ducts on the plate and one on the door, of two heights, some with another beside them; pins
 * scattered about both at several heights; crossings from one to the other. Every duct is joined to some other.
 */
const panels = fc
  .record({
    flats: bars,
    uprights: bars,
    door: fc.record({ flats: bars, uprights: bars }),
    crossings: fc.array(
      fc.record({ from: fc.nat(20), to: fc.nat(20), t: fc.integer({ min: 0, max: 760 }), loop: fc.nat(200) }),
      { maxLength: 3 },
    ),
    pins: fc.array(fc.record(pinPlaces), { minLength: 2, maxLength: 7 }),
    pairs: fc.array(fc.tuple(fc.nat(20), fc.nat(20)), { minLength: 1, maxLength: 8 }),
  })
  .map(({ flats, uprights, door, crossings, pins, pairs }) => {
    type Bars = typeof flats;
    // The door's frame lies 100 mm left of and below the plate's.
    const laid = (face: string, sign: string, margin: number, h: Bars, v: Bars): (Duct & { face: string })[] =>
      [
        ...h.map((b) => ({ b, run: "right" as const, name: `${sign}H${b.n}`, x: margin, y: margin + b.n * 120 })),
        ...v.map((b) => ({ b, run: "up" as const, name: `${sign}V${b.n}`, x: margin + b.n * 120, y: margin })),
      ].flatMap(({ b, run, name, x, y }) => {
        const duct = { tag: name, face, run, x, y, length: 760, part: b.low ? "L" : "D" };
        const beside = run === "right" ? { y: y + 40, x: x + 80 } : { x: x + 40, y: y + 80 };
        return b.twin ? [duct, { ...duct, ...beside, tag: `${name}b`, length: 640 }] : [duct];
      });
    return {
      ducts: laid("+A1/plate", "", MARGIN, flats, uprights),
      doorDucts: laid("+A1/door", "D", MARGIN + 100, door.flats, door.uprights),
      crossings,
      pins,
      pairs: pairs.map(([a, b]) => [a % pins.length, b % pins.length] as const).filter(([a, b]) => a !== b),
    };
  });

type Panel = typeof panels extends fc.Arbitrary<infer T> ? T : never;

/** The plate alone, its ducts joined at crossings of grid lines only. */
const plain = (p: Panel): Panel => ({
  ...p,
  ducts: p.ducts.filter((d) => !d.tag.endsWith("b")).map((d) => ({ ...d, part: "D" })),
  doorDucts: [],
  crossings: [],
  pins: p.pins.map((pin) => ({ ...pin, door: false, z: 27 })),
});

const PARTS = (["up", "down", "left", "right", "out"] as const).flatMap((exit) =>
  [27, 12.5, 60].map((z): Part => ({ ...DOT, number: `${exit} ${z}`, pins: [{ ...PIN, exit, z }] })),
);

function build(
  p: Panel,
  change: {
    shift?: [number, number];
    mirror?: boolean;
    swap?: boolean;
    more?: (Partial<Duct> & { face: string })[];
  } = {},
): Design {
  const [sx, sy] = change.shift ?? [0, 0];
  const widths: Record<string, number> = { "+A1/plate": 2000, "+A1/door": 2200 };
  const mirrorX = (face: string, x: number, w: number): number => (change.mirror ? widths[face]! - x - w : x);
  const flip: Record<string, string> = { left: "right", right: "left" };
  const all = [...p.ducts, ...p.doorDucts];
  return tiny({
    parts: [LOW, ...PARTS],
    ducts: [...all, ...(change.more ?? [])].map((d) => ({
      ...d,
      x: mirrorX(d.face, d.x!, d.run === "right" ? d.length! : 40) + sx,
      y: d.y! + sy,
    })),
    crossings: p.crossings.flatMap(({ from, to, t, loop }, i) => {
      if (p.doorDucts.length === 0) return [];
      // From a place on one duct square over to the centre line of the other.
      const [a, b] = [p.ducts[from % p.ducts.length]!, p.doorDucts[to % p.doorDucts.length]!];
      const at = (d: Duct, off: number) =>
        d.run === "right" ? [d.x + t + off, d.y + 20 + off] : [d.x + 20 + off, d.y + t + off];
      const [[ax, ay], [bx, by]] = [at(a, 100), at(b, 0)] as [[number, number], [number, number]];
      const x = (v: number): number => (change.mirror ? 2200 - v : v) + sx;
      return [
        {
          tag: `C${i}`,
          kind: "hinge" as const,
          from: { duct: a.tag },
          to: { duct: b.tag },
          enclosure: "+A1",
          points: [
            { x: x(ax), y: ay + sy, z: 373 },
            { x: x(ax), y: ay + sy, z: 100 },
            { x: x(bx), y: ay + sy, z: 100 },
            { x: x(bx), y: by + sy, z: 100 },
            { x: x(bx), y: by + sy, z: 27 },
          ],
          loop,
        },
      ];
    }),
    devices: p.pins.map(({ exit, z, x, y, door }, i) => {
      const [face, margin] = door ? ["+A1/door", MARGIN + 100] : ["+A1/plate", MARGIN];
      return {
        tag: `-K${i}`,
        part: `${change.mirror ? (flip[exit] ?? exit) : exit} ${z}`,
        on: {
          face,
          x: mirrorX(face as string, (margin as number) + x - 5, 10) + sx,
          y: (margin as number) + y - 5 + sy,
        },
      };
    }),
    wires: p.pairs.map(([a, b]) => (change.swap ? wire(`-K${b}`, `-K${a}`) : wire(`-K${a}`, `-K${b}`))),
    rules: { routes: { detourMostMm: 0 } },
  });
}

const RUNS = { numRuns: runs(150, 30), seed: 2601 };

/** How often a property met what it is about: what was not met was not tested. */
function tally(...names: string[]) {
  const met = new Map(names.map((n) => [n, 0]));
  return {
    count: (name: string, yes = true): void => void (yes && met.set(name, met.get(name)! + 1)),
    expectEach: (least: number): void =>
      expect([...met].filter(([, n]) => ALL_DRAWN && n < least).map(([name, n]) => `${name}: ${n}`)).toEqual([]),
  };
}

/** A point of a wire's end in the space of its enclosure. */
const inSpace = ({ face, x, y, z }: { face: string; x: number; y: number; z: number }): [number, number, number] =>
  face.endsWith("plate") ? [x + 100, y + 100, 400 - z] : [x, y, z];

describe("properties", () => {
  test("a length is at least the straight-line distance of its pins", () => {
    const met = tally("one face", "two faces");
    fc.assert(
      fc.property(panels, (p) => {
        const design = build(p);
        const result = route(design);
        for (const w of result.wires) {
          if (!w.terms) continue;
          const [a, b] = [inSpace(w.from!), inSpace(w.to!)];
          const t = w.terms;
          const straight = Math.hypot(...a.map((v, i) => v - b[i]!));
          expect(t.entryFrom + t.way + t.entryTo + 1e-9).toBeGreaterThanOrEqual(straight);
          met.count("one face", w.from!.face === w.to!.face);
          met.count("two faces", w.from!.face !== w.to!.face);
        }
      }),
      RUNS,
    );
    met.expectEach(20);
  });

  test("mirrored, shifted and end-swapped designs give the same lengths", () => {
    fc.assert(
      fc.property(panels, fc.integer({ min: -600, max: 400 }), fc.integer({ min: -600, max: 400 }), (p, sx, sy) => {
        const plain = lengths(build(p));
        expect(lengths(build(p, { mirror: true }))).toEqual(plain);
        expect(lengths(build(p, { shift: [sx, sy] }))).toEqual(plain);
        expect(lengths(build(p, { swap: true }))).toEqual(plain);
      }),
      RUNS,
    );
  });

  test("swapped ends take the same way", () => {
    fc.assert(
      fc.property(panels, (p) => {
        const [one, two] = [route(build(p)), route(build(p, { swap: true }))];
        const lies = (r: RoutesResult, w: WireRoute) =>
          liesOf(r, w)
            .map((l) => `${l.edge} ${l.fromMm} ${l.toMm}`)
            .sort();
        one.wires.forEach((w, i) => expect(lies(one, w)).toEqual(lies(two, two.wires[i]!)));
      }),
      RUNS,
    );
  });

  test("another duct never lengthens a shortest way", () => {
    fc.assert(
      fc.property(panels.map(plain), fc.integer({ min: 0, max: 6 }), (p, n) => {
        // Pins leave by the nearest duct of the first panel; the new duct lies where no pin meets it first.
        const face = "+A1/plate";
        const more = [
          { tag: "new", face, run: "right" as const, x: MARGIN, y: MARGIN + 840 + n * 40, length: 760 },
          { tag: "newV", face, run: "up" as const, x: MARGIN + 760, y: MARGIN, length: 1200 },
        ];
        const before = route(build(p));
        const after = route(build(p, { more }));
        before.wires.forEach((w, i) => {
          const now = after.wires[i]!;
          const same = (a: WireRoute["from"], b: WireRoute["from"]): boolean =>
            a!.entry!.x === b!.entry!.x && a!.entry!.y === b!.entry!.y;
          if (same(w.from, now.from) && same(w.to, now.to)) expect(now.terms!.way).toBeLessThanOrEqual(w.terms!.way);
        });
      }),
      RUNS,
    );
  });

  test("the terms and the steps add up to the length", () => {
    fc.assert(
      fc.property(panels, (p) => {
        const design = build(p);
        const result = route(design);
        for (const w of result.wires) {
          if (!w.terms) continue;
          expect(Object.values(w.terms).reduce((a, b) => a + b, 0)).toBeCloseTo(w.lengthMm!, 6);
          const steps = stepsOf(result, w).reduce((s, x) => s + x.mm, 0);
          expect(steps).toBeCloseTo(w.terms!.entryFrom + w.terms!.way + w.terms!.entryTo, 6);
          const working = explain(result, { of: "length", wire: w.id }, { design, shop: SHOP_RULES })!;
          expect(working.terms.reduce((s, t) => s + (t.value ?? 0), 0)).toBeCloseTo(w.lengthMm!, 6);
        }
      }),
      RUNS,
    );
  });

  test("the same design gives the same bytes", () => {
    fc.assert(
      fc.property(panels, (p) => {
        expect(JSON.stringify(route(build(p)))).toBe(
          JSON.stringify(route(JSON.parse(JSON.stringify(build(p))) as Design)),
        );
      }),
      { ...RUNS, numRuns: runs(30, 10) },
    );
  });

  test("no way that visits no place twice is shorter: all of them tried, on a network of its own", () => {
    const met = tally("crossing", "joint", "loop", "no length");
    fc.assert(
      fc.property(
        randomDesigns.filter((d) => d.ducts.length <= 6),
        (drawn) => {
          const design = { ...drawn, wires: drawn.wires.slice(0, 4) };
          const tape = tapeLengths(design, true);
          const result = route(design);
          for (const w of result.wires) {
            expect(tape.get(w.id)!.map((mm) => `${w.id} ${mm}`)).toContain(`${w.id} ${w.lengthMm}`);
            const kinds = w.way?.edges.map((e) => result.edges[e]!.kind) ?? [];
            met.count("crossing", kinds.includes("crossing"));
            met.count("joint", kinds.includes("joint"));
            met.count("loop", (w.terms?.loops ?? 0) > 0);
            met.count("no length", w.lengthMm === null);
          }
        },
      ),
      RUNS,
    );
    met.expectEach(5);
  });
});

// ---- properties of the choice of ways: classes, fill, connection ------------------------------------

const CLASS_NETS = [
  { name: "d", class: "drive" as const, colour: "BK" as const, sizeMm2: 16 },
  { name: "s", class: "signal" as const, colour: "WH" as const, sizeMm2: 0.5 },
  { name: "c", class: "control" as const, colour: "BU" as const, sizeMm2: 1.5 },
];

/** The random panel with every wire many times over and in different classes, so that ducts fill up. */
const crowded = fc
  .record({
    panel: panels,
    copies: fc.integer({ min: 1, max: 25 }),
    nets: fc.array(fc.constantFrom("d", "s", "c"), { minLength: 8, maxLength: 8 }),
  })
  .map(({ panel: p, copies, nets }) => {
    const design = build(p);
    const wires = design.wires.flatMap((w, i) =>
      Array.from({ length: copies }, (_, c) => ({ ...w, net: nets[i % nets.length]!, number: `${w.number}-${c}` })),
    );
    return { ...design, nets: CLASS_NETS, wires, rules: {} };
  });

/** Where the wires of a class lie: per piece, stretches in mm from its start. */
const stretches = (result: RoutesResult, wires: readonly WireRoute[]) => wires.flatMap((w) => liesOf(result, w));

const beside = (result: RoutesResult, w: WireRoute, others: ReturnType<typeof stretches>): boolean =>
  liesOf(result, w).some((l) => others.some((o) => o.edge === l.edge && o.fromMm < l.toMm && l.fromMm < o.toMm));

const ofClass = (result: RoutesResult, cls: string) =>
  stretches(
    result,
    result.wires.filter((w) => w.class === cls),
  );

describe("properties of the choice of ways", () => {
  test("a signal lies together with drive only where it is marked to", () => {
    const met = tally("apart", "led apart", "shared");
    fc.assert(
      fc.property(crowded, (design) => {
        const result = route(design);
        const drive = ofClass(result, "drive");
        for (const w of result.wires.filter((x) => x.class === "signal" && x.way)) {
          const shared = w.marks.includes("shared-duct");
          expect(beside(result, w, drive)).toBe(shared);
          met.count("apart", !shared && drive.length > 0);
          met.count("led apart", !shared && w.marks.includes("detour-class"));
          met.count("shared", shared);
          if (shared) expect(w.marks).not.toContain("detour-class");
        }
      }),
      { ...RUNS, numRuns: runs(80, 15) },
    );
    met.expectEach(20);
  });

  test.each([["drive"], ["signal"]] as const)(
    "leaving full ducts keeps %s as far from the other as it was",
    (first) => {
      const met = tally("moved", "moved signal", "moved drive");
      const apart: [NetClass, NetClass][] = [first === "drive" ? ["drive", "signal"] : ["signal", "drive"]];
      fc.assert(
        fc.property(crowded, (design) => {
          const thick = { ...design, nets: CLASS_NETS.map((n) => ({ ...n, sizeMm2: 16 })) };
          const before = route({ ...thick, rules: { routes: { apart, detourMostMm: 0 } } });
          const after = route({ ...thick, rules: { routes: { apart } } });
          after.wires.forEach((w, i) => {
            const was = before.wires[i]!;
            if (JSON.stringify(w.way) === JSON.stringify(was.way)) return;
            met.count("moved");
            if (w.class !== "signal" && w.class !== "drive") return;
            met.count(`moved ${w.class}`);
            const foes = (r: RoutesResult) => ofClass(r, w.class === "signal" ? "drive" : "signal");
            if (!beside(before, was, foes(before))) expect(beside(after, w, foes(after))).toBe(false);
          });
        }),
        { ...RUNS, numRuns: runs(40, 13) },
      );
      met.expectEach(10);
    },
  );

  test("the fill of every piece is what lies at its worst place", () => {
    const met = tally("empty", "ok", "watch", "over", "worst is not all");
    fc.assert(
      fc.property(crowded, (design) => {
        const result = route(design);
        const lies = new Map<number, (Lie & { w: WireRoute })[]>(result.edges.map((_, i) => [i, []]));
        for (const w of result.wires) for (const l of liesOf(result, w)) lies.get(l.edge)!.push({ ...l, w });
        result.edges.forEach((e, i) => {
          if (e.kind !== "piece") return;
          const here = lies.get(i)!;
          expect(e.wires).toBe(new Set(here.map((l) => l.w)).size);
          // The load changes only where a wire begins or ends: just after each beginning is enough.
          const loads = here.map(({ fromMm }) => {
            const there = here.filter((o) => o.fromMm <= fromMm && fromMm < o.toMm);
            return { wires: there.length, mm2: there.reduce((s, o) => s + (Math.PI / 4) * o.w.outerMm! ** 2, 0) };
          });
          const most = Math.max(0, ...loads.map((l) => l.mm2));
          expect(e.usedMm2).toBeCloseTo(most, 1);
          expect(e.fillPercent).toBeCloseTo((most * 100) / e.insideMm2, 1);
          expect(e.state).toBe(e.fillPercent > 70 ? "over" : e.fillPercent >= 55 ? "watch" : "ok");
          met.count(e.wires === 0 ? "empty" : e.state);
          met.count("worst is not all", (e.worst?.wires ?? e.wires) < e.wires);
          if (e.worst) {
            expect(e.worst.wires).toBe(wiresAtWorst(result, i).length);
            expect(loads.some((l) => l.wires === e.worst!.wires && Math.abs(l.mm2 - most) < 1e-6)).toBe(true);
          } else expect(here).toEqual([]);
        });
      }),
      { ...RUNS, numRuns: runs(60, 15) },
    );
    met.expectEach(3);
  });

  test("detours stay within their limit, and fill no duct beyond its own", () => {
    const met = tally("detour 300", "detour 2000", "still over", "no longer over");
    fc.assert(
      fc.property(crowded, fc.constantFrom(300, 2000), (design, detourMostMm) => {
        const before = route({ ...design, rules: { routes: { detourMostMm: 0 } } });
        const result = route({ ...design, rules: { routes: { detourMostMm } } });
        for (const w of result.wires.filter((x) => x.marks.includes("detour-fill"))) {
          const t = w.terms!;
          expect(t.entryFrom + t.way + t.entryTo + t.loops - w.shortestMm!).toBeLessThanOrEqual(detourMostMm + 1e-6);
          met.count(`detour ${detourMostMm}`);
        }
        result.edges.forEach((e, i) => {
          const was = before.edges[i]!;
          if (e.kind !== "piece" || was.kind !== "piece") return;
          if (e.fillPercent > 70) expect(e.fillPercent).toBeLessThanOrEqual(was.fillPercent);
          met.count("still over", e.fillPercent > 70);
          met.count("no longer over", was.fillPercent > 70 && e.fillPercent <= 70);
        });
      }),
      { ...RUNS, numRuns: runs(60, 15) },
    );
    met.expectEach(10);
  });

  test("every way hangs together: each edge begins where the one before it ended", () => {
    const met = tally("beside at its start", "beside at its end", "crossing");
    fc.assert(
      fc.property(crowded, (design) => {
        const result = route(design);
        for (const w of result.wires) {
          if (!w.way || w.way.first < 0) continue;
          // The piece it lies in once it has stepped aside.
          const inPiece = (end: WireRoute["from"], aside: number[] | undefined) =>
            result.edges[aside?.[aside.length - 1] ?? end!.entry!.edge]!;
          const start = inPiece(w.from, w.way.start);
          expect([start.a, start.b]).toContain(w.way.first);
          met.count("beside at its start", w.way.start !== undefined);
          met.count("beside at its end", w.way.end !== undefined);
          met.count("crossing", w.terms!.loops > 0);
          let node = w.way.first;
          for (const e of w.way.edges) {
            const edge = result.edges[e]!;
            expect([edge.a, edge.b]).toContain(node);
            node = edge.a === node ? edge.b : edge.a;
          }
          const end = inPiece(w.to, w.way.end);
          expect([end.a, end.b]).toContain(node);
        }
      }),
      { ...RUNS, numRuns: runs(60, 15) },
    );
    met.expectEach(3);
  });

  test("a wire has no way exactly when its ducts are not joined", () => {
    // The same grids with the upright ducts pulled away: flat ducts hang alone, each a part of its own.
    fc.assert(
      fc.property(panels, (p) => {
        const design = build({ ...plain(p), ducts: plain(p).ducts.filter((d) => d.run === "right") });
        const result = route(design);
        for (const w of result.wires) {
          const ductAt = (e: WireRoute["from"]): string => (result.edges[e!.entry!.edge] as PieceEdge).duct;
          expect(w.lengthMm !== null).toBe(ductAt(w.from) === ductAt(w.to));
          if (w.lengthMm === null)
            expect(w.noWay).toMatch(/^no way leads from H\d to H\d: H\d and H\d stand \d+ mm apart$/);
        }
      }),
      { ...RUNS, numRuns: runs(60, 15) },
    );
  });
});
