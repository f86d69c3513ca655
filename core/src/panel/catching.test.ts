import fc from "fast-check";
import { overlaps, within } from "../design/geometry";
import { contentHash } from "../design/hash";
import type { Design, Part } from "../design/model";
import { EDITS } from "../edits";
import { ALL_DRAWN, runs } from "../test/runs";
import { DOT, enclosure, tiny } from "../test/tiny";
import { catchOn, canDrag, holdBar, holdDevice, type Hold } from "./catching";
import { compute } from "./compute";

const PLATE = "+A1/plate";
const part = (number: string, w: number, h: number, mounts: Part["mounts"], more: Partial<Part> = {}): Part => ({ ...DOT, number, w, h, d: 50, pins: [], mounts, ...more }); // prettier-ignore
const PARTS = [
  part("RAIL", 20, 80, [{ kind: "rail", datumY: 30 }]),
  part("WIDE", 60, 80, [{ kind: "rail", datumY: 30 }], { clearances: { left: 5 } }),
  part("FACE", 100, 60, [{ kind: "plate" }]),
  part("BOTH", 40, 80, [{ kind: "rail", datumY: 40 }, { kind: "plate" }]),
];
const base = tiny({ parts: PARTS, enclosures: [enclosure("+A1")], ducts: [] });

/** A plate of 2,000 × 2,000 with a rail of 300 mm at 500, 1000 and a duct over it, from 1200 to 1240. */
const design = (devices: Design["devices"]): Design => ({
  ...base,
  rails: [{ tag: "R1", face: PLATE, x: 500, y: 1000, run: "right", length: 300, part: "R" }],
  ducts: [{ tag: "W1", face: PLATE, x: 500, y: 1200, run: "right", length: 400, part: "D" }],
  devices,
});
const hold = (d: Design, tag: string, x: number, y: number, w: number, h: number, reach = 10): Hold =>
  holdDevice(d, compute(d), tag, PLATE, { x, y, w, h }, reach);

test("a stretch catches the nearest edge, middle or gap within reach, an edge before what is as near", () => {
  const lines = { edges: [100, 200], middles: [150], starts: [163] };
  expect(catchOn(104, 20, lines, 5)).toEqual({ from: 100, line: 100 });
  expect(catchOn(177, 20, lines, 5)).toEqual({ from: 180, line: 200 });
  expect(catchOn(138, 20, lines, 5)).toEqual({ from: 140, line: 150 });
  expect(catchOn(161, 20, lines, 5)).toEqual({ from: 163, line: 163 });
  expect(catchOn(120, 20, lines, 5)).toEqual({ from: 120, line: null });
  expect(catchOn(104, 20, lines, 0)).toEqual({ from: 104, line: null });
  expect(catchOn(96, 8, { edges: [100], middles: [104], starts: [] }, 5)).toEqual({ from: 100, line: 100 });
});

test("on a rail: flush with what stands there, as far off as parts ask, in the middle of the gap, never across it", () => {
  const d = design([
    { tag: "-A", part: "RAIL", on: { rail: "R1", x: 0 } },
    { tag: "-B", part: "RAIL", on: { rail: "R1", x: 200 } },
    { tag: "-N", part: "WIDE" },
    { tag: "-M", part: "RAIL" },
  ]);
  const on = (h: Hold): unknown => (h.edit?.payload as { on?: unknown } | undefined)?.on;
  // The rail is 35 high: its middle lies at 1017.5, and a body with its datum at 30 from 987.5 on.
  expect(hold(d, "-M", 527, 995, 20, 80).outline).toEqual({ x: 520, y: 987.5, w: 20, h: 80 });
  expect(on(hold(d, "-M", 527, 995, 20, 80))).toEqual({ rail: "R1", x: 20 });
  expect(on(hold(d, "-M", 551, 1010, 20, 80))).toEqual({ rail: "R1", x: 51 });
  // -N asks 5 mm on its left: from 25 on; its right edge at -B: 140; the middle of the two: 82.5.
  expect(on(hold(d, "-N", 519, 990, 60, 80))).toEqual({ rail: "R1", x: 25 });
  expect(on(hold(d, "-N", 648, 990, 60, 80))).toEqual({ rail: "R1", x: 140 });
  expect(on(hold(d, "-N", 580, 990, 60, 80))).toEqual({ rail: "R1", x: 82.5 });
  // Beyond the end it stays on the rail; away from it a part for rails takes hold nowhere.
  expect(on(hold(d, "-M", 795, 990, 20, 80))).toEqual({ rail: "R1", x: 280 });
  expect(hold(d, "-M", 600, 300, 20, 80)).toMatchObject({
    edit: null,
    reason: "-M stands on rails alone: bring it to one",
  });
});

test("between two that leave no room it goes beside, and they are pushed along; a full rail says so", () => {
  const d = design([
    ...[0, 20, 40].map((x, i) => ({ tag: `-D${i}`, part: "RAIL", on: { rail: "R1", x } })),
    { tag: "-N", part: "WIDE" },
  ]);
  const h = hold(d, "-N", 495, 990, 60, 80);
  // Its middle lies at 25, behind that of -D0 at 10 and before that of -D1 at 30.
  expect(h.edit).toEqual({ kind: "insert", payload: { device: "-N", beside: "-D0", side: "behind" } });
  expect([h.outline.x, h.others.map((o) => o.x)]).toEqual([525, [585, 605]]);
  const full = design([...Array.from({ length: 15 }, (_, i) => ({ tag: `-D${i}`, part: "RAIL", on: { rail: "R1", x: 20 * i } })), { tag: "-N", part: "WIDE" }]); // prettier-ignore
  expect(hold(full, "-N", 600, 990, 60, 80)).toMatchObject({ edit: null, reason: expect.stringMatching(/^R1 has no room for -N there: 65 mm/) as string }); // prettier-ignore
});

test("on a face: edges and middles of what stands around, its own within the face; what can do both takes the rail where it is meant", () => {
  const d = design([
    { tag: "-F", part: "FACE" },
    { tag: "-G", part: "BOTH" },
    { tag: "-H", part: "FACE", on: { face: PLATE, x: 1000, y: 500 } },
  ]);
  expect(hold(d, "-F", 1096, 505, 100, 60)).toMatchObject({ outline: { x: 1100, y: 500 }, guides: [{ axis: "x", at: 1100 }, { axis: "y", at: 500 }] }); // prettier-ignore
  expect(hold(d, "-F", 1950, 30, 100, 60).outline).toMatchObject({ x: 1900, y: 30 });
  expect(hold(d, "-G", 600, 985, 40, 80).edit).toMatchObject({ payload: { on: { rail: "R1" } } });
  expect(hold(d, "-G", 600, 1040, 40, 80).edit).toMatchObject({ payload: { on: { face: PLATE } } });
});

test("a rail goes with what stands on it, an end is dragged to an edge, a duct joins another without a gap", () => {
  const d = design([{ tag: "-A", part: "RAIL", on: { rail: "R1", x: 100 } }]);
  const bar = (thing: "rail" | "duct", grip: "all" | "start" | "end", x: number, y: number, of = d) =>
    holdBar(of, compute(of), thing, thing === "rail" ? "R1" : "W1", grip, { x, y }, 10);
  // 397 to the right and 201 up: its beginning to the end of the duct at 900, its underside to that of the duct at 1200.
  expect(bar("rail", "all", 397, 201)).toMatchObject({ edit: { payload: { x: 900, y: 1200 } }, others: [{ x: 1000, y: 1187.5 }] }); // prettier-ignore
  expect(bar("rail", "end", 96, 0).edit).toMatchObject({ payload: { length: 400 } });
  expect(bar("rail", "start", 20, 0)).toMatchObject({ edit: null, reason: expect.stringContaining("measured from its start") as string }); // prettier-ignore
  expect(bar("duct", "start", 20, 0).edit).toMatchObject({ payload: { x: 520, length: 380 } });
  expect(bar("duct", "end", -400, 0)).toMatchObject({ edit: null, reason: "shorter than 10 mm it is none" });
  const two = {
    ...d,
    ducts: [...d.ducts, { ...d.ducts[0]!, tag: "W2", x: 1000, run: "up" as const, y: 800, length: 404 }],
  };
  // The end of W1 at 900 + 95 catches the edge of the upright one at 1000: they meet without a gap.
  expect(bar("duct", "end", 95, 0, two).edit).toMatchObject({ payload: { length: 500 } });
});

test("wherever it is let go: on its rail or within its face, in nothing on the rail, the edit stands where it was shown, undo gives what was", () => {
  const met = { rail: 0, insert: 0, face: 0, nowhere: 0 };
  fc.assert(
    fc.property(
      fc.array(fc.tuple(fc.constantFrom("RAIL", "WIDE", "BOTH"), fc.integer({ min: 0, max: 30 })), {
        maxLength: 9,
        size: "max",
      }),
      fc.constantFrom("RAIL", "WIDE", "WIDE", "BOTH", "FACE"),
      fc.record({
        x: fc.integer({ min: 450, max: 850 }),
        y: fc.oneof(fc.integer({ min: 960, max: 1030 }), fc.integer({ min: 900, max: 1250 })),
      }),
      fc.constantFrom(0, 6, 12),
      (there, number, at, reach) => {
        let x = 0;
        const on = there.flatMap(([p, free], i) => {
          const from = x + free + (p === "WIDE" ? 5 : 0);
          x = from + PARTS.find((q) => q.number === p)!.w;
          return x <= 300 ? [{ tag: `-D${i}`, part: p, on: { rail: "R1", x: from } }] : [];
        });
        const d = design([...on, { tag: "-N", part: number }]);
        const hash = contentHash(d);
        const { w, h } = PARTS.find((p) => p.number === number)!;
        const held = hold(d, "-N", at.x, at.y, w, h, reach);
        if (!held.edit) {
          expect(held.reason).not.toBe("");
          met.nowhere++;
          return;
        }
        const applied = EDITS.apply(d, held.edit);
        if (!applied.ok) throw new Error(applied.reason);
        expect(contentHash(d)).toBe(hash);
        const told = compute(applied.design);
        const body = told.devices.find((v) => v.tag === "-N")!;
        for (const k of ["x", "y", "w", "h"] as const) expect(body.outline[k]).toBeCloseTo(held.outline[k], 6);
        expect(told.open.filter((o) => o.kind === "off its rail" || o.kind === "outside its face")).toEqual([]);
        expect(within(body.outline, { x: 0, y: 0, w: 2000, h: 2000 }, 1e-6)).toBe(true);
        met[body.carrier === null ? "face" : held.edit.kind === "insert" ? "insert" : "rail"]++;
        if (body.carrier === null) return;
        for (const o of told.devices.filter((v) => v !== body))
          expect(overlaps(o.outline, body.outline, 1e-6)).toBe(false);
        expect(
          told.clashes.filter(
            (c) => c.kind === "too near" && (c.a.of === "-N" || c.b.of === "-N") && c.b.thing === "device",
          ),
        ).toEqual([]);
      },
    ),
    { numRuns: runs(700), seed: 284 },
  );
  if (ALL_DRAWN) expect(Object.entries(met).filter(([, n]) => n < 25)).toEqual([]);
});

test("what is held by a strip or stands in a slot is not dragged by itself", () => {
  const d = { ...design([{ tag: "-A", part: "RAIL", on: { rail: "R1", x: 0 } }, { tag: "-T", part: "RAIL" }, { tag: "-S", part: "RAIL", on: { slot: "-A", name: "1" } }]), strips: [{ tag: "-X1", rail: "R1", members: ["-T"], at: 0 }] }; // prettier-ignore
  expect(["-A", "-T", "-S", "-Z"].map((t) => canDrag(d, t))).toEqual([true, false, false, false]);
});
