import fc from "fast-check";
import { anyFace, faceWith, METALWORK, onMachine, planBasis } from "../test/metalwork";
import { runs } from "../test/runs";
import { programOf } from "./nc";
import { planOf } from "./plan";
import type { Cut, Drilled } from "./result";
import { sequenceOf } from "./sequence";
import { frameOf } from "./shapes";
import { placedFrame } from "./lies";
import type { MetalworkRules } from "./rules";

const round = (x: number, y: number, d: number): Cut => ({ kind: "round", x, y, d });
const lackOf = (cut: Cut, rules: MetalworkRules = METALWORK, more: Partial<Drilled> = {}): string => {
  const face = faceWith([cut], more);
  return planOf(face.holes, planBasis({ ...face, turn: 0 }, "Tallow 3", rules))
    .lacks.map((l) => `${l.kind}: ${l.why}`)
    .join();
};
const program = (face: Drilled, machine = "Tallow 3"): string[] => {
  const basis = planBasis(face, machine);
  const { setUps } = planOf(face.holes, basis);
  return programOf(setUps[0]!, basis.kit.tools, basis.control, {
    title: "a (test)",
    notes: [],
    thicknessMm: basis.thicknessMm,
    lie: basis.lie,
  }).split("\r\n");
};

test("what cannot be made is told with its kind and its reason", () => {
  expect(lackOf({ kind: "thread", x: 100, y: 100, d: 8.5, thread: "M10" })).toBe("tool missing: no tap for M10");
  expect(lackOf(round(100, 100, 2))).toBe("tool missing: no drill, mill or punch makes 2 mm");
  expect(lackOf({ kind: "countersunk", x: 100, y: 100, d: 5.5, head: 20 })).toBe(
    "tool missing: no countersink reaches 20 mm",
  );
  expect(lackOf({ kind: "rect", x: 100, y: 100, w: 50, h: 50, r: 1 })).toBe(
    "corner too sharp: its corners of R 1 are sharper than the thinnest mill",
  );
  expect(lackOf({ kind: "slot", x: 100, y: 100, w: 50, h: 2, angle: 0 })).toBe(
    "tool missing: no mill is as thin as 2 mm",
  );
  expect(lackOf(round(100, 100, 4.2), METALWORK, { thicknessMm: 8 })).toMatch(
    /^sheet too thick: the sheet is too thick/,
  );
  expect(lackOf({ kind: "rect", x: 100, y: 20, w: 3000, h: 50, r: 4 }, METALWORK, { w: 4000, h: 200 })).toBe(
    "off the machine: it is larger than what Tallow 3 reaches (2500 × 1300 mm)",
  );
  // A clamp covers the lower edge from 400 to 460 up to 4 mm; 5 are kept.
  expect(lackOf(round(430, 9, 4.2))).toBe(
    "in a clamp: it comes 2.9 mm near the clamp of Tallow 3 at X 400, Y -40; 5 mm are to be kept",
  );
  expect(lackOf(round(430, 12, 4.2))).toBe("");
  expect(onMachine(faceWith([round(100, 100, 5)]), "Nowhere").lacks[0]!.why).toBe(
    "the shop has no machine Nowhere with a control",
  );
});

test("the exact tool, else a mill; a punch where the shop punches; corners as round as the shop lets them be", () => {
  const toolsFor = (cut: Cut, rules: MetalworkRules = METALWORK): string[] => {
    const face = faceWith([cut]);
    return planOf(face.holes, planBasis(face, "Tallow 3", rules)).setUps.flatMap((s) => s.steps.map((x) => x.tool));
  };
  expect(toolsFor(round(100, 100, 4.2))).toEqual(["T3"]);
  expect(toolsFor(round(100, 100, 12))).toEqual(["T33"]);
  expect(toolsFor({ kind: "rect", x: 100, y: 100, w: 50, h: 50, r: 0 })).toEqual(["T32"]);
  expect(toolsFor({ kind: "rect", x: 100, y: 100, w: 50, h: 50, r: 0 }, { ...METALWORK, cornerMm: 5 })).toEqual([
    "T33",
  ]);
  const punches: MetalworkRules = {
    ...METALWORK,
    controls: METALWORK.controls.map((c) => ({ ...c, stroke: "M70" })),
    tools: [...METALWORK.tools, { id: "T40", kind: "punch", d: 12 }, { id: "T41", kind: "punch", d: 50, h: 30 }],
  };
  expect(toolsFor(round(100, 100, 12), punches)).toEqual(["T40"]);
  // A control without a word for the stroke has no punch.
  expect(toolsFor(round(100, 100, 12), { ...punches, controls: METALWORK.controls })).toEqual(["T33"]);
  expect(toolsFor({ kind: "rect", x: 100, y: 100, w: 50, h: 30, r: 0 }, punches)).toEqual(["T41"]);
  // Rounded corners are none that a square punch leaves; the other way round it does not fit.
  expect(toolsFor({ kind: "rect", x: 100, y: 100, w: 50, h: 30, r: 3 }, punches)).toEqual(["T32"]);
  expect(toolsFor({ kind: "rect", x: 100, y: 100, w: 30, h: 50, r: 0 }, punches)).toEqual(["T32"]);
  // A tool of another machine, or for another sheet, is none.
  const elsewhere = METALWORK.tools.map((t) => (t.id === "T3" ? { ...t, machine: "Wickett" } : t));
  expect(toolsFor(round(100, 100, 4.2), { ...METALWORK, tools: elsewhere })).toEqual(["T31"]);
  const stainless = METALWORK.tools.map((t) => (t.id === "T3" ? { ...t, sheet: "stainless steel" as const } : t));
  expect(toolsFor(round(100, 100, 4.2), { ...METALWORK, tools: stainless })).toEqual(["T31"]);
});

test("a change of tools takes as long as its machine says, or as its tool does", () => {
  const face = faceWith([round(100, 100, 4.2)]);
  const minutes = (rules: MetalworkRules): number =>
    planOf(face.holes, planBasis(face, "Tallow 3", rules)).setUps[0]!.minutes;
  const slow = METALWORK.tools.map((t) => (t.id === "T3" ? { ...t, changeS: 72 } : t));
  expect(minutes({ ...METALWORK, tools: slow }) - minutes(METALWORK)).toBeCloseTo(1, 9);
  const machine = METALWORK.machines.map((m) => ({ ...m, changeS: 132 }));
  expect(minutes({ ...METALWORK, machines: machine }) - minutes(METALWORK)).toBeCloseTo(2, 9);
});

test("large openings keep a tab in the middle of each side; square corners are cut free where asked", () => {
  const opening: Cut = { kind: "rect", x: 100, y: 100, w: 200, h: 150, r: 0 };
  const pathOf = (rules: MetalworkRules) => {
    const face = faceWith([opening]);
    const [o] = planOf(face.holes, planBasis(face, "Tallow 3", rules)).setUps[0]!.steps[0]!.operations;
    return o!.kind === "mill" ? o!.path : [];
  };
  const overs = pathOf(METALWORK).filter((m) => "over" in m && m.over);
  expect(overs).toHaveLength(4);
  // From the middle of the side to each end of the tab: half of the tab and of the mill.
  expect(overs.map((m) => [m.x, m.y])).toEqual([
    [204.5, 103],
    [297, 179.5],
    [195.5, 247],
    [103, 170.5],
  ]);
  expect(pathOf({ ...METALWORK, tabFromMm: 0 }).some((m) => "over" in m)).toBe(false);
  const free = pathOf({ ...METALWORK, tabFromMm: 0, relief: 1 });
  // The edge of the mill stands in the corner itself.
  const into = Math.min(...free.map((m) => Math.hypot(m.x - 300, m.y - 100)));
  expect(into).toBeCloseTo(3, 6);
});

test("drills, then taps and countersinks, then mills; what is milled for a tap comes before it", () => {
  const cuts: Cut[] = [
    { kind: "rect", x: 300, y: 300, w: 100, h: 100, r: 4 },
    { kind: "thread", x: 100, y: 100, d: 4.2, thread: "M5" },
    { kind: "countersunk", x: 200, y: 100, d: 5.5, head: 9 },
    { kind: "mark", x: 250, y: 100, d: 1 },
  ];
  const rules = { ...METALWORK, tools: METALWORK.tools.filter((t) => t.id !== "T3") };
  const face = faceWith(cuts);
  const { setUps } = planOf(face.holes, planBasis(face, "Tallow 3", rules));
  expect(setUps[0]!.steps.map((s) => s.tool)).toEqual(["T5", "T31", "T12", "T20", "T32"]);
});

test("a head is sunk by the smallest countersink that reaches, half as deep as it is wide: 90°", () => {
  const sink = METALWORK.tools.find((t) => t.kind === "countersink")!;
  const rules = {
    ...METALWORK,
    tools: [...METALWORK.tools, { ...sink, id: "T21", d: 10.4 }, { ...sink, id: "T22", d: 25 }],
  };
  const made = (cut: Cut) => {
    const face = faceWith([cut], { thicknessMm: 3 });
    const basis = planBasis(face, "Tallow 3", rules);
    const [first] = planOf(face.holes, basis).setUps;
    const operations = first!.steps.flatMap((s) => s.operations).filter((o) => o.kind === "countersink");
    const text = programOf(first!, basis.kit.tools, basis.control, {
      title: "",
      notes: [],
      thicknessMm: 3,
      lie: basis.lie,
    });
    return operations.map((o) => [
      o.tool,
      "depth" in o ? o.depth : null,
      text.includes(`Z-${(o as { depth: number }).depth}`),
    ]);
  };
  expect(made({ kind: "countersunk", x: 200, y: 100, d: 5.5, head: 10 })).toEqual([["T21", 5, true]]);
  expect(made({ kind: "countersunk", x: 200, y: 100, d: 5.5, head: 11.4 })).toEqual([["T20", 5.7, true]]);
  // A mark is opened as wide as it says.
  expect(made({ kind: "mark", x: 200, y: 100, d: 1 })).toEqual([["T21", 0.5, true]]);
});

test.each(["outside", "inside"] as const)("arcs bulge out of a slot, seen from %s", (seen) => {
  const face = faceWith([{ kind: "slot", x: 300, y: 250, w: 100, h: 20, angle: 0 }], { seen });
  const basis = planBasis(face);
  const { setUps } = planOf(face.holes, basis);
  const lines = programOf(setUps[0]!, basis.kit.tools, basis.control, {
    title: "",
    notes: [],
    thicknessMm: 2,
    lie: basis.lie,
  });
  const place = basis.lie.place({ x: 300, y: 250 });
  const middle = { x: place.x - setUps[0]!.shift.x, y: place.y - setUps[0]!.shift.y };
  const mill = basis.kit.tools.find((t) => t.id === setUps[0]!.steps[0]!.tool)!;
  let at = { x: 0, y: 0 };
  const bulges = lines.split("\r\n").flatMap((line) => {
    const word = (w: string): number | null => {
      const found = new RegExp(`${w}(-?[\\d.]+)`).exec(line);
      return found ? Number(found[1]) : null;
    };
    const from = at;
    at = { x: word("X") ?? at.x, y: word("Y") ?? at.y };
    const turn = /\bG([23]) /.exec(line)?.[1];
    if (!turn) return [];
    const c = { x: from.x + word("I")!, y: from.y + word("J")! };
    const [a1, a2] = [from, at].map((p) => Math.atan2(p.y - c.y, p.x - c.x)) as [number, number];
    // G3 counts angles up, G2 down; half way between stands the top of the bulge.
    const sweep = turn === "3" ? (a2 - a1 + 4 * Math.PI) % (2 * Math.PI) : -((a1 - a2 + 4 * Math.PI) % (2 * Math.PI));
    const r = Math.hypot(from.x - c.x, from.y - c.y);
    const top = { x: c.x + r * Math.cos(a1 + sweep / 2), y: c.y + r * Math.sin(a1 + sweep / 2) };
    return [Math.hypot(top.x - middle.x, top.y - middle.y)];
  });
  // Half of the slot less half of the mill, at both ends.
  expect(bulges.length).toBeGreaterThan(1);
  for (const mm of bulges) expect(mm).toBeCloseTo(50 - mill.d / 2, 2);
});

test("a program as the control wants it: numbers, cycles, header and footer, no brackets within brackets", () => {
  const face = faceWith([
    round(100, 100, 4.2),
    round(300, 100, 4.2),
    { kind: "thread", x: 200, y: 200, d: 4.2, thread: "M5" },
  ]);
  const [tallow, wickett] = [program(face), program(face, "Wickett")];
  expect(tallow.slice(0, 3)).toEqual(["%", "(a  test )", "N30 G21 G90 G17 G40"]);
  expect(tallow.filter((l) => / G81 | G84 /.test(l))).toEqual([
    "N140 G81 X200 Y200 Z-4.762 R3 F280",
    "N270 G84 X200 Y200 Z-6.7 R3 F400",
  ]);
  expect(tallow.slice(-4)).toEqual(["N310 M5", "N320 M30", "%", ""]);
  expect(wickett.some((l) => /G8\d|^N/.test(l))).toBe(false);
  expect(wickett.filter((l) => l === "M4")).toHaveLength(1);
  expect(program(faceWith([round(100, 100, 80)]), "Wickett").some((l) => /G[23] /.test(l))).toBe(false);
});

test("over a clamp in the way between two holes the tool goes up, and nowhere else", () => {
  // Both beside the clamp at the lower edge, 400 to 460.
  const face = faceWith([round(380, 12, 4.2), round(480, 12, 4.2), round(480, 300, 4.2)]);
  const lines = program(face);
  const ups = lines.filter((l) => / G0 Z60$/.test(l)).length;
  // Before the tool, over the clamp, at the end; near it down and up again.
  expect(ups).toBeGreaterThan(2);
  const away = program(faceWith([round(380, 200, 4.2), round(480, 200, 4.2)]));
  expect(away.filter((l) => / G0 Z60$/.test(l))).toHaveLength(2);
});

test("for any face: no longer than the list, not below the bound, everything once, clear of clamps, the time adds up", () => {
  fc.assert(
    fc.property(anyFace(30), fc.constantFrom("Tallow 3", "Wickett"), (face, machine) => {
      const work = onMachine(face, machine);
      const basis = planBasis(face, machine);
      for (const setUp of work.setUps) {
        expect(setUp.minutes).toBeLessThanOrEqual(setUp.listMinutes + 1e-9);
        expect(setUp.boundMinutes).toBeLessThanOrEqual(setUp.minutes + 1e-9);
      }
      const made = new Set(work.setUps.flatMap((s) => s.steps.flatMap((x) => x.operations.map((o) => o.hole))));
      const lacking = new Set(work.lacks.map((l) => l.hole));
      for (const h of face.holes) expect(made.has(h.number) !== lacking.has(h.number)).toBe(h.cut.kind !== "knockout");
      for (const { shift, steps } of work.setUps)
        for (const o of steps.flatMap((s) => s.operations)) {
          const f = placedFrame(basis.lie, frameOf(face.holes.find((h) => h.number === o.hole)!.cut));
          for (const c of basis.lie.clamps) {
            const dx = Math.max(f.x - shift.x - c.x - c.w, c.x - f.x + shift.x - f.w, 0);
            const dy = Math.max(f.y - shift.y - c.y - c.h, c.y - f.y + shift.y - f.h, 0);
            expect(Math.hypot(dx, dy)).toBeGreaterThanOrEqual(METALWORK.clampMm - 1e-6);
          }
        }
      const sequence = sequenceOf(work, METALWORK);
      expect(sequence).toHaveLength(work.setUps.flatMap((s) => s.steps.flatMap((x) => x.operations)).length);
      work.setUps.forEach(({ minutes }, i) => {
        const mine = sequence.filter((p) => p.setUp === i + 1);
        expect(mine.every((p, k) => k === 0 || p.seconds >= mine[k - 1]!.seconds)).toBe(true);
        // Behind the last one only the way back is left.
        expect(mine[mine.length - 1]!.seconds).toBeLessThanOrEqual(minutes * 60 + 1e-6);
        expect(minutes * 60 - mine[mine.length - 1]!.seconds).toBeLessThan(60);
      });
    }),
    { seed: 91, numRuns: runs(60) },
  );
});
