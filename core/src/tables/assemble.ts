import type { Fault } from "../design/faults";
import { DESIGN_FORMAT, DESIGN_VERSION, type Design, type Job } from "../design/model";
import { readDesign } from "../design/read";
import { colourOfCell, endOf, lengthOf, numberOf, sizeOfCell, type CellRead } from "./cells";
import type { Row } from "./csv";
import { FIELDS, type Field } from "./fields";
import type { Matched, Matching } from "./guess";
import type { Sheet } from "./sheet";

/** A table of which it is known what its columns are. */
export interface MatchedTable {
  /** As the file is called. */
  name: string;
  sheet: Sheet;
  matching: Matching;
}

/** What was not read, with its place: nothing is dropped without a word. */
export interface NotRead {
  table: string;
  line: number;
  /** Null where it is the whole row. */
  heading: string | null;
  found: string;
  wanted: string;
  /** Whether the row was left out with it. */
  row: boolean;
}

export type Assembled =
  { ok: true; design: Design; notRead: NotRead[] } | { ok: false; faults: Fault[]; count: number };

/** Parts of which a list says no size are not described: the job says so where a stage lacks it. */
const SIZES = ["w", "h", "d"] as const;
/** A device that only connections name has no part yet. */
export const NO_PART = "not told";

type Values = Record<string, unknown>;

/** A device's tag as designs write it. */
const tagOf = (text: string): string => {
  const { device } = (endOf(`${text}:x`) as { value?: { device: string } }).value ?? {};
  return device ?? text;
};

function readCell(text: string, { kind }: Field, how: Matched): CellRead<unknown> {
  const decimal = how.decimal ?? ".";
  switch (kind) {
    case "text":
      return { ok: true, value: text };
    case "tag":
      return { ok: true, value: tagOf(text) };
    case "end":
      return endOf(text);
    case "length":
      return lengthOf(text, decimal, how.unit ?? "mm");
    case "size":
      return sizeOfCell(text, decimal, how.unit === "awg" ? "awg" : "mm2");
    case "colour":
      return colourOfCell(text, how.language ?? "IEC");
    case "watts":
    case "number": {
      const value = numberOf(text.replace(/\s*w$/i, ""), decimal);
      return value === null || value < 0 ? { ok: false, wanted: "a number, such as 12.5" } : { ok: true, value };
    }
  }
}

/** Reads rows by their matching; `keep` says why a row cannot be taken, in words of what it lacks. */
function readTable(
  { name, sheet, matching }: MatchedTable,
  notRead: NotRead[],
  keep: (values: Values, row: Row) => string | null,
): void {
  const columns = FIELDS[matching.kind].flatMap((field) => {
    const how = matching.columns[field.id];
    const at = how ? sheet.headings.indexOf(how.heading) : -1;
    return how && at >= 0 ? [{ field, how, at }] : [];
  });
  for (const { line, why, cells } of sheet.leftOut)
    if (why === "more cells than headings")
      notRead.push({
        table: name,
        line,
        heading: null,
        found: cells.join(" | "),
        wanted: "no more cells than headings",
        row: true,
      });
  for (const row of sheet.rows) {
    const values: Values = {};
    const faults: NotRead[] = [];
    for (const { field, how, at } of columns) {
      const text = row.cells[at]!;
      if (text === "") continue;
      const cell = readCell(text, field, how);
      if (cell.ok) values[field.id] = cell.value;
      else
        faults.push({
          table: name,
          line: row.line,
          heading: how.heading,
          found: text,
          wanted: cell.wanted,
          row: false,
        });
    }
    const lacks = keep(values, row);
    if (lacks !== null) {
      const found = row.cells.filter((c) => c !== "").join(" | ");
      if (faults.length === 0)
        faults.push({ table: name, line: row.line, heading: null, found, wanted: lacks, row: true });
      for (const f of faults) f.row = true;
    }
    notRead.push(...faults);
  }
}

/** One end of a connection, told in one cell or in two. */
function pinOf(values: Values, end: "from" | "to"): { device: string; pin: string } | undefined {
  const whole = values[end] as { device: string; pin: string } | undefined;
  if (whole) return { device: whole.device, pin: whole.pin };
  const [device, pin] = [values[`${end}Device`], values[`${end}Pin`]];
  return typeof device === "string" && typeof pin === "string" ? { device, pin } : undefined;
}

const defined = (values: Values): Values =>
  Object.fromEntries(Object.entries(values).filter(([, v]) => v !== undefined));

/**
 * Makes a design of the tables of a drawing office: devices, connections, parts. What they do not say stays unsaid: a device without
 * a place is loose, a part without its size is not described. Rows and cells that could not be read are listed. O(cells)
 */
export function assemble(job: Job, tables: readonly MatchedTable[]): Assembled {
  const notRead: NotRead[] = [];
  const of = (kind: Matching["kind"]) => tables.filter((t) => t.matching.kind === kind);
  const [parts, devices, wires, nets] = [
    new Map<string, Values>(),
    new Map<string, Values>(),
    [] as Values[],
    new Set<string>(),
  ];
  for (const table of of("parts"))
    readTable(table, notRead, (v) => {
      if (typeof v.number !== "string") return "the number of a part";
      if (SIZES.some((s) => v[s] === undefined)) return "width, height and depth of a part";
      parts.set(v.number, {
        number: v.number,
        maker: v.maker ?? NO_PART,
        text: v.text ?? v.number,
        category: "other",
        ...defined({ w: v.w, h: v.h, d: v.d, lossW: v.lossW }),
      });
      return null;
    });
  for (const table of of("devices"))
    readTable(table, notRead, (v) => {
      if (typeof v.tag !== "string") return "the tag of a device";
      if (devices.has(v.tag)) return `another tag than ${v.tag}, which stands in the list already`;
      const texts = typeof v.text === "string" ? [v.text] : undefined;
      devices.set(
        v.tag,
        defined({ tag: v.tag, part: v.part ?? NO_PART, enclosure: v.enclosure, sheet: v.sheet, texts }),
      );
      return null;
    });
  const numbers = new Set<string>();
  for (const table of of("connections"))
    readTable(table, notRead, (v) => {
      // A number that stands in a row that is left out is not given to another.
      if (typeof v.number === "string") numbers.add(v.number);
      const [from, to] = [pinOf(v, "from"), pinOf(v, "to")];
      if (!from || !to) return "both ends, each with device and pin";
      if (typeof v.net === "string") nets.add(v.net);
      wires.push({
        number: v.number,
        from,
        to,
        ...defined({ net: v.net, colour: v.colour, sizeMm2: v.size, type: v.type }),
      });
      return null;
    });
  let next = 1;
  for (const wire of wires) {
    if (wire.number !== undefined) continue;
    while (numbers.has(String(next))) next++;
    wire.number = String(next++);
  }
  // Without a list of devices, those are there that are connected; with one, who is not in it is an open point.
  if (of("devices").length === 0)
    for (const { from, to } of wires as { from: { device: string }; to: { device: string } }[])
      for (const { device } of [from, to])
        if (!devices.has(device)) devices.set(device, { tag: device, part: NO_PART });
  const read = readDesign(
    JSON.stringify({
      format: DESIGN_FORMAT,
      version: DESIGN_VERSION,
      job,
      enclosures: [],
      parts: [...parts.values()],
      devices: [...devices.values()],
      nets: [...nets].map((name) => ({ name })),
      wires,
    }),
  );
  return read.ok ? { ok: true, design: read.design, notRead } : read;
}
