import type { FileOut } from "../frame/file-out";
import { toCsv, type Cell } from "./csv";
import { toXlsx, XLSX_TYPE } from "./xlsx";

/** Rows under a head: one table, whatever it is written as. */
export interface Table {
  head: string[];
  rows: Cell[][];
}

export const csvFile = (name: string, { head, rows }: Table): FileOut => ({
  name,
  type: "text/csv",
  bytes: toCsv(head, rows),
});

/** How wide columns are in a spreadsheet, in signs: by their names, and all others. */
export interface Widths {
  by: Readonly<Record<string, number>>;
  other: number;
}

/** Tables as sheets of one spreadsheet, by their names. */
export const bookOf = async (
  name: string,
  tables: Readonly<Record<string, Table>>,
  { by, other }: Widths,
): Promise<FileOut> => ({
  name,
  type: XLSX_TYPE,
  bytes: await toXlsx(
    ...Object.entries(tables).map(([sheet, { head, rows }]) => ({
      name: sheet,
      header: head,
      widths: head.map((h) => by[h] ?? other),
      rows,
    })),
  ),
});
