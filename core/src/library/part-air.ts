import type { LibraryPart } from "./library";
import { hundredths, snap, type Snapped } from "./part-shape";

/** Where a unit blows and draws its air, as rectangles on the front of its body. Lengths in mm, from the lower left corner. */

export const OPENINGS = ["blows", "draws"] as const;
export type Opening = (typeof OPENINGS)[number];

type Frame = { x: number; y: number; w: number; h: number };

/** A first opening is as wide and as high as this, in shares of the body. */
const FIRST = { w: 0.6, h: 0.15 };

const middle = ({ x, y, w, h }: Frame): { x: number; y: number } => ({ x: x + w / 2, y: y + h / 2 });

/** Kept on a body. */
const within = (size: number, at: number, body: number): number =>
  hundredths(Math.max(0, Math.min(at, Math.max(0, body - size))));

/** A part with one of its openings written, or without it. A part that does nothing to the air has none. */
export function withOpening(part: LibraryPart, which: Opening, frame: Frame | undefined): LibraryPart {
  const { climate } = part;
  if (!climate) return part;
  const { [which]: _, ...rest } = climate;
  return { ...part, climate: frame ? { ...rest, [which]: frame } : rest };
}

/** The opening within which a place lies. */
export const openingAt = ({ climate }: LibraryPart, x: number, y: number): Opening | undefined =>
  OPENINGS.find((o) => {
    const f = climate?.[o];
    return f && x >= f.x && x <= f.x + f.w && y >= f.y && y <= f.y + f.h;
  });

/**
 * An opening where the front is tapped, by its middle, and never beyond the body: the chosen one, else one that is not there yet (as
 * large as the other), else the nearer one. Null for a part that does nothing to the air.
 */
export function tapOpening(
  part: LibraryPart,
  chosen: Opening | undefined,
  x: number,
  y: number,
  reach: number,
): { part: LibraryPart; which: Opening; at: Snapped } | null {
  const { climate, w = 0, h = 0 } = part;
  if (!climate) return null;
  const off = (o: Opening): number => {
    const m = middle(climate[o]!);
    return Math.hypot(m.x - x, m.y - y);
  };
  const missing = OPENINGS.find((o) => !climate[o]);
  const which = chosen ?? missing ?? (off("draws") < off("blows") ? "draws" : "blows");
  const others = OPENINGS.filter((o) => o !== which && climate[o]);
  const marks = others.map((o) => ({ ...middle(climate[o]!), name: `where it ${o}` }));
  const at = snap(part, x, y, reach, { marks });
  const size = climate[which] ??
    climate[others[0] ?? which] ?? { w: hundredths(w * FIRST.w), h: hundredths(h * FIRST.h) };
  const frame = {
    x: within(size.w, at.x - size.w / 2, w),
    y: within(size.h, at.y - size.h / 2, h),
    w: size.w,
    h: size.h,
  };
  const lands = middle(frame);
  return {
    part: withOpening(part, which, frame),
    which,
    at: { ...at, x: hundredths(lands.x), y: hundredths(lands.y) },
  };
}
