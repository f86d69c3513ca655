import type { Decimal, Language } from "./cells";
import type { TableKind } from "./fields";
import type { Row } from "./csv";
import type { Sheet } from "./sheet";

/** Which column of a table is which of our fields, and how it is read. A value: kept by name, found again by its headings. */
export interface Matching {
  kind: TableKind;
  columns: Record<string, Matched>;
}

/** Where the value of a field comes from, and how it is written there. */
export interface Matched {
  /** Pieces of one or several columns, put together in this order. */
  from: Piece[];
  /** Of lengths `mm` or `in` …, of cross-sections `mm2` or `awg`. */
  unit?: string;
  decimal?: Decimal;
  language?: Language;
  /** An empty cell says what the one above says. */
  asAbove?: boolean;
}

/** What one column gives to a value. */
export interface Piece {
  heading: string;
  /** Written in front of it, where it is not empty. */
  before?: string;
  /** Only one piece of the cell. */
  cut?: Cut;
}

/** A cell cut wherever a text stands in it: which of its pieces, counted from 1; from the end −1, −2 … */
export interface Cut {
  at: string;
  piece: number;
}

/** Most pieces of a value: a tag of four columns is rare. */
export const MOST_PIECES = 8;

function cutOf(text: string, { at, piece }: Cut): string {
  if (at === "") return text;
  const pieces = text.split(at);
  return (piece < 0 ? pieces[pieces.length + piece] : pieces[piece - 1])?.trim() ?? "";
}

/** A value as it stands in a row: its text, and whether it is a number that no column's way of writing changes. */
export interface CellText {
  text: string;
  plain: boolean;
}

/** Gives the texts of a field row by row; undefined where the sheet lacks one of its columns. */
export function textsOf(sheet: Sheet, { from, asAbove }: Matched): ((row: Row) => CellText) | undefined {
  const places = from.map((p) => sheet.headings.indexOf(p.heading));
  if (places.length === 0 || places.includes(-1)) return undefined;
  let above: CellText = { text: "", plain: false };
  return (row) => {
    let text = "";
    for (const [i, { before = "", cut }] of from.entries()) {
      const cell = row.cells[places[i]!]!;
      const piece = cell !== "" && cut ? cutOf(cell, cut) : cell;
      if (piece !== "") text += before + piece;
    }
    if (text === "" && asAbove) return above;
    above = { text, plain: from.length === 1 && !from[0]!.before && row.plain?.has(places[0]!) === true };
    return above;
  };
}

/** The headings that a matching uses. */
export const headingsUsed = (matching: Matching): Set<string> =>
  new Set(Object.values(matching.columns).flatMap((m) => m.from.map((p) => p.heading)));
