import type { TableColumn } from "./column";

/** Widths of letters of the table's type at its usual size, tenths of a px; rounded up, so that what is reckoned fits. */
const NARROW = /[ilI1.,:;'|!()[\]/·⁠ ]/;
const WIDE = /[mwMW@%—…]/;
const LETTER = { narrow: 44, usual: 71, wide: 102 };
/** Left and right of a text, and the arrow of a sorted heading, px. */
const PAD_PX = 14;
const ARROW_PX = 14;
/** So many rows tell how wide a column is. */
const ROWS = 400;
/** Up to here a column is as wide as its longest text, whatever else stands beside it: figures are never cut. */
const SHORT_PX = 130;

/** How wide a text is in a table, px beside text of the usual size. O(letters) */
export function textPx(text: string): number {
  let tenths = 0;
  for (const letter of text)
    tenths += NARROW.test(letter) ? LETTER.narrow : WIDE.test(letter) ? LETTER.wide : LETTER.usual;
  return tenths / 10;
}

/** What a cell says, where it says it in words. */
export function cellText<T>(column: TableColumn<T>, row: T): string {
  const shown = column.cell?.(row);
  return typeof shown === "string" ? shown : String(column.value(row) ?? "");
}

/**
 * Widths of columns for what stands in them, px beside text of the usual size: headings and short texts whole, long
 * ones at least as wide as the column says; what room is left goes to those that are still cut.
 * @param room of the table, px beside text of the usual size; 0 where it is not known yet
 * @returns widths by column; O(rows × columns), at most 400 rows
 */
export function fitted<T>(
  columns: readonly TableColumn<T>[],
  rows: readonly T[],
  room: number,
): Record<string, number> {
  const step = Math.max(1, Math.floor(rows.length / ROWS));
  const sample = rows.filter((_, i) => i % step === 0);
  const wants = columns.map((c) => {
    const head = textPx(c.label.trim()) + ARROW_PX;
    const longest = sample.reduce((most, row) => Math.max(most, textPx(cellText(c, row))), 0);
    // A sign beside the value takes what the column says it takes.
    const signs = c.cell && rows.length > 0 && typeof c.cell(rows[0]!) !== "string" ? c.width : 0;
    return { id: c.id, least: c.width, needs: Math.ceil(Math.max(head, longest, signs - PAD_PX) + PAD_PX) };
  });
  const base = wants.map(({ id, least, needs }) => ({
    id,
    needs,
    px: needs <= SHORT_PX ? needs : Math.min(needs, Math.max(least, SHORT_PX)),
  }));
  const left = room - base.reduce((sum, c) => sum + c.px, 0);
  const lacking = base.reduce((sum, c) => sum + c.needs - c.px, 0);
  const share = lacking > 0 ? Math.min(1, Math.max(0, left) / lacking) : 0;
  return Object.fromEntries(base.map(({ id, needs, px }) => [id, px + Math.floor((needs - px) * share)]));
}

/** Columns of figures alone: these stand at the right, so that tens lie below tens. O(rows × columns), at most 400 rows */
export function figureColumns<T>(columns: readonly TableColumn<T>[], rows: readonly T[]): Set<string> {
  const sample = rows.slice(0, ROWS);
  const isFigure = (c: TableColumn<T>): boolean => {
    const values = sample.map((row) => c.value(row)).filter((v) => v !== null);
    return values.length > 0 && values.every((v) => typeof v === "number");
  };
  return new Set(columns.filter(isFigure).map((c) => c.id));
}
