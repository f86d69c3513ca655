import type { Fault } from "../design/faults";
import { layOut, type Laid, type Listed, type MatchedDrawing } from "../drawings/lay";
import {
  DESIGN_FORMAT,
  DESIGN_VERSION,
  NOT_TOLD,
  type Cable,
  type Design,
  type Device,
  type Job,
  type Net,
  type Part,
  type PinRef,
  type Strip,
  type Wire,
} from "../design/model";
import { listed } from "../design/open-points";
import { checkDesign } from "../design/read";
import { endOf, type TagRead } from "./cells";
import type { TableKind } from "./fields";
import type { Matching } from "./matching";
import { headingOf, pinOf, rowsAsRead, type EndRead, type RowAsRead, type Values } from "./rows";
import type { Sheet } from "./sheet";

/** A table of which it is known what its columns are. */
export interface MatchedTable {
  /** As the file is called, with the sheet where it has several. */
  name: string;
  sheet: Sheet;
  matching: Matching;
}

/** What was not read, with its place: nothing is dropped without a word. */
export interface NotRead {
  table: string;
  /** Null in a drawing. */
  line: number | null;
  /** Null where it is the whole row; in a drawing the layer and the place on it. */
  heading: string | null;
  found: string;
  wanted: string;
  /** Whether the row, or the thing drawn, was left out with it. */
  row: boolean;
}

export type Assembled = (
  { ok: true; design: Design; notRead: NotRead[] } | { ok: false; faults: Fault[]; count: number }
) & { listed: Listed; laid: Laid };

/** Whether the rows of a sheet that were left out before anything was read are told, and as what. */
const TOLD: Partial<Record<Sheet["leftOut"][number]["why"], string>> = {
  "more cells than headings": "no more cells than headings",
  "hidden in the file": "a row that is not hidden",
  "a formula without a value": "a value: calculate the sheet and save it",
};

/** Without what is not said. */
function defined<T extends object>(values: T): T {
  for (const key in values) if (values[key] === undefined) delete values[key];
  return values;
}

/** The pin of a terminal on which a wire lands, and the one for a core, where its end names the terminal alone. */
const INSIDE = "a";
const OUTSIDE = "b";

interface CableTold extends Omit<Cable, "cores"> {
  /** By their names, in the order they were told. */
  cores: Map<string, CoreTold>;
}

interface CoreTold {
  core: Omit<Cable["cores"][number], "from" | "to" | "far">;
  ends: (EndRead | string | undefined)[];
}

/** What stands before a tag; where a column says the enclosure, that. */
const beforeOf = ({ before, enclosure }: Pick<TagRead, "before" | "enclosure">, place?: unknown): string =>
  before ?? enclosure ?? (typeof place === "string" && place.startsWith("+") ? place : "");

const ENDS = ["from", "fromDevice", "to", "toDevice", "chain"] as const;

/** Whether anything stands before some tag of its ends: looked for before all of them are read once more. */
function tellsPlaces(sheet: Sheet, { columns }: Matching): boolean {
  const sign = /[+=]/;
  return ENDS.some((id) =>
    (columns[id]?.from ?? []).some(({ heading, before = "" }) => {
      const at = sheet.headings.indexOf(heading);
      return sign.test(before) || (at >= 0 && sheet.rows.some((r) => sign.test(r.cells[at]!)));
    }),
  );
}

/** Tags by which several devices or strips go, told apart by their enclosures or functions: these go by their whole tags. */
class Tags {
  /** What stands before each tag, of those with several. */
  readonly #of = new Map<string, Set<string>>();

  constructor(tables: readonly MatchedTable[]) {
    const all = new Map<string, Set<string>>();
    const add = (tag: string, before: string): void => {
      const there = all.get(tag);
      if (there) there.add(before);
      else all.set(tag, new Set([before]));
    };
    const lists = tables.some(({ matching }) => matching.kind === "devices");
    for (const { sheet, matching } of tables) {
      const { kind } = matching;
      // Where nothing lists devices, those are there that are connected.
      if (kind !== "devices" && kind !== "terminals" && (kind !== "connections" || lists)) continue;
      if (kind === "connections" && !tellsPlaces(sheet, matching)) continue;
      for (const { values, lacks } of rowsAsRead(sheet, matching)) {
        if (lacks !== null) continue;
        const read = (kind === "devices" ? values.tag : values.strip) as TagRead | undefined;
        if (read) add(read.tag, beforeOf(read, values.enclosure));
        if (kind !== "connections") continue;
        const ends = (values.chain as EndRead[] | undefined) ?? [pinOf(values, "from"), pinOf(values, "to")];
        for (const end of ends) if (end) add(end.device, beforeOf(end));
      }
    }
    for (const [tag, some] of all) if (some.size > 1) this.#of.set(tag, some);
  }

  full(tag: string, before: string): string {
    return this.#of.has(tag) ? `${before}${tag}` : tag;
  }

  /** Whole tags that a tag may mean, where it is not plain which. */
  several(tag: string, before: string): string[] | null {
    const some = this.#of.get(tag);
    if (!some || some.has(before)) return null;
    const fit = [...some].filter((b) => b.endsWith(before));
    return fit.length > 1 ? fit.map((b) => `${b}${tag}`) : null;
  }

  /** The whole tag that is meant: the only one that ends so, else as it is written. */
  meant(tag: string, before: string): string {
    const some = this.#of.get(tag);
    if (!some) return tag;
    const fit = some.has(before) ? [before] : [...some].filter((b) => b.endsWith(before));
    return `${fit.length === 1 ? fit[0]! : before}${tag}`;
  }
}

/** Puts a design together, table by table. */
class Assembly {
  readonly notRead: NotRead[] = [];
  readonly parts = new Map<string, Part>();
  readonly devices = new Map<string, Device>();
  readonly strips = new Map<string, Strip>();
  /** Terminals of strips in their order, with what they say of a jumper. */
  readonly jumpers = new Map<string, { tag: string; jumper: string | undefined }[]>();
  readonly nets = new Map<string, Net>();
  /** With the ends of cores as they were told: who is in the panel is known when all tables are read. */
  readonly cables = new Map<string, CableTold>();
  readonly wires: (Omit<Wire, "number"> & { number?: string })[] = [];
  /** Numbers that some row says, also one that is left out: none of them is given to another wire. */
  readonly numbers = new Set<string>();
  /** Enclosures that stand before tags of devices. */
  readonly stands = new Map<string, string>();

  private readonly tables: readonly MatchedTable[];
  private readonly tags: Tags;

  constructor(tables: readonly MatchedTable[]) {
    this.tables = tables;
    this.tags = new Tags(tables);
  }

  /** The tag by which a device or a strip goes: with what stands before it where several go by it. */
  tagOf(read: TagRead, place: unknown): string {
    return this.tags.full(read.tag, beforeOf(read, place));
  }

  /** Why it cannot be said which devices ends mean; null where it can. */
  unclear(ends: readonly (EndRead | undefined)[]): string | null {
    for (const end of ends) {
      const several = end ? this.tags.several(end.device, beforeOf(end)) : null;
      if (several) return `one of ${listed(several)}, written in full`;
    }
    return null;
  }

  has(kind: TableKind): boolean {
    return this.tables.some((t) => t.matching.kind === kind);
  }

  /** Reads the tables of a kind; `take` says why a row cannot be taken. */
  each(kind: TableKind, take: (values: Values, row: RowAsRead) => string | null): void {
    for (const { name, sheet, matching } of this.tables) {
      if (matching.kind !== kind) continue;
      for (const { line, why, cells } of sheet.leftOut) {
        const wanted = TOLD[why];
        if (wanted === undefined) continue;
        const row = why !== "a formula without a value";
        this.notRead.push({ table: name, line, heading: null, found: cells.join(" | "), wanted, row });
      }
      for (const row of rowsAsRead(sheet, matching)) {
        const lacks = row.lacks ?? take(row.values, row);
        if (lacks === null && row.notRead.length === 0) continue;
        const place = { table: name, line: row.row.line, row: lacks !== null };
        const faults = row.notRead.map(({ field, text, wanted }): NotRead => ({
          ...place,
          heading: headingOf(matching, field),
          found: text,
          wanted,
        }));
        if (lacks !== null && faults.length === 0) {
          const found = row.row.cells.filter((c) => c !== "").join(" | ");
          faults.push({ ...place, heading: null, found, wanted: lacks });
        }
        for (const fault of faults) this.notRead.push(fault);
      }
    }
  }

  /**
   * The pin that an end means: of a strip whose terminals are listed, `-X1:3` is terminal 3.
   * @param side the pin that is meant where only the terminal is named
   */
  pin(end: EndRead, side: string): PinRef {
    const { pin, enclosure } = end;
    const device = this.tags.meant(end.device, beforeOf(end));
    if (enclosure !== undefined && !this.stands.has(device)) this.stands.set(device, enclosure);
    // Also where a list of devices names the strip itself.
    if (!this.strips.has(device)) return { device, pin };
    const [terminal, ...rest] = pin.split(":");
    const tag = `${device}.${terminal!.trim()}`;
    return this.devices.has(tag) ? { device: tag, pin: rest.join(":").trim() || side } : { device, pin };
  }

  private readonly last = new Map<string, number>();

  /** The next of `BEGIN1`, `BEGIN2` … that no wire has. */
  private free(begin: string, from: number): string {
    let n = this.last.get(begin) ?? from;
    while (this.numbers.has(`${begin}${n}`)) n++;
    this.last.set(begin, n + 1);
    this.numbers.add(`${begin}${n}`);
    return `${begin}${n}`;
  }

  /** Gives every wire that has none a number that is free. */
  numbered(): Wire[] {
    for (const wire of this.wires) wire.number ??= this.free("", 1);
    return this.wires as Wire[];
  }

  /** Further wires of a chain are numbered behind its own number. */
  following(number: string | undefined): string | undefined {
    return number === undefined ? undefined : this.free(`${number}.`, 2);
  }
}

function addParts(all: Assembly): void {
  all.each("parts", (v) => {
    const number = v.number as string;
    if (all.parts.has(number)) return `another part than ${number}, which stands in a list already`;
    all.parts.set(
      number,
      defined({
        number,
        maker: v.maker ?? NOT_TOLD,
        text: v.text ?? number,
        category: "other",
        w: v.w,
        h: v.h,
        d: v.d,
        lossW: v.lossW,
      }) as Part,
    );
    return null;
  });
}

/** A device, or a terminal, as its row says it. */
const deviceOf = (tag: string, enclosure: string | undefined, v: Values): Device =>
  defined({
    tag,
    part: v.part ?? NOT_TOLD,
    enclosure: v.enclosure ?? enclosure,
    sheet: v.sheet,
    texts: v.text === undefined ? undefined : [v.text],
  }) as Device;

function addDevices(all: Assembly): void {
  all.each("devices", (v) => {
    const read = v.tag as TagRead;
    const { enclosure } = read;
    const tag = all.tagOf(read, v.enclosure);
    if (all.devices.has(tag)) return `another tag than ${tag}, which stands in a list already`;
    all.devices.set(tag, deviceOf(tag, enclosure, v));
    return null;
  });
  all.each("terminals", (v) => {
    const read = v.strip as TagRead;
    const { enclosure } = read;
    const strip = all.tagOf(read, v.enclosure);
    const tag = `${strip}.${v.terminal as string}`;
    if (all.devices.has(tag)) return `another terminal than ${tag}, which stands in a list already`;
    all.devices.set(tag, deviceOf(tag, enclosure, v));
    const known = all.strips.get(strip);
    if (known) known.members.push(tag);
    else all.strips.set(strip, { tag: strip, rail: NOT_TOLD, members: [tag] });
    const jumper = v.jumper as string | undefined;
    const marked = all.jumpers.get(strip);
    if (marked) marked.push({ tag, jumper });
    else all.jumpers.set(strip, [{ tag, jumper }]);
    return null;
  });
  for (const [strip, marked] of all.jumpers) {
    const jumpers = jumpersOf(marked);
    if (jumpers.length > 0) all.strips.get(strip)!.jumpers = jumpers;
  }
}

/** A cell that only says that there is a jumper, not which. */
const MARK = /^(x|\*|•|yes|ja|oui|si|sí|sim)$/i;

/** Terminals that say the same are joined: of a mere mark those that follow one another, of a name all of the strip. */
function jumpersOf(marked: readonly { tag: string; jumper: string | undefined }[]): NonNullable<Strip["jumpers"]> {
  const groups = new Map<string, string[]>();
  let run = 0;
  for (const [i, { tag, jumper }] of marked.entries()) {
    if (jumper === undefined) continue;
    const mark = MARK.test(jumper);
    if (mark && marked[i - 1]?.jumper !== jumper) run++;
    const key = mark ? `\u0000${run}` : jumper;
    const group = groups.get(key);
    if (group) group.push(tag);
    else groups.set(key, [tag]);
  }
  return [...groups.values()].filter((g) => g.length > 1).map((members) => ({ row: 1, members }));
}

function addNets(all: Assembly): void {
  all.each("nets", (v) => {
    const name = v.name as string;
    if (all.nets.has(name)) return `another net than ${name}, which stands in a list already`;
    all.nets.set(
      name,
      defined({
        name,
        class: v.class,
        voltage: v.voltage,
        currentA: v.currentA,
        colour: v.colour,
        sizeMm2: v.size,
      }) as Net,
    );
    return null;
  });
}

const told = (all: Assembly, net: unknown): void => {
  if (typeof net === "string" && !all.nets.has(net)) all.nets.set(net, { name: net });
};

/** One row is one core; the rows of a cable need not stand together. */
function addCore(all: Assembly, tag: string, v: Values): string | null {
  // Its ends are read as two, or as one and words.
  if (v.chain) return "the two ends of a core in columns of their own";
  const ends = [pinOf(v, "from"), pinOf(v, "to") ?? farEnd(v.to)];
  const unclear = all.unclear(ends.map((e) => (typeof e === "string" ? undefined : e)));
  if (unclear) return unclear;
  const cable: CableTold = all.cables.get(tag) ?? { tag, type: NOT_TOLD, cores: new Map() };
  const core = (v.core as string | undefined) ?? String(cable.cores.size + 1);
  if (cable.cores.has(core)) return `another core than ${core} of ${tag}, which is listed already`;
  if (cable.type === NOT_TOLD && v.type !== undefined) cable.type = v.type as string;
  for (const [field, value] of Object.entries({ from: v.fromPlace, to: v.toPlace, outer: v.outer }))
    if (value !== undefined && !(field in cable)) Object.assign(cable, { [field]: value });
  told(all, v.net);
  cable.cores.set(core, {
    core: defined({ core, colour: v.colour, sizeMm2: v.size, net: v.net }) as CoreTold["core"],
    ends,
  });
  all.cables.set(tag, cable);
  return null;
}

/** What stands at the far end of a core: a device and its pin, or words. */
function farEnd(text: unknown): EndRead | string | undefined {
  if (typeof text !== "string") return undefined;
  const end = endOf(text);
  return text.startsWith("-") && end.ok ? end.value : text;
}

/** Cables with their ends: who is not listed in the panel stands in the field. */
function cablesOf(all: Assembly): Cable[] {
  const inside = (end: EndRead): boolean => {
    const { device } = all.pin(end, OUTSIDE);
    return all.devices.has(device) || all.strips.has(device);
  };
  return [...all.cables.values()].map(({ cores, ...cable }) => ({
    ...cable,
    cores: [...cores.values()].map(({ core, ends }) => {
      const pins: PinRef[] = [];
      let far: string | undefined;
      for (const end of ends)
        if (typeof end === "string") far ??= end;
        else if (end && inside(end)) pins.push(all.pin(end, OUTSIDE));
        else if (end) far ??= `${end.device}:${end.pin}`;
      return defined({ ...core, from: pins[0], to: pins[1], far }) as Cable["cores"][number];
    }),
  }));
}

function addConnections(all: Assembly): void {
  all.each("connections", (v) => {
    if (v.cable) return addCore(all, (v.cable as TagRead).tag, v);
    const ends = (v.chain as EndRead[] | undefined) ?? [pinOf(v, "from")!, pinOf(v, "to")!];
    const unclear = all.unclear(ends);
    if (unclear) return unclear;
    told(all, v.net);
    const number = v.number as string | undefined;
    for (let i = 1; i < ends.length; i++)
      all.wires.push(
        defined({
          number: i === 1 ? number : all.following(number),
          net: v.net as string | undefined,
          from: all.pin(ends[i - 1]!, INSIDE),
          to: all.pin(ends[i]!, INSIDE),
          colour: v.colour as Wire["colour"],
          sizeMm2: v.size as number | undefined,
          type: v.type as string | undefined,
        }),
      );
    return null;
  });
}

/** Numbers of all wires, before any is given one: also those of rows that are left out. */
function addNumbers(all: Assembly, tables: readonly MatchedTable[]): void {
  for (const { sheet, matching } of tables) {
    if (matching.kind !== "connections") continue;
    for (const { values } of rowsAsRead(sheet, { ...matching, columns: only(matching, "number") }))
      if (typeof values.number === "string") all.numbers.add(values.number);
  }
}

const only = ({ columns }: Matching, id: string): Matching["columns"] => (columns[id] ? { [id]: columns[id] } : {});

/** Things of drawings that were not taken, as they are listed with rows. */
const notTaken = ({ name, layer, x, y, found, wanted }: Laid["notTaken"][number]): NotRead => ({
  table: name,
  line: null,
  heading: `${layer === "" ? "" : `layer ${layer}, `}at ${place(x)}, ${place(y)}`,
  found,
  wanted,
  row: true,
});

const place = (v: number): number => Math.round(v * 100) / 100 + 0;

/**
 * Makes a design of the tables of a drawing office and of its drawings. What they do not say stays unsaid: a device without a place is
 * loose, a part without its size is not described. Rows and cells that could not be read are listed, and what of drawings was not
 * taken. O(cells + n log n) for n things drawn
 */
export function assemble(
  job: Job,
  tables: readonly MatchedTable[],
  drawings: readonly MatchedDrawing[] = [],
): Assembled {
  const all = new Assembly(tables);
  addParts(all);
  addDevices(all);
  addNets(all);
  addNumbers(all, tables);
  addConnections(all);
  all.each("cables", (v) => addCore(all, (v.tag as TagRead).tag, v));
  const wires = all.numbered();
  // Without a list of devices, those are there that are connected; with one, who is not in it is an open point.
  if (!all.has("devices"))
    for (const { from, to } of wires)
      for (const { device } of [from!, to!])
        if (!all.devices.has(device) && !all.strips.has(device))
          all.devices.set(device, { tag: device, part: NOT_TOLD });
  const cables = cablesOf(all);
  for (const device of all.devices.values())
    if (device.enclosure === undefined && all.stands.has(device.tag)) device.enclosure = all.stands.get(device.tag)!;
  const listed: Listed = { devices: all.devices, strips: all.strips, parts: all.parts, whole: all.has("devices") };
  const laid = layOut(drawings, listed);
  const { enclosures, faces, rails, ducts, crossings } = laid;
  const layout = enclosures.length > 0 ? { enclosures, faces, rails, ducts, crossings } : { enclosures };
  const read = checkDesign({
    format: DESIGN_FORMAT,
    version: DESIGN_VERSION,
    job,
    ...layout,
    parts: [...all.parts.values()],
    devices: [...all.devices.values(), ...laid.devices],
    nets: [...all.nets.values()],
    wires,
    cables,
    strips: [...all.strips.values()],
  });
  const notRead = [...all.notRead, ...laid.notTaken.map(notTaken)];
  return read.ok ? { ok: true, design: read.design, notRead, listed, laid } : { ...read, listed, laid };
}
