import { create } from "qrcode";
import { INK, type SceneItem } from "./scene";

/** Signs up to which a code is made at the better level of correction, so that a worn one is still read. */
const FIRM = 120;

/** Signs a code holds at most, at the least level of correction, whatever the signs. */
export const MOST_IN_CODE = 700;

/**
 * A QR code (ISO/IEC 18004) as filled strips, its quiet zone of four modules within the square. O(modules)
 * @param text UTF-8; what is beyond MOST_IN_CODE is cut off
 * @param size of the square with its quiet zone, mm
 */
export function qrItems(text: string, x: number, y: number, size: number): SceneItem[] {
  const said = [...text].slice(0, MOST_IN_CODE).join("");
  const { modules } = create(said === "" ? " " : said, { errorCorrectionLevel: said.length <= FIRM ? "M" : "L" });
  const n = modules.size;
  const step = size / (n + 8);
  const items: SceneItem[] = [];
  for (let row = 0; row < n; row++)
    for (let from = 0; from < n; from++) {
      if (!modules.get(row, from)) continue;
      let to = from;
      while (to < n && modules.get(row, to)) to++;
      items.push({
        kind: "rect",
        x: x + (from + 4) * step,
        y: y + (row + 4) * step,
        w: (to - from) * step,
        // A hair taller, so that no light shows between two rows.
        h: step * 1.02,
        width: 0,
        layer: "mark",
        fill: INK,
      });
      from = to;
    }
  return items;
}
