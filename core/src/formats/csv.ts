import { stringify } from "csv-stringify/sync";

export type Cell = string | number | null;

/**
 * A table as CSV: RFC 4180, UTF-8, lines end with CR LF, header first. A cell that a spreadsheet
 * would take for a formula (it begins with = + - @, tab or carriage return) gets an apostrophe in
 * front; take one away when reading. Numbers have a decimal point and no grouping.
 */
export function toCsv(header: readonly string[], rows: readonly (readonly Cell[])[]): Uint8Array {
  const text = stringify(
    rows.map((row) => row.map((c) => (c === null ? "" : typeof c === "number" ? plain(c) : defuse(c)))),
    { header: true, columns: [...header], record_delimiter: "windows", quoted_match: /[\r\n]/ },
  );
  return new TextEncoder().encode(text);
}

const RISKY = /^[=+\-@\t\r\uFF1D\uFF0B\uFF0D\uFF20]/;

const defuse = (text: string): string => (RISKY.test(text) ? `'${text}` : text);

/** A number of a table, whatever it is written as: three decimals at most. */
export const thousandths = (n: number): number => Math.round(n * 1000) / 1000;

/** Without exponent and trailing zeros. */
const plain = (n: number): string => String(thousandths(n));
