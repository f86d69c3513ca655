/** Sheets of paper that a face takes at 1:1. mm */

export const A4 = { w: 210, h: 297 };
export const MARGIN = 10;
/** Of the title below. */
export const TITLE = 14;
/** Sheets overlap by so much; both carry the crosses. */
export const OVERLAP = 20;
export const TILE = { w: A4.w - 2 * MARGIN, h: A4.h - 2 * MARGIN - TITLE };
const STEP = { w: TILE.w - OVERLAP, h: TILE.h - OVERLAP };

/** More of them are laid together by nobody. */
export const MOST_FULL_SHEETS = 300;

/** Columns and rows of sheets for a face. */
export const gridOf = ({ w, h }: { w: number; h: number }): { columns: number; rows: number } => ({
  columns: Math.max(1, Math.ceil((w - OVERLAP) / STEP.w)),
  rows: Math.max(1, Math.ceil((h - OVERLAP) / STEP.h)),
});

/** How many sheets a face takes at 1:1. */
export function fullSheetsOf(face: { w: number; h: number }): number {
  const { columns, rows } = gridOf(face);
  return columns * rows;
}
