import type { Point, Rect } from "../design/geometry";
import type { Clamped, Machine } from "../design/metalwork-rules";
import type { Seen } from "../design/model";

/** How a sheet lies on a machine. Lengths in mm. */
export interface Lie {
  machine: Machine;
  clamps: readonly Clamped[];
  /** A quarter turn round, counter-clockwise, as the one before the machine sees it. */
  turned: boolean;
  /** The machine sees the face mirrored: what turns left turns right. */
  mirrored: boolean;
  /** From the face, as seen from outside, to the machine's axes, its datum corner at their origin. */
  place(p: Point): Point;
  /** The ways along the axes that the sheet takes from the datum: 1 or -1. */
  way: { x: 1 | -1; y: 1 | -1 };
  /** Of the sheet along the machine's axes. */
  size: { x: number; y: number };
}

/** Whether a sheet goes on a machine without moving it. */
const fits = (w: number, h: number, m: Machine): boolean => w <= m.w + 1e-6 && h <= m.h + 1e-6;

/** A sheet lies as it is drawn; a quarter turn round where it goes on the machine only so, or goes on it with less left over. */
export function lieOf(
  { w, h, seen }: { w: number; h: number; seen: Seen },
  machine: Machine,
  clamps: readonly Clamped[],
): Lie {
  const beyond = (a: number, b: number): number => Math.ceil(a / machine.w - 1e-9) * Math.ceil(b / machine.h - 1e-9);
  const turned = !fits(w, h, machine) && (fits(h, w, machine) || beyond(h, w) < beyond(w, h));
  const [sw, sh] = turned ? [h, w] : [w, h];
  const right = machine.corner.endsWith("right");
  const upper = machine.corner.startsWith("upper");
  const sx = machine.x === "right" ? 1 : -1;
  const sy = machine.y === "up" ? 1 : -1;
  const inside = seen === "inside";
  return {
    machine,
    clamps: clamps.filter((c) => c.machine === machine.name),
    turned,
    mirrored: (inside ? -1 : 1) * sx * sy < 0,
    place(p) {
      const x = inside ? w - p.x : p.x;
      const [px, py] = turned ? [h - p.y, x] : [x, p.y];
      // No zero with a sign: it would stand in programs.
      return { x: sx * (px - (right ? sw : 0)) + 0, y: sy * (py - (upper ? sh : 0)) + 0 };
    },
    way: { x: right ? (-sx as 1 | -1) : (sx as 1 | -1), y: upper ? (-sy as 1 | -1) : (sy as 1 | -1) },
    size: { x: sw, y: sh },
  };
}

/** A frame on the face as the machine's axes see it. */
export function placedFrame(lie: Lie, { x, y, w, h }: Rect): Rect {
  const [a, b] = [lie.place({ x, y }), lie.place({ x: x + w, y: y + h })];
  return { x: Math.min(a.x, b.x), y: Math.min(a.y, b.y), w: Math.abs(a.x - b.x), h: Math.abs(a.y - b.y) };
}

/** How far something reaches from the datum, along the ways of the sheet. */
interface Reach {
  u0: number;
  u1: number;
  v0: number;
  v1: number;
}

const reachOf = ({ way }: Lie, f: Rect): Reach => {
  const along = (from: number, size: number, s: 1 | -1): [number, number] =>
    s > 0 ? [from, from + size] : [-from - size, -from];
  const [u0, u1] = along(f.x, f.w, way.x);
  const [v0, v1] = along(f.y, f.h, way.y);
  return { u0, u1, v0, v1 };
};

/** A window of the machine over the sheet, and what is made in it. */
export interface Window {
  /** From the datum corner of the sheet to the datum of the machine, along its axes. */
  shift: Point;
  items: number[];
}

/** Sheets are moved by whole steps. mm */
const SHIFT_STEP = 5;

/** Stretches of one axis, each as long as the machine's, that hold all: the fewest. */
function stretches(
  list: readonly { i: number; from: number; to: number }[],
  room: number,
): { start: number; items: number[] }[] {
  let left = [...list].sort((a, b) => a.from - b.from || a.to - b.to);
  const out: { start: number; items: number[] }[] = [];
  let start = 0;
  while (left.length > 0) {
    const items: number[] = [];
    const passed: typeof left = [];
    let k = 0;
    for (; k < left.length && left[k]!.from <= start + room + 1e-6; k++) {
      const one = left[k]!;
      if (one.from >= start - 1e-6 && one.to <= start + room + 1e-6) items.push(one.i);
      else passed.push(one);
    }
    left = [...passed, ...left.slice(k)];
    if (items.length > 0) out.push({ start, items });
    const next = left[0];
    if (!next) break;
    // Before the datum lies what reaches beyond its sheet.
    const stepped = Math.floor(next.from / SHIFT_STEP) * SHIFT_STEP;
    start = stepped + room >= next.to - 1e-6 ? stepped : next.from;
  }
  return out;
}

/**
 * How often the sheet is moved, and what is made in each place: as few places as there can be along each axis. What is
 * longer than the machine's area fits none. O(items² at worst)
 * @param frames of what is made, on the machine's axes
 */
export function windowsOf(lie: Lie, frames: readonly Rect[]): { windows: Window[]; off: number[] } {
  const { machine, way } = lie;
  const reaches = frames.map((f) => reachOf(lie, f));
  const off: number[] = [];
  const fitting: number[] = [];
  reaches.forEach((r, i) => (r.u1 - r.u0 > machine.w + 1e-6 || r.v1 - r.v0 > machine.h + 1e-6 ? off : fitting).push(i));
  const windows: Window[] = [];
  for (const column of stretches(
    fitting.map((i) => ({ i, from: reaches[i]!.u0, to: reaches[i]!.u1 })),
    machine.w,
  ))
    for (const cell of stretches(
      column.items.map((i) => ({ i, from: reaches[i]!.v0, to: reaches[i]!.v1 })),
      machine.h,
    ))
      windows.push({
        shift: { x: way.x * column.start, y: way.y * cell.start },
        items: cell.items.sort((a, b) => a - b),
      });
  return { windows, off };
}

/** Whether a straight way between two places on the machine touches a rectangle grown on all sides. */
export function wayMeets(a: Point, b: Point, { x, y, w, h }: Rect, by: number): boolean {
  let [from, to] = [0, 1];
  for (const [p, d, low, high] of [
    [a.x, b.x - a.x, x - by, x + w + by],
    [a.y, b.y - a.y, y - by, y + h + by],
  ] as const) {
    if (Math.abs(d) < 1e-12) {
      if (p < low || p > high) return false;
      continue;
    }
    const [t1, t2] = [(low - p) / d, (high - p) / d];
    from = Math.max(from, Math.min(t1, t2));
    to = Math.min(to, Math.max(t1, t2));
    if (from > to) return false;
  }
  return true;
}
