import { parse } from "csv-parse/sync";
import { stringify } from "csv-stringify/sync";
import { zipSync, type Zippable } from "fflate";
import { describe, MOST_FAULTS, type Fault } from "../design/faults";
import { DESIGN_FORMAT, DESIGN_VERSION, type Design } from "../design/model";
import { checkDesign, type ReadResult } from "../design/read";
import { Refused, unpack } from "./unpack";

/**
 * A design as a set of tables, one CSV for each of its lists, packed together. Nothing of it is lost: what is read back has the same
 * hash. A column is a place in the things of a list (`on.rail`); its heading says what its cells are: text where nothing else is said,
 * `[number]`, `[yes/no]`, or `[JSON]` where a place holds lists, names of its own, or things of several kinds. An empty cell says
 * nothing. An apostrophe in front keeps a spreadsheet from taking a text for a formula; it is none of the text.
 */

const TYPES = ["number", "yes/no", "JSON"] as const;
type ColumnType = (typeof TYPES)[number] | "text";

export interface Column {
  path: string[];
  type: ColumnType;
}

export type Thing = Record<string, unknown>;

/** Names that stand in a path; others are data, and their place is written as JSON. */
const NAME = /^[A-Za-z][A-Za-z0-9]*$/;
const FORBIDDEN: ReadonlySet<string> = new Set(["constructor", "prototype", "toString", "valueOf", "hasOwnProperty"]);
const isName = (key: string): boolean => NAME.test(key) && !FORBIDDEN.has(key);

export const isThing = (value: unknown): value is Thing =>
  typeof value === "object" && value !== null && !Array.isArray(value);

/** Where things of a list hold something, in the order in which it is met first, and what it is. O(values) */
export function placesOf(things: readonly Thing[], before: string[] = []): Column[] {
  const values = new Map<string, unknown[]>();
  for (const thing of things)
    for (const [key, value] of Object.entries(thing))
      if (value !== undefined) {
        const there = values.get(key);
        if (there) there.push(value);
        else values.set(key, [value]);
      }
  return [...values].flatMap(([key, some]): Column[] => {
    const path = [...before, key];
    const nested = some.every(
      (v) =>
        isThing(v) &&
        Object.keys(v).length > 0 &&
        Object.keys(v).every(isName) &&
        !Object.values(v).includes(undefined),
    );
    if (nested) return placesOf(some as Thing[], path);
    return [{ path, type: typeOf(some) }];
  });
}

function typeOf(values: readonly unknown[]): ColumnType {
  // An empty text is not nothing, and half a sign cannot be written as UTF-8.
  if (values.every((v) => typeof v === "string" && v !== "" && !/\p{Surrogate}/u.test(v))) return "text";
  if (values.every((v) => typeof v === "number" && Number.isFinite(v))) return "number";
  if (values.every((v) => typeof v === "boolean")) return "yes/no";
  return "JSON";
}

export function at(thing: unknown, path: readonly string[]): unknown {
  let value = thing;
  for (const key of path) {
    if (!isThing(value) || !Object.hasOwn(value, key)) return undefined;
    value = value[key];
  }
  return value;
}

/** What a spreadsheet would take for a formula, and what already has an apostrophe. */
const RISKY = /^[=+\-@\t\r'\uFF1D\uFF0B\uFF0D\uFF20]/;
const guarded = (text: string): string => (RISKY.test(text) ? `'${text}` : text);

export const written = (value: unknown, type: ColumnType): string => {
  if (value === undefined) return "";
  if (type === "text") return guarded(value as string);
  if (type === "yes/no") return value === true ? "yes" : "no";
  // A minus in front of a number is no formula.
  return type === "number" ? String(value) : guarded(JSON.stringify(value));
};

export const headingOf = ({ path, type }: Column): string => `${path.join(".")}${type === "text" ? "" : ` [${type}]`}`;

export function tableOf(things: readonly Thing[], columns: readonly Column[] = placesOf(things)): Uint8Array {
  if (columns.length === 0) return new Uint8Array();
  const rows = things.map((thing) => columns.map((c) => written(at(thing, c.path), c.type)));
  const text = stringify([columns.map(headingOf), ...rows], {
    record_delimiter: "windows",
    quoted_match: /[\r\n]|^\s|\s$/,
  });
  return new TextEncoder().encode(text);
}

/** Of a design these are single things, not lists. */
const SINGLE: ReadonlySet<string> = new Set(["job", "rules"]);
/** Says what the tables are. */
const ABOUT = "design";
/** One date in all packages: the same design gives the same bytes. */
const PACKED = new Date(2026, 0, 1);

/** The tables of a design, by name. */
export function designTables(design: Design): Map<string, Uint8Array> {
  const { format, version, ...parts } = design;
  const tables = new Map([[ABOUT, tableOf([{ format, version }])]]);
  for (const [name, value] of Object.entries(parts)) {
    if (value === undefined) continue;
    const things = SINGLE.has(name) ? [value as Thing] : (value as unknown as Thing[]);
    tables.set(name, tableOf(things));
  }
  return tables;
}

/** The tables of a design, packed together. */
export function packTables(design: Design): Uint8Array {
  const entries: Zippable = {};
  for (const [name, bytes] of designTables(design)) entries[`${name}.csv`] = bytes;
  return zipSync(entries, { mtime: PACKED, level: 6 });
}

const WANTED = /^(?:[^/]+\/)?[a-z]+\.csv$/;

/** A cell that is not what its column says. */
export class Unread extends Error {}

export function readCell(text: string, type: ColumnType): unknown {
  const plain = text.startsWith("'") ? text.slice(1) : text;
  switch (type) {
    case "text":
      return plain;
    case "number": {
      const value = Number(plain);
      if (plain.trim() === "" || !Number.isFinite(value)) throw new Unread("a number, with a decimal point");
      return value;
    }
    case "yes/no":
      if (plain !== "yes" && plain !== "no") throw new Unread("yes or no");
      return plain === "yes";
    case "JSON":
      try {
        return JSON.parse(plain) as unknown;
      } catch {
        throw new Unread("JSON");
      }
  }
}

export function placeColumn(heading: string): Column | null {
  const [, name = "", type] = /^([^[\]]*?)(?: \[([^\]]*)\])?$/.exec(heading.trim()) ?? [];
  const path = name.split(".");
  const known = type === undefined || (TYPES as readonly string[]).includes(type);
  // The first name may be any that a list of ours has; what is data never stands in a heading.
  return known && path.every(isName) ? { path, type: (type as ColumnType | undefined) ?? "text" } : null;
}

/** Things of a table, and the line on which each stands. */
interface TableRead {
  things: Thing[];
  lines: number[];
}

function readTable(name: string, bytes: Uint8Array, faults: Fault[]): TableRead {
  const read: TableRead = { things: [], lines: [] };
  const text = new TextDecoder("utf-8", { fatal: false }).decode(bytes);
  let records: { record: string[]; info: { lines: number } }[];
  try {
    records = parse(text, {
      bom: true,
      info: true,
      relax_column_count: true,
      skip_empty_lines: true,
      record_delimiter: ["\r\n", "\n", "\r"],
    }) as unknown as typeof records;
  } catch (error) {
    faults.push({ path: `${name}.csv`, found: (error as Error).message, expected: "a table as CSV, with commas" });
    return read;
  }
  const [head, ...rows] = records;
  if (!head) return read;
  const seen = new Set<string>();
  const columns = head.record.map((heading) => {
    const column = placeColumn(heading);
    const place = column?.path.join(".");
    if (place !== undefined && seen.has(place))
      faults.push({ path: `${name}.csv, headings`, found: `${place} again`, expected: "each place once" });
    if (place !== undefined) seen.add(place);
    if (!column)
      faults.push({
        path: `${name}.csv, headings`,
        found: describe(heading),
        expected: `a place, such as on.rail, with [${TYPES.join("], [")}] where it is no text`,
      });
    return column;
  });
  for (const { record, info } of rows) {
    const thing: Thing = {};
    if (record.length > columns.length)
      faults.push({
        path: `${name}.csv, line ${info.lines}`,
        found: `${record.length} cells`,
        expected: `${columns.length}, as there are headings`,
      });
    for (const [i, cell] of record.entries()) {
      const column = columns[i];
      if (cell === "" || !column) continue;
      try {
        put(thing, column.path, readCell(cell, column.type));
      } catch (error) {
        if (!(error instanceof Unread)) throw error;
        const path = `${name}.csv, line ${info.lines}, ${headingOf(column)}`;
        faults.push({ path, found: describe(cell), expected: error.message });
      }
      if (faults.length > MOST_FAULTS) return read;
    }
    read.things.push(thing);
    read.lines.push(info.lines);
  }
  return read;
}

/** @throws Unread where two columns say one place in different ways */
export function put(thing: Thing, path: readonly string[], value: unknown): void {
  let inner = thing;
  for (const key of path.slice(0, -1)) {
    const next = (inner[key] ??= {});
    if (!isThing(next)) throw new Unread(`${key} either as a whole or by its places`);
    inner = next;
  }
  const last = path.at(-1)!;
  if (Object.hasOwn(inner, last)) throw new Unread(`${path.join(".")} once`);
  inner[last] = value;
}

/** Reads a design from the tables it was taken away as. Never throws on any bytes. */
export function readPacked(bytes: Uint8Array): ReadResult {
  let parts: Map<string, Uint8Array[]>;
  try {
    parts = unpack(bytes, WANTED);
  } catch (error) {
    const { message, remedy } = error instanceof Refused ? error : new Refused("a broken package", "Send it again.");
    return refuse([{ path: "the whole file", found: message, expected: remedy }]);
  }
  const faults: Fault[] = [];
  const lines = new Map<string, number[]>();
  const raw: Thing = {};
  for (const [file, pieces] of parts) {
    const name = NAMES.find((n) => `${n.toLowerCase()}.csv` === file.slice(file.lastIndexOf("/") + 1));
    if (name === undefined) continue;
    const { things, lines: at } = readTable(name, joined(pieces), faults);
    lines.set(name, at);
    if (name === ABOUT) Object.assign(raw, things[0]);
    else raw[name] = SINGLE.has(name) ? (things[0] ?? {}) : things;
  }
  if (!lines.has(ABOUT))
    faults.unshift({
      path: "the whole file",
      found: "a package without design.csv",
      expected: `the tables of a design, with design.csv (format ${DESIGN_FORMAT}, version ${DESIGN_VERSION})`,
    });
  if (faults.length > 0) return refuse(faults);
  const read = checkDesign(raw);
  if (read.ok) return read;
  return { ...read, faults: read.faults.map((f) => ({ ...f, path: placeOf(f.path, lines) })) };
}

/** Lists and single things that a design may have. */
const NAMES: readonly (string & keyof Design)[] | readonly string[] = [
  ABOUT,
  "job",
  "enclosures",
  "faces",
  "rails",
  "ducts",
  "crossings",
  "parts",
  "devices",
  "nets",
  "wires",
  "cables",
  "strips",
  "options",
  "rules",
  "attachments",
  "accepted",
];

/** `devices[11].part` stands in `devices.csv, line 13, part`. */
function placeOf(path: string, lines: ReadonlyMap<string, readonly number[]>): string {
  const [, name, index, rest = ""] = /^([a-z]+)\[(\d+)\]\.?(.*)$/.exec(path) ?? [];
  const line = name === undefined ? undefined : lines.get(name)?.[Number(index)];
  return line === undefined ? path : `${name!}.csv, line ${line}${rest === "" ? "" : `, ${rest}`}`;
}

function joined(pieces: readonly Uint8Array[]): Uint8Array {
  const whole = new Uint8Array(pieces.reduce((sum, p) => sum + p.length, 0));
  let offset = 0;
  for (const piece of pieces) {
    whole.set(piece, offset);
    offset += piece.length;
  }
  return whole;
}

const refuse = (faults: Fault[]): ReadResult => ({
  ok: false,
  faults: faults.slice(0, MOST_FAULTS),
  count: faults.length,
});
