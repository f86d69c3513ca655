import fc from "fast-check";
import type { Design, Device, Hole, Part } from "../design/model";
import { lookUp } from "../design/lookup";
import { OpenPoints } from "../design/open-points";
import { compute as computePanel } from "../panel/compute";
import { demo } from "../test/demo";
import { tiny } from "../test/tiny";
import { checkFace } from "./checks";
import { METALWORK } from "../test/metalwork";
import { cutOf, fixingsAlong, holesOf, merged, standOnFaces } from "./holes";
import type { Cut, Drilled } from "./result";
import { cutText, originText } from "./say";
import { fatOf, frameOf, mirrored, webOf } from "./shapes";
import { coreOf } from "../design/threads";

const part = (number: string, holes: Hole[], w = 100, h = 60): Part => ({
  number,
  maker: "Oddmake",
  text: number,
  category: "drive",
  w,
  h,
  d: 50,
  holes,
});
const FOUR: Hole[] = [
  { kind: "thread", x: 10, y: 10, thread: "M5" },
  { kind: "thread", x: 90, y: 10, thread: "M5" },
  { kind: "round", x: 50, y: 30, d: 22.3, notch: { to: 24.1, w: 3.2 } },
  { kind: "rect", x: 20, y: 40, w: 30, h: 10, r: 2 },
  { kind: "slot", x: 60, y: 40, w: 20, h: 6, angle: 0 },
];
const design = (devices: Device[], more: Partial<Design> = {}): Design => ({
  ...tiny({ parts: [part("P", FOUR)] }),
  ducts: [],
  rails: [],
  wires: [],
  devices,
  ...more,
});
const at = (tag: string, x: number, y: number, more: Partial<Device> = {}): Device => ({
  tag,
  part: "P",
  on: { face: "+A1/plate", x, y },
  ...more,
});
const work = (d: Design): { faces: Drilled[]; unmade: unknown[] } => holesOf(lookUp(d), computePanel(d), METALWORK);
const plate = (d: Design): Drilled => work(d).faces.find((f) => f.face === "+A1/plate")!;
const cuts = (d: Design): Cut[] => plate(d).holes.map((h) => h.cut);

describe("holes of patterns", () => {
  test("lie where the device stands, each once, in order of place", () => {
    expect(plate(design([at("-U1", 200, 100)])).holes.map((h) => [h.number, h.cut, originText(h.from)])).toEqual([
      [1, { kind: "thread", x: 210, y: 110, d: 4.2, thread: "M5" }, "hole 1 of -U1"],
      [2, { kind: "thread", x: 290, y: 110, d: 4.2, thread: "M5" }, "hole 2 of -U1"],
      [3, { kind: "round", x: 250, y: 130, d: 22.3, notch: { to: 24.1, w: 3.2, angle: 90 } }, "hole 3 of -U1"],
      [4, { kind: "slot", x: 270, y: 143, w: 20, h: 6, angle: 0 }, "hole 5 of -U1"],
      [5, { kind: "rect", x: 220, y: 140, w: 30, h: 10, r: 2 }, "hole 4 of -U1"],
    ]);
  });

  test("a quarter turn turns them about the middle of the body: keys, slots and openings too", () => {
    const turned = cuts(design([at("-U1", 200, 100, { turn: 90 })]));
    // About 250, 130: (x, y) becomes (250 − (y − 130), 130 + (x − 250)).
    expect(turned).toEqual(
      expect.arrayContaining([
        { kind: "thread", x: 270, y: 90, d: 4.2, thread: "M5" },
        { kind: "round", x: 250, y: 130, d: 22.3, notch: { to: 24.1, w: 3.2, angle: 180 } },
        { kind: "rect", x: 230, y: 100, w: 10, h: 30, r: 2 },
        { kind: "slot", x: 237, y: 150, w: 20, h: 6, angle: 90 },
      ]),
    );
  });

  test("moved by so much, all move by so much; four quarter turns are none", () => {
    fc.assert(
      fc.property(
        fc.integer({ min: 0, max: 500 }),
        fc.integer({ min: 0, max: 500 }),
        fc.constantFrom<0 | 90 | 180 | 270>(0, 90, 180, 270),
        (dx, dy, turn) => {
          const moved = FOUR.map((h) => cutOf(h, bodyOf(dx, dy, turn), METALWORK.threads)!);
          const there = FOUR.map((h) => cutOf(h, bodyOf(0, 0, turn), METALWORK.threads)!);
          there.forEach((c, i) => {
            const [a, b] = [frameOf(c), frameOf(moved[i]!)];
            expect([b.x - a.x, b.y - a.y, b.w, b.h].map((v) => Math.round(v * 1e6) / 1e6)).toEqual(
              [dx, dy, a.w, a.h].map((v) => Math.round(v * 1e6) / 1e6),
            );
          });
        },
      ),
      { seed: 21 },
    );
  });

  test("what stands on a rail or in another device is drilled by nobody", () => {
    const lark = demo("larkmoor");
    const { faces } = holesOf(lookUp(lark), computePanel(lark), METALWORK);
    const panel = computePanel(lark);
    const carried = new Set(panel.devices.filter((d) => d.carrier !== null).map((d) => d.tag));
    const from = faces.flatMap((f) => f.holes.flatMap((h) => h.from));
    expect(from.filter((o) => carried.has(o.of))).toEqual([]);
    // Every hole of every part that is screwed on is there exactly once; every rail and duct is fixed.
    for (const d of panel.devices.filter((x) => x.carrier === null)) {
      const holes = lark.parts.find((p) => p.number === d.part)!.holes ?? [];
      expect(from.filter((o) => o.thing === "device" && o.of === d.tag)).toHaveLength(holes.length);
    }
    for (const b of [...panel.rails, ...panel.ducts])
      expect(from.filter((o) => o.of === b.tag && o.thing !== "device").length).toBeGreaterThan(0);
  });

  test("two that ask for the same hole within 0.2 mm get one, and both are named; further apart two", () => {
    const thread = (x: number): Cut => ({ kind: "thread", x, y: 10, d: 4.2, thread: "M5" });
    const from = (of: string) => ({ thing: "device" as const, of, nth: 1 });
    expect(
      merged([
        { cut: thread(10), from: from("-U1") },
        { cut: thread(10.19), from: from("-U2") },
      ]).map((h) => originText(h.from)),
    ).toEqual(["hole 1 of -U1 and hole 1 of -U2"]);
    expect(
      merged([
        { cut: thread(10), from: from("-U1") },
        { cut: thread(10.21), from: from("-U2") },
      ]),
    ).toHaveLength(2);
    // Another kind at one place is another hole.
    expect(
      merged([
        { cut: thread(10), from: from("-U1") },
        { cut: { kind: "round", x: 10, y: 10, d: 4.2 }, from: from("-U2") },
      ]),
    ).toHaveLength(2);
  });

  test("inside is the exact mirror: seen twice it is as it was", () => {
    fc.assert(
      fc.property(fc.constantFrom(...FOUR), fc.constantFrom<0 | 90 | 180 | 270>(0, 90, 180, 270), (hole, turn) => {
        const cut = cutOf(hole, bodyOf(37, 11, turn), METALWORK.threads)!;
        const [a, b] = [frameOf(cut), frameOf(mirrored(cut, 800))];
        expect(b.x + b.w).toBeCloseTo(800 - a.x, 9);
        expect([b.y, b.w, b.h]).toEqual([expect.closeTo(a.y, 9), expect.closeTo(a.w, 9), expect.closeTo(a.h, 9)]);
        expect(frameOf(mirrored(mirrored(cut, 800), 800))).toEqual({
          x: expect.closeTo(a.x, 9),
          y: expect.closeTo(a.y, 9),
          w: expect.closeTo(a.w, 9),
          h: expect.closeTo(a.h, 9),
        });
      }),
      { seed: 22 },
    );
    expect(mirrored({ kind: "round", x: 1, y: 2, d: 3, notch: { to: 4, w: 1, angle: 30 } }, 10)).toEqual({
      kind: "round",
      x: 9,
      y: 2,
      d: 3,
      notch: { to: 4, w: 1, angle: 150 },
    });
  });

  test("threads have their core holes by ISO 261, others by their pitch; one without either is not made", () => {
    expect(["M3", "M4", "M5", "M6", "M8", "M10", "M8x1", "M7"].map((t) => coreOf(t, METALWORK.threads))).toEqual([
      2.5,
      3.3,
      4.2,
      5,
      6.8,
      8.5,
      7,
      null,
    ]);
    const odd = design([at("-U1", 0, 0)], { parts: [part("P", [{ kind: "thread", x: 1, y: 1, thread: "M7" }])] });
    expect(work(odd).unmade).toEqual([
      { from: { thing: "device", of: "-U1", nth: 1 }, why: "no core hole is known for its thread M7" },
    ]);
  });
});

function bodyOf(x: number, y: number, turn: 0 | 90 | 180 | 270) {
  const across = turn === 90 || turn === 270;
  const centre = { x: x + 50, y: y + 30 };
  const [w, h] = across ? [60, 100] : [100, 60];
  return { centre, turn, w: 100, h: 60, z: 0, outline: { x: centre.x - w / 2, y: centre.y - h / 2, w, h } };
}

describe("fixings", () => {
  test("first and last from the ends, between them evenly, never further apart than may be", () => {
    expect(fixingsAlong(300, 25, 250)).toEqual([25, 275]);
    expect(fixingsAlong(301, 25, 250)).toEqual([25, 150.5, 276]);
    expect(fixingsAlong(50, 25, 250)).toEqual([25]);
    fc.assert(
      fc.property(
        fc.double({ min: 1, max: 5000, noNaN: true }),
        fc.integer({ min: 1, max: 100 }),
        fc.integer({ min: 10, max: 500 }),
        (length, end, most) => {
          const places = fixingsAlong(length, end, most);
          expect(places.every((p) => p > 0 && p < length)).toBe(true);
          if (length > 2 * end) {
            expect([places[0], places[places.length - 1]!]).toEqual([end, expect.closeTo(length - end, 6)]);
            places.slice(1).forEach((p, i) => expect(p - places[i]!).toBeLessThanOrEqual(most + 1e-6));
            // One fewer would be too few.
            expect((length - 2 * end) / most).toBeGreaterThan(places.length - 2 - 1e-6);
          }
        },
      ),
      { seed: 23 },
    );
  });
});

describe("distances", () => {
  const round = (x: number, y: number, d: number): Cut => ({ kind: "round", x, y, d });
  const between = (a: Cut, b: Cut): number => webOf(fatOf(a), fatOf(b));

  test("worked by hand", () => {
    expect(between(round(0, 0, 10), round(30, 0, 10))).toBe(20);
    expect(between(round(0, 0, 10), { kind: "rect", x: 8, y: -20, w: 10, h: 40, r: 0 })).toBe(3);
    expect(between({ kind: "slot", x: 0, y: 0, w: 20, h: 6, angle: 90 }, round(0, 20, 4))).toBeCloseTo(8, 9);
    expect(between(round(5, 5, 2), { kind: "rect", x: 0, y: 0, w: 10, h: 10, r: 0 })).toBe(0);
    // The key of a control unit reaches 24.1 − 22.3 / 2 from its middle.
    expect(
      between({ kind: "round", x: 0, y: 0, d: 22.3, notch: { to: 24.1, w: 3.2, angle: 90 } }, round(0, 20, 2)),
    ).toBeCloseTo(20 - 12.95 - 1, 9);
  });

  test("the same both ways, and as near as points of their edges come", () => {
    const cut = fc.oneof(
      fc.record({ kind: fc.constant("round" as const), x: coordinate(), y: coordinate(), d: size() }),
      fc.record({
        kind: fc.constant("slot" as const),
        x: coordinate(),
        y: coordinate(),
        w: size(),
        h: size(),
        angle: fc.integer({ min: 0, max: 179 }),
      }),
      fc.record({
        kind: fc.constant("rect" as const),
        x: coordinate(),
        y: coordinate(),
        w: size(),
        h: size(),
        r: fc.constant(0),
      }),
    );
    fc.assert(
      fc.property(cut, cut, (a, b) => {
        const d = between(a, b);
        expect(between(b, a)).toBeCloseTo(d, 9);
        const [pa, pb] = [rimOf(a), rimOf(b)];
        let least = Infinity;
        for (const p of pa) for (const q of pb) least = Math.min(least, Math.hypot(p.x - q.x, p.y - q.y));
        if (d > 0) expect(Math.abs(least - d)).toBeLessThan(4);
        else expect(least).toBeLessThan(63);
      }),
      { seed: 24, numRuns: 60 },
    );
  });
});

const coordinate = () => fc.integer({ min: 0, max: 200 });
const size = () => fc.integer({ min: 2, max: 60 });

/** Points along the edge of a cut, a millimetre apart or less. */
function rimOf(cut: Cut): { x: number; y: number }[] {
  const { points, radius } = fatOf(cut);
  const list: { x: number; y: number }[] = [];
  points.forEach((p, i) => {
    const q = points[(i + 1) % points.length]!;
    const n = Math.ceil(Math.hypot(q.x - p.x, q.y - p.y) / 3) + 1;
    for (let k = 0; k <= n; k++) {
      const [x, y] = [p.x + ((q.x - p.x) * k) / n, p.y + ((q.y - p.y) * k) / n];
      if (radius === 0) list.push({ x, y });
      else
        for (let a = 0; a < 24; a++)
          list.push({ x: x + radius * Math.cos((a * Math.PI) / 12), y: y + radius * Math.sin((a * Math.PI) / 12) });
    }
  });
  return list;
}

describe("checks", () => {
  const RULES = { edgePlateMm: 10, edgeDoorMm: 15, webMm: 3 };
  const two = (devices: Device[]): Design => design(devices, { parts: [part("P", FOUR.slice(0, 2))] });
  const kinds = (d: Design, keepOuts: Parameters<typeof checkFace>[1] = []): string[] => {
    const points = new OpenPoints("metalwork");
    for (const f of work(d).faces)
      checkFace(f, keepOuts, standOnFaces(computePanel(d)).get(f.face) ?? [], RULES, points);
    return points.list().map((p) => `${p.kind}: ${p.text}`);
  };

  test("edge, beyond the sheet, web, keep-out and a screw under a body, with millimetres", () => {
    expect(kinds(two([at("-U1", 200, 100)]))).toEqual([]);
    // The core hole at 10 mm of the body leaves 10 − 2.1 + 1 mm.
    expect(kinds(two([at("-U1", 1, 100)])).join()).toContain(
      "near the edge: hole 1 of -U1 leaves 8.9 mm to the edge of +A1/plate; 10 mm are to be kept",
    );
    expect(kinds(two([at("-U1", -20, 100)])).join()).toContain("hole beyond the sheet: hole 1 of -U1 reaches 12.1 mm");
    // The second holes of the first stand 6 mm from the first holes of the other: 6 − 4.2 between.
    expect(kinds(two([at("-U1", 200, 100), at("-U2", 286, 100)])).join()).toContain(
      "thin web: hole 2 of -U1 and hole 1 of -U2 on +A1/plate leave a web of 1.8 mm; 3 mm are to be kept",
    );
    expect(kinds(two([at("-U1", 200, 100), at("-U2", 286, 100)])).join()).toContain(
      "under a body: hole 2 of -U1 on +A1/plate lies under -U2: no screwdriver reaches it",
    );
    expect(kinds(two([at("-U1", 200, 100)]), [{ x: 205, y: 105, w: 10, h: 10, text: "stiffener" }])).toEqual([
      "hole in a keep-out: hole 1 of -U1 lies in a keep-out of +A1/plate (stiffener)",
    ]);
  });
});

test("holes say what they are", () => {
  expect(FOUR.map((h) => cutText(cutOf(h, bodyOf(0, 0, 0), METALWORK.threads)!))).toEqual([
    "M5, core Ø 4.2",
    "M5, core Ø 4.2",
    "Ø 22.3, key to 24.1, 3.2 wide, pointing up",
    "30 × 10, R 2",
    "slot 20 × 6",
  ]);
});

test("a free outline goes with its body, corner by corner", () => {
  const hole: Hole = {
    kind: "polygon",
    points: [
      { x: 0, y: 0 },
      { x: 10, y: 0 },
      { x: 10, y: 4 },
    ],
  };
  expect(cutOf(hole, bodyOf(37, 11, 0), METALWORK.threads)).toEqual({
    kind: "polygon",
    points: [
      { x: 37, y: 11 },
      { x: 47, y: 11 },
      { x: 47, y: 15 },
    ],
  });
});
