import type { Point } from "../design/geometry";

/** A frame on a sheet: y down, mm. */
export interface Frame {
  left: number;
  top: number;
  right: number;
  bottom: number;
}

/** What a balloon is to point at: one of these places. */
export interface Wanted {
  number: number;
  places: readonly Point[];
}

/** A number in a ring beside a drawing, with its line: from the ring straight off the edge, then to the place. */
export interface Balloon {
  number: number;
  centre: Point;
  /** End of the stub that stands square on the edge. */
  bend: Point;
  at: Point;
}

export interface Balloons {
  balloons: Balloon[];
  /** For which there was no room: they stand in the legend alone. */
  left: number[];
}

interface Slot {
  centre: Point;
  bend: Point;
}

/** From the frame to the bend, and from there to the ring's middle, in radii. */
const OFF = 1;
export const STUB = 2.6;
/** Between two rings, in radii. */
const PITCH = 2.4;

/** Places for rings along the right side and the top of a frame, none of which touches another. */
export function slotsAround({ left, top, right, bottom }: Frame, radius: number): Slot[] {
  const slots: Slot[] = [];
  const pitch = PITCH * radius;
  for (let y = top; y <= bottom; y += pitch)
    slots.push({ centre: { x: right + (OFF + STUB) * radius, y }, bend: { x: right + OFF * radius, y } });
  for (let x = right - pitch; x >= left; x -= pitch)
    slots.push({ centre: { x, y: top - (OFF + STUB) * radius }, bend: { x, y: top - OFF * radius } });
  return slots;
}

const distance = (a: Point, b: Point): number => Math.hypot(a.x - b.x, a.y - b.y);

const side = (a: Point, b: Point, p: Point): number => (b.x - a.x) * (p.y - a.y) - (b.y - a.y) * (p.x - a.x);

/** Whether two lines between points cross, ends that touch not counted. */
export function crosses(a: Point, b: Point, c: Point, d: Point): boolean {
  return side(a, b, c) * side(a, b, d) < 0 && side(c, d, a) * side(c, d, b) < 0;
}

/** Swaps that are tried before a crossing is left: each shortens the lines, so that far fewer are needed. */
const MOST_SWAPS = 100_000;

/**
 * Balloons around a frame. Each number takes the place that is nearest to a free slot, those farthest out first; then two
 * whose lines cross change slots until none do: every change makes the lines shorter, so that it ends. Lines lie within the
 * frame and its near edge, rings beyond it: no line goes through a ring. O(n · slots + swaps · n)
 */
export function balloonsAround(wanted: readonly Wanted[], frame: Frame, radius: number): Balloons {
  const slots = slotsAround(frame, radius);
  const free = new Set(slots);
  const left: number[] = [];
  const chosen: { number: number; at: Point; slot: Slot }[] = [];
  const outFirst = wanted
    .map((w) => ({ w, near: nearest(w.places, slots) }))
    .sort((a, b) => (a.near?.mm ?? 0) - (b.near?.mm ?? 0) || a.w.number - b.w.number);
  for (const { w } of outFirst) {
    const found = nearest(w.places, free);
    if (!found) {
      left.push(w.number);
      continue;
    }
    free.delete(found.slot);
    chosen.push({ number: w.number, at: found.at, slot: found.slot });
  }
  let swaps = 0;
  for (let again = true; again && swaps < MOST_SWAPS;) {
    again = false;
    for (let i = 0; i < chosen.length; i++)
      for (let j = i + 1; j < chosen.length; j++) {
        const [a, b] = [chosen[i]!, chosen[j]!];
        if (!crosses(a.at, a.slot.bend, b.at, b.slot.bend)) continue;
        [a.slot, b.slot] = [b.slot, a.slot];
        again = true;
        swaps++;
      }
  }
  return {
    balloons: chosen
      .map(({ number, at, slot }) => ({ number, at, ...slot }))
      .sort((a, b) => a.number - b.number || a.centre.y - b.centre.y),
    left: left.sort((a, b) => a - b),
  };
}

function nearest(places: readonly Point[], slots: Iterable<Slot>): { at: Point; slot: Slot; mm: number } | null {
  let best: { at: Point; slot: Slot; mm: number } | null = null;
  for (const slot of slots)
    for (const at of places) {
      const mm = distance(at, slot.bend);
      if (!best || mm < best.mm) best = { at, slot, mm };
    }
  return best;
}
