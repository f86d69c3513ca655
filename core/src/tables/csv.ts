import { parse } from "csv-parse/sync";
import type { NoTable } from "./bytes";

/** One row as it stands in the file: where it begins, and its cells without the blanks around them. */
export interface Row {
  line: number;
  cells: string[];
  /** Columns whose cells are numbers of a book, not texts: a point is their decimal sign whatever the column says. */
  plain?: Set<number>;
}

export type RowsRead = { ok: true; separator: string; rows: Row[] } | ({ ok: false } & NoTable);

/** What parts cells, the likelier first. */
export const SEPARATORS = [";", ",", "\t", "|"] as const;

/** Rows that tell which separator it is. */
const TRIED = 60;
const TRIED_SIGNS = 100_000;
/** A row that is longer lacks the end of a quote. */
const MOST_SIGNS = 200_000;
export const MOST_ROWS = 200_000;
export const MOST_COLUMNS = 500;
const FAR_TOO_WIDE = 100 * MOST_COLUMNS;

interface Raw {
  record: string[];
  info: { lines: number };
}

/** Without blanks around it, and without the apostrophe that keeps a spreadsheet from taking a tag for a formula. */
function cellOf(text: string): string {
  const cell = (/[\u00A0\u202F]/.test(text) ? text.replace(/[\u00A0\u202F]/g, " ") : text).trim();
  return cell.startsWith("'") ? cell.replace(/^'(?=[=+\-@\uFF1D\uFF0B\uFF0D\uFF20])/, "") : cell;
}

/** @throws with `code` and `lines` where a quote does not end */
function rowsBy(text: string, separator: string, most?: number): Row[] {
  // Without a quote no cell goes over the end of a line, and rows need not be counted.
  const info = text.includes('"');
  const raw = parse(text, {
    delimiter: separator,
    record_delimiter: ["\r\n", "\n", "\r"],
    bom: true,
    info,
    relax_column_count: true,
    // A quote inside a cell that does not begin with one is a sign like others: 3/4" pipe.
    relax_quotes: true,
    skip_empty_lines: false,
    max_record_size: MOST_SIGNS,
    ...(most === undefined ? {} : { to: most }),
  }) as unknown as Raw[] | string[][];
  if (!info) return (raw as string[][]).map((record, i) => ({ line: i + 1, cells: record.map(cellOf) }));
  let line = 1;
  return (raw as Raw[]).map(({ record, info }) => {
    const row = { line, cells: record.map(cellOf) };
    // The line on which it ends is told; the next begins behind it.
    line = info.lines + 1;
    return row;
  });
}

/** How well a separator parts a text: rows that have the same number of cells, and more than one. */
function fitOf(text: string, separator: string): number {
  let rows: Row[];
  try {
    rows = rowsBy(text, separator, TRIED).filter((r) => r.cells.some((c) => c !== ""));
  } catch {
    return 0;
  }
  const counts = new Map<number, number>();
  for (const { cells } of rows) counts.set(cells.length, (counts.get(cells.length) ?? 0) + 1);
  counts.delete(1);
  return Math.max(0, ...counts.values()) / Math.max(1, rows.length);
}

/** Whether a line has more cells than any table: it is not parsed, which would take long. Cells in quotes may hold separators. O(signs) */
function wideLine(text: string, separator: string): { line: number; cells: number } | null {
  const sign = separator.charCodeAt(0);
  let [line, cells] = [1, 1];
  for (let i = 0; i < text.length; i++) {
    const code = text.charCodeAt(i);
    if (code === sign) {
      if (++cells > FAR_TOO_WIDE) return { line, cells };
    } else if (code === 10 || code === 13) {
      if (code === 10 || text.charCodeAt(i + 1) !== 10) line++;
      cells = 1;
    }
  }
  return null;
}

/** The separator that parts the most rows alike; of equals the one that stands first among those that there are. */
export function separatorOf(text: string): string {
  const head = text.length > TRIED_SIGNS ? text.slice(0, text.lastIndexOf("\n", TRIED_SIGNS) + 1 || TRIED_SIGNS) : text;
  let best: string = SEPARATORS[0];
  let most = 0;
  for (const separator of SEPARATORS) {
    const fit = fitOf(head, separator);
    if (fit > most) [best, most] = [separator, fit];
  }
  return best;
}

/**
 * Rows of a text as CSV (RFC 4180, with any of the separators, any ends of lines, also mixed). Empty rows are rows. O(signs).
 * @param separator the one that was found out when absent
 */
export function rowsOf(text: string, separator: string = separatorOf(text)): RowsRead {
  const far = wideLine(text, separator);
  if (far)
    return {
      ok: false,
      found: `more than ${FAR_TOO_WIDE} cells in line ${far.line}`,
      remedy: `A table has at most ${MOST_COLUMNS} columns: look at the separator.`,
    };
  let rows: Row[];
  try {
    rows = rowsBy(text, separator, MOST_ROWS + 1);
  } catch (error) {
    const { code, lines } = error as { code?: string; lines?: number };
    if (code === "CSV_MAX_RECORD_SIZE")
      return {
        ok: false,
        found: `a row of more than ${MOST_SIGNS} signs (before line ${lines})`,
        remedy: "End the quote that begins in it, or take away what is no table.",
      };
    const found = `a quote that does not end as it should (line ${lines ?? "?"})`;
    return { ok: false, found, remedy: "Close the quote, or write two quotes for one inside a cell." };
  }
  if (rows.length > MOST_ROWS) return { ok: false, found: `more than ${MOST_ROWS} rows`, remedy: "Split the table." };
  const wide = rows.find((r) => r.cells.length > MOST_COLUMNS);
  if (wide)
    return {
      ok: false,
      found: `${wide.cells.length} cells in line ${wide.line}`,
      remedy: `A table has at most ${MOST_COLUMNS} columns: look at the separator.`,
    };
  return { ok: true, separator, rows };
}
