import type { Row } from "./csv";

/** A table with its headings found: what stands above them, and what was left out, is named. */
export interface Sheet {
  /** Headings in order: each once, none empty. */
  headings: string[];
  /** Line of the headings; null where there are none, and columns go by their number. */
  headingLine: number | null;
  /** Rows of as many cells as there are headings. */
  rows: Row[];
  leftOut: LeftOut[];
}

export interface LeftOut {
  line: number;
  why:
    | "above the headings"
    | "empty"
    | "the headings again"
    | "more cells than headings"
    | "hidden in the file"
    /** The row is there, without the cell. */
    | "a formula without a value";
  /** Its cells that are not empty. */
  cells: string[];
}

/** Headings stand among the first rows that are not empty. */
const LOOKED_THROUGH = 30;
/** Headings fill so much of what the rows below them fill. */
const FILLED = 0.6;

const filled = (cells: readonly string[]): string[] => cells.filter((c) => c !== "");
/** A heading is a word: neither a number nor a tag with one. */
const isWord = (text: string): boolean =>
  /\p{L}{2}|^\p{L}$|^(nr|no|#)\.?$/iu.test(text) && !/^[-+=]?\p{Lu}+\d/u.test(text);

const filledTo = (cells: readonly string[], width: number): string[] =>
  Array.from({ length: width }, (_, i) => cells[i] ?? "");

/** Where the last cell of a row that holds something stands, counted from 1. */
function widthOf(cells: readonly string[]): number {
  let width = cells.length;
  while (width > 0 && cells[width - 1] === "") width--;
  return width;
}

/** The width that most rows have; of equals the larger. */
function usualWidth(rows: readonly Row[]): number {
  const counts = new Map<number, number>();
  for (const { cells } of rows) counts.set(widthOf(cells), (counts.get(widthOf(cells)) ?? 0) + 1);
  return [...counts].sort(([a, n], [b, m]) => m - n || b - a)[0]?.[0] ?? 0;
}

/** The first row of words, each another, that fills most of what the rows fill. −1 where there is none. */
function headingRow(rows: readonly Row[]): number {
  const some = rows.filter((r) => widthOf(r.cells) > 0);
  const usual = usualWidth(some);
  const at = some.slice(0, LOOKED_THROUGH).find(({ cells }) => {
    const words = filled(cells);
    return (
      words.length >= Math.max(2, FILLED * usual) &&
      words.every(isWord) &&
      new Set(words.map((w) => w.toLowerCase())).size >= words.length / 2
    );
  });
  return at ? rows.indexOf(at) : -1;
}

/** Headings that tell columns apart: what stands twice gets a number, what is empty goes by its place. */
function namesOf(cells: readonly string[], width: number): string[] {
  const seen = new Set<string>();
  return Array.from({ length: width }, (_, i) => {
    const base = (cells[i] ?? "").replace(/\s+/g, " ") || `column ${i + 1}`;
    let name = base;
    for (let n = 2; seen.has(name.toLowerCase()); n++) name = `${base} (${n})`;
    seen.add(name.toLowerCase());
    return name;
  });
}

/**
 * Finds the headings among rows, and names every row that is none of the table. O(cells)
 * @param headingLine line of the headings, where a person said so; null: there are none; found out when absent
 * @param hidden lines that are hidden in the file, and left out
 */
export function sheetOf(all: readonly Row[], headingLine?: number | null, hidden: readonly number[] = []): Sheet {
  const unseen = new Set(hidden);
  const rows = all.filter((r) => !unseen.has(r.line));
  const at =
    headingLine === undefined
      ? headingRow(rows)
      : headingLine === null
        ? -1
        : rows.findIndex((r) => r.line === headingLine);
  const heading = rows[at];
  const below = rows.slice(at + 1);
  const width = heading
    ? Math.max(widthOf(heading.cells), usualWidth(below.filter((r) => widthOf(r.cells) > 0)))
    : rows.reduce((most, r) => Math.max(most, widthOf(r.cells)), 0);
  const sheet: Sheet = {
    headings: namesOf(heading?.cells ?? [], width),
    headingLine: heading?.line ?? null,
    rows: [],
    leftOut: [],
  };
  const leave = (row: Row, why: LeftOut["why"]): void =>
    void sheet.leftOut.push({ line: row.line, why, cells: filled(row.cells) });
  for (const row of rows.slice(0, Math.max(0, at)))
    leave(row, widthOf(row.cells) === 0 ? "empty" : "above the headings");
  const same = (cells: readonly string[]): boolean =>
    heading !== undefined &&
    widthOf(cells) === widthOf(heading.cells) &&
    cells.every((c, i) => c.toLowerCase() === (heading.cells[i] ?? "").toLowerCase());
  for (const row of below) {
    if (widthOf(row.cells) === 0) leave(row, "empty");
    else if (same(row.cells)) leave(row, "the headings again");
    else if (widthOf(row.cells) > width) leave(row, "more cells than headings");
    else sheet.rows.push(row.cells.length === width ? row : { ...row, cells: filledTo(row.cells, width) });
  }
  for (const row of all) if (unseen.has(row.line)) leave(row, "hidden in the file");
  return sheet;
}
