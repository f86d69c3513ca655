import { MATERIALS, type Material } from "../design/lists";
import { THREAD_USES, THREADS, type ThreadRow } from "../design/threads";
import {
  countRule,
  lengthRule,
  namedAgain,
  percentRule,
  SHOP,
  type Row,
  type RowNote,
  type TableRule,
  tableRule,
  textRule as text,
  type RulesFor,
  type StageRules,
} from "../shop/rule-kinds";

/** What the shop decides about sheets: fixings, what is kept free, tools, machines, bars. */
export interface MetalworkRules {
  /** Of rails and ducts: the first and last fixing from the end, and the most between two. */
  railEndMm: number;
  railMostMm: number;
  railThread: string;
  ductEndMm: number;
  ductMostMm: number;
  /** Ducts at least this wide have two rows. */
  ductTwoRowsMm: number;
  ductThread: string;
  /** How far such a fixing steps aside from what is in its way. */
  asideMm: number;
  edgePlateMm: number;
  edgeDoorMm: number;
  webMm: number;
  clampMm: number;
  /** Of a door's frame, into which nothing may reach that stands behind the door. */
  frameMm: number;
  /** A corner that states no radius may keep one of this. */
  cornerMm: number;
  /** 1: such corners are cut free. */
  relief: number;
  tabFromMm: number;
  tabMm: number;
  spannerMm: number;
  spareGlandPercent: number;
  /** What a door is drilled from. 1: from inside. */
  doorInside: number;
  /** The machine that is taken where no face says another. */
  machine: string;
  kerfMm: number;
  trimMm: number;
  /** A rest of at least this is kept. */
  keepMm: number;
  coverShorterMm: number;
  threads: readonly ThreadRow[];
  turns: readonly TurnsRow[];
  tools: readonly ShopTool[];
  machines: readonly Machine[];
  controls: readonly ControlRow[];
  clamps: readonly Clamped[];
  offcuts: readonly Offcut[];
}

export const TOOL_KINDS = ["drill", "tap", "countersink", "mill", "punch"] as const;

/** A tool of the shop. Lengths in mm, speeds in 1/min, feeds in mm/min. */
export interface ShopTool {
  /** Its place in the machine: `T4`. */
  id: string;
  kind: (typeof TOOL_KINDS)[number];
  /** Of a tap its thread's; of a countersink the widest it makes; of a punch that is not round its width. */
  d: number;
  /** Of a punch that is not round. */
  h?: number;
  thread?: string;
  pitch?: number;
  speed?: number;
  feed?: number;
  /** Machine it belongs to; every one when absent. */
  machine?: string;
  /** Sheets it works in; all when absent. */
  sheet?: Material;
  mostMm?: number;
  /** Places it works before it is worn. */
  life?: number;
  /** To change to it, s; as its machine takes when absent. */
  changeS?: number;
  /** Angle of the point of a drill, degrees; 118 when absent. */
  pointDeg?: number;
  /** Turns of a tap that do not cut to the full depth yet, in pitches; 5 when absent. */
  leadPitches?: number;
}

/** How many turns of a thread a sheet of a material must hold; without a material of any other. */
export interface TurnsRow {
  material?: Material;
  turns: number;
}

export const CORNERS = ["lower left", "lower right", "upper left", "upper right"] as const;
export type Corner = (typeof CORNERS)[number];

/** A machine as the one who stands before it sees it. */
export interface Machine {
  name: string;
  w: number;
  h: number;
  /** Corner of the sheet that lies on the datum. */
  corner: Corner;
  x: "right" | "left";
  y: "up" | "down";
  /** Between places, mm/min. */
  rapid: number;
  changeS: number;
  /** Room below the sheet for what comes through, mm; not checked when absent. */
  underMm?: number;
  /** To move the sheet and clamp it anew, s; counts nothing when absent. */
  moveS?: number;
}

/** What a control understands. Lines are parted by `|`; `{title}` stands for what a program is for, `{n}` for the number of a tool. */
export interface ControlRow {
  machine: string;
  header?: string;
  footer?: string;
  cycles: boolean;
  arcs: boolean;
  decimals: number;
  lineStep: number;
  clearMm: number;
  changeMm: number;
  beyondMm: number;
  plungePercent: number;
  chordMm: number;
  /** Numbers of places and feeds carry their point always: `X200.` */
  pointAlways?: boolean;
  /** After the header: `G54`. */
  workOffset?: string;
  /** After each change of tools: `G43 H{n}`. */
  lengthOffset?: string;
  coolantOn?: string;
  coolantOff?: string;
  /** More words of a tapping cycle, such as its dwell: `P0.2`. */
  tapCycle?: string;
  /** Without cycles: what turns the spindle back at the bottom of a tap, and forward again above; `M4` and `M3` when absent. */
  tapBottom?: string;
  tapTop?: string;
  /** A mill goes in so far inside of its contour, and onto it. mm */
  leadInMm?: number;
  /** What makes a punch strike; without it this control has no punch. */
  stroke?: string;
}

/** A clamp of a machine: what it covers, from the datum along the machine's axes, and how high it is over the sheet. */
export interface Clamped {
  machine: string;
  x: number;
  y: number;
  w: number;
  h: number;
  highMm: number;
}

export const BAR_KINDS = ["rail", "duct", "cover"] as const;
export type BarKind = (typeof BAR_KINDS)[number];

/** A rest of a bar that was kept. */
export interface Offcut {
  kind: BarKind;
  part: string;
  lengthMm: number;
  count: number;
}

const table = <T>(
  said: { text: string; why: string; source?: string },
  columns: TableRule["columns"],
  rows: readonly T[],
  check?: (rows: readonly Row[]) => RowNote[],
): TableRule<readonly T[]> => tableRule({ ...said, ordered: false }, columns, rows, check);

const drill = (id: string, d: number, speed: number, feed: number): ShopTool => ({
  id,
  kind: "drill",
  d,
  speed,
  feed,
  mostMm: 6,
  life: 2000,
  pointDeg: 118,
});
const tap = (id: string, thread: string, d: number, pitch: number, speed: number): ShopTool => ({
  id,
  kind: "tap",
  d,
  thread,
  pitch,
  speed,
  feed: speed * pitch,
  mostMm: 6,
  life: 800,
  leadPitches: 4,
});
const mill = (id: string, d: number, speed: number, feed: number): ShopTool => ({
  id,
  kind: "mill",
  d,
  speed,
  feed,
  mostMm: 4,
  life: 400,
});

const mm = { as: "number", unit: "mm", min: 0, max: 100_000 } as const;
const signed = { ...mm, min: -100_000 } as const;
const named = { as: "text", most: 40 } as const;

export const METALWORK_RULES: RulesFor<MetalworkRules> = {
  railEndMm: lengthRule(
    25,
    "first and last screw of a rail, from its end",
    "A rail that is shorter than both has one in its middle.",
  ),
  railMostMm: lengthRule(250, "most between two screws of a rail", "More of them hold it stiffer.", 20),
  railThread: text("M5", 12, "thread of the screws of rails", "Its core hole is drilled and tapped."),
  ductEndMm: lengthRule(
    30,
    "first and last screw of a duct, from its end",
    "A duct that is shorter than both has one in its middle.",
  ),
  ductMostMm: lengthRule(300, "most between two screws of a duct", "More of them hold it flat.", 20),
  ductTwoRowsMm: lengthRule(80, "ducts get two rows of screws from a width of", "Wide bases bulge between one row."),
  ductThread: text("M5", 12, "thread of the screws of ducts", "Its core hole is drilled and tapped."),
  asideMm: lengthRule(
    40,
    "a screw of a rail or duct steps aside up to",
    "Along its bar, where a hole, an opening or a keep-out is in its way. 0: never.",
  ),
  edgePlateMm: lengthRule(10, "from holes to the edge of a sheet", "Nearer ones tear out, or lie in the fold."),
  edgeDoorMm: lengthRule(15, "from holes to the fold of a door", "The fold stiffens the door."),
  webMm: lengthRule(3, "web between two openings", "Thinner ones bend or tear."),
  clampMm: lengthRule(5, "from holes to a clamp", "What a tool and its holder need beside a clamp."),
  frameMm: lengthRule(
    25,
    "frame behind a door",
    "Nothing that stands behind the door may reach into it, or the door does not shut.",
  ),
  cornerMm: lengthRule(
    3,
    "radius that may stay in a corner that states none",
    "Decides how thick the mill may be.",
    0.5,
  ),
  relief: {
    ...countRule(
      0,
      1,
      "corners that state no radius are cut free",
      "1: the mill goes into the corner, so that a square edge fits.",
      "",
    ),
  },
  tabFromMm: lengthRule(
    120,
    "openings keep tabs from a length of",
    "So that what falls out does not strike the mill; broken out by hand. 0: never.",
  ),
  tabMm: lengthRule(3, "width of a tab", "One in the middle of each side; four all round where no side has room.", 0.5),
  spannerMm: lengthRule(6, "room for a spanner between two glands", "Between their outlines."),
  spareGlandPercent: {
    ...percentRule(10, "spare entries", "Of the cables that come in, rounded up; each with a blind plug."),
    max: 100,
  },
  doorInside: countRule(
    0,
    1,
    "doors are drilled as seen from inside",
    "1: they lie on the machine with their outer side down.",
    "",
  ),
  machine: text("Tallow 3", 40, "machine for sheets", "Where a face says no other."),
  kerfMm: lengthRule(3, "width of a saw cut", "Lost between two pieces."),
  trimMm: lengthRule(5, "trimmed off each end of a bar", "Ends of bars are not square."),
  keepMm: lengthRule(200, "rests are kept from a length of", "Shorter ones are scrap."),
  coverShorterMm: lengthRule(0, "covers are shorter than their duct by", "So that they go on between two others."),
  threads: table<ThreadRow>(
    {
      text: "threads, and what is drilled for them",
      why: "The core hole before tapping, the clearance hole of the screw, the hole of its rivet nut.",
      source: "ISO 261, ISO 273 medium, DIN 40430, ASME B1.20.1",
    },
    [
      { key: "thread", label: "Thread", ...named, most: 12, needed: true },
      { key: "use", label: "For", as: "choice", choices: THREAD_USES, needed: true },
      { key: "core", label: "Core hole", ...mm, min: 0.1, max: 500, needed: true },
      { key: "pitch", label: "Pitch", ...mm, min: 0.1, max: 10, needed: true },
      { key: "through", label: "Clearance hole", ...mm, min: 0.1, max: 500 },
      { key: "nut", label: "Hole of its rivet nut", ...mm, min: 0.1, max: 500 },
    ],
    THREADS,
    (rows) => namedAgain(rows, "thread", "this thread has a row above, which counts"),
  ),
  turns: table<TurnsRow>(
    {
      text: "least turns of a thread in a sheet",
      why: "Thickness over pitch; fewer strip when the screw is tightened. A row without a material is for all others.",
      source: SHOP,
    },
    [
      { key: "material", label: "Sheet", as: "choice", choices: MATERIALS },
      { key: "turns", label: "Turns", as: "number", unit: "turns", min: 0, max: 50, needed: true },
    ],
    [
      { material: "aluminium", turns: 4 },
      { material: "double aluminium", turns: 4 },
      { material: "polyester", turns: 6 },
      { turns: 2.5 },
    ],
  ),
  tools: table<ShopTool>(
    { text: "tools", why: "What the machines hold; a hole without the exact tool is milled." },
    [
      { key: "id", label: "Place", ...named, most: 12, needed: true },
      { key: "kind", label: "Kind", as: "choice", choices: TOOL_KINDS, needed: true },
      { key: "d", label: "Diameter", ...mm, min: 0.1, max: 500, needed: true },
      { key: "h", label: "Height of a punch", ...mm, min: 0.1, max: 500 },
      { key: "thread", label: "Thread", ...named, most: 12 },
      { key: "pitch", label: "Pitch", ...mm, min: 0.1, max: 10 },
      { key: "speed", label: "Turns", as: "number", unit: "1/min", min: 0, max: 100_000 },
      { key: "feed", label: "Feed", as: "number", unit: "mm/min", min: 1, max: 100_000 },
      { key: "machine", label: "Machine", ...named },
      { key: "sheet", label: "Sheet", as: "choice", choices: MATERIALS },
      { key: "mostMm", label: "Thickest sheet", ...mm },
      { key: "life", label: "Life", as: "number", unit: "places", min: 1, max: 1_000_000 },
      { key: "changeS", label: "Change", as: "number", unit: "s", min: 0, max: 3600 },
      { key: "pointDeg", label: "Point of a drill", as: "number", unit: "°", min: 30, max: 180 },
      { key: "leadPitches", label: "Lead of a tap", as: "number", unit: "pitches", min: 0, max: 20 },
    ],
    [
      drill("T1", 2.5, 3200, 320),
      drill("T2", 3.3, 2600, 300),
      drill("T3", 4.2, 2100, 280),
      drill("T4", 5, 1800, 260),
      drill("T5", 5.5, 1700, 250),
      drill("T6", 6.6, 1450, 230),
      drill("T7", 6.8, 1400, 230),
      drill("T8", 9, 1050, 200),
      tap("T11", "M4", 4, 0.7, 600),
      tap("T12", "M5", 5, 0.8, 500),
      tap("T13", "M6", 6, 1, 420),
      tap("T14", "M8", 8, 1.25, 320),
      { id: "T20", kind: "countersink", d: 16.5, speed: 500, feed: 60, mostMm: 6, life: 2000 },
      mill("T31", 3, 9000, 360),
      mill("T32", 6, 6500, 600),
      mill("T33", 10, 4200, 700),
    ],
    (rows) =>
      rows.flatMap((row, i): RowNote[] => {
        const by = rows.findIndex((r) => r.id === row.id && (r.machine ?? row.machine) === (row.machine ?? r.machine));
        if (by < i && row.id !== undefined) return [{ row: i, by, text: "this place has a row above, which counts" }];
        if (row.kind === "tap" && (row.thread === undefined || row.pitch === undefined))
          return [{ row: i, by: i, text: "a tap needs its thread and its pitch" }];
        if (row.kind !== undefined && row.kind !== "punch" && (row.speed === undefined || row.feed === undefined))
          return [{ row: i, by: i, text: "a tool that turns needs its turns and its feed" }];
        return [];
      }),
  ),
  machines: table<Machine>(
    {
      text: "machines for sheets",
      why: "What lies beyond their area is made in another set-up, with the sheet moved.",
    },
    [
      { key: "name", label: "Name", ...named, needed: true },
      { key: "w", label: "Area along X", ...mm, min: 10, needed: true },
      { key: "h", label: "Area along Y", ...mm, min: 10, needed: true },
      { key: "corner", label: "Corner on the datum", as: "choice", choices: CORNERS, needed: true },
      { key: "x", label: "X goes", as: "choice", choices: ["right", "left"], needed: true },
      { key: "y", label: "Y goes", as: "choice", choices: ["up", "down"], needed: true },
      { key: "rapid", label: "Between places", as: "number", unit: "mm/min", min: 10, max: 1_000_000, needed: true },
      { key: "changeS", label: "Change of tools", as: "number", unit: "s", min: 0, max: 3600, needed: true },
      { key: "underMm", label: "Room under the sheet", ...mm, max: 1000 },
      { key: "moveS", label: "Moving a sheet", as: "number", unit: "s", min: 0, max: 36_000 },
    ],
    [
      {
        name: "Tallow 3",
        w: 2500,
        h: 1300,
        corner: "lower left",
        x: "right",
        y: "up",
        rapid: 20_000,
        changeS: 12,
        underMm: 15,
        moveS: 120,
      },
      {
        name: "Wickett",
        w: 1500,
        h: 1100,
        corner: "upper right",
        x: "left",
        y: "down",
        rapid: 9000,
        changeS: 45,
        underMm: 20,
        moveS: 180,
      },
    ],
    (rows) => namedAgain(rows, "name", "this machine has a row above, which counts"),
  ),
  controls: table<ControlRow>(
    {
      text: "what their controls understand",
      why: "Programs are written by it (ISO 6983): another machine is another row.",
      source: "ISO 6983-1",
    },
    [
      { key: "machine", label: "Machine", ...named, needed: true },
      { key: "header", label: "First lines, parted by |", as: "text", most: 400 },
      { key: "footer", label: "Last lines, parted by |", as: "text", most: 400 },
      { key: "cycles", label: "Cycles", as: "flag", needed: true },
      { key: "arcs", label: "Arcs", as: "flag", needed: true },
      { key: "decimals", label: "Decimals", as: "number", min: 1, max: 6, needed: true },
      { key: "lineStep", label: "Line numbers step", as: "number", min: 0, max: 1000, needed: true },
      { key: "clearMm", label: "Clear of the sheet", ...mm, min: 0.5, max: 500, needed: true },
      { key: "changeMm", label: "Height for change", ...mm, min: 1, max: 1000, needed: true },
      { key: "beyondMm", label: "Margin below", ...mm, min: 0.1, max: 50, needed: true },
      { key: "plungePercent", label: "Feed going in", as: "number", unit: "%", min: 1, max: 100, needed: true },
      { key: "chordMm", label: "Curves off by", ...mm, min: 0.001, max: 1, needed: true },
      { key: "pointAlways", label: "Point in every number", as: "flag" },
      { key: "workOffset", label: "Work offset", as: "text", most: 80 },
      { key: "lengthOffset", label: "Length of a tool", as: "text", most: 80 },
      { key: "coolantOn", label: "Coolant on", as: "text", most: 80 },
      { key: "coolantOff", label: "Coolant off", as: "text", most: 80 },
      { key: "tapCycle", label: "More words of a tapping cycle", as: "text", most: 80 },
      { key: "tapBottom", label: "At the bottom of a tap", as: "text", most: 80 },
      { key: "tapTop", label: "Above, after a tap", as: "text", most: 80 },
      { key: "leadInMm", label: "Lead-in of a contour", ...mm, max: 100 },
      { key: "stroke", label: "Stroke of a punch", as: "text", most: 80 },
    ],
    [
      {
        machine: "Tallow 3",
        header: "%|({title})|G21 G90 G17 G40",
        footer: "M5|M30|%",
        cycles: true,
        arcs: true,
        decimals: 3,
        lineStep: 10,
        clearMm: 3,
        changeMm: 60,
        beyondMm: 1.5,
        plungePercent: 40,
        chordMm: 0.01,
        workOffset: "G54",
        lengthOffset: "G43 H{n}",
        coolantOn: "M8",
        coolantOff: "M9",
        leadInMm: 2,
      },
      {
        machine: "Wickett",
        header: "({title})|G21|G90",
        footer: "M5|M2",
        cycles: false,
        arcs: false,
        decimals: 2,
        lineStep: 0,
        clearMm: 5,
        changeMm: 80,
        beyondMm: 2,
        plungePercent: 30,
        chordMm: 0.02,
      },
    ],
    (rows) => namedAgain(rows, "machine", "this machine has a row above, which counts"),
  ),
  clamps: table<Clamped>(
    { text: "clamps", why: "Nothing is made in them, and no tool goes through them: from the datum along the axes." },
    [
      { key: "machine", label: "Machine", ...named, needed: true },
      { key: "x", label: "X", ...signed, needed: true },
      { key: "y", label: "Y", ...signed, needed: true },
      { key: "w", label: "Along X", ...mm, needed: true },
      { key: "h", label: "Along Y", ...mm, needed: true },
      { key: "highMm", label: "Over the sheet", ...mm, needed: true },
    ],
    [
      { machine: "Tallow 3", x: 400, y: -40, w: 60, h: 44, highMm: 25 },
      { machine: "Tallow 3", x: 1200, y: -40, w: 60, h: 44, highMm: 25 },
      { machine: "Wickett", x: -30, y: 300, w: 34, h: 50, highMm: 30 },
    ],
  ),
  offcuts: table<Offcut>(
    { text: "rests of bars on the shelf", why: "They are cut before a new bar is taken." },
    [
      { key: "kind", label: "Kind", as: "choice", choices: BAR_KINDS, needed: true },
      { key: "part", label: "Part", ...named, most: 120, needed: true },
      { key: "lengthMm", label: "Length", ...mm, min: 1, needed: true },
      { key: "count", label: "Count", as: "number", min: 1, max: 1000, needed: true },
    ],
    [],
  ),
};

/** Its rules, as they stand in the shop. */
export interface MetalworkInShop {
  metalwork: MetalworkRules;
}

export const RULES: StageRules = { stage: "metalwork", rules: { metalwork: METALWORK_RULES } };
