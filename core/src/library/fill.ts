import { decimalOf, lengthOf, numberOf, type Decimal } from "../tables/cells";
import type { LibraryPart } from "./library";
import { CATEGORIES, type Category } from "../design/model";

/** Filling one field of many parts at once, from what was pasted. */

type Read = { ok: true; part: LibraryPart } | { ok: false; wanted: string };

interface Filled {
  id: string;
  label: string;
  /** What a value must be. */
  wanted: string;
  /** Values are numbers. */
  number: boolean;
  value(part: LibraryPart): string | number | undefined;
  /** The part without it. */
  without(part: LibraryPart): LibraryPart;
  write(part: LibraryPart, text: string, how: { decimal: Decimal; unit: string }): Read;
}

const lacking =
  (id: keyof LibraryPart) =>
  (part: LibraryPart): LibraryPart => {
    const { [id]: _, ...rest } = part;
    return rest as LibraryPart;
  };

const wrote = (part: LibraryPart): Read => ({ ok: true, part });

const size = (id: "w" | "h" | "d", label: string): Filled => ({
  id,
  label,
  wanted: "a length, such as 120 or 4.5 in",
  number: true,
  value: (p) => p[id],
  without: lacking(id),
  write(part, text, { decimal, unit }) {
    const read = lengthOf(text, decimal, unit);
    return read.ok && read.value > 0 ? wrote({ ...part, [id]: read.value }) : { ok: false, wanted: this.wanted };
  },
});

const amount = (id: "lossW" | "weightKg", label: string, unit: string): Filled => ({
  id,
  label,
  wanted: `a number, such as 5.8 or 5.8 ${unit}`,
  number: true,
  value: (p) => p[id],
  without: lacking(id),
  write(part, text, { decimal }) {
    const value = numberOf(text.replace(new RegExp(`\\s*${unit}\\s*$`, "i"), ""), decimal);
    return value !== null && value >= 0 ? wrote({ ...part, [id]: value }) : { ok: false, wanted: this.wanted };
  },
});

const words = (id: "text" | "maker", label: string): Filled => ({
  id,
  label,
  wanted: "a text of at most 400 letters",
  number: false,
  value: (p) => p[id],
  without: lacking(id),
  write(part, text) {
    return text.length <= 400 ? wrote({ ...part, [id]: text }) : { ok: false, wanted: this.wanted };
  },
});

/** Fields that are filled so: those of one value. */
export const FILLED: readonly Filled[] = [
  amount("lossW", "Loss", "W"),
  size("w", "Width"),
  size("h", "Height"),
  size("d", "Depth"),
  amount("weightKg", "Weight", "kg"),
  {
    id: "category",
    label: "Kind",
    wanted: `one of ${CATEGORIES.join(", ")}`,
    number: false,
    value: (p) => p.category,
    without: lacking("category"),
    write(part, text) {
      const kind = CATEGORIES.find((c) => c === text.toLowerCase()) as Category | undefined;
      return kind ? wrote({ ...part, category: kind }) : { ok: false, wanted: this.wanted };
    },
  },
  words("text", "Text"),
  words("maker", "Maker"),
  {
    id: "place",
    label: "Stock place",
    wanted: "a place and how many are in a pack, such as B-03-01, 50",
    number: false,
    value: (p) => p.stock && `${p.stock.place}, ${p.stock.pack}`,
    without: lacking("stock"),
    write(part, text) {
      const [, place = "", told] = /^(.*?)(?:\s*,\s*(\d{1,6}))?$/.exec(text) ?? [];
      // How many are in a pack is nothing to be guessed.
      const pack = told === undefined ? part.stock?.pack : Number(told);
      return pack !== undefined && pack > 0 && place !== "" && place.length <= 60
        ? wrote({ ...part, stock: { place, pack } })
        : { ok: false, wanted: this.wanted };
    },
  },
];

/** What a pasted column makes of parts. */
export interface Filling {
  /** Parts that change. */
  written: LibraryPart[];
  /** Lines that say what is there already. */
  same: number;
  notTaken: { line: number; found: string; wanted: string }[];
}

/**
 * Reads a pasted column into a field. Lines with two columns or more name the part first, and the last is its value; lines of one column
 * go to the parts shown, in their order; a single value goes to all of them. Empty values say nothing. The decimal sign is the column's.
 * @param shown parts as they are listed
 * @param all parts that lines may name
 * @param unit of lengths without one
 * O(lines + parts)
 */
export function fill(
  pasted: string,
  id: string,
  shown: readonly LibraryPart[],
  all: readonly LibraryPart[],
  unit: "mm" | "in",
): Filling {
  const field = FILLED.find((f) => f.id === id)!;
  const rows = pasted
    .replace(/\r?\n$/, "")
    .split(/\r?\n/)
    .map((line) => line.split("\t").map((c) => c.trim()));
  const named = rows.some((r) => r.length > 1);
  const values = rows.map((r) => r.at(-1)!);
  const how = { decimal: field.number ? decimalOf(values).decimal : ("." as const), unit };
  const byNumber = new Map(all.map((p) => [p.number, p]));
  const filling: Filling = { written: [], same: 0, notTaken: [] };
  const done = new Set<string>();
  const put = (part: LibraryPart | undefined, text: string, line: number, found: string): void => {
    if (text === "") return;
    const read: Read = part
      ? field.write(part, text, how)
      : { ok: false, wanted: "the number of a part of the library" };
    if (part && done.has(part.number)) filling.notTaken.push({ line, found, wanted: `${part.number} once` });
    else if (!read.ok) filling.notTaken.push({ line, found, wanted: read.wanted });
    else {
      done.add(read.part.number);
      if (field.value(read.part) === field.value(part!)) filling.same++;
      else filling.written.push(read.part);
    }
  };
  const [only] = values;
  if (rows.length === 1 && !named) for (const part of shown) put(part, only!, 1, only!);
  else
    for (const [i, row] of rows.entries()) {
      const found = row.join(" | ");
      // Headings stand above.
      if (named && i === 0 && !byNumber.has(row[0]!) && field.number && numberOf(row.at(-1)!, how.decimal) === null)
        continue;
      if (!named && i >= shown.length)
        filling.notTaken.push({ line: i + 1, found, wanted: `no more than the ${shown.length} parts shown` });
      else put(named ? byNumber.get(row[0]!) : shown[i], row.at(-1)!, i + 1, found);
    }
  return filling;
}

/** What texts make of cells of one column. */
export interface CellsWritten {
  /** Parts that change, as they are then. */
  written: LibraryPart[];
  notTaken: { number: string; found: string; wanted: string }[];
}

/**
 * Writes one field of parts from a text each. An empty text takes away what is said. The decimal sign is that of all of them.
 * O(values)
 */
export function writeCells(
  id: string,
  values: readonly { number: string; text: string }[],
  parts: ReadonlyMap<string, LibraryPart>,
  unit: "mm" | "in",
): CellsWritten {
  const field = FILLED.find((f) => f.id === id)!;
  const texts = values.map((v) => v.text.trim());
  const how = { decimal: field.number ? decimalOf(texts).decimal : ("." as const), unit };
  const cells: CellsWritten = { written: [], notTaken: [] };
  for (const [i, { number }] of values.entries()) {
    const part = parts.get(number);
    const text = texts[i]!;
    if (!part) continue;
    const read: Read = text === "" ? wrote(field.without(part)) : field.write(part, text, how);
    if (!read.ok) cells.notTaken.push({ number, found: text, wanted: read.wanted });
    else if (field.value(read.part) !== field.value(part)) cells.written.push(read.part);
  }
  return cells;
}
