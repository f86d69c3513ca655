import { textOf, type Encoding, type NoTable } from "./bytes";
import { rowsOf } from "./csv";
import { guess, type Matching } from "./guess";
import { sheetOf, type Sheet } from "./sheet";

export type TableRead =
  | { ok: true; encoding: Encoding; separator: string; sheet: Sheet; matching: Matching | null }
  | ({ ok: false } & NoTable);

/** Reads a file of CSV as it comes, and guesses what it tells. O(bytes) */
export function readTable(bytes: Uint8Array): TableRead {
  const text = textOf(bytes);
  if (!text.ok) return text;
  const rows = rowsOf(text.text);
  if (!rows.ok) return rows;
  const sheet = sheetOf(rows.rows);
  return { ok: true, encoding: text.encoding, separator: rows.separator, sheet, matching: guess(sheet) };
}
