import { MOST_FAULTS, type Fault } from "../design/faults";
import { readLibrary, libraryText, withParts, type Library, type LibraryPart } from "../library/library";
import { thousandths, type Cell } from "../formats/csv";
import { toXlsx, type Sheet as Written } from "../formats/xlsx";
import { columnsOf } from "./guess";
import { fieldsRead, headingOf } from "./rows";
import type { LibraryTold } from "./library-ways";
import { readTables, type TableIn } from "./read";
import {
  at,
  headingOf as placeHeading,
  isThing,
  placeColumn,
  placesOf,
  put,
  readCell,
  tableOf,
  Unread,
  written,
} from "./set";
import type { Column, Thing } from "./set";
import type { Sheet } from "./sheet";

/**
 * The library as tables, and parts from tables. Our own form has a column for each place of a part, as in the set of tables of a
 * design, and comes back as it was; in a book, pins, holes, slots and mounts stand on sheets of their own, a row each. Any other table
 * with numbers of parts is read by its headings, as in the intake of a design.
 */

/** Lists of a part that have a sheet of their own in a book: a cell holds no more than so many letters. */
const LISTS = ["mounts", "pins", "holes", "slots"] as const;
const PARTS = "parts";
const PART = "part";

/** Columns in the order in which people look for them; the others behind, as they are met. */
const FIRST = [
  "part",
  "number",
  "name",
  "alsoAs",
  "text",
  "maker",
  "category",
  "kind",
  "x",
  "y",
  "z",
  "w",
  "h",
  "d",
  "lossW",
  "weightKg",
  "stock",
];

function columnsFor(things: readonly Thing[]): Column[] {
  const rank = ({ path }: Column): number => {
    const at = FIRST.indexOf(path[0]!);
    return at < 0 ? FIRST.length : at;
  };
  return placesOf(things).sort((a, b) => rank(a) - rank(b));
}

export function libraryCsv({ parts }: Library): Uint8Array {
  const things = parts as unknown as Thing[];
  return tableOf(things, columnsFor(things));
}

/** O(parts and what is in them) */
export async function libraryBook({ parts }: Library): Promise<Uint8Array> {
  const plain = parts.map((p): Thing => {
    const own: Thing = { ...p };
    for (const list of LISTS) if (p[list]?.length) Reflect.deleteProperty(own, list);
    return own;
  });
  const lists = LISTS.flatMap((list) => {
    const rows = parts.flatMap((p) => (p[list] ?? []).map((item): Thing => ({ [PART]: p.number, ...item })));
    return rows.length > 0 ? [sheetFor(list, rows)] : [];
  });
  return toXlsx(sheetFor(PARTS, plain), ...lists);
}

function sheetFor(name: string, things: readonly Thing[]): Written {
  const columns = columnsFor(things);
  const cell = (thing: Thing, i: number): Cell => {
    const { path, type } = columns[i]!;
    const value = at(thing, path);
    if (value === undefined) return null;
    // What a book would round stands there as a text. Text is never a formula there; an apostrophe in front is doubled.
    if (type === "number" && thousandths(value as number) === value) return value;
    if (type === "text") return (value as string).startsWith("'") ? `'${value as string}` : (value as string);
    return type === "JSON" ? JSON.stringify(value) : written(value, type);
  };
  return {
    name,
    header: columns.map(placeHeading),
    widths: columns.map(({ path }) => (path[0] === "text" ? 40 : Math.max(10, path.join(".").length + 2))),
    rows: things.map((thing) => columns.map((_, i) => cell(thing, i))),
  };
}

export type LibraryRead =
  { ok: true; library: Library; told: LibraryTold } | { ok: false; faults: Fault[]; count: number };

const MOST_TOLD = 200;

const refuse = (faults: readonly Fault[]): LibraryRead => ({
  ok: false,
  faults: faults.slice(0, MOST_FAULTS),
  count: faults.length,
});

/**
 * Reads parts from a file: `*.library.json`, CSV or XLSX. Never throws on any bytes. O(bytes)
 * @param before what the parts are written into; null: the file is all there is
 */
export function readLibraryFile(bytes: Uint8Array, before: Library | null): LibraryRead {
  const places = new Map<string, string>();
  const told: LibraryTold = { form: "library file", columns: [], ignored: [], notRead: [], notReadCount: 0 };
  let parts: LibraryPart[];
  if (isJson(bytes)) {
    let text: string;
    try {
      text = new TextDecoder("utf-8", { fatal: true }).decode(bytes);
    } catch {
      return refuse([{ path: "the whole file", found: "bytes that are not UTF-8", expected: "a text file in UTF-8" }]);
    }
    const read = readLibrary(text);
    if (!read.ok) return read;
    if (!before) return { ok: true, library: read.value, told };
    ({ parts } = read.value);
  } else {
    const read = readTables(bytes);
    if (!read.ok) return refuse([{ path: "the whole file", found: read.found, expected: read.remedy }]);
    const faults: Fault[] = [];
    const found = partsOf(read.tables, told, places, faults);
    if (faults.length > 0) return refuse(faults);
    if (found.length === 0)
      return refuse([
        {
          path: "the whole file",
          found: "no table with numbers of parts and something about them",
          expected: "headings such as number, width, height, depth, maker, loss; or the table that is downloaded here",
        },
      ]);
    parts = found;
  }
  const known = new Map((before?.parts ?? []).map((p) => [p.number, p]));
  const next = withParts(
    before ?? { parts: [] },
    parts.map((p) => deeper(known.get(p.number), p) as unknown as LibraryPart),
  );
  const checked = readLibrary(libraryText(next));
  if (checked.ok) return { ok: true, library: checked.value, told };
  // Who sends a table knows its lines, not where parts stand among all.
  const path = (of: string): string =>
    of.replace(/^parts\[(\d+)\]\.?/, (_, i: string) => {
      const { number } = next.parts[Number(i)] ?? { number: "?" };
      return `${places.get(number) ?? number}, `;
    });
  return { ...checked, faults: checked.faults.map((f) => ({ ...f, path: path(f.path).replace(/, $/, "") })) };
}

const isJson = (bytes: Uint8Array): boolean => {
  let i = bytes[0] === 0xef && bytes[1] === 0xbb && bytes[2] === 0xbf ? 3 : 0;
  while (i < bytes.length && (bytes[i] === 0x20 || (bytes[i]! >= 0x09 && bytes[i]! <= 0x0d))) i++;
  return i >= bytes.length || bytes[i] === 0x7b || bytes[i] === 0x5b;
};

/** What one says, over what the other says: place by place; lists as wholes. */
function deeper(under: unknown, over: unknown): unknown {
  if (!isThing(under) || !isThing(over)) return over;
  const both: Thing = { ...under };
  for (const [key, value] of Object.entries(over))
    both[key] = Object.hasOwn(under, key) ? deeper(under[key], value) : value;
  return both;
}

const nameOf = ({ sheetName }: TableIn): string => (sheetName === null ? "" : `sheet ${sheetName}, `);

/** Parts of all tables of a file that tell of some. */
function partsOf(
  tables: readonly TableIn[],
  told: LibraryTold,
  places: Map<string, string>,
  faults: Fault[],
): LibraryPart[] {
  const own = tables.find(
    (t) => isOwn(t.sheet) && (t.sheetName === null || t.sheetName === PARTS || tables.length === 1),
  );
  if (own) {
    told.form = "own table";
    const parts = ownThings(own, faults, (thing, line) => {
      if (typeof thing.number !== "string") {
        faults.push({ path: `${nameOf(own)}line ${line}`, found: "nothing", expected: "the number of a part" });
        return;
      }
      const place = `${nameOf(own)}line ${line}`;
      const there = places.get(thing.number);
      if (there !== undefined)
        faults.push({ path: place, found: `${thing.number}, as in ${there}`, expected: "each number once" });
      places.set(thing.number, place);
    });
    const byNumber = new Map(parts.map((p) => [p.number as string, p]));
    for (const list of LISTS) {
      const table = tables.find((t) => t.sheetName === list);
      if (!table) continue;
      const started = new Set<Thing>();
      ownThings(table, faults, (thing, line) => {
        const { [PART]: number, ...item } = thing;
        const part = byNumber.get(number as string);
        if (!part) {
          faults.push({
            path: `${nameOf(table)}line ${line}`,
            found: typeof number === "string" ? number : "nothing",
            expected: `the number of a part of the sheet ${PARTS}`,
          });
          return;
        }
        if (!started.has(part)) part[list] = [];
        started.add(part);
        (part[list] as Thing[]).push(item);
      });
    }
    return parts as unknown as LibraryPart[];
  }
  told.form = "other table";
  const parts = new Map<string, LibraryPart>();
  for (const table of tables) otherParts(table, parts, told, places);
  return [...parts.values()];
}

/** Whether all headings are places, the number of a part among them. */
function isOwn({ headings }: Sheet): boolean {
  const columns = headings.map(placeColumn);
  return columns.every((c) => c !== null) && columns.some((c) => c!.path.length === 1 && c!.path[0] === "number");
}

function ownThings(table: TableIn, faults: Fault[], take: (thing: Thing, line: number) => void): Thing[] {
  const { sheet } = table;
  const columns = sheet.headings.map(placeColumn);
  for (const [i, column] of columns.entries())
    if (!column)
      faults.push({
        path: `${nameOf(table)}headings`,
        found: sheet.headings[i]!,
        expected: "a place, such as x [number]",
      });
  return sheet.rows.map(({ cells, line }) => {
    const thing: Thing = {};
    for (const [i, column] of columns.entries()) {
      const cell = cells[i]!;
      if (cell === "" || !column) continue;
      try {
        put(thing, column.path, readCell(cell, column.type));
      } catch (error) {
        if (!(error instanceof Unread)) throw error;
        faults.push({
          path: `${nameOf(table)}line ${line}, ${placeHeading(column)}`,
          found: cell.slice(0, 60),
          expected: error.message,
        });
      }
    }
    take(thing, line);
    return thing;
  });
}

/** Parts of a table of somebody else's, by its headings. Of two rows with one number the first counts. */
function otherParts(
  table: TableIn,
  parts: Map<string, LibraryPart>,
  told: LibraryTold,
  places: Map<string, string>,
): void {
  const matching = { kind: "parts" as const, columns: columnsOf(table.sheet, "parts") };
  const fields = fieldsRead(table.sheet, matching);
  if (!matching.columns.number || fields.length < 2) return;
  const name = table.sheetName ?? "the table";
  const headings = new Set<string>();
  for (const { field } of fields) {
    const heading = headingOf(matching, field);
    headings.add(heading);
    told.columns.push({ heading, field: field.label });
  }
  told.ignored.push(...table.sheet.headings.filter((h) => !headings.has(h)));
  const not = (line: number, heading: string | null, found: string, wanted: string): void => {
    if (told.notReadCount++ < MOST_TOLD)
      told.notRead.push({ table: name, line, heading, found: found.slice(0, 120), wanted });
  };
  for (const { line, why, cells } of table.sheet.leftOut)
    if (why !== "above the headings" && why !== "empty" && why !== "the headings again")
      not(
        line,
        null,
        cells.join(" | "),
        why === "hidden in the file" ? "a row that is not hidden" : "a row as the others",
      );
  for (const row of table.sheet.rows) {
    const thing: Thing = {};
    for (const { field, texts, read } of fields) {
      const cell = texts(row);
      if (cell.text === "") continue;
      const one = read(cell);
      const heading = headingOf(matching, field);
      if (!one.ok) not(row.line, heading, cell.text, one.wanted);
      else if (field.kind === "length" && !((one.value as number) > 0))
        not(row.line, heading, cell.text, "more than nothing");
      else thing[field.id] = one.value;
    }
    const { number } = thing;
    if (typeof number !== "string")
      not(row.line, null, row.cells.filter((c) => c !== "").join(" | "), "the number of a part");
    else if (parts.has(number)) not(row.line, null, number, "each number once");
    else {
      parts.set(number, thing as unknown as LibraryPart);
      places.set(number, `${nameOf(table)}line ${row.line}`);
    }
  }
}
