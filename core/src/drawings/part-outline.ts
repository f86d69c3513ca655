import { pushTo } from "../design/order";
import { hundredths } from "../library/part-shape";
import type { Box, Drawing } from "./read";

/** What a drawing of a part offers: outlines that may be its body, and circles that may be its holes, in units of the drawing. */
export interface PartOutline {
  /** Millimetres of a unit; null where the file does not say. */
  unitMm: number | null;
  /** The largest first; the first is the box around all where nothing is closed. */
  bodies: Box[];
  circles: { x: number; y: number; r: number }[];
  /** There are more circles than are told. */
  more: boolean;
}

const MOST_BODIES = 12;
const MOST_CIRCLES = 500;
/** Of boxes that lie within each other by so much, as a share of the larger, one is told: a double line. */
const SAME = 0.005;

/** O(what is drawn) */
export function partOutline(drawing: Drawing): PartOutline {
  const boxes = drawing.outlines.filter((o) => !o.around && o.box.w > 0 && o.box.h > 0).map((o) => o.box);
  const whole = boxAround(drawing);
  const sorted = [...boxes].sort((a, b) => b.w * b.h - a.w * a.h);
  const bodies: Box[] = [];
  for (const box of sorted) {
    if (bodies.length >= MOST_BODIES) break;
    if (!bodies.some((b) => near(b, box))) bodies.push(box);
  }
  if (bodies.length === 0 && whole) bodies.push(whole);
  return {
    unitMm: drawing.unitMm,
    bodies,
    circles: drawing.circles.slice(0, MOST_CIRCLES).map(({ x, y, r }) => ({ x, y, r })),
    more: drawing.circles.length > MOST_CIRCLES,
  };
}

function near(a: Box, b: Box): boolean {
  const off = SAME * Math.max(a.w, a.h);
  return [a.x - b.x, a.y - b.y, a.x + a.w - b.x - b.w, a.y + a.h - b.y - b.h].every((d) => Math.abs(d) <= off);
}

/** Around all lines; null where there are none. */
function boxAround({ outlines, open, circles }: Drawing): Box | null {
  let [left, low, right, high] = [Infinity, Infinity, -Infinity, -Infinity];
  const take = (x: number, y: number): void => {
    left = Math.min(left, x);
    low = Math.min(low, y);
    right = Math.max(right, x);
    high = Math.max(high, y);
  };
  for (const { points } of [...outlines, ...open])
    for (let i = 0; i + 1 < points.length; i += 2) take(points[i]!, points[i + 1]!);
  for (const { x, y, r } of circles) {
    take(x - r, y - r);
    take(x + r, y + r);
  }
  return right > left && high > low ? { x: left, y: low, w: right - left, h: high - low } : null;
}

/** A body and the holes about it, in millimetres from its lower left corner. */
export interface OutlineTaken {
  w: number;
  h: number;
  /** By their diameter, the smallest first. */
  holes: { d: number; at: { x: number; y: number }[] }[];
}

/**
 * Takes one of the bodies. Circles about one middle are one: the inner, as a thread is drawn with two. Those farther away from the body than
 * half of its larger side belong to something else. O(circles)
 * @param mm millimetres of a unit
 */
export function takeOutline({ bodies, circles }: PartOutline, body: number, mm: number): OutlineTaken {
  const box = bodies[body]!;
  const reach = Math.max(box.w, box.h) / 2;
  const inner = new Map<string, { x: number; y: number; d: number }>();
  for (const { x, y, r } of circles) {
    if (x < box.x - reach || x > box.x + box.w + reach || y < box.y - reach || y > box.y + box.h + reach) continue;
    const hole = { x: hundredths((x - box.x) * mm), y: hundredths((y - box.y) * mm), d: hundredths(2 * r * mm) };
    if (hole.d <= 0) continue;
    const key = `${Math.round(hole.x * 10)} ${Math.round(hole.y * 10)}`;
    const there = inner.get(key);
    if (!there || hole.d < there.d) inner.set(key, hole);
  }
  const sizes = new Map<number, { x: number; y: number }[]>();
  for (const { x, y, d } of inner.values()) pushTo(sizes, d, { x, y });
  return {
    w: hundredths(box.w * mm),
    h: hundredths(box.h * mm),
    holes: [...sizes].sort(([a], [b]) => a - b).map(([d, at]) => ({ d, at })),
  };
}
