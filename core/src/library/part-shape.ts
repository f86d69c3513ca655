import type { LibraryPart } from "./library";
import type { Exit, Pin } from "../design/model";

/** Setting pins on the body of a part: where a tap means, how names go on, rows with a pitch, mirrored. Lengths in mm. */

/** Where a tap lands on a body, and what it was drawn to. */
export interface Snapped {
  x: number;
  y: number;
  /** What it lies on now, such as `upper edge`, `middle`, `pin A1`; empty where on nothing. */
  on: string[];
}

/** What of taps is rounded away: nobody taps a tenth of a millimetre. */
const TAP_STEP = 0.5;

/** To the hundredth of a millimetre. */
export const hundredths = (v: number): number => Math.round(v * 100) / 100;

/** A length on one body in the same share of another; as it is where one of them is not told. */
export const shareOf = (v: number, from: number | undefined, to: number | undefined): number =>
  from === undefined || to === undefined || from === 0 ? v : hundredths((v / from) * to);

/** Something into line with which a tap is drawn. */
export interface Mark {
  x: number;
  y: number;
  name: string;
}

const pinMarks = ({ pins = [] }: LibraryPart): Mark[] =>
  pins.flatMap((p) => (p.x === undefined ? [] : [{ x: p.x, y: p.y!, name: `pin ${p.name}` }]));

/**
 * Draws a tap to the edges and middles of the body, and into line with pins, each direction by itself: the nearest of them within reach.
 * A tap outside of the body lands on its edge. O(pins)
 * @param reach how far a tap is drawn
 * @param marks what it is drawn into line with; the pins of the part when absent
 * @param outside a tap beside the body stays there
 */
export function snap(
  part: LibraryPart,
  x: number,
  y: number,
  reach: number,
  { marks = pinMarks(part), outside = false }: { marks?: readonly Mark[]; outside?: boolean } = {},
): Snapped {
  const along = (size: number, names: readonly [string, string], at: number, of: (m: Mark) => number) => {
    const lines: [number, string][] = [
      [0, names[0]],
      [size, names[1]],
      [size / 2, "middle"],
      ...marks.map((m): [number, string] => [of(m), m.name]),
    ];
    const inside = outside ? at : Math.min(size, Math.max(0, at));
    let best: [number, string] | null = null;
    for (const line of lines)
      if (Math.abs(line[0] - inside) <= reach && (!best || Math.abs(line[0] - inside) < Math.abs(best[0] - inside)))
        best = line;
    return best ?? ([Math.round(inside / TAP_STEP) * TAP_STEP, null] as const);
  };
  const across = along(part.w ?? 0, ["left edge", "right edge"], x, (m) => m.x);
  const up = along(part.h ?? 0, ["lower edge", "upper edge"], y, (m) => m.y);
  return {
    x: hundredths(across[0]),
    y: hundredths(up[0]),
    on: [...new Set([across[1], up[1]].filter((t) => t !== null))],
  };
}

/** What a tap on the front of a part makes of it. */
export interface Tapped {
  part: LibraryPart;
  /** The pin that stands there now, new or placed. */
  name: string;
  at: Snapped;
  /** The pin whose clamp, sizes and lengths a new one has taken over; null where it has none. */
  like: string | null;
}

/**
 * Sets a pin where the front is tapped: the chosen one where it has no place yet, else a new one. It lies as high above the face as the last
 * one that has a place, the first in half the depth; a new one is clamped as the one before it. O(pins)
 */
export function tapPin(part: LibraryPart, chosen: string | undefined, x: number, y: number, reach: number): Tapped {
  const pins = part.pins ?? [];
  const at = snap(part, x, y, reach);
  const there = pins.find((p) => p.name === chosen && p.x === undefined);
  const before = there ? undefined : pins.at(-1);
  const name = there?.name ?? freePin(pins);
  const z = pins.findLast((p) => p.z !== undefined)?.z ?? hundredths((part.d ?? 0) / 2);
  const { channel: _, ...how } = before ?? {};
  const set: Pin = { ...(there ?? how), name, x: at.x, y: at.y, z, exit: exitAt(part, at.x, at.y) };
  const clamped =
    before && (["clamp", "sizeMin", "sizeMax", "strip", "tail", "conductors"] as const).some((f) => f in before);
  return {
    part: { ...part, pins: there ? pins.map((p) => (p === there ? set : p)) : [...pins, set] },
    name,
    at,
    like: clamped ? before.name : null,
  };
}

/** Which way wires leave a pin: over the edge that is nearest, in the middle of the body to the front. */
export function exitAt({ w = 0, h = 0 }: LibraryPart, x: number, y: number): Exit {
  const edges: [Exit, number][] = [
    ["up", h - y],
    ["down", y],
    ["left", x],
    ["right", w - x],
  ];
  const [exit, off] = edges.reduce((a, b) => (b[1] < a[1] ? b : a));
  return off < Math.min(w, h) / 4 ? exit : "out";
}

/** The name behind one: its last number, or last letter, goes on. `A1` → `A2`, `13` → `14`, `L` → `M`, `PE` → `PE2`. */
export function nextName(name: string, step = 1): string {
  const [, head = "", digits] = /^(.*?)(\d+)$/.exec(name) ?? [];
  if (digits !== undefined) return `${head}${String(Number(digits) + step).padStart(digits.length, "0")}`;
  if (/^[A-Ya-y]$/.test(name)) return String.fromCharCode(name.charCodeAt(0) + step);
  return name === "" ? "1" : `${name}${1 + step}`;
}

/** The next name of a part that none of its pins has. */
export function freePin(pins: readonly Pin[]): string {
  const taken = new Set(pins.map((p) => p.name));
  let name = nextName(pins.at(-1)?.name ?? "");
  while (taken.has(name)) name = nextName(name);
  return name;
}

/**
 * A pin and more like it in a row.
 * @param count how many there are then, the first among them
 * @param step how far their numbers go on: terminals of one side often have every second one
 * @returns the new ones; names that are taken are passed over
 */
export function row(
  pins: readonly Pin[],
  first: Pin,
  { count, dx, dy, step }: { count: number; dx: number; dy: number; step: number },
): Pin[] {
  const taken = new Set(pins.map((p) => p.name));
  const more: Pin[] = [];
  let { name } = first;
  for (let i = 1; i < count; i++) {
    do name = nextName(name, step);
    while (taken.has(name));
    taken.add(name);
    const place = first.x === undefined ? {} : { x: hundredths(first.x + i * dx), y: hundredths(first.y! + i * dy) };
    more.push({ ...first, ...place, name });
  }
  return more;
}

const MIRRORED: Partial<Record<Exit, Exit>> = { left: "right", right: "left" };

/** Pins as they are on the mirror image of a body, left for right. */
export const mirrored = ({ w = 0, pins = [] }: LibraryPart): Pin[] =>
  pins.map((p) => ({
    ...p,
    ...(p.x === undefined ? {} : { x: hundredths(w - p.x) }),
    ...(p.exit === undefined ? {} : { exit: MIRRORED[p.exit] ?? p.exit }),
  }));

/** Pins of a like part on another body: in the same shares of width and height, as high above the face where that fits. */
export function pinsOf(like: LibraryPart, { w, h, d }: LibraryPart): Pin[] {
  return (like.pins ?? []).map((p) =>
    p.x === undefined
      ? p
      : {
          ...p,
          x: shareOf(p.x, like.w, w),
          y: shareOf(p.y!, like.h, h),
          z: d === undefined ? p.z! : Math.min(p.z!, d),
        },
  );
}
