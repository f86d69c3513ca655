import {
  CATEGORIES,
  CLAMPS,
  COLOURS,
  END_TREATMENTS,
  FIGURES,
  MATERIALS,
  NET_CLASSES,
  PIN_EDGES,
  SIDES,
  STRANDS,
  SURFACE_STATES,
  type Colour,
  type EndRule,
  type HeatRules,
  type Material,
  type NetClass,
  type OwnRouteRules,
  type PinPlaceRule,
  type RouteRules,
  type RuleOverrides,
  type Side,
  type SurfaceState,
} from "../design/model";

import { KIT_RULES, type KitRules } from "../kits/rules";
import { PREP_RULES, type PrepRules } from "../wireprep/rules";
import { METALWORK_RULES, type MetalworkRules } from "../metalwork/rules";
import {
  countRule,
  defaultsOf,
  lengthRule,
  namedAgain,
  percentRule,
  SHOP,
  tableRule,
  type Column,
  type NumberRule,
  type Row,
  type RowNote,
  type Said,
  type TableRule,
  type TextRule,
} from "./rule-kinds";

export { END_TREATMENTS, type EndRule, type EndTreatment, type RouteRules } from "../design/model";
export { KIT_RULES, type KitRules } from "../kits/rules";
export { PREP_RULES, type PrepRules } from "../wireprep/rules";
export { METALWORK_RULES, type MetalworkRules } from "../metalwork/rules";
export type { AnyRule, Column, NumberRule, Row, RowNote, TableRule, TextRule } from "./rule-kinds";

/** The rules of a shop. A job's own lie on top. */
export interface Rules {
  routes: RouteRules;
  classes: ClassRules;
  /** Outer diameter by cross-section, ascending. */
  outer: readonly { sizeMm2: number; outerMm: number }[];
  ends: readonly EndRule[];
  lineups: LineupRules;
  heat: HeatRules & HeatTables;
  metalwork: MetalworkRules;
  kits: KitRules;
  wireprep: PrepRules;
}

export interface HeatTables {
  /** What a square metre of wall passes for each kelvin, by material. */
  walls: { material: Material; k: number }[];
  /** Share of a surface that counts, by which it is and how it stands. */
  stands: { surface: Surface; state: SurfaceState; b: number }[];
}

export const SURFACES = ["roof", "base", "left", "right", "front", "rear"] as const;
export type Surface = (typeof SURFACES)[number];

/** What the shop decides about strips. */
export interface LineupRules {
  /** Members after which another end stop is hung; 0: at both ends only. */
  endStopEvery: number;
  /** Share of clamps of each size that shall stay free. */
  sparePercent: number;
  /** A separator comes between terminals whose voltages differ by more, V; 0: by none. */
  separateVolts: number;
  /** Classes between whose terminals a separator comes, whichever stands first. */
  separate: [NetClass, NetClass][];
  /** Side of a wire that leads to another enclosure: the first row that fits its class; outside where none does. */
  farSide: FarSideRule[];
  /** What stands beside a member on which nothing lands. */
  spareWord: string;
  /** Characters that fit on a marker. */
  markerHolds: number;
  /** Renumbering: the first number, and from one member to the next. */
  numberFrom: number;
  numberStep: number;
  /** Renumbering by groups: each begins at the next multiple of this. */
  groupStart: number;
}

export interface FarSideRule {
  class?: NetClass;
  side: Side;
}

export type ClassRules = Partial<Record<NetClass, { colour?: Colour; sizeMm2?: number }>>;

type Pairs = [NetClass, NetClass][];

/** A table of pairs of classes. */
const pairRule = (
  said: Said & { ordered: boolean; default: Pairs },
  labels: readonly [string, string],
  check: TableRule<Pairs>["check"],
): TableRule<Pairs> => ({
  as: "table",
  ...said,
  columns: [
    { key: "first", label: labels[0], as: "choice", choices: NET_CLASSES, needed: true },
    { key: "second", label: labels[1], as: "choice", choices: NET_CLASSES, needed: true },
  ],
  rows: (pairs) => pairs.map(([first, second]) => ({ first, second })),
  value: (rows) => rows.map(({ first, second }) => [first, second] as [NetClass, NetClass]),
  check,
});

type NumberKeys<T> = { [K in keyof T]-?: T[K] extends number ? K : never }[keyof T];

/** How wires are led and how their cut length is made up. */
export const ROUTE_RULES: { readonly [K in NumberKeys<RouteRules>]: NumberRule } & {
  readonly apart: TableRule<RouteRules["apart"]>;
  readonly pins: TableRule<RouteRules["pins"]>;
} = {
  slackMm: lengthRule(30, "slack at an end", "Goes into every length once for each end, so that a lead can be landed."),
  slackDoorMm: lengthRule(60, "slack at an end on a door", "Taken instead of the slack where the end is on a door."),
  bendFromMm2: {
    as: "number",
    unit: "mm²",
    default: 10,
    min: 0.01,
    max: 1000,
    text: "slack for bending from a cross-section of",
    why: "Thick wires are bent in a wide arc; from this size on they get more at each end.",
    source: SHOP,
  },
  bendDiameters: {
    as: "number",
    unit: "outer diameters",
    default: 4,
    min: 0,
    max: 100,
    text: "slack for bending at an end",
    why: "How much more a thick wire gets at each end, in its own outer diameters.",
    source: SHOP,
  },
  wideFromMm: lengthRule(
    60,
    "slack at an end in a duct wider inside than",
    "A wire may lie against the far wall: half of what the duct is wider is added where a wire enters it.",
  ),
  loopHingeMm: lengthRule(
    100,
    "loop at a hinge, on top of what the swing of the door needs",
    "A bundle shall not be taut when the door is open; a crossing's own loop counts instead of both.",
  ),
  doorOpenDeg: {
    as: "number",
    unit: "°",
    default: 120,
    min: 0,
    max: 270,
    text: "doors open by",
    why: "What a bundle over a hinge needs follows from it; a door may state its own. 0: doors stay shut.",
    source: SHOP,
  },
  loopWallMm: lengthRule(0, "loop at a wall", "For crossings through a wall that state no loop of their own."),
  loopEdgeMm: lengthRule(0, "loop at an edge", "For crossings round an edge that state no loop of their own."),
  reservePercent: percentRule(0, "reserve on the sum", "Put on the sum of way, tails and slack before rounding."),
  stepMm: {
    // Below a tenth of a millimetre no cutter follows.
    ...lengthRule(5, "cut lengths go up in steps of", "Lengths are rounded up to the next step of the cutter.", 0.1),
    max: 1000,
  },
  shortestLeadMm: lengthRule(120, "shortest lead", "What the machine can still hold; shorter ones are raised to it."),
  reachMm: lengthRule(
    400,
    "reach to the outline of a duct",
    "How far from a pin or a crossing's end a duct is looked for.",
  ),
  corridorMm: lengthRule(20, "a pin looks ahead, to each side", "Half the width in which a duct before a pin is met."),
  nearerMm: lengthRule(
    100,
    "a duct ahead is doubted when another is nearer by more than",
    "The wire keeps the duct ahead; the doubt is told.",
  ),
  crossingOffMm: lengthRule(
    50,
    "the end of a crossing is doubted when off its duct by more than",
    "In the plane or in height; the length is kept, the doubt is told.",
  ),
  passGapMm: lengthRule(
    5,
    "a lead passes between bodies from a gap of",
    "Leads outside ducts go round bodies or over their front; between nearer ones they do not fit.",
  ),
  stiffFromMm2: {
    as: "number",
    unit: "mm²",
    default: 6,
    min: 0.01,
    max: 1000,
    text: "wires change between ducts side by side only at ends and joints from",
    why: "Thin wires are led through the slots of two walls anywhere; thick ones are not.",
    source: SHOP,
  },
  joinGapMm: lengthRule(5, "ducts are joined up to a gap of", "Wires step over such a gap as if there were none."),
  watchGapMm: lengthRule(20, "gaps between duct ends are reported up to", "Wider ones are taken to be meant."),
  directReachMm: lengthRule(
    150,
    "direct lead without a duct up to",
    "Square distance between two parts that allow it; farther apart they use ducts.",
  ),
  fillWatchPercent: percentRule(55, "duct fill to watch from", "Fuller ducts are told as a note."),
  fillLimitPercent: percentRule(
    70,
    "duct fill limit",
    "Wires leave a duct that is fuller, where another way is short enough.",
  ),
  detourMostMm: lengthRule(
    2000,
    "longest detour round a full duct or another class",
    "A wire takes its shortest way when every other way is longer by more. 0: it always does.",
  ),
  apart: pairRule(
    {
      text: "classes that do not share a duct",
      why: "The first of a pair chooses its way first; the second stays clear of it.",
      source: SHOP,
      ordered: true,
      default: [["drive", "signal"]],
    },
    ["Chooses first", "Stays clear"],
    (rows) =>
      rows.flatMap(({ first, second }, i): RowNote[] => {
        if (first === undefined || second === undefined) return [];
        if (first === second) return [{ row: i, by: i, text: "a class cannot stay clear of itself" }];
        const again = rows.findIndex((r) => r.first === first && r.second === second);
        if (again < i) return [{ row: i, by: again, text: "says what a row above says" }];
        const turned = rows.findIndex((r) => r.first === second && r.second === first);
        return turned >= 0 && turned < i
          ? [{ row: i, by: turned, text: "contradicts a row above: there the other one chooses first" }]
          : [];
      }),
  ),
  pins: {
    ...(tableRule<PinPlaceRule>(
      {
        text: "pins nobody has drawn",
        why: "A pin without a position stands at the edge that the first row says that fits it; pins of one edge are spread evenly, in the order of their names. Better than the middle of the body, still a fallback, and marked as one.",
        source: "shop default, names of pins after IEC 60445 and EN 50005",
      },
      [
        { key: "category", label: "Part is a", as: "choice", choices: CATEGORIES },
        { key: "name", label: "Pin is called", as: "text", most: 40 },
        { key: "figure", label: "Ends with a figure that is", as: "choice", choices: FIGURES },
        {
          key: "edge",
          label: "Edge at which it stands",
          as: "choice",
          choices: PIN_EDGES,
          needed: true,
          role: "result",
        },
      ],
      [
        { category: "operator", edge: "middle" },
        { category: "lamp", edge: "middle" },
        { category: "terminal", name: "a", edge: "upper" },
        { category: "terminal", name: "b", edge: "lower" },
        { name: "PE*", edge: "lower" },
        { name: "?L?", edge: "upper" },
        { name: "?T?", edge: "lower" },
        { category: "supply", name: "L*", edge: "lower" },
        { category: "supply", name: "N*", edge: "lower" },
        { category: "supply", name: "+*", edge: "upper" },
        { category: "supply", name: "-*", edge: "upper" },
        { category: "controller", edge: "lower" },
        { category: "module", edge: "lower" },
        { figure: "odd", edge: "upper" },
        { figure: "even", edge: "lower" },
      ],
    ) as TableRule<PinPlaceRule[]>),
    check(rows) {
      return rows.flatMap((row, i): RowNote[] => {
        const by = rows.findIndex((other, j) => j < i && coversRow(this.columns, other, row));
        return by < 0 ? [] : [{ row: i, by, text: "never reached: a row above fits all that it does" }];
      });
    },
  },
};

/** Those that a job can have of its own. */
export const OWN_ROUTE_RULES = (({ pins: _, ...own }) => own)(ROUTE_RULES);

/** Strips: what is hung between members, how much stays free, what lies on which side, what markers show. */
export const LINEUP_RULES: {
  readonly [K in keyof LineupRules]: LineupRules[K] extends number
    ? NumberRule
    : LineupRules[K] extends string
      ? TextRule
      : TableRule<LineupRules[K]>;
} = {
  endStopEvery: countRule(
    50,
    1000,
    "another end stop after every",
    "Long strips are held between their ends too. 0: at both ends only.",
    "members",
  ),
  sparePercent: {
    ...percentRule(
      10,
      "clamps that shall stay free",
      "Field cables come with more cores than drawn; fewer free clamps of a size are told as a note.",
    ),
    max: 100,
  },
  separateVolts: countRule(
    60,
    100_000,
    "a separator where voltages differ by more than",
    "Comes between two terminals side by side, so that no probe bridges them. 0: nowhere for voltage alone.",
    "V",
  ),
  separate: pairRule(
    {
      text: "classes with a separator between them",
      why: "Comes between two terminals side by side, whichever of the two stands first.",
      source: SHOP,
      ordered: false,
      default: [],
    },
    ["One", "The other"],
    (rows) =>
      rows.flatMap(({ first, second }, i): RowNote[] => {
        if (first === undefined || second === undefined) return [];
        if (first === second) return [{ row: i, by: i, text: "a class has no separator from itself" }];
        const by = rows.findIndex(
          (r) => (r.first === first && r.second === second) || (r.first === second && r.second === first),
        );
        return by < i ? [{ row: i, by, text: "says what a row above says" }] : [];
      }),
  ),
  farSide: {
    as: "table",
    text: "side of wires to another enclosure",
    why: "The first row that fits a wire says on which side of a terminal it lies; without one it lies outside.",
    source: SHOP,
    ordered: true,
    columns: [
      { key: "class", label: "Class", as: "choice", choices: NET_CLASSES },
      { key: "side", label: "Lies", as: "choice", choices: SIDES, needed: true, role: "result" },
    ],
    default: [],
    rows: (list) => list.map((row) => ({ ...row })),
    value: (rows) => rows.map((row) => row as unknown as FarSideRule),
    check: (rows) =>
      rows.flatMap((row, i): RowNote[] => {
        const by = rows.findIndex((other, j) => j < i && (other.class === undefined || other.class === row.class));
        return by < 0 ? [] : [{ row: i, by, text: "never reached: a row above takes it" }];
      }),
  },
  spareWord: {
    as: "text",
    default: "",
    most: 20,
    text: "word for a free terminal",
    why: "Stands in drawings and lists where nothing lands; left empty, nothing stands there.",
    source: SHOP,
  },
  markerHolds: countRule(8, 60, "a marker holds", "Longer texts are told; drawings shrink them.", "characters", 1),
  numberFrom: countRule(1, 100_000, "renumbering begins at", "Offered when a strip is numbered anew.", ""),
  numberStep: countRule(1, 1000, "renumbering goes on by", "Offered when a strip is numbered anew.", "numbers", 1),
  groupStart: countRule(
    10,
    10_000,
    "each group begins at a multiple of",
    "Where a strip is numbered by groups, each leaves numbers free behind it.",
    "numbers",
    1,
  ),
};

const tempRule = (value: number, text: string, why: string, source = SHOP): NumberRule => ({
  as: "number",
  unit: "°C",
  default: value,
  min: -60,
  max: 90,
  text,
  why,
  source,
});

/** What heat is worked out with. */
export const HEAT_RULES: {
  readonly [K in keyof (HeatRules & HeatTables)]: (HeatRules & HeatTables)[K] extends number
    ? NumberRule
    : TableRule<(HeatRules & HeatTables)[K]>;
} = {
  heightM: countRule(200, 5000, "height above sea", "Thin air carries less; counts for fans.", "m"),
  outsideMinC: tempRule(15, "lowest temperature outside", "Around the enclosure, in the coldest hour of a year."),
  outsideMaxC: tempRule(35, "highest temperature outside", "Around the enclosure, in the hottest hour of a year."),
  insideMinC: tempRule(10, "lowest temperature wanted inside", "A heater keeps it."),
  insideMaxC: tempRule(40, "highest temperature wanted inside", "A cooling unit or a fan keeps it."),
  dampC: tempRule(
    15,
    "damp air that is shut in: its temperature",
    "Water settles where a wall is colder than its dew point.",
  ),
  dampPercent: {
    ...percentRule(70, "damp air that is shut in: its humidity", "Relative, at that temperature."),
    min: 1,
    max: 100,
  },
  diversity: countRule(
    1,
    1,
    "share of devices at load at once",
    "Multiplies every loss that says none of its own.",
    "",
  ),
  leastSharePercent: {
    ...percentRule(0, "losses when it is coldest", "Share of them that is there in the coldest hour."),
    max: 100,
  },
  missingAsMedian: countRule(
    0,
    1,
    "missing losses count as the median of like parts",
    "1: they do, and are marked. 0: as none, and the balance says what is missing.",
    "",
  ),
  tariffPerKWh: countRule(0.25, 100, "tariff", "Money for a kilowatt hour.", "a kWh"),
  dutyLeastPercent: percentRule(40, "duty below which a unit runs in short cycles", "In the hottest hour."),
  dutyMostPercent: percentRule(90, "duty above which a unit has nothing left", "In the hottest hour."),
  smoothingMm: lengthRule(60, "a loss on a face spreads over", "Standard deviation of the map of hot spots.", 1),
  risingPercent: {
    ...percentRule(50, "heat that rises with the air", "To the slabs above the one it is put into."),
    max: 100,
  },
  mixingWPerK: countRule(
    20,
    10_000,
    "mixing of the air between slabs",
    "What passes for each kelvin between them.",
    "W/K",
  ),
  doorMostKg: countRule(40, 1000, "a door carries", "Units that are heavier are not proposed for it.", "kg"),
  walls: {
    as: "table",
    text: "what walls pass, by material",
    why: "Heat through a square metre for each kelvin between inside and outside.",
    source: SHOP,
    ordered: false,
    columns: [
      { key: "material", label: "Material", as: "choice", choices: MATERIALS, needed: true },
      { key: "k", label: "Passes", as: "number", unit: "W/(m²K)", min: 0.1, max: 100, needed: true },
    ],
    default: [
      ["painted steel", 5.5],
      ["galvanised steel", 4.5],
      ["stainless steel", 4.5],
      ["aluminium", 12],
      ["double aluminium", 4.5],
      ["polyester", 3.5],
    ].map(([material, k]) => ({ material: material as Material, k: k as number })),
    rows: (list) => list.map((row) => ({ ...row })),
    value: (rows) => rows.map((row) => row as { material: Material; k: number }),
    check: (rows) => namedAgain(rows, "material", "this material has a row above, which counts"),
  },
  protectionIp: {
    ...countRule(
      0,
      69,
      "degree of protection that units must keep, IP",
      "Two digits (IEC 60529); a unit that states less, or nothing, is not proposed. 0: none is asked.",
      "",
    ),
    source: "IEC 60529",
  },
  stands: {
    as: "table",
    text: "share of a surface that counts, by how it stands",
    why: "A wall behind the enclosure or a neighbour beside it keeps its heat in.",
    source: "IEC 60890",
    ordered: false,
    columns: [
      { key: "surface", label: "Surface", as: "choice", choices: SURFACES, needed: true },
      { key: "state", label: "Stands", as: "choice", choices: SURFACE_STATES, needed: true },
      { key: "b", label: "Counts", as: "number", min: 0, max: 2, needed: true },
    ],
    default: SURFACES.flatMap((surface) =>
      SURFACE_STATES.map((state) => ({
        surface,
        state,
        b: surface === "base" ? 0 : surface === "roof" ? (state === "free" ? 1.4 : 0.7) : state === "free" ? 0.9 : 0.5,
      })),
    ),
    rows: (list) => list.map((row) => ({ ...row })),
    value: (rows) => rows.map((row) => row as { surface: Surface; state: SurfaceState; b: number }),
    check: (rows) =>
      rows.flatMap((row, i): RowNote[] => {
        const by = rows.findIndex((r) => r.surface === row.surface && r.state === row.state);
        return by < i && row.surface !== undefined && row.state !== undefined
          ? [{ row: i, by, text: "this surface and state have a row above, which counts" }]
          : [];
      }),
  },
};

/** Source of the outer diameters counted with when a wire type does not state its own. */
export const OUTER_SOURCE = "EN 50525-2-31, upper limit, single core PVC";

const classRules: TableRule<ClassRules> = {
  as: "table",
  text: "colour and cross-section by class",
  why: "What a wire gets whose own data and net say nothing.",
  source: "IEC 60445 for protective earth, else shop default",
  ordered: false,
  columns: [
    { key: "class", label: "Class", as: "choice", choices: NET_CLASSES, needed: true },
    { key: "colour", label: "Colour", as: "choice", choices: COLOURS },
    { key: "sizeMm2", label: "Size", as: "number", unit: "mm²", min: 0.01, max: 1000 },
  ],
  default: { earth: { colour: "GNYE" } },
  rows: (classes) => Object.entries(classes).map(([name, given]) => ({ class: name, ...given })),
  value: (rows) => Object.fromEntries(rows.map(({ class: name, ...given }) => [name, given])) as ClassRules,
  check: (rows) => namedAgain(rows, "class", "this class has a row above; the last one counts"),
};

const outerRules: TableRule<Rules["outer"]> = {
  as: "table",
  text: "outer diameter by cross-section",
  why: "Counts for duct fill and bending where a wire type states none; a size between two rows takes the larger.",
  source: OUTER_SOURCE,
  ordered: false,
  columns: [
    { key: "sizeMm2", label: "Size", as: "number", unit: "mm²", min: 0.01, max: 1000, needed: true },
    { key: "outerMm", label: "Outer", as: "number", unit: "mm", min: 0.1, max: 200, needed: true },
  ],
  default: [
    [0.5, 2.5],
    [0.75, 2.7],
    [1, 2.8],
    [1.5, 3.4],
    [2.5, 4.1],
    [4, 4.8],
    [6, 5.3],
    [10, 6.8],
    [16, 8.1],
    [25, 10.2],
    [35, 11.7],
    [50, 13.9],
    [70, 16.0],
    [95, 18.2],
  ].map(([sizeMm2, outerMm]) => ({ sizeMm2: sizeMm2!, outerMm: outerMm! })),
  rows: (list) => list.map((row) => ({ ...row })),
  value: (rows) => rows.map((row) => row as { sizeMm2: number; outerMm: number }).sort((a, b) => a.sizeMm2 - b.sizeMm2),
  check: (rows) => namedAgain(rows, "sizeMm2", "this cross-section has a row above, which counts"),
};

const endRules: TableRule<readonly EndRule[]> = {
  as: "table",
  text: "end treatments",
  why: "The first row that fits an end says how it is treated; an empty field fits anything.",
  source: "shop default, ferrules after DIN 46228",
  ordered: true,
  columns: [
    { key: "clamp", label: "Clamp", as: "choice", choices: CLAMPS },
    { key: "strand", label: "Strands", as: "choice", choices: STRANDS },
    { key: "twin", label: "Pair", as: "flag" },
    { key: "sizeMinMm2", label: "From", as: "number", unit: "mm²", min: 0.01, max: 1000, role: "from" },
    { key: "sizeMaxMm2", label: "To", as: "number", unit: "mm²", min: 0.01, max: 1000, role: "to" },
    { key: "end", label: "Treatment", as: "choice", choices: END_TREATMENTS, needed: true, role: "result" },
  ],
  default: [
    { clamp: "plug", end: "plug" },
    { clamp: "stud", sizeMaxMm2: 95, end: "ring" },
    { strand: "solid", end: "bare" },
    { clamp: "screw", twin: true, strand: "fine", sizeMaxMm2: 16, end: "twin ferrule" },
    { clamp: "push-in", twin: true, strand: "fine", sizeMaxMm2: 16, end: "twin ferrule" },
    { clamp: "screw", strand: "fine", sizeMaxMm2: 50, end: "ferrule" },
    { clamp: "push-in", strand: "fine", sizeMaxMm2: 50, end: "ferrule" },
    { clamp: "spring", strand: "fine", sizeMaxMm2: 50, end: "ferrule" },
    { clamp: "screw", strand: "stranded", end: "bare" },
    { clamp: "spring", strand: "stranded", end: "bare" },
  ],
  rows: (list) => list.map((row) => ({ ...row })),
  value: (rows) => rows.map((row) => row as unknown as EndRule),
  check(rows) {
    return rows.flatMap((row, i): RowNote[] => {
      const by = rows.findIndex((other, j) => j < i && coversRow(this.columns, other, row));
      if (by < 0) return [];
      const same = rows[by]!.end === row.end;
      return [
        {
          row: i,
          by,
          text: same ? "never reached: says what a row above says" : "never reached, and contradicts a row above",
        },
      ];
    });
  },
};

/** Whether everything that fits one row fits another one too. */
function coversRow(columns: readonly Column[], wide: Row, narrow: Row): boolean {
  return columns.every(({ key, role }) => {
    const [w, n] = [wide[key], narrow[key]];
    if (role === "result" || w === undefined) return true;
    if (n === undefined) return false;
    if (role === "from") return (w as number) <= (n as number);
    if (role === "to") return (w as number) >= (n as number);
    return w === n;
  });
}

/** Rules that are tables of their own, by name in `Rules`. */
export const TABLE_RULES = { classes: classRules, outer: outerRules, ends: endRules } as const;

/** The rules that ship with the product. */
export const SHOP_RULES: Rules = {
  routes: defaultsOf(ROUTE_RULES) as unknown as RouteRules,
  ...(defaultsOf(TABLE_RULES) as unknown as Omit<Rules, "routes" | "lineups" | "heat">),
  lineups: defaultsOf(LINEUP_RULES) as unknown as LineupRules,
  heat: defaultsOf(HEAT_RULES) as unknown as HeatRules & HeatTables,
  metalwork: defaultsOf(METALWORK_RULES) as unknown as MetalworkRules,
  kits: defaultsOf(KIT_RULES) as unknown as KitRules,
  wireprep: defaultsOf(PREP_RULES) as unknown as PrepRules,
};

/** The rule that gives the loop of a crossing without its own. */
export const LOOPS = { hinge: "loopHingeMm", wall: "loopWallMm", edge: "loopEdgeMm" } as const;

/** The shop's rules with a job's own on top. The job's list of end rules is looked at first. */
export function rulesFor(shop: Rules, job: RuleOverrides): Rules {
  return {
    routes: { ...shop.routes, ...ownRoutes(job) },
    // Worked out when asked for: who has no use for it does not hang on it.
    get classes() {
      const classes = { ...shop.classes };
      for (const [name, given] of Object.entries(job.classes ?? {})) {
        classes[name as NetClass] = { ...classes[name as NetClass], ...given };
      }
      return classes;
    },
    outer: shop.outer,
    ends: [...(job.ends ?? []), ...shop.ends],
    lineups: shop.lineups,
    metalwork: shop.metalwork,
    kits: shop.kits,
    wireprep: shop.wireprep,
    get heat() {
      return { ...shop.heat, ...job.heat };
    },
  };
}

/** Route rules that a job states itself. */
function ownRoutes(job: RuleOverrides): Partial<OwnRouteRules> {
  const { crossingLoopMm: loop, apartWeight: _, ...own } = job.routes ?? {};
  const loops = loop === undefined ? {} : { loopHingeMm: loop, loopWallMm: loop, loopEdgeMm: loop };
  return { ...loops, ...own };
}

/** Where the value of a route rule comes from, in words: the job, the shop, or what ships with the product. */
export function routeRuleSource(key: keyof RouteRules, shop: Rules, job: RuleOverrides): string {
  if (key !== "pins" && ownRoutes(job)[key] !== undefined) return "rule of this job";
  const { default: shipped, source } = ROUTE_RULES[key];
  return JSON.stringify(shop.routes[key]) === JSON.stringify(shipped) ? source : "rule of the shop";
}
