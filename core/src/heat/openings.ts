import type { Rect } from "../design/geometry";
import type { Part } from "../design/model";

/** Openings of a unit on its unturned body: stated, or the upper and the lower third of it. */
export const openingsOf = (part: Part): { blows: Rect; draws: Rect; stated: boolean } => ({
  blows: part.climate?.blows ?? { x: 0, y: (part.h * 2) / 3, w: part.w, h: part.h / 3 },
  draws: part.climate?.draws ?? { x: 0, y: 0, w: part.w, h: part.h / 3 },
  stated: part.climate?.blows !== undefined && part.climate.draws !== undefined,
});
