import { createContext, useContext } from "react";
import { TOUCH_PX } from "../tokens";
import type { Box, View } from "./useZoom";

/** Room around the buttons and the scale bar of a drawing, and of the bar itself, px beside text of the usual size. */
const PAD_PX = 8;
const BAR_PX = { w: 136, h: 30 };
const BUTTONS = 3;

export const meets = (a: Box, b: Box): boolean =>
  a.x < b.x + b.w && b.x < a.x + a.w && a.y < b.y + b.h && b.y < a.y + a.h;

/** The small map: its longest side, how far it stands from the edge, and from how much larger than fitted on it is there. */
export const MAP_PX = { side: 104, pad: 8 };
const MAP_FROM = 1.8;

/** How large the small map of a sheet is, px, and its scale. */
export function mapSize(sheet: Box): { w: number; h: number; k: number } {
  const k = MAP_PX.side / Math.max(sheet.w, sheet.h, 1);
  return { w: sheet.w * k, h: sheet.h * k, k };
}

/** Whether so little of the sheet is seen that a map helps. */
export const wantsMap = (sheet: Box, seen: Box): boolean => Math.max(sheet.w / seen.w, sheet.h / seen.h) > MAP_FROM;

/** Where what lies over a drawing lies, px: for whatever writes on it. */
export const Controls = createContext<readonly Box[]>([]);
export const useControls = (): readonly Box[] => useContext(Controls);

/**
 * Where the buttons and the scale bar of a drawing lie: nothing is written below them.
 * @param seen what the view shows of the sheet, mm
 * @param scale of the text, 1 at its usual size
 * @param map the sheet, where its small map is there
 * @returns boxes in pixels
 */
export function controlBoxes(seen: Box, view: View, scale: number, map?: Box): Box[] {
  const [left, top] = [seen.x * view.k + view.x, seen.y * view.k + view.y];
  const [w, h] = [seen.w * view.k, seen.h * view.k];
  const side = TOUCH_PX + 2 * PAD_PX;
  const bar = { w: BAR_PX.w + 2 * PAD_PX, h: BAR_PX.h * scale + 2 * PAD_PX };
  const small = map ? mapSize(map) : null;
  return [
    ...(small
      ? [
          {
            x: left + w - small.w - 2 * MAP_PX.pad,
            y: top + h - small.h - 2 * MAP_PX.pad,
            w: small.w + 2 * MAP_PX.pad,
            h: small.h + 2 * MAP_PX.pad,
          },
        ]
      : []),
    { x: left + w - side, y: top, w: side, h: BUTTONS * (TOUCH_PX + PAD_PX) + PAD_PX },
    { x: left, y: top + h - bar.h, w: bar.w, h: bar.h },
  ];
}
