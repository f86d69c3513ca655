import { NUMBERS, type CellKind } from "./fields";
import type { EndRead } from "./rows";
import { fieldsRead, rowsAsRead } from "./rows";
import type { Row } from "./csv";
import type { CellText, Matching } from "./matching";
import type { Sheet } from "./sheet";
import { unclear, type TagRead } from "./cells";

/** A row as it would be read: of each field of the matching the text it comes from, and what it was understood as or what was wanted. */
export interface RowShown {
  line: number;
  cells: Record<string, { text: string; told: string } | { text: string; wanted: string }>;
  /** Why the row would be left out. */
  lacks: string | null;
}

/** A table as it would be read. */
export interface Preview {
  /** The first rows. */
  rows: RowShown[];
  /** Of all rows: how many would be left out. */
  left: number;
  /**
   * Of each field: how many cells say something, how many of them were not understood, and the first of those; and a number that
   * could be another one a thousand times as large, where nothing in the column says which.
   */
  fields: Record<string, { cells: number; notRead: number; first: RowShown | null; unclear: string | null }>;
}

const endText = ({ device, pin }: EndRead): string => `${device}:${pin}`;
/** Digits as far as they say something. */
const short = (n: number): string => String(Number(n.toPrecision(8)));

/** What was understood, as a person reads it. */
function told(kind: CellKind, value: unknown): string {
  switch (kind) {
    case "tag": {
      const { tag, enclosure } = value as TagRead;
      return enclosure ? `${tag} in ${enclosure}` : tag;
    }
    case "end":
      return endText(value as EndRead);
    case "chain":
      return (value as EndRead[]).map(endText).join(", ");
    case "length":
      return `${short(value as number)} mm`;
    case "size":
      return `${short(value as number)} mm²`;
    case "watts":
      return `${short(value as number)} W`;
    case "number":
      return short(value as number);
    case "voltage": {
      const { v, kind: how } = value as { v: number; kind: string };
      return `${short(v)} V ${how.toUpperCase()}`;
    }
    case "colour":
    case "class":
    case "text":
      return value as string;
  }
}

/** How a table would be read with a matching. O(cells) */
export function preview(sheet: Sheet, matching: Matching, most: number): Preview {
  const shown: Preview = { rows: [], left: 0, fields: {} };
  const fields = fieldsRead(sheet, matching).map((f) => f.field);
  for (const { id } of fields) shown.fields[id] = { cells: 0, notRead: 0, first: null, unclear: null };
  const numbers = new Map(fields.filter((f) => NUMBERS.has(f.kind)).map((f) => [f.id, new Set<string>()]));
  // Texts of the cells of a row: of every row those above must have been seen, too.
  const columns = fieldsRead(sheet, matching);
  const textsIn = (row: Row): CellText[] => columns.map(({ texts }) => texts(row));
  for (const { row, values, notRead, lacks } of rowsAsRead(sheet, matching)) {
    const cells = textsIn(row);
    const wanted = new Map(notRead.map((n) => [n.field.id, n.wanted]));
    const show = (): RowShown => ({
      line: row.line,
      lacks,
      cells: Object.fromEntries(
        fields.flatMap(({ id, kind }, i) => {
          const { text } = cells[i]!;
          if (text === "") return [];
          const why = wanted.get(id);
          return [[id, why === undefined ? { text, told: told(kind, values[id]) } : { text, wanted: why }]];
        }),
      ),
    });
    if (shown.rows.length < most) shown.rows.push(show());
    if (lacks !== null) shown.left++;
    for (const { field } of notRead) {
      const count = shown.fields[field.id]!;
      count.notRead++;
      count.first ??= show();
    }
    for (const [i, { id }] of fields.entries()) {
      const { text, plain } = cells[i]!;
      if (text !== "") shown.fields[id]!.cells++;
      // Numbers of a book are what they are.
      if (text !== "" && !plain) numbers.get(id)?.add(text);
    }
  }
  for (const [id, texts] of numbers) shown.fields[id]!.unclear = unclear([...texts]);
  return shown;
}
