import type { Point, Rect } from "../design/geometry";
import type { Clamped, Machine } from "./rules";
import type { Seen, Turn } from "../design/model";

/** How a sheet lies on a machine. Lengths in mm. */
export interface Lie {
  machine: Machine;
  clamps: readonly Clamped[];
  /** How far round, counter-clockwise, as the one before the machine sees it: 180 is end for end. */
  turn: Turn;
  /** The machine sees the face mirrored: what turns left turns right. */
  mirrored: boolean;
  /** From the face, as seen from outside, to the machine's axes, its datum corner at their origin. */
  place(p: Point): Point;
  /** The ways along the axes that the sheet takes from the datum: 1 or -1. */
  way: { x: 1 | -1; y: 1 | -1 };
  /** Of the sheet along the machine's axes. */
  size: { x: number; y: number };
}

/** How a sheet lies that is turned so far from how it is drawn. */
export function lieOf(
  { w, h, seen }: { w: number; h: number; seen: Seen },
  machine: Machine,
  clamps: readonly Clamped[],
  turn: Turn,
): Lie {
  const across = turn === 90 || turn === 270;
  const [sw, sh] = across ? [h, w] : [w, h];
  const right = machine.corner.endsWith("right");
  const upper = machine.corner.startsWith("upper");
  const sx = machine.x === "right" ? 1 : -1;
  const sy = machine.y === "up" ? 1 : -1;
  const inside = seen === "inside";
  return {
    machine,
    clamps: clamps.filter((c) => c.machine === machine.name),
    turn,
    mirrored: (inside ? -1 : 1) * sx * sy < 0,
    place(p) {
      const x = inside ? w - p.x : p.x;
      const [px, py] =
        turn === 0 ? [x, p.y] : turn === 90 ? [h - p.y, x] : turn === 180 ? [w - x, h - p.y] : [p.y, w - x];
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

/**
 * Stretches of one axis, each as long as the machine's, that hold all: the fewest, each begun as near to the datum as what
 * it holds lets it.
 */
function stretches(
  list: readonly { i: number; from: number; to: number }[],
  room: number,
): { start: number; items: number[] }[] {
  let left = [...list].sort((a, b) => a.from - b.from || a.to - b.to);
  const out: { start: number; items: number[] }[] = [];
  while (left.length > 0) {
    // Before the datum lies what reaches beyond its sheet.
    const next = left[0]!;
    const stepped = Math.floor(next.from / SHIFT_STEP) * SHIFT_STEP;
    const start = stepped + room >= next.to - 1e-6 ? stepped : next.from;
    const items: number[] = [];
    let to = -Infinity;
    const passed: typeof left = [];
    let k = 0;
    for (; k < left.length && left[k]!.from <= start + room + 1e-6; k++) {
      const one = left[k]!;
      if (one.from >= start - 1e-6 && one.to <= start + room + 1e-6) {
        items.push(one.i);
        to = Math.max(to, one.to);
      } else passed.push(one);
    }
    left = [...passed, ...left.slice(k)];
    const least = Math.max(0, Math.ceil((to - room) / SHIFT_STEP - 1e-9) * SHIFT_STEP);
    out.push({ start: Math.min(start, least), items });
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

/** In this order ways to lay a sheet are tried: of equal ones the first is taken. */
const TURNS: readonly Turn[] = [0, 180, 90, 270];

/**
 * How a sheet lies best on a machine: with the most that can be made, then in the fewest places, then wholly on the machine,
 * then moved by the least, then turned the least. O(holes² at worst)
 */
export function bestLie(
  sheet: { w: number; h: number; seen: Seen },
  frames: readonly Rect[],
  machine: Machine,
  clamps: readonly Clamped[],
  clampMm: number,
): Lie {
  let best: { lie: Lie; rank: number[] } | undefined;
  for (const turn of TURNS) {
    const lie = lieOf(sheet, machine, clamps, turn);
    const placed = frames.map((f) => placedFrame(lie, f));
    const { windows, off } = windowsOf(lie, placed);
    const held = windows.reduce(
      (sum, { shift, items }) => sum + items.filter((i) => clampNear(lie, placed[i]!, shift, clampMm)).length,
      0,
    );
    const rank = [
      off.length + held,
      windows.length,
      lie.size.x <= machine.w + 1e-6 && lie.size.y <= machine.h + 1e-6 ? 0 : 1,
      windows.reduce((sum, { shift }) => sum + Math.abs(shift.x) + Math.abs(shift.y), 0),
    ];
    if (best === undefined || before(rank, best.rank)) best = { lie, rank };
    // Nothing can be better than one place on the machine, with nothing moved.
    if (rank[0] === 0 && rank[1]! <= 1 && rank[2] === 0 && rank[3] === 0) break;
  }
  return best!.lie;
}

const before = (a: readonly number[], b: readonly number[]): boolean => {
  const k = a.findIndex((v, i) => Math.abs(v - b[i]!) > 1e-6);
  return k >= 0 && a[k]! < b[k]!;
};

/** Between two rectangles; 0 where they touch. */
export function gapOf(a: Rect, b: Rect): number {
  const dx = Math.max(a.x - b.x - b.w, b.x - a.x - a.w, 0);
  const dy = Math.max(a.y - b.y - b.h, b.y - a.y - a.h, 0);
  return Math.hypot(dx, dy);
}

/** The clamp that something comes nearer to than it may, the sheet moved; none where it is clear of all. */
export function clampNear(
  { clamps }: Lie,
  frame: Rect,
  shift: Point,
  clampMm: number,
): { clamp: Clamped; mm: number } | undefined {
  const here = { ...frame, x: frame.x - shift.x, y: frame.y - shift.y };
  const clamp = clamps.find((c) => gapOf(here, c) < clampMm - 1e-6);
  return clamp && { clamp, mm: gapOf(here, clamp) };
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
