/** A cell of a pasted or copied table: tabs and line ends would break it apart. */
const plain = (value: string | number | null): string => String(value ?? "").replace(/[\t\r\n]+/g, " ");

/** Rows as tab-separated text, as spreadsheets take and give it. */
export const toTsv = (rows: readonly (readonly (string | number | null)[])[]): string =>
  rows.map((row) => row.map(plain).join("\t")).join("\n");

/**
 * Values of a pasted column for the rows they are meant for: line by line from the first row on; a single
 * one for every row. Of several columns the first counts. Lines beyond the rows are left over.
 */
export function fromTsv(text: string, keys: readonly string[]): { key: string; text: string }[] {
  const lines = text
    .replace(/\r?\n$/, "")
    .split(/\r?\n/)
    .map((line) => line.split("\t")[0]!.trim());
  if (lines.length === 1) return keys.map((key) => ({ key, text: lines[0]! }));
  return keys.slice(0, lines.length).map((key, i) => ({ key, text: lines[i]! }));
}
