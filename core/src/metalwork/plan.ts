import type { Point } from "../design/geometry";
import type { FaceHole } from "./result";
import { operationsFor, type Lack, type Operation, type Tool } from "./tools";
import { byLongerAxis, lengthOf, tourOf, type Metric } from "./tour";

/** What one tool does, from the place where tools are changed round and back to it. */
export interface Step {
  tool: string;
  operations: Operation[];
  /** Of the moves between, and what no order falls below. mm */
  moveMm: number;
  boundMm: number;
}

export interface Plan {
  steps: Step[];
  moveMm: number;
  boundMm: number;
  /** The same operations in the order of the list, tool by tool. */
  listMm: number;
  lacks: Lack[];
}

/** Core holes before what needs them; openings that weaken the sheet last. */
const ROUND: Record<Tool["kind"], number> = { drill: 0, tap: 1, countersink: 2, mill: 3 };

/**
 * All operations of a face, tool by tool: drills, then taps and countersinks, then mills; within a tool the shortest way
 * found. A core hole that has to be milled comes before its tap all the same. O(n² · steps of the bound) for the most of a tool
 * @param change where tools are changed
 */
export function planOf(
  holes: readonly Pick<FaceHole, "number" | "cut">[],
  tools: readonly Tool[],
  change: Point,
  metric: Metric = byLongerAxis,
): Plan {
  const lacks: Lack[] = [];
  const first = new Map<string, Operation[]>();
  const second = new Map<string, Operation[]>();
  const add = (to: Map<string, Operation[]>, op: Operation): void => {
    const there = to.get(op.tool);
    if (there) there.push(op);
    else to.set(op.tool, [op]);
  };
  for (const { number, cut } of holes) {
    const ops = operationsFor(number, cut, tools);
    if (!Array.isArray(ops)) {
      lacks.push(ops);
      continue;
    }
    // What is milled for a tap, or a countersink, to follow is milled first.
    ops.forEach((op, i) => add(op.kind === "drill" || (op.kind === "mill" && i + 1 < ops.length) ? first : second, op));
  }
  const kinds = new Map(tools.map((t) => [t.id, t]));
  const inOrder = (of: Map<string, Operation[]>): [string, Operation[]][] =>
    [...of].sort(([a], [b]) => {
      const [x, y] = [kinds.get(a)!, kinds.get(b)!];
      return ROUND[x.kind] - ROUND[y.kind] || x.d - y.d || (a < b ? -1 : 1);
    });
  let listMm = 0;
  const steps = [...inOrder(first), ...inOrder(second)].map(([tool, operations]): Step => {
    const points = [change, ...operations];
    listMm += lengthOf(
      points.map((_, i) => i),
      points,
      metric,
    );
    const { order, length, bound } = tourOf(points, metric);
    return { tool, operations: order.slice(1).map((i) => operations[i - 1]!), moveMm: length, boundMm: bound };
  });
  return {
    steps,
    moveMm: steps.reduce((sum, s) => sum + s.moveMm, 0),
    boundMm: steps.reduce((sum, s) => sum + s.boundMm, 0),
    listMm,
    lacks,
  };
}
