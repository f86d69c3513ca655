import type { Point, Rect } from "../design/geometry";
import type { Cut, Drilled } from "./result";

/** A cut as points with a breadth all round: a round hole is a point, a slot a line, others their corners. */
export interface Fat {
  points: Point[];
  radius: number;
}

/** Corners of a rectangle count as square, which is on the safe side; a notch counts all round. */
export function fatOf(cut: Cut): Fat {
  switch (cut.kind) {
    case "round":
      return {
        points: [{ x: cut.x, y: cut.y }],
        radius: Math.max(cut.d, cut.notch ? 2 * cut.notch.to - cut.d : 0) / 2,
      };
    case "thread":
    case "knockout":
    case "mark":
      return { points: [{ x: cut.x, y: cut.y }], radius: cut.d / 2 };
    case "countersunk":
      return { points: [{ x: cut.x, y: cut.y }], radius: Math.max(cut.d, cut.head) / 2 };
    case "slot": {
      const [long, short] = [Math.max(cut.w, cut.h), Math.min(cut.w, cut.h)];
      const angle = ((cut.angle + (cut.w >= cut.h ? 0 : 90)) * Math.PI) / 180;
      const half = (long - short) / 2;
      const [dx, dy] = [Math.cos(angle) * half, Math.sin(angle) * half];
      return {
        points: [
          { x: cut.x - dx, y: cut.y - dy },
          { x: cut.x + dx, y: cut.y + dy },
        ],
        radius: short / 2,
      };
    }
    case "rect":
      return {
        points: [
          { x: cut.x, y: cut.y },
          { x: cut.x + cut.w, y: cut.y },
          { x: cut.x + cut.w, y: cut.y + cut.h },
          { x: cut.x, y: cut.y + cut.h },
        ],
        radius: 0,
      };
    case "polygon":
      return { points: cut.points, radius: 0 };
  }
}

/** The frame round a cut. */
export function frameOf(cut: Cut): Rect {
  const { points, radius } = fatOf(cut);
  const [xs, ys] = [points.map((p) => p.x), points.map((p) => p.y)];
  const [x, y] = [Math.min(...xs) - radius, Math.min(...ys) - radius];
  return { x, y, w: Math.max(...xs) + radius - x, h: Math.max(...ys) + radius - y };
}

/** Sheet between two cuts, mm; 0 where they touch or lie in each other. O(points · points) */
export function webOf(a: Fat, b: Fat): number {
  if (a.points.length > 2 && holds(a.points, b.points[0]!)) return 0;
  if (b.points.length > 2 && holds(b.points, a.points[0]!)) return 0;
  let least = Infinity;
  for (const [p, q] of sidesOf(a.points))
    for (const [r, s] of sidesOf(b.points)) least = Math.min(least, betweenLines(p, q, r, s));
  return Math.max(0, least - a.radius - b.radius);
}

/** Lines of a shape: of a point one without length, of two points one, of more a ring. */
const sidesOf = (points: readonly Point[]): [Point, Point][] =>
  points.length < 3
    ? [[points[0]!, points[points.length - 1]!]]
    : points.map((p, i) => [p, points[(i + 1) % points.length]!]);

/** Whether a point lies in a polygon. */
export function holds(polygon: readonly Point[], { x, y }: Point): boolean {
  let inside = false;
  polygon.forEach((a, i) => {
    const b = polygon[(i + 1) % polygon.length]!;
    if (a.y > y !== b.y > y && x < ((b.x - a.x) * (y - a.y)) / (b.y - a.y) + a.x) inside = !inside;
  });
  return inside;
}

const cross = (o: Point, a: Point, b: Point): number => (a.x - o.x) * (b.y - o.y) - (a.y - o.y) * (b.x - o.x);

/** Between two lines; 0 where they cross. */
export function betweenLines(p: Point, q: Point, r: Point, s: Point): number {
  const [a, b, c, d] = [cross(p, q, r), cross(p, q, s), cross(r, s, p), cross(r, s, q)];
  if (a * b < 0 && c * d < 0) return 0;
  return Math.min(toLine(p, r, s), toLine(q, r, s), toLine(r, p, q), toLine(s, p, q));
}

/** From a point to a line between two points. */
function toLine(p: Point, a: Point, b: Point): number {
  const [dx, dy] = [b.x - a.x, b.y - a.y];
  const long = dx * dx + dy * dy;
  const t = long === 0 ? 0 : Math.min(1, Math.max(0, ((p.x - a.x) * dx + (p.y - a.y) * dy) / long));
  return Math.hypot(p.x - a.x - t * dx, p.y - a.y - t * dy);
}

/** The middle of a cut; of a polygon that of its corners. */
export const middleOf = (cut: Cut): Point => {
  switch (cut.kind) {
    case "rect":
      return { x: cut.x + cut.w / 2, y: cut.y + cut.h / 2 };
    case "polygon": {
      const n = cut.points.length;
      return { x: cut.points.reduce((s, p) => s + p.x, 0) / n, y: cut.points.reduce((s, p) => s + p.y, 0) / n };
    }
    default:
      return { x: cut.x, y: cut.y };
  }
};

/** A hole as it is seen from inside: left and right change places. Twice is as it was. */
export function mirrored(cut: Cut, w: number): Cut {
  switch (cut.kind) {
    case "rect":
      return { ...cut, x: w - cut.x - cut.w };
    case "polygon":
      return { ...cut, points: cut.points.map((p) => ({ x: w - p.x, y: p.y })) };
    case "slot":
      return { ...cut, x: w - cut.x, angle: (180 - cut.angle) % 180 };
    case "round":
      return {
        ...cut,
        x: w - cut.x,
        ...(cut.notch ? { notch: { ...cut.notch, angle: (((180 - cut.notch.angle) % 360) + 360) % 360 } } : {}),
      };
    default:
      return { ...cut, x: w - cut.x };
  }
}

/** A hole as its sheet lies: seen from outside as it is, from inside mirrored. */
export const asSeen = ({ seen, w }: Pick<Drilled, "seen" | "w">, cut: Cut): Cut =>
  seen === "inside" ? mirrored(cut, w) : cut;

export const rectFat = ({ x, y, w, h }: Rect): Fat => fatOf({ kind: "rect", x, y, w, h, r: 0 });
