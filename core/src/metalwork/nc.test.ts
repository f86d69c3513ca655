import fc from "fast-check";
import { lookUp } from "../design/lookup";
import { compute as computePanel } from "../panel/compute";
import { demo } from "../test/demo";
import { runs } from "../test/runs";
import { FIXING_DEFAULTS, holesOf } from "./holes";
import { CONTROLS, programOf, type Control, type Sheet } from "./nc";
import { planOf, type Plan } from "./plan";
import type { Cut, FaceWork } from "./result";
import type { Tool } from "./tools";
import { lengthOf, byLongerAxis } from "./tour";

const TOOLS: Tool[] = [
  ...[2.5, 3.3, 4.2, 5, 6.8, 8.5].map((d, i): Tool => ({ id: `T${i + 1}`, kind: "drill", d, speed: 2000, feed: 120 })),
  { id: "T7", kind: "tap", d: 5, thread: "M5", pitch: 0.8, speed: 300, feed: 0 },
  { id: "T8", kind: "tap", d: 6, thread: "M6", pitch: 1, speed: 300, feed: 0 },
  { id: "T9", kind: "countersink", d: 12, speed: 600, feed: 60 },
  { id: "T10", kind: "mill", d: 3, speed: 9000, feed: 400 },
  { id: "T11", kind: "mill", d: 6, speed: 6000, feed: 600 },
];
const CHANGE = { x: 0, y: 0 };
const PLAIN: Sheet = { title: "a sheet", thicknessMm: 3, place: (p) => p, mirrored: false };

/** What a machine makes of a program, read by the rules of the standard alone. */
interface Made {
  bores: { tool: string; x: number; y: number; z: number }[];
  /** Points of the cutter's middle while it is in the sheet, arcs in small steps. */
  paths: { tool: string; points: { x: number; y: number }[] }[];
  faults: string[];
}

function machine(text: string): Made {
  const made: Made = { bores: [], paths: [], faults: [] };
  let [x, y, z, f] = [NaN, NaN, NaN, 0];
  let [tool, spindle, motion, ended] = ["", false, "", false];
  let cycle: { code: string; z: number; r: number } | null = null;
  let open: Made["paths"][number] | null = null;
  for (const raw of text.split(/\r?\n/)) {
    const line = raw.replace(/\([^)]*\)/g, "").trim();
    if (line === "" || line === "%") continue;
    if (ended) made.faults.push(`after the end: ${line}`);
    const words = line.match(/[A-Z]-?\d*\.?\d+/g) ?? [];
    if (words.join("") !== line.replace(/\s+/g, "")) made.faults.push(`not read: ${line}`);
    const value = new Map<string, number>();
    for (const w of words) {
      const [letter, number] = [w[0]!, Number(w.slice(1))];
      if (letter === "G") {
        if ([0, 1, 2, 3].includes(number)) {
          motion = `G${number}`;
          cycle = null;
        } else if (number === 80) {
          cycle = null;
          motion = "";
        } else if (number === 81 || number === 84) motion = `G${number}`;
        else if (![17, 21, 40, 90].includes(number)) made.faults.push(`unknown ${w}`);
      } else if (letter === "M") {
        if (number === 3 || number === 4) spindle = true;
        else if (number === 5) spindle = false;
        else if (number === 2 || number === 30) ended = true;
        else if (number !== 6) made.faults.push(`unknown ${w}`);
      } else if (letter === "T") {
        if (!TOOLS.some((t) => t.id === w)) made.faults.push(`no tool ${w}`);
        if (z < 0) made.faults.push("tool changed in the sheet");
        tool = w;
      } else value.set(letter, number);
    }
    if (value.has("F")) f = value.get("F")!;
    const to = { x: value.get("X") ?? x, y: value.get("Y") ?? y, z: value.get("Z") ?? z };
    if (motion === "G81" || motion === "G84") {
      if (value.has("R")) cycle = { code: motion, z: value.get("Z")!, r: value.get("R")! };
      else if (cycle && value.has("Z")) cycle.z = value.get("Z")!;
      if (cycle && (value.has("X") || value.has("Y"))) {
        if (!spindle) made.faults.push("spindle off in a cycle");
        if (f <= 0) made.faults.push("no feed in a cycle");
        made.bores.push({ tool, x: to.x, y: to.y, z: cycle.z });
        [x, y, z] = [to.x, to.y, cycle.r];
      }
      continue;
    }
    if (!["X", "Y", "Z"].some((k) => value.has(k))) continue;
    const moves = to.x !== x || to.y !== y;
    if (motion === "G0") {
      if (moves && z < 0) made.faults.push(`rapid through the sheet: ${line}`);
      if (to.z < 0) made.faults.push(`rapid into the sheet: ${line}`);
      if (open && to.z >= 0) open = null;
    } else {
      if (to.z < 0 && (!spindle || f <= 0)) made.faults.push(`into the sheet without spindle or feed: ${line}`);
      if (to.z < 0 && z >= 0) {
        made.bores.push({ tool, x, y, z: to.z });
        open = { tool, points: [{ x, y }] };
      }
      if (moves && z < 0) {
        if (open && made.paths[made.paths.length - 1] !== open) {
          made.paths.push(open);
          // It began a path: no bore.
          made.bores.pop();
        }
        if (motion === "G1") open!.points.push({ x: to.x, y: to.y });
        else {
          const [cx, cy] = [x + value.get("I")!, y + value.get("J")!];
          const [r, r2] = [Math.hypot(x - cx, y - cy), Math.hypot(to.x - cx, to.y - cy)];
          if (Math.abs(r - r2) > 0.01) made.faults.push(`no arc: ${line}`);
          const way = motion === "G3" ? 1 : -1;
          const a1 = Math.atan2(y - cy, x - cx);
          let turn = way * (Math.atan2(to.y - cy, to.x - cx) - a1);
          while (turn <= 1e-9) turn += 2 * Math.PI;
          for (let k = 1; k <= 64; k++) {
            const a = a1 + (way * turn * k) / 64;
            open!.points.push({ x: cx + r * Math.cos(a), y: cy + r * Math.sin(a) });
          }
        }
      }
      if (to.z >= 0) open = null;
    }
    [x, y, z] = [to.x, to.y, to.z];
  }
  if (!ended) made.faults.push("no end");
  return made;
}

const at = (p: { x: number; y: number }): string => `${p.x.toFixed(2)} ${p.y.toFixed(2)}`;
const boresOf = (plan: Plan): string[] =>
  plan.steps.flatMap((s) => s.operations.flatMap((o) => (o.kind === "mill" ? [] : [`${o.tool} ${at(o)}`]))).sort();

/** Frame of the opening that a path leaves: the cutter's middle and its radius all round. */
function openingOf({ tool, points }: Made["paths"][number]) {
  const r = TOOLS.find((t) => t.id === tool)!.d / 2;
  const [xs, ys] = [points.map((p) => p.x), points.map((p) => p.y)];
  return [Math.min(...xs) - r, Math.min(...ys) - r, Math.max(...xs) + r, Math.max(...ys) + r];
}

const number = (min: number, max: number) => fc.integer({ min, max }).map((n) => n / 4);
const cuts: fc.Arbitrary<Cut> = fc.oneof(
  fc.record({
    kind: fc.constant("round" as const),
    x: number(40, 3000),
    y: number(40, 3000),
    d: fc.constantFrom(4.2, 5, 7, 22.3, 80),
  }),
  fc.record({
    kind: fc.constant("thread" as const),
    x: number(40, 3000),
    y: number(40, 3000),
    d: fc.constant(4.2),
    thread: fc.constant("M5"),
  }),
  fc.record({
    kind: fc.constant("countersunk" as const),
    x: number(40, 3000),
    y: number(40, 3000),
    d: fc.constant(5),
    head: fc.constant(10),
  }),
  fc.record({
    kind: fc.constant("rect" as const),
    x: number(40, 2000),
    y: number(40, 2000),
    w: number(40, 800),
    h: number(40, 800),
    r: fc.constantFrom(0, 1.5, 2, 4),
  }),
  fc.record({
    kind: fc.constant("slot" as const),
    x: number(40, 3000),
    y: number(40, 3000),
    w: number(16, 200),
    h: number(16, 200),
    angle: fc.constantFrom(0, 90),
  }),
);
const numbered = (list: readonly Cut[]) => list.map((cut, i) => ({ number: i + 1, cut }));

let plans: { face: FaceWork; plan: Plan }[] | undefined;
/** Every face of both demo jobs with its plan, worked out once. */
const demoPlans = (): { face: FaceWork; plan: Plan }[] =>
  (plans ??= (["larkmoor", "hillfold"] as const).flatMap((name) => {
    const design = demo(name);
    return holesOf(lookUp(design), computePanel(design), FIXING_DEFAULTS).faces.map((face) => ({
      face,
      plan: planOf(face.holes, TOOLS, CHANGE),
    }));
  }));

describe.each(CONTROLS.map((c): [string, Control] => [c.name, c]))("programs for %s", (_name, control) => {
  test("what the machine makes is what was planned, hole for hole, without a fault", () => {
    fc.assert(
      fc.property(fc.array(cuts, { minLength: 1, maxLength: 25 }), (list) => {
        const plan = planOf(numbered(list), TOOLS, CHANGE);
        expect(plan.lacks).toEqual([]);
        const made = machine(programOf(plan, TOOLS, control, PLAIN));
        expect(made.faults).toEqual([]);
        const mills = plan.steps.flatMap((s) => s.operations.filter((o) => o.kind === "mill"));
        const planned = mills.filter((o) => o.path.length > 1);
        expect(made.paths).toHaveLength(planned.length);
        // A cutter as wide as its hole goes down and up: a bore to the machine.
        const dips = mills.filter((o) => o.path.length === 1).map((o) => `${o.tool} ${at(o)}`);
        expect(made.bores.map((b) => `${b.tool} ${at(b)}`).sort()).toEqual([...boresOf(plan), ...dips].sort());
        planned.forEach((o, i) => {
          const cut = list[o.hole - 1]!;
          const path = made.paths[i]!;
          // It ends where it began.
          const [first, last] = [path.points[0]!, path.points[path.points.length - 1]!];
          expect(Math.hypot(first.x - last.x, first.y - last.y)).toBeLessThan(0.02);
          const frame =
            cut.kind === "rect"
              ? [cut.x, cut.y, cut.x + cut.w, cut.y + cut.h]
              : cut.kind === "slot"
                ? ((w, h) => [cut.x - w / 2, cut.y - h / 2, cut.x + w / 2, cut.y + h / 2])(
                    ...((cut.angle === 90 ? [cut.h, cut.w] : [cut.w, cut.h]) as [number, number]),
                  )
                : cut.kind === "polygon"
                  ? []
                  : [cut.x - cut.d / 2, cut.y - cut.d / 2, cut.x + cut.d / 2, cut.y + cut.d / 2];
          openingOf(path).forEach((v, k) => expect(Math.abs(v - frame[k]!)).toBeLessThan(0.1));
        });
      }),
      { seed: 51, numRuns: runs(60) },
    );
  });

  test("both demo jobs, every face: each hole once, core holes before their taps", () => {
    for (const { face, plan } of demoPlans()) {
      const made = machine(programOf(plan, TOOLS, control, { ...PLAIN, title: `${face.face} (front)` }));
      expect(made.faults).toEqual([]);
      const done = new Set(plan.steps.flatMap((s) => s.operations.map((o) => o.hole)));
      expect([...done, ...plan.lacks.map((l) => l.hole)].sort((a, b) => a - b)).toEqual(
        face.holes.filter((h) => h.cut.kind !== "knockout").map((h) => h.number),
      );
      for (const h of face.holes.filter((x) => x.cut.kind === "thread")) {
        const tools = plan.steps.flatMap((s) => s.operations.flatMap((o) => (o.hole === h.number ? [o.kind] : [])));
        if (tools.length > 0) expect(tools[tools.length - 1]).toBe("tap");
      }
    }
  });
});

test("mirrored, arcs turn the other way and openings are the mirror", () => {
  const cut: Cut = { kind: "rect", x: 100, y: 50, w: 60, h: 40, r: 5 };
  const mirror: Sheet = { ...PLAIN, place: ({ x, y }) => ({ x: 800 - x, y }), mirrored: true };
  const made = machine(programOf(planOf(numbered([cut]), TOOLS, CHANGE), TOOLS, CONTROLS[0]!, mirror));
  expect(made.faults).toEqual([]);
  openingOf(made.paths[0]!).forEach((v, k) => expect(v).toBeCloseTo([640, 50, 700, 90][k]!, 2));
});

test("a control unit's hole has its key: to 24.1 from the far side, as wide as stated", () => {
  const cut: Cut = { kind: "round", x: 100, y: 100, d: 22.3, notch: { to: 24.1, w: 3.2, angle: 90 } };
  const made = machine(programOf(planOf(numbered([cut]), TOOLS, CHANGE), TOOLS, CONTROLS[0]!, PLAIN));
  const [x1, y1, x2, y2] = openingOf(made.paths[0]!);
  expect([x2! - x1!, y1!, y2! - y1!].map((v) => Math.round(v * 100) / 100)).toEqual([22.3, 88.85, 24.1]);
  const tips = made.paths[0]!.points.filter((p) => p.y > 111);
  expect(Math.max(...tips.map((p) => p.x)) - Math.min(...tips.map((p) => p.x)) + 3).toBeCloseTo(3.2, 3);
});

test("what no tool makes is told with its hole", () => {
  const lacks = (cut: Cut): string => planOf(numbered([cut]), TOOLS, CHANGE).lacks[0]!.why;
  expect(lacks({ kind: "thread", x: 0, y: 0, d: 6.8, thread: "M8" })).toBe("no tap for M8");
  expect(lacks({ kind: "round", x: 0, y: 0, d: 2 })).toBe("no drill or mill makes 2 mm");
  expect(lacks({ kind: "countersunk", x: 0, y: 0, d: 5, head: 14 })).toBe("no countersink reaches 14 mm");
  expect(lacks({ kind: "rect", x: 0, y: 0, w: 50, h: 50, r: 1 })).toBe(
    "its corners of R 1 are sharper than the thinnest mill",
  );
  expect(lacks({ kind: "slot", x: 0, y: 0, w: 50, h: 2, angle: 0 })).toBe("no mill is as thin as 2 mm");
});

test("no longer than the order of the list, not below its bound, tools changed once each", () => {
  fc.assert(
    fc.property(fc.array(cuts, { minLength: 1, maxLength: 40 }), (list) => {
      const plan = planOf(numbered(list), TOOLS, CHANGE);
      expect(plan.moveMm).toBeLessThanOrEqual(plan.listMm + 1e-6);
      expect(plan.boundMm).toBeLessThanOrEqual(plan.moveMm + 1e-6);
      for (const s of plan.steps)
        expect(
          lengthOf([...Array(s.operations.length + 1).keys()], [CHANGE, ...s.operations], byLongerAxis),
        ).toBeCloseTo(s.moveMm, 6);
      const order = plan.steps.map((s) => s.tool);
      // A mill may come twice: once for what is tapped after it.
      expect(order.length - new Set(order).size).toBeLessThanOrEqual(2);
    }),
    { seed: 52, numRuns: runs(40) },
  );
});
