import { fitted, type Scene, type SceneItem, type SceneText } from "./scene";

const A4 = { w: 210, h: 297 };
const MARGIN = 10;

/** Labels side by side on a sheet of A4. mm */
export interface LabelGrid {
  w: number;
  h: number;
  columns: number;
  rows: number;
  gapX: number;
  gapY: number;
}

/** Two by seven, with room for a code beside its words. */
export const TICKETS: LabelGrid = { w: 93, h: 36, columns: 2, rows: 7, gapX: 4, gapY: 3 };

/** A framed label for each thing, on as many sheets as it takes. @param drawn what stands in it, from its upper left corner */
export function labelSheets<T>(
  name: string,
  { w, h, columns, rows, gapX, gapY }: LabelGrid,
  things: readonly T[],
  drawn: (thing: T, x: number, y: number, nth: number) => SceneItem[],
): Scene[] {
  const each = columns * rows;
  return Array.from({ length: Math.ceil(things.length / each) }, (_, s): Scene => ({
    name,
    ...A4,
    items: things.slice(s * each, (s + 1) * each).flatMap((thing, i): SceneItem[] => {
      const x = MARGIN + (i % columns) * (w + gapX);
      const y = MARGIN + Math.floor(i / columns) * (h + gapY);
      return [{ kind: "rect", x, y, w, h, width: 0.15, layer: "frame" }, ...drawn(thing, x, y, s * each + i)];
    }),
  }));
}

/** A text as large as it may be in a room, never smaller than `least`; cut where even that is too much. */
export function fittedText(
  [x, y]: readonly [number, number],
  value: string,
  { size, room, least, anchor = "start" }: { size: number; room: number; least: number; anchor?: SceneText["anchor"] },
): SceneText {
  const fit = fitted(value, room, size, least);
  return { kind: "text", x, y, text: fit.text, size: fit.size, anchor, turn: 0, layer: "text" };
}
