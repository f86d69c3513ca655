import { decimalOf, languageOf } from "./cells";
import {
  DEVICE,
  FIELDS,
  NUMBERS,
  PIN,
  plainHeading,
  TABLE_KINDS,
  type CellKind,
  type Field,
  type TableKind,
} from "./fields";
import { textsOf, type Matched, type Matching } from "./matching";
import { readCell } from "./rows";
import type { Sheet } from "./sheet";

type How = Omit<Matched, "from">;

/** Values that tell what a column holds. */
const LOOKED_AT = 300;
/** A column is what half of its values are at least: the others are told when they are read. */
const MOST = 0.5;

const isTag = (text: string): boolean => /^[-+=]?\p{L}+[\p{L}\d.\-+=]*\d*$/u.test(text) && text.length <= 40;

const valuesOf = (sheet: Sheet, column: number): string[] =>
  sheet.rows
    .slice(0, LOOKED_AT)
    .map((r) => r.cells[column]!)
    .filter((v) => v !== "");

const SIZE_UNITS: Record<string, string> = { awg: "awg", ga: "awg" };
const LENGTH_UNITS: ReadonlySet<string> = new Set(["mm", "cm", "m", "in", "inch", '"', "ft"]);

/** How cells of a kind are read in a column: its unit from the heading, its decimal sign and language from its values. */
function howOf(kind: CellKind, heading: string, values: readonly string[]): How {
  const { words, unit } = plainHeading(heading);
  if (kind === "colour") return { language: languageOf(values) };
  if (!NUMBERS.has(kind)) return {};
  const { decimal } = decimalOf(values);
  if (kind === "size") return { decimal, unit: SIZE_UNITS[unit] ?? SIZE_UNITS[words] ?? "mm2" };
  return { decimal, ...(kind === "length" ? { unit: LENGTH_UNITS.has(unit) ? unit : "mm" } : {}) };
}

/** Whether a value can be what a field is. */
const fits = (text: string, kind: CellKind, how: How): boolean =>
  kind === "tag" ? isTag(text) : readCell({ text, plain: false }, kind, how).ok;

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
  how: How;
}

function candidates(sheet: Sheet, kind: TableKind): Candidate[] {
  return FIELDS[kind].flatMap((field) =>
    sheet.headings.flatMap((heading, column): Candidate[] => {
      // A heading that stands for the second time is the other end.
      const words = wordsOf(heading);
      const values = valuesOf(sheet, column);
      const how = howOf(field.kind, heading, values);
      const share = values.length === 0 ? 1 : values.filter((v) => fits(v, field.kind, how)).length / values.length;
      const said = saidBy(words, field);
      if (said === 0 || share < MOST) return [];
      return [{ field, column, score: said + share / 2, how }];
    }),
  );
}

const wordsOf = (heading: string): string => plainHeading(heading.replace(/ \(\d\)$/, "")).words;

/** Two ends told by headings that stand twice: the first is where a connection begins. */
function twoEnds(sheet: Sheet): Matching["columns"] {
  const twice = (words: string): string[] => {
    const known = new Set(words.split("|"));
    return sheet.headings.filter((h) => known.has(wordsOf(h)));
  };
  const [device, pin] = [twice(DEVICE), twice(PIN)];
  if (device.length !== 2 || pin.length !== 2) return {};
  const of = (heading: string): Matched => ({ from: [{ heading }] });
  return {
    fromDevice: of(device[0]!),
    fromPin: of(pin[0]!),
    toDevice: of(device[1]!),
    toPin: of(pin[1]!),
  };
}

/** Fields that lists often say only where they change: of the other rows the cell above counts. */
const AS_ABOVE: ReadonlySet<string> = new Set(["terminals.strip", "cables.tag", "cables.type"]);
/** From so many empty cells on it is meant so. */
const EMPTY = 0.3;

function asAbove(sheet: Sheet, kind: TableKind, field: Field, column: number): Partial<Matched> {
  const rows = sheet.rows.slice(0, LOOKED_AT);
  const empty = rows.filter((r) => r.cells[column] === "").length;
  return AS_ABOVE.has(`${kind}.${field.id}`) && rows[0]?.cells[column] !== "" && empty > EMPTY * rows.length
    ? { asAbove: true }
    : {};
}

/** The best of each field, each column once: the best fit first. O(columns · fields · values looked at) */
export function columnsOf(sheet: Sheet, kind: TableKind): Matching["columns"] {
  const columns: Matching["columns"] = kind === "connections" ? twoEnds(sheet) : {};
  const taken = new Set(Object.values(columns).flatMap((m) => m.from.map((p) => p.heading)));
  const order = candidates(sheet, kind).sort((a, b) => b.score - a.score || a.column - b.column);
  for (const { field, column, how } of order) {
    const heading = sheet.headings[column]!;
    if (columns[field.id] || taken.has(heading)) continue;
    columns[field.id] = { from: [{ heading }], ...how, ...asAbove(sheet, kind, field, column) };
    taken.add(heading);
  }
  return columns;
}

/** Of these rows each is a core: a list of connections has rows without a cable too. */
function allCores(sheet: Sheet, { tag }: Matching["columns"]): boolean {
  const texts = tag && textsOf(sheet, tag);
  return texts !== undefined && sheet.rows.slice(0, LOOKED_AT).every((r) => texts(r).text !== "");
}

/** What a table must tell to be of a kind. */
export const NEEDS: Record<TableKind, (has: (field: string) => boolean) => boolean> = {
  devices: (has) => has("tag"),
  connections: (has) => has("chain") || ((has("from") || has("fromDevice")) && (has("to") || has("toDevice"))),
  terminals: (has) => has("strip") && has("terminal"),
  cables: (has) => has("tag") && (has("core") || has("colour")),
  nets: (has) => has("name") && ["class", "voltage", "currentA", "size", "colour"].some(has),
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
    const count = Object.keys(columns).length + (kind === "cables" && allCores(sheet, columns) ? 0.5 : 0);
    if (count > most && NEEDS[kind]((f) => f in columns)) [best, most] = [{ kind, columns }, count];
  }
  return best;
}
