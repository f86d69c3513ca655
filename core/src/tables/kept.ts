import {
  flag,
  form,
  formOf,
  listOf,
  maybe,
  objectOf,
  just,
  oneOf,
  orNull,
  type Form,
  type ObjectForm,
  type Shape,
  type ValueOf,
} from "../form/form";
import Joi from "joi";
import { readFile, type FileKind, type FileRead } from "../design/read";
import { drawingSchema, type DrawingSaid } from "../drawings/said";
import { FIELDS, TABLE_KINDS } from "./fields";
import { LANGUAGES } from "./cells";
import { guess } from "./guess";
import { headingsUsed, MOST_PIECES, type Matching } from "./matching";
import { readTables, type ReadAsked, type TableIn, type TablesRead } from "./read";
import type { Sheet } from "./sheet";

const text = (most: number) => form(Joi.string().max(most));
const piece = objectOf({
  heading: text(400),
  before: maybe(text(20)),
  cut: maybe(
    objectOf({
      at: text(20),
      piece: form(Joi.number().integer().min(-50).max(50).invalid(0)),
    }),
  ),
});
const column = objectOf({
  from: listOf(piece).min(1).max(MOST_PIECES),
  unit: maybe(oneOf(["mm", "cm", "m", "in", "inch", '"', "ft", "mm2", "awg"])),
  decimal: maybe(oneOf([".", ","])),
  language: maybe(oneOf(LANGUAGES)),
  asAbove: maybe(flag),
});

/** The form of a matching: of each kind only its own fields. */
export const matchingSchema: ObjectForm<Matching> = objectOf({
  kind: oneOf(TABLE_KINDS),
  columns: formOf<Matching["columns"]>(Joi.object()).when("kind", {
    switch: TABLE_KINDS.map((kind) => ({
      is: kind,
      then: Joi.object(Object.fromEntries(FIELDS[kind].map((f) => [f.id, column]))),
    })),
  }),
});

/** How a file is to be read. */
const askedOfFile = {
  separator: maybe(oneOf([";", ",", "\t", "|"])),
  /** Line of the headings; null: there are none. */
  headings: maybe(orNull(form(Joi.number().integer().min(1).max(10_000_000)))),
  /** Rows hidden in the file are read too. */
  hidden: maybe(flag),
};
export const askedSchema: ObjectForm<ReadAsked> = objectOf({ sheet: maybe(text(100)), ...askedOfFile });

export const MOST_KEPT_TABLES = 50;

const keptTable = objectOf({
  headings: listOf(text(400)).min(1).max(500),
  /** How the file was read, where that was not found out by itself. */
  asked: maybe<Omit<ReadAsked, "sheet">>(objectOf(askedOfFile)),
  /** Null: such a table is left out. */
  matching: orNull(matchingSchema),
});
/** One table as it came, and what its columns are: tables with the same headings are read like it. */
export interface KeptTable extends ValueOf<typeof keptTable> {}

/** The form of kept matchings, without their name. */
export const keptTablesSchema = listOf<KeptTable>(keptTable).max(MOST_KEPT_TABLES);

export const MOST_KEPT_DRAWINGS = 20;

const keptDrawing = objectOf({
  /** As its file was called. */
  name: text(200),
  said: drawingSchema as Form<DrawingSaid>,
});
/** What a drawing was taken for. */
export interface KeptDrawing extends ValueOf<typeof keptDrawing> {}

export const keptDrawingsSchema = listOf<KeptDrawing>(keptDrawing).unique("name").max(MOST_KEPT_DRAWINGS);

export const KEPT_FORMAT = "gray-bench-matching";
export const KEPT_VERSION = 1;

const keptFields = { name: text(80), tables: keptTablesSchema, drawings: maybe(keptDrawingsSchema) };
/** Matchings of the tables and drawings of one customer, kept by name. */
export type KeptMatching = Shape<typeof keptFields>;

const keptFileForm = objectOf({ format: just(KEPT_FORMAT), version: just(KEPT_VERSION), ...keptFields });

const KIND: FileKind<KeptMatching> = {
  what: "a matching",
  format: KEPT_FORMAT,
  version: KEPT_VERSION,
  schema: keptFileForm,
};

/** Reads the file of a matching. Never throws on any text. */
export function readKept(json: string): FileRead<KeptMatching> {
  const read = readFile(json, KIND);
  if (!read.ok) return read;
  const { name, tables, drawings } = read.value;
  return { ok: true, value: { name, tables, ...(drawings ? { drawings } : {}) } };
}

/** A matching as a file, which reads back to it. */
export const keptFile = ({ name, tables, drawings = [] }: KeptMatching): string => {
  const drawn = drawings.length > 0 ? { drawings } : {};
  return `${JSON.stringify({ format: KEPT_FORMAT, version: KEPT_VERSION, name, tables, ...drawn }, null, 2)}\n`;
};

/** A table, and what it is taken for. */
export interface Recognised extends TableIn {
  asked: ReadAsked;
  matching: Matching | null;
  /** Name of the kept matching it was found in; null where it was guessed, or nothing was found. */
  by: string | null;
}

const sameHeadings = (a: readonly string[], b: readonly string[]): boolean =>
  a.length === b.length && a.every((h, i) => h === b[i]);

/** Of the kept tables the one that fits a sheet: the same headings, or else the one of which most headings are there, and none is missing. */
function fitting(sheet: Sheet, kept: readonly KeptMatching[]): { table: KeptTable; by: string } | null {
  const there = new Set(sheet.headings);
  let best: { table: KeptTable; by: string } | null = null;
  let most = 0;
  for (const { name, tables } of kept)
    for (const table of tables) {
      if (sameHeadings(table.headings, sheet.headings)) return { table, by: name };
      const used = table.matching ? headingsUsed(table.matching) : new Set<string>();
      if (used.size > most && [...used].every((h) => there.has(h))) [best, most] = [{ table, by: name }, used.size];
    }
  return best;
}

export type FileRecognised =
  (Omit<Extract<TablesRead, { ok: true }>, "tables"> & { tables: Recognised[] }) | Extract<TablesRead, { ok: false }>;

/** So many ways of reading a file that kept matchings say are tried. */
const TRIED = 8;

/**
 * Reads a file of tables and finds what each of them is: by kept matchings, the first of the same headings; guessed where none fits.
 * O(bytes · ways of reading)
 */
export function recognise(bytes: Uint8Array, kept: readonly KeptMatching[]): FileRecognised {
  const read = readTables(bytes);
  if (!read.ok) return read;
  const ways = new Map<string, { asked: Omit<ReadAsked, "sheet">; tables: KeptTable[]; by: string }>();
  for (const { name, tables } of kept)
    for (const table of tables)
      if (table.asked && Object.keys(table.asked).length > 0 && ways.size < TRIED) {
        const key = `${JSON.stringify(table.asked)} ${name}`;
        const way = ways.get(key) ?? { asked: table.asked, tables: [], by: name };
        way.tables.push(table);
        ways.set(key, way);
      }
  const tables = read.tables.map((table): Recognised => {
    const sheetAsked = table.sheetName === null ? {} : { sheet: table.sheetName };
    const found = fitting(table.sheet, kept);
    if (found && sameHeadings(found.table.headings, table.sheet.headings) && !found.table.asked)
      return { ...table, asked: sheetAsked, matching: found.table.matching, by: found.by };
    for (const { asked, tables: like, by } of ways.values()) {
      const again = readTables(bytes, { ...asked, ...sheetAsked });
      const one = again.ok ? again.tables[0] : undefined;
      const same = one && like.find((t) => sameHeadings(t.headings, one.sheet.headings));
      if (one && same) return { ...one, asked: { ...asked, ...sheetAsked }, matching: same.matching, by };
    }
    return found
      ? { ...table, asked: sheetAsked, matching: found.table.matching, by: found.by }
      : { ...table, asked: sheetAsked, matching: guess(table.sheet), by: null };
  });
  return { ...read, tables };
}
