import { readFileSync } from "node:fs";
import { join } from "node:path";
import fc from "fast-check";
import { compute } from "@gray-bench/core/metalwork/compute";
import { lieOf, type Lie } from "@gray-bench/core/metalwork/lies";
import { basisOf, machineOf } from "@gray-bench/core/metalwork/on-machine";
import { programOf } from "@gray-bench/core/metalwork/nc";
import type { Cut, Drilled, FaceWork, Operation } from "@gray-bench/core/metalwork/result";
import { frameOf } from "@gray-bench/core/metalwork/shapes";
import { compute as computePanel } from "@gray-bench/core/panel/compute";
import { demo } from "@gray-bench/core/test/demo";
import { anyFace, METALWORK, onMachine } from "@gray-bench/core/test/metalwork";
import { runs } from "@gray-bench/core/test/runs";
import { runAll, type Made } from "../src/drill/control";
import { readTable, type MachineTable } from "../src/drill/table";

/** The loop is closed here: what the simulated machine made is what was planned, hole for hole. */

const tableOf = (file: string): MachineTable => readTable(readFileSync(join(__dirname, "../machines", file), "utf8"));
const MACHINES: [string, MachineTable][] = [
  ["Tallow 3", tableOf("tallow-3.json")],
  ["Wickett", tableOf("wickett.json")],
];

type Point = { x: number; y: number };

/** What was made in one set-up, back on the face as it is seen from outside. */
function backOnFace(made: Made, lie: Lie, shift: Point): Made {
  // The way there is turns, mirrors and moves: three of its points say the way back.
  const [o, a, b] = [lie.place({ x: 0, y: 0 }), lie.place({ x: 1, y: 0 }), lie.place({ x: 0, y: 1 })];
  const [ux, uy, vx, vy] = [a.x - o.x, a.y - o.y, b.x - o.x, b.y - o.y];
  const back = <T extends Point>(p: T): T => {
    const [dx, dy] = [p.x + shift.x - o.x, p.y + shift.y - o.y];
    return { ...p, x: dx * ux + dy * uy, y: dx * vx + dy * vy };
  };
  return {
    holes: made.holes.map(back),
    contours: made.contours.map((c) => ({ ...c, points: c.points.map(back) })),
  };
}

const place = (n: string): number => Number(n.slice(1));
const KINDS = { drill: "drill", tap: "tap", countersink: "sink", punch: "punch" } as const;
const key = (tool: number, p: Point): string => `${tool} ${p.x.toFixed(1)} ${p.y.toFixed(1)}`;

/** Frame of what contours open: the cutter's middle, and its radius all round. */
function opened(contours: Made["contours"]): number[] {
  const r = contours[0]!.d / 2;
  const all = contours.flatMap((c) => c.points);
  const [xs, ys] = [all.map((p) => p.x), all.map((p) => p.y)];
  return [Math.min(...xs) - r, Math.min(...ys) - r, Math.max(...xs) + r, Math.max(...ys) + r];
}

function check(work: FaceWork, table: MachineTable): void {
  const on = machineOf(work.machine!, METALWORK)!;
  const basis = basisOf(work, on, METALWORK);
  const lie = lieOf(work, on.machine, METALWORK.clamps, work.turn);
  const holes = new Map(work.holes.map((h) => [h.number, h.cut]));
  const made = new Set<number>();
  for (const setUp of work.setUps) {
    const program = programOf(setUp, basis.kit.tools, on.control, {
      title: work.face,
      notes: [],
      thicknessMm: basis.thicknessMm,
      lie,
    });
    const run = runAll(program, table, basis.thicknessMm);
    expect(run.faults).toEqual([]);
    const there = backOnFace(run.made, lie, setUp.shift);
    const operations = setUp.steps.flatMap((s) => s.operations);
    const mills = operations.filter((o): o is Extract<Operation, { kind: "mill" }> => o.kind === "mill");
    // A cutter as wide as its hole goes down and up: a hole to the machine.
    const dips = mills.filter((o) => o.path.length === 1);
    const bores = operations.filter((o): o is Exclude<Operation, { kind: "mill" }> => o.kind !== "mill");
    expect(there.holes.map((h) => key(h.tool, h)).sort()).toEqual(
      [...bores, ...dips].map((o) => key(place(o.tool), o)).sort(),
    );
    const byKey = new Map(there.holes.map((h) => [key(h.tool, h), h]));
    for (const o of bores) {
      const hole = byKey.get(key(place(o.tool), o))!;
      expect(hole.kind).toBe(KINDS[o.kind]);
      expect(hole.through).toBe(o.depth === "through" || o.depth >= basis.thicknessMm);
      const cut = holes.get(o.hole)!;
      if (o.kind === "countersink" && cut.kind === "countersunk") expect(hole.d).toBeCloseTo(cut.head, 2);
      if (o.kind === "drill" && "d" in cut) expect(hole.d).toBeCloseTo(cut.d, 6);
    }
    // Contours come in the order of the program; an opening with tabs has one for each stretch between two.
    let next = 0;
    for (const o of mills) {
      if (o.path.length === 1) continue;
      const overs = o.path.filter((m) => "over" in m && m.over).length;
      // A stretch before the first tab and one behind the last are two, unless one of them is none.
      const stretches = o.path.reduce((n, m, i) => {
        const over = "over" in m && m.over;
        const before = o.path[i - 1];
        return !over && (i === 0 || (before && "over" in before && before.over)) ? n + 1 : n;
      }, 0);
      const contours = there.contours.slice(next, next + stretches);
      next += stretches;
      expect(contours.every((c) => c.tool === place(o.tool) && c.through)).toBe(true);
      const frame = opened(contours);
      const { x, y, w, h } = frameOfKeyed(holes.get(o.hole)!);
      [x, y, x + w, y + h].forEach((v, k) => expect(Math.abs(v - frame[k]!)).toBeLessThan(0.1));
      if (overs === 0) {
        const points = contours[0]!.points;
        const [first, last] = [points[0]!, points[points.length - 1]!];
        expect(Math.hypot(first.x - last.x, first.y - last.y)).toBeLessThan(0.03);
      }
    }
    expect(next).toBe(there.contours.length);
    for (const o of operations) made.add(o.hole);
  }
  const lacking = new Set(work.lacks.map((l) => l.hole));
  expect([...made, ...lacking].sort((p, q) => p - q)).toEqual(
    work.holes.filter((h) => h.cut.kind !== "knockout").map((h) => h.number),
  );
}

/** A key sticks out on one side alone. */
function frameOfKeyed(cut: Cut) {
  if (cut.kind !== "round" || !cut.notch) return frameOf(cut);
  const { x, y, d, notch } = cut;
  const [ux, uy] = [
    Math.round(Math.cos((notch.angle * Math.PI) / 180)),
    Math.round(Math.sin((notch.angle * Math.PI) / 180)),
  ];
  const out = notch.to - d;
  return {
    x: x - d / 2 + Math.min(0, ux) * out,
    y: y - d / 2 + Math.min(0, uy) * out,
    w: d + Math.abs(ux) * out,
    h: d + Math.abs(uy) * out,
  };
}

describe.each(MACHINES)("%s", (name, table) => {
  test("random faces: what it made is what was planned; what is left out is told", () => {
    fc.assert(
      fc.property(anyFace(), (face: Drilled) => {
        const work = onMachine(face, name);
        expect(
          work.lacks.filter(
            (l) => !["in a clamp", "off the machine", "corner too sharp", "sunk too deep"].includes(l.kind),
          ),
        ).toEqual([]);
        check(work, table);
      }),
      { seed: 71, numRuns: runs(60) },
    );
  });

  test.each(["larkmoor", "hillfold"] as const)("%s: every face, every hole", (job) => {
    const design = demo(job);
    const { faces } = compute(design, { ...METALWORK, machine: name }, computePanel(design));
    expect(faces.length).toBeGreaterThan(0);
    for (const work of faces) {
      expect(work.lacks).toEqual([]);
      check(work, table);
    }
  });
});
