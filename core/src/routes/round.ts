import type { Point, Rect } from "../design/geometry";
import type { Exit } from "../design/model";

const AHEAD: Record<Exclude<Exit, "out">, Point> = {
  up: { x: 0, y: 1 },
  down: { x: 0, y: -1 },
  right: { x: 1, y: 0 },
  left: { x: -1, y: 0 },
};

/** Whether a square stretch runs through the inside of an outline; along its edge is round it. */
function through(a: Point, b: Point, o: Rect): boolean {
  return (
    Math.max(a.x, b.x) > o.x &&
    Math.min(a.x, b.x) < o.x + o.w &&
    Math.max(a.y, b.y) > o.y &&
    Math.min(a.y, b.y) < o.y + o.h
  );
}

const square = (points: readonly Point[]): number =>
  points.slice(1).reduce((sum, p, i) => sum + Math.abs(p.x - points[i]!.x) + Math.abs(p.y - points[i]!.y), 0);

/**
 * The shortest square way from a pin to a goal that lies against the pin's exit: out to the edge of the
 * body, then round the body, never through it.
 *
 *        e ┌──────┐ corner       e: edge of the body before the pin
 *      ┌───│──────│──┐
 *      │   pin    │  │           goal below the body: past the nearer side
 *      └──────────│──┘
 *              goal
 *
 * @param body outline, same unit as the points
 * @returns length and corners between pin and goal, or null when the goal does not lie against the exit,
 * or lies inside the outline: then there is nothing to go round. Of two equal ways the one with fewer
 * corners, then the left or lower side.
 */
export function roundBody(
  pin: Point,
  goal: Point,
  exit: Exclude<Exit, "out">,
  body: Rect,
): { nm: number; corners: Point[] } | null {
  const d = AHEAD[exit];
  const [x1, y1] = [body.x + body.w, body.y + body.h];
  const within = (p: Point): boolean => p.x > body.x && p.x < x1 && p.y > body.y && p.y < y1;
  if ((goal.x - pin.x) * d.x + (goal.y - pin.y) * d.y >= 0 || within(goal)) return null;
  // A pin on or behind the rear edge still comes out at the front, if the body lies before it.
  const covered = d.x === 0 ? pin.x > body.x && pin.x < x1 : pin.y > body.y && pin.y < y1;
  const inBody = covered && pin.x >= body.x && pin.x <= x1 && pin.y >= body.y && pin.y <= y1;
  const e = inBody
    ? { x: d.x === 0 ? pin.x : d.x > 0 ? x1 : body.x, y: d.y === 0 ? pin.y : d.y > 0 ? y1 : body.y }
    : pin;
  // Round one rectangle the shortest square way has two stretches, or three with the middle one along a side.
  const ways: Point[][] = [
    [{ x: goal.x, y: e.y }],
    [{ x: e.x, y: goal.y }],
    ...[body.x, x1].map((x) => [
      { x, y: e.y },
      { x, y: goal.y },
    ]),
    ...[body.y, y1].map((y) => [
      { x: e.x, y },
      { x: goal.x, y },
    ]),
  ];
  let best: Point[] | null = null;
  for (const corners of ways) {
    const points = [e, ...corners, goal];
    if (points.slice(1).some((p, i) => through(points[i]!, p, body))) continue;
    if (!best || square(points) < square([e, ...best, goal])) best = corners;
  }
  return best && { nm: square([pin, e, ...best, goal]), corners: inBody ? [e, ...best] : best };
}
