import { type Move } from "./result";
import type { Point } from "../design/geometry";
import { betweenLines } from "./shapes";

const EPS = 1e-6;

/** Twice the area, positive when it goes round counter-clockwise. */
const doubled = (points: readonly Point[]): number =>
  points.reduce((sum, p, i) => {
    const q = points[(i + 1) % points.length]!;
    return sum + p.x * q.y - q.x * p.y;
  }, 0);

/** Corners without those that lie on their neighbours, or on the line between them. */
function proper(points: readonly Point[]): Point[] {
  const beside = <T>(list: readonly T[], i: number, by: number): T => list[(i + by + list.length) % list.length]!;
  const apart = points.filter((p, i) => {
    const q = beside(points, i, -1);
    return Math.hypot(p.x - q.x, p.y - q.y) > EPS;
  });
  return apart.filter((p, i) => {
    const [a, b] = [beside(apart, i, -1), beside(apart, i, 1)];
    return Math.abs((p.x - a.x) * (b.y - a.y) - (p.y - a.y) * (b.x - a.x)) > EPS;
  });
}

/**
 * The way of a cutter's middle along the inside of a ring of corners, counter-clockwise: a radius from every side, round about
 * corners that point inward; null where the cutter is too thick somewhere. O(corners²)
 */
export function insidePath(corners: readonly Point[], radius: number): Move[] | null {
  const ring = proper(doubled(corners) < 0 ? [...corners].reverse() : corners);
  const n = ring.length;
  if (n < 3) return null;
  const sides = ring.map((p, i) => {
    const q = ring[(i + 1) % n]!;
    const long = Math.hypot(q.x - p.x, q.y - p.y);
    const [ux, uy] = [(q.x - p.x) / long, (q.y - p.y) / long];
    // The inside lies to the left.
    return { p, q, ux, uy, nx: -uy, ny: ux };
  });
  const path: Move[] = [];
  sides.forEach((side, i) => {
    const before = sides[(i + n - 1) % n]!;
    const { p } = side;
    const angle = Math.atan2(before.ux * side.uy - before.uy * side.ux, before.ux * side.ux + before.uy * side.uy);
    if (angle > 0) {
      // Where the two lines meet that lie a radius inside.
      const back = radius * Math.tan(angle / 2);
      path.push({ x: p.x + before.nx * radius - before.ux * back, y: p.y + before.ny * radius - before.uy * back });
    } else
      path.push(
        { x: p.x + before.nx * radius, y: p.y + before.ny * radius },
        { x: p.x + side.nx * radius, y: p.y + side.ny * radius, cx: p.x, cy: p.y, right: true },
      );
  });
  const clear = path.every((to, i) => {
    const from = path[(i + path.length - 1) % path.length]!;
    // An arc keeps its radius from its own corner; from other sides its ends tell.
    const [a, b] = "cx" in to ? [to, to] : [from, to];
    return sides.every((s) => betweenLines(a, b, s.p, s.q) >= radius - EPS);
  });
  return clear && doubled(path) > 0 ? path : null;
}
