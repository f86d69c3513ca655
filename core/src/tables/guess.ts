import {
  colourOfCell,
  decimalOf,
  endOf,
  languageOf,
  lengthOf,
  numberOf,
  sizeOfCell,
  type Decimal,
  type Language,
} from "./cells";
import { FIELDS, plainHeading, TABLE_KINDS, type CellKind, type Field, type TableKind } from "./fields";
import type { Sheet } from "./sheet";

/** Which column of a table is which of our fields, and how it is read. A value: kept by name, found again by its headings. */
export interface Matching {
  kind: TableKind;
  columns: Record<string, Matched>;
}

export interface Matched {
  heading: string;
  /** Of lengths `mm` or `in` …, of cross-sections `mm2` or `awg`. */
  unit?: string;
  decimal?: Decimal;
  language?: Language;
}

/** Values that tell what a column holds. */
const LOOKED_AT = 300;
/** A column is what half of its values are at least: the others are told when they are read. */
const MOST = 0.5;

const NUMBERS: ReadonlySet<CellKind> = new Set(["length", "size", "watts", "number"]);
const isTag = (text: string): boolean => /^[-+=]?\p{L}+[\p{L}\d.\-+=]*\d*$/u.test(text) && text.length <= 40;

const valuesOf = (sheet: Sheet, column: number): string[] =>
  sheet.rows
    .slice(0, LOOKED_AT)
    .map((r) => r.cells[column]!)
    .filter((v) => v !== "");

const SIZE_UNITS: Record<string, string> = { awg: "awg", ga: "awg" };
const LENGTH_UNITS: ReadonlySet<string> = new Set(["mm", "cm", "m", "in", "inch", '"', "ft"]);

/** How cells of a kind are read in a column: its unit from the heading, its decimal sign and language from its values. */
function howOf(kind: CellKind, heading: string, values: readonly string[]): Omit<Matched, "heading"> {
  const { words, unit } = plainHeading(heading);
  if (kind === "colour") return { language: languageOf(values) };
  if (!NUMBERS.has(kind)) return {};
  const { decimal } = decimalOf(values);
  if (kind === "size") return { decimal, unit: SIZE_UNITS[unit] ?? SIZE_UNITS[words] ?? "mm2" };
  return { decimal, ...(kind === "length" ? { unit: LENGTH_UNITS.has(unit) ? unit : "mm" } : {}) };
}

/** Whether a value can be what a field is. */
function fits(value: string, kind: CellKind, how: Omit<Matched, "heading">): boolean {
  const decimal = how.decimal ?? ".";
  switch (kind) {
    case "text":
      return true;
    case "tag":
      return isTag(value);
    case "end":
      return endOf(value).ok;
    case "length":
      return lengthOf(value, decimal, how.unit ?? "mm").ok;
    case "size":
      return sizeOfCell(value, decimal, how.unit === "awg" ? "awg" : "mm2").ok;
    case "colour":
      return colourOfCell(value, how.language ?? "IEC").ok;
    case "watts":
    case "number":
      return numberOf(value.replace(/\s*w$/i, ""), decimal) !== null;
  }
}

/** How well a heading says a field: 3 it is one of its words, 2 it begins or ends with one, 0 not at all. */
function saidBy(words: string, field: Field): number {
  if (words === field.label.toLowerCase() || field.words.includes(words)) return 3;
  const parts = words.split(" ");
  const long = field.words.filter((w) => w.length > 3);
  return parts.length > 1 && long.some((w) => words.startsWith(`${w} `) || words.endsWith(` ${w}`)) ? 2 : 0;
}

interface Candidate {
  field: Field;
  column: number;
  /** Of the heading and of the values together. */
  score: number;
  how: Omit<Matched, "heading">;
}

function candidates(sheet: Sheet, kind: TableKind): Candidate[] {
  return FIELDS[kind].flatMap((field) =>
    sheet.headings.flatMap((heading, column): Candidate[] => {
      // A heading that stands for the second time is the other end.
      const { words } = plainHeading(heading.replace(/ \(\d\)$/, ""));
      const values = valuesOf(sheet, column);
      const how = howOf(field.kind, heading, values);
      const share = values.length === 0 ? 1 : values.filter((v) => fits(v, field.kind, how)).length / values.length;
      const said = saidBy(words, field);
      if (said === 0 || share < MOST) return [];
      return [{ field, column, score: said + share / 2, how }];
    }),
  );
}

/** Two ends told by headings that stand twice: the first is where a connection begins. */
function twoEnds(sheet: Sheet): Matching["columns"] {
  const columnsOf = (like: string): string[] => {
    const { words } = FIELDS.devices[0]!;
    const pins = FIELDS.connections.find((f) => f.id === "fromPin")!.words;
    return sheet.headings.filter((h) => {
      const plain = plainHeading(h.replace(/ \(\d\)$/, "")).words;
      return like === "device"
        ? words.includes(plain)
        : pins.some((p) => p.endsWith(` ${plain}`) && p.startsWith("from "));
    });
  };
  const [device, pin] = [columnsOf("device"), columnsOf("pin")];
  if (device.length !== 2 || pin.length !== 2) return {};
  return {
    fromDevice: { heading: device[0]! },
    fromPin: { heading: pin[0]! },
    toDevice: { heading: device[1]! },
    toPin: { heading: pin[1]! },
  };
}

/** The best of each field, each column once: the best fit first. */
function columnsOf(sheet: Sheet, kind: TableKind): Matching["columns"] {
  const columns: Matching["columns"] = kind === "connections" ? twoEnds(sheet) : {};
  const taken = new Set(Object.values(columns).map((m) => m.heading));
  const order = candidates(sheet, kind).sort((a, b) => b.score - a.score || a.column - b.column);
  for (const { field, column, how } of order) {
    const heading = sheet.headings[column]!;
    if (columns[field.id] || taken.has(heading)) continue;
    columns[field.id] = { heading, ...how };
    taken.add(heading);
  }
  return columns;
}

/** What a table must tell to be of a kind. */
const NEEDS: Record<TableKind, (has: (field: string) => boolean) => boolean> = {
  devices: (has) => has("tag"),
  connections: (has) => (has("from") || has("fromDevice")) && (has("to") || has("toDevice")),
  parts: (has) => has("number") && (has("w") || has("maker") || has("lossW")),
};

/**
 * Guesses what a table tells and which of its columns is what, from headings (several languages, units in brackets) and from values.
 * O(columns · fields · values looked at)
 * @returns null when it could be nothing of ours
 */
export function guess(sheet: Sheet): Matching | null {
  let best: Matching | null = null;
  let most = 0;
  for (const kind of TABLE_KINDS) {
    const columns = columnsOf(sheet, kind);
    const count = Object.keys(columns).length;
    if (count > most && NEEDS[kind]((f) => f in columns)) [best, most] = [{ kind, columns }, count];
  }
  return best;
}
