import type { Box, View } from "./useZoom";

/** Where text stands that belongs to a thing, in pixels. */
export interface TextPlace {
  x: number;
  y: number;
  /** It reads from below. */
  upright: boolean;
}

/** The part of a box that lies in another, or null. */
export function seenPart(box: Box, seen: Box): Box | null {
  const x = Math.max(box.x, seen.x);
  const y = Math.max(box.y, seen.y);
  const w = Math.min(box.x + box.w, seen.x + seen.w) - x;
  const h = Math.min(box.y + box.h, seen.y + seen.h) - y;
  return w > 0 && h > 0 ? { x, y, w, h } : null;
}

/**
 * The middle of what is seen of a thing, if text of this size has room there, lying or upright; else, where
 * only the edge of a thing is seen, nothing. Text so stays on its thing however large that is drawn.
 * @param box of the thing, in sheet millimetres
 * @param seen what the view shows of the sheet
 * @param width height of the text, px
 */
export function textPlace(box: Box, seen: Box, view: View, width: number, height: number): TextPlace | null {
  const part = seenPart(box, seen) ?? box;
  for (const at of [part, box]) {
    const [w, h] = [at.w * view.k, at.h * view.k];
    const lies = w >= width && h >= height;
    if (!lies && !(h >= width && w >= height)) continue;
    return { x: (at.x + at.w / 2) * view.k + view.x, y: (at.y + at.h / 2) * view.k + view.y, upright: !lies };
  }
  return null;
}
