import type { Point } from "../design/geometry";
import type { Cut } from "./result";

/** A corner of a closed line; `bulge`: how round the way to the next is, the tangent of a quarter of its angle. */
export type Corner = [x: number, y: number, bulge?: number];

const QUARTER = Math.tan(Math.PI / 8);
const HALF = 1;

/** The edge of a cut that is no circle, as corners and arcs, counter-clockwise where it is not said otherwise; null for circles. */
export function ringOf(cut: Cut): Corner[] | null {
  switch (cut.kind) {
    case "round":
      return cut.notch ? keyedRing(cut, cut.notch) : null;
    case "rect":
      return rectRing(cut);
    case "slot":
      return slotRing(cut);
    case "polygon":
      return cut.points.map(({ x, y }): Corner => [x, y]);
    default:
      return null;
  }
}

function rectRing({ x, y, w, h, r }: Extract<Cut, { kind: "rect" }>): Corner[] {
  const c = Math.min(r, w / 2, h / 2);
  if (c <= 0)
    return [
      [x, y],
      [x + w, y],
      [x + w, y + h],
      [x, y + h],
    ];
  return [
    [x + c, y],
    [x + w - c, y, QUARTER],
    [x + w, y + c],
    [x + w, y + h - c, QUARTER],
    [x + w - c, y + h],
    [x + c, y + h, QUARTER],
    [x, y + h - c],
    [x, y + c, QUARTER],
  ];
}

function slotRing({ x, y, w, h, angle }: Extract<Cut, { kind: "slot" }>): Corner[] {
  const [long, short] = [Math.max(w, h), Math.min(w, h)];
  const a = ((angle + (w >= h ? 0 : 90)) * Math.PI) / 180;
  const at = (along: number, across: number, bulge?: number): Corner => [
    x + Math.cos(a) * along - Math.sin(a) * across,
    y + Math.sin(a) * along + Math.cos(a) * across,
    bulge ?? 0,
  ];
  const [half, r] = [(long - short) / 2, short / 2];
  return [at(-half, -r), at(half, -r, HALF), at(half, r), at(-half, r, HALF)];
}

/** Round the far side from one edge of the key to the other, then out to its end and back. */
function keyedRing(
  { x, y, d }: { x: number; y: number; d: number },
  { to, w, angle }: { to: number; w: number; angle: number },
): Corner[] {
  const r = d / 2;
  const side = w / 2;
  const a = (angle * Math.PI) / 180;
  const at = (out: number, across: number, bulge?: number): Corner => [
    x + Math.cos(a) * out - Math.sin(a) * across,
    y + Math.sin(a) * out + Math.cos(a) * across,
    bulge ?? 0,
  ];
  const start = Math.sqrt(Math.max(0, r * r - side * side));
  const round = 2 * Math.PI - 2 * Math.asin(Math.min(1, side / r));
  return [at(start, side, Math.tan(round / 4)), at(start, -side), at(to - r, -side), at(to - r, side)];
}

/** An arc becomes lines that are off by no more. mm */
const CHORD_MM = 0.05;

/** A ring as points, its arcs as short lines. */
export function flattened(ring: readonly Corner[]): Point[] {
  return ring.flatMap(([x, y, bulge = 0], i): Point[] => {
    if (bulge === 0) return [{ x, y }];
    const [x2, y2] = ring[(i + 1) % ring.length]!;
    const angle = 4 * Math.atan(bulge);
    const chord = Math.hypot(x2 - x, y2 - y);
    const r = chord / 2 / Math.sin(Math.abs(angle) / 2);
    // The middle lies to the left of the chord for an arc to the left of less than half a turn.
    const off = r * Math.cos(angle / 2);
    const [ux, uy] = [(x2 - x) / chord, (y2 - y) / chord];
    const side = Math.sign(bulge);
    const [cx, cy] = [(x + x2) / 2 - uy * off * side, (y + y2) / 2 + ux * off * side];
    const from = Math.atan2(y - cy, x - cx);
    const n = Math.max(2, Math.ceil(Math.abs(angle) / (2 * Math.acos(Math.max(0, 1 - CHORD_MM / r)))));
    return Array.from({ length: n }, (_, k) => {
      const a = from + (angle * k) / n;
      return { x: cx + r * Math.cos(a), y: cy + r * Math.sin(a) };
    });
  });
}
