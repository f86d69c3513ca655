import {
  chainOf,
  classOfCell,
  colourOfCell,
  endOf,
  lengthOf,
  numberOf,
  sizeOfCell,
  tagOfCell,
  voltageOfCell,
  type CellRead,
  type TagRead,
} from "./cells";
import type { PinRef } from "../design/model";
import type { Row } from "./csv";
import { FIELDS, type CellKind, type Field, type TableKind } from "./fields";
import { textsOf, type CellText, type Matched, type Matching } from "./matching";
import type { Sheet } from "./sheet";

/** An end of a connection, with the enclosure where it stands before its tag. */
export type EndRead = PinRef & Pick<TagRead, "enclosure" | "before">;

/** Values of a row by the ids of our fields. */
export type Values = Record<string, unknown>;

/** A cell that was not understood. */
export interface CellNotRead {
  field: Field;
  text: string;
  wanted: string;
}

/** A row as it was read: what its cells say, and why it cannot be taken. */
export interface RowAsRead {
  row: Row;
  values: Values;
  notRead: readonly CellNotRead[];
  /** What it lacks; null where it can be taken. */
  lacks: string | null;
}

/** Reads a text as what a field is. */
export function readCell({ text, plain }: CellText, kind: CellKind, how: Omit<Matched, "from">): CellRead<unknown> {
  const decimal = plain ? "." : (how.decimal ?? ".");
  switch (kind) {
    case "text":
      return { ok: true, value: text };
    case "tag":
      return tagOfCell(text);
    case "end":
      return endOf(text);
    case "chain":
      return chainOf(text);
    case "length":
      return lengthOf(text, decimal, how.unit ?? "mm");
    case "size":
      return sizeOfCell(text, decimal, how.unit === "awg" ? "awg" : "mm2");
    case "colour":
      return colourOfCell(text, how.language ?? "IEC");
    case "voltage":
      return voltageOfCell(text);
    case "class":
      return classOfCell(text);
    case "watts":
    case "number": {
      const value = numberOf(text.replace(/\s*[wa]$/i, ""), decimal);
      return value === null || value < 0 ? { ok: false, wanted: "a number, such as 12.5" } : { ok: true, value };
    }
  }
}

/** One end of a connection, told in one cell or in two. */
export function pinOf(values: Values, end: "from" | "to"): EndRead | undefined {
  const whole = values[end] as EndRead | undefined;
  if (whole && typeof whole === "object") return whole;
  const [device, pin] = [values[`${end}Device`] as TagRead | undefined, values[`${end}Pin`]];
  if (!device || typeof pin !== "string") return undefined;
  const { tag, ...before } = device;
  return { ...before, device: tag, pin };
}

const SIZES = ["w", "h", "d"] as const;

/** What a row of each kind must say, in words of what it lacks. */
const LACKS: Record<TableKind, (v: Values) => string | null> = {
  devices: (v) => (v.tag ? null : "the tag of a device"),
  connections: (v) =>
    v.chain || (pinOf(v, "from") && (pinOf(v, "to") || v.cable)) ? null : "both ends, each with device and pin",
  terminals: (v) => (v.strip && v.terminal ? null : "a strip and a terminal in it"),
  cables: (v) => (v.tag ? null : "the tag of a cable"),
  nets: (v) => (v.name ? null : "the name of a net"),
  parts: (v) =>
    !v.number
      ? "the number of a part"
      : SIZES.some((s) => v[s] === undefined)
        ? "width, height and depth of a part"
        : null,
};

/** Lists say the same again and again: so many texts of a column are read once. */
const MOST_REMEMBERED = 5000;

/** Columns of a table that are read: those of which it has all the headings. */
export function fieldsRead(sheet: Sheet, matching: Matching) {
  return FIELDS[matching.kind].flatMap((field) => {
    const how = matching.columns[field.id];
    const texts = how && textsOf(sheet, how);
    if (!how || !texts) return [];
    const known = new Map<string, CellRead<unknown>>();
    const read = (cell: CellText): CellRead<unknown> => {
      if (cell.plain || field.kind === "text") return readCell(cell, field.kind, how);
      let one = known.get(cell.text);
      if (!one) {
        one = readCell(cell, field.kind, how);
        if (known.size < MOST_REMEMBERED) known.set(cell.text, one);
      }
      return one;
    };
    return [{ field, texts, read }];
  });
}

const NONE: readonly CellNotRead[] = [];

/** Reads the rows of a table by its matching, one after the other. O(cells) */
export function* rowsAsRead(sheet: Sheet, matching: Matching): Generator<RowAsRead> {
  const columns = fieldsRead(sheet, matching);
  for (const row of sheet.rows) {
    const values: Values = {};
    let notRead = NONE as CellNotRead[];
    for (const { field, texts, read } of columns) {
      const cell = texts(row);
      if (cell.text === "") continue;
      const one = read(cell);
      if (one.ok) values[field.id] = one.value;
      else if (notRead === NONE) notRead = [{ field, text: cell.text, wanted: one.wanted }];
      else notRead.push({ field, text: cell.text, wanted: one.wanted });
    }
    yield { row, values, notRead, lacks: LACKS[matching.kind](values) };
  }
}

/** The headings that a field is read from, as one text. */
export const headingOf = (matching: Matching, field: Field): string =>
  matching.columns[field.id]!.from.map((p) => p.heading).join(" + ");
