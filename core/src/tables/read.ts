import { textOf, type Encoding, type NoTable } from "./bytes";
import { rowsOf } from "./csv";
import { sheetOf, type Sheet } from "./sheet";
import { isPackage } from "./unpack";
import { readBook } from "./xlsx";

/** How a file is to be read, where a person said so: what is absent is found out. */
export interface ReadAsked {
  /** Of a book: only this sheet. */
  sheet?: string;
  separator?: string;
  /** Line of the headings; null: there are none. */
  headings?: number | null;
  /** Rows hidden in the file are read too. */
  hidden?: boolean;
}

/** One table of a file. */
export interface TableIn {
  /** Null where the file is one table. */
  sheetName: string | null;
  /** Hidden in its book. */
  hidden: boolean;
  sheet: Sheet;
}

export type TablesRead =
  { ok: true; form: "XLSX" | Encoding; separator: string | null; tables: TableIn[] } | ({ ok: false } & NoTable);

/** Reads a file of tables as it comes: one of CSV, or a book with its sheets, without those that are empty. O(bytes) */
export function readTables(bytes: Uint8Array, asked: ReadAsked = {}): TablesRead {
  if (isPackage(bytes)) {
    const book = readBook(bytes);
    if (!book.ok) return book;
    const tables = book.sheets
      .filter((s) => s.rows.length > 0 && (asked.sheet === undefined || s.name === asked.sheet))
      .map((s): TableIn => {
        const sheet = sheetOf(s.rows, asked.headings, asked.hidden ? [] : s.hiddenLines);
        for (const { line, formula } of s.noValue)
          sheet.leftOut.push({ line, why: "a formula without a value", cells: [formula] });
        return { sheetName: s.name, hidden: s.hidden, sheet };
      });
    if (tables.length === 0)
      return {
        ok: false,
        found: asked.sheet === undefined ? "no sheet with anything in it" : `no sheet ${asked.sheet}`,
        remedy: "Send the book that has it.",
      };
    return { ok: true, form: "XLSX", separator: null, tables };
  }
  const text = textOf(bytes);
  if (!text.ok) return text;
  const rows = rowsOf(text.text, asked.separator);
  if (!rows.ok) return rows;
  if (rows.rows.every((r) => r.cells.every((c) => c === "")))
    return { ok: false, found: "a file without anything in it", remedy: "Send the one that has the table." };
  const sheet = sheetOf(rows.rows, asked.headings);
  return {
    ok: true,
    form: text.encoding,
    separator: rows.separator,
    tables: [{ sheetName: null, hidden: false, sheet }],
  };
}
