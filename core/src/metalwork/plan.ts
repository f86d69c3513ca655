import type { Point } from "../design/geometry";
import type { Clamped } from "./rules";
import { pushTo } from "../design/order";
import { clampNear, placedFrame, windowsOf } from "./lies";
import type { FaceHole, Lack, Operation, SetUp, Step } from "./result";
import { frameOf } from "./shapes";
import { belowMm, changeSeconds, highClamps, moveMm, secondsOf, upAndDownMm, type PlanBasis } from "./times";
import { operationsFor, type Tool } from "./tools";
import { lengthOf, tourOf, type Metric } from "../solve/tour";

export interface Plan {
  setUps: SetUp[];
  lacks: Lack[];
}

/** Core holes before what needs them; openings that weaken the sheet last. */
const ROUND: Record<Tool["kind"], number> = { punch: 0, drill: 1, tap: 2, countersink: 3, mill: 4 };

const HOME: Point = { x: 0, y: 0 };

/**
 * All operations of a face: as few set-ups as the machine's area wants; in each tool by tool, punches and drills first, then
 * taps and countersinks, then mills; within a tool the shortest way found, over clamps only where there is no way beside
 * them that is shorter than going up and down. A core hole that has to be milled comes before its tap all the same.
 * O(n² · steps of the bound) for the most of a tool
 */
export function planOf(holes: readonly Pick<FaceHole, "number" | "cut">[], basis: PlanBasis): Plan {
  const { kit, lie } = basis;
  const kinds = new Map(kit.tools.map((t) => [t.id, t]));
  const { machine } = lie;
  const lacks: Lack[] = [];
  const made: { hole: FaceHole["number"]; operations: Operation[]; frame: ReturnType<typeof placedFrame> }[] = [];
  for (const { number, cut } of holes) {
    const operations = operationsFor(number, cut, kit);
    if (!Array.isArray(operations)) {
      lacks.push(operations);
      continue;
    }
    const frame = frameOf(cut);
    const beyond = Math.max(-frame.x, -frame.y, frame.x + frame.w - basis.sheet.w, frame.y + frame.h - basis.sheet.h);
    const deep = operations
      .map((o) => ({ tool: o.tool, mm: belowMm(o, kinds.get(o.tool)!, basis) }))
      .find(({ mm }) => machine.underMm !== undefined && mm > machine.underMm + 1e-6);
    if (beyond > 1e-6)
      lacks.push({ hole: number, kind: "beyond the sheet", why: `it reaches ${tenth(beyond)} mm beyond the sheet` });
    else if (deep)
      lacks.push({
        hole: number,
        kind: "no room below",
        why: `${deep.tool} comes ${tenth(deep.mm)} mm out below the sheet; ${machine.name} has ${machine.underMm} mm there`,
      });
    else if (operations.length > 0) made.push({ hole: number, operations, frame: placedFrame(lie, frame) });
  }
  const { windows, off } = windowsOf(
    lie,
    made.map((m) => m.frame),
  );
  for (const i of off)
    lacks.push({
      hole: made[i]!.hole,
      kind: "off the machine",
      why: `it is larger than what ${machine.name} reaches (${machine.w} × ${machine.h} mm)`,
    });
  const setUps = windows.flatMap(({ shift, items }): SetUp[] => {
    const clear = items.filter((i) => {
      const { frame, hole } = made[i]!;
      const near = clampNear(lie, frame, shift, basis.clampMm);
      if (!near) return true;
      lacks.push({
        hole,
        kind: "in a clamp",
        why: `it comes ${tenth(near.mm)} mm near the clamp of ${machine.name} at X ${near.clamp.x}, Y ${near.clamp.y}; ${basis.clampMm} mm are to be kept`,
      });
      return false;
    });
    return clear.length === 0
      ? []
      : [
          setUp(
            clear.map((i) => made[i]!.operations),
            shift,
            basis,
          ),
        ];
  });
  // Behind the first the sheet is moved and clamped anew.
  for (const next of setUps.slice(1)) {
    next.minutes += (machine.moveS ?? 0) / 60;
    next.boundMinutes += (machine.moveS ?? 0) / 60;
    next.listMinutes += (machine.moveS ?? 0) / 60;
  }
  return { setUps, lacks: lacks.sort((a, b) => a.hole - b.hole) };
}

const tenth = (v: number): number => Math.round(v * 10) / 10;

function setUp(all: readonly Operation[][], shift: Point, basis: PlanBasis): SetUp {
  const { kit, lie, control, effort = 1 } = basis;
  const first = new Map<string, Operation[]>();
  const second = new Map<string, Operation[]>();
  for (const operations of all)
    // What is milled for a tap, or a countersink, to follow is milled first.
    operations.forEach((op, i) =>
      pushTo(op.kind === "drill" || op.kind === "punch" || i + 1 < operations.length ? first : second, op.tool, op),
    );
  const kinds = new Map(kit.tools.map((t) => [t.id, t]));
  const inOrder = (of: Map<string, Operation[]>): [string, Operation[]][] =>
    [...of].sort(([a], [b]) => {
      const [x, y] = [kinds.get(a)!, kinds.get(b)!];
      return ROUND[x.kind] - ROUND[y.kind] || x.d - y.d || (a < b ? -1 : 1);
    });
  const clamps = highClamps(lie, control);
  const upAndDown = upAndDownMm(control);
  const metric: Metric = (a, b) => moveMm(a, b, clamps, upAndDown);
  const steps = [...inOrder(first), ...inOrder(second)].map(([tool, operations]): Step => {
    const points = [HOME, ...operations.map((o) => less(lie.place(o), shift))];
    const listMm = lengthOf(
      points.map((_, i) => i),
      points,
      metric,
    );
    const { order, length, bound } = known(points, clamps, upAndDown, effort, (share) => tourOf(points, metric, share));
    const work = operations.reduce((sum, o) => sum + secondsOf(o, kinds.get(tool)!, basis), 0);
    return {
      tool,
      operations: order.slice(1).map((i) => operations[i - 1]!),
      moveMm: length,
      boundMm: bound,
      listMm,
      workS: work,
    };
  });
  const minutes = (move: (s: Step) => number): number =>
    steps.reduce(
      (sum, s) => sum + changeSeconds(kinds.get(s.tool)!, lie) + s.workS + (move(s) / lie.machine.rapid) * 60,
      0,
    ) / 60;
  return {
    shift,
    steps,
    minutes: minutes((s) => s.moveMm),
    boundMinutes: minutes((s) => s.boundMm),
    listMinutes: minutes((s) => s.listMm),
  };
}

const less = (p: Point, by: Point): Point => ({ x: p.x - by.x, y: p.y - by.y });

type Found = { order: number[]; length: number; bound: number };
const tours = new Map<string, Found>();
const MOST_TOURS = 200;

/** Ways that were found before: an edit leaves most faces, and most tools of a face, as they are. */
function known(
  points: readonly Point[],
  clamps: readonly Clamped[],
  up: number,
  effort: number,
  find: (effort: number) => Found,
): Found {
  const key = JSON.stringify([points.map((p) => [p.x, p.y]), clamps.map((c) => [c.x, c.y, c.w, c.h]), up, effort]);
  const before = tours.get(key);
  const found = before ?? find(effort);
  tours.delete(key);
  tours.set(key, found);
  if (tours.size > MOST_TOURS) tours.delete(tours.keys().next().value!);
  return found;
}
