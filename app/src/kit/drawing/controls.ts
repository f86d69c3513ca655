import { TOUCH_PX } from "../tokens";
import type { Box, View } from "./useZoom";

/** Room around the buttons and the scale bar of a drawing, and of the bar itself, px beside text of the usual size. */
const PAD_PX = 8;
const BAR_PX = { w: 136, h: 30 };
const BUTTONS = 3;

export const meets = (a: Box, b: Box): boolean =>
  a.x < b.x + b.w && b.x < a.x + a.w && a.y < b.y + b.h && b.y < a.y + a.h;

/**
 * Where the buttons and the scale bar of a drawing lie: nothing is written below them.
 * @param seen what the view shows of the sheet, mm
 * @param scale of the text, 1 at its usual size
 * @returns boxes in pixels
 */
export function controlBoxes(seen: Box, view: View, scale: number): Box[] {
  const [left, top] = [seen.x * view.k + view.x, seen.y * view.k + view.y];
  const [w, h] = [seen.w * view.k, seen.h * view.k];
  const side = TOUCH_PX + 2 * PAD_PX;
  const bar = { w: BAR_PX.w + 2 * PAD_PX, h: BAR_PX.h * scale + 2 * PAD_PX };
  return [
    { x: left + w - side, y: top, w: side, h: BUTTONS * (TOUCH_PX + PAD_PX) + PAD_PX },
    { x: left, y: top + h - bar.h, w: bar.w, h: bar.h },
  ];
}
