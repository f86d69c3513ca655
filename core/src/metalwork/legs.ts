import type { Point } from "../design/geometry";
import type { Move } from "./result";

/** Legs of the way of a cutter: straight ones and arcs. */

/** Legs of a path without a tab at its end: there is nothing behind it to go in for. */
export const cutLegs = (path: readonly Move[]): readonly Move[] => {
  const last = path[path.length - 1]!;
  return "over" in last && last.over ? path.slice(0, -1) : path;
};

/** Length of one leg of a cutter's way. */
export function legMm(from: Point, leg: Move): number {
  if (!("cx" in leg)) return Math.hypot(leg.x - from.x, leg.y - from.y);
  return Math.hypot(from.x - leg.cx, from.y - leg.cy) * Math.abs(sweepOf(from, leg));
}

/** Angle of an arc, radians: positive to the left. A full turn where it ends where it begins. */
export function sweepOf(from: Point, { x, y, cx, cy, right }: Extract<Move, { cx: number }>): number {
  const a = Math.atan2(from.y - cy, from.x - cx);
  const b = Math.atan2(y - cy, x - cx);
  const left = (((b - a) % (2 * Math.PI)) + 2 * Math.PI) % (2 * Math.PI) || 2 * Math.PI;
  return right ? left - 2 * Math.PI : left;
}
