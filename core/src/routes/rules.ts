import Joi from "joi";
import {
  CATEGORIES,
  CLAMPS,
  END_TREATMENTS,
  STRANDS,
  type Category,
  type Clamp,
  type EndTreatment,
  type NetClass,
  type Strand,
} from "../design/lists";
import { groupForm, ruleForm } from "../shop/rule-forms";
import {
  coversRow,
  lengthRule,
  namedAgain,
  pairRule,
  percentRule,
  SHOP,
  tableRule,
  type RowNote,
  type RulesFor,
  type StageRules,
  type TableRule,
} from "../shop/rule-kinds";

/** How wires are led and how their cut length is made up. */
export interface RouteRules {
  slackMm: number;
  slackDoorMm: number;
  /** Thick wires get more slack for bending: from this size on … */
  bendFromMm2: number;
  /** … so many outer diameters an end. */
  bendDiameters: number;
  /** Of what a duct is wider inside than this, each end that enters it gets half more. */
  wideFromMm: number;
  /** From this cross-section on, wires change between ducts side by side only at ends and joints. */
  stiffFromMm2: number;
  /** On top of what the swing of the door needs. */
  loopHingeMm: number;
  /** How far a door opens that does not say it itself, degrees. */
  doorOpenDeg: number;
  loopWallMm: number;
  loopEdgeMm: number;
  reservePercent: number;
  stepMm: number;
  shortestLeadMm: number;
  /** From a pin or the end of a crossing to the outline of a duct. */
  reachMm: number;
  /** Half the width of the corridor in which a pin looks ahead. */
  corridorMm: number;
  /** A duct that is met is doubted when another one is nearer by more than this. */
  nearerMm: number;
  /** An end of a crossing farther off its duct, in the plane or in height, is doubted. */
  crossingOffMm: number;
  /** Between bodies nearer to each other than this no lead passes. */
  passGapMm: number;
  joinGapMm: number;
  watchGapMm: number;
  directReachMm: number;
  fillWatchPercent: number;
  fillLimitPercent: number;
  /** Longest extra way a wire may take to leave a full duct, or to stay clear of another class. 0: none. */
  detourMostMm: number;
  /** Pairs of classes that do not share a duct. The first of a pair chooses its way first. */
  apart: [NetClass, NetClass][];
  /** Where pins stand that nobody has drawn. */
  pins: PinPlaceRule[];
}

/** Those that a job can have of its own: where pins stand is the shop's to say. */
export type OwnRouteRules = Omit<RouteRules, "pins">;

export const PIN_EDGES = ["upper", "lower", "left", "right", "middle"] as const;
export const FIGURES = ["odd", "even"] as const;

/** Where a pin stands by its name. Absent fields match anything; the first row that fits counts. */
export interface PinPlaceRule {
  category?: Category;
  /** `*` stands for any letters, `?` for one. */
  name?: string;
  /** With which figure the name ends. */
  figure?: (typeof FIGURES)[number];
  /** In the middle of the body, and led to the nearest duct, where no edge is likely. */
  edge: (typeof PIN_EDGES)[number];
}

/** Which end treatment a conductor gets. Absent fields match anything; the first match counts. */
export interface EndRule {
  clamp?: Clamp;
  strand?: Strand;
  twin?: boolean;
  sizeMinMm2?: number;
  sizeMaxMm2?: number;
  end: EndTreatment;
}

export const ROUTE_RULES: RulesFor<RouteRules> = {
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

/** Source of the outer diameters counted with when a wire type does not state its own. */
export const OUTER_SOURCE = "EN 50525-2-31, upper limit, single core PVC";

export const OUTER_RULES: TableRule<RoutesInShop["outer"]> = {
  as: "table",
  least: 1,
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

export const END_RULES: TableRule<readonly EndRule[]> = {
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

/** Rules of routes, as they stand in the shop. */
export interface RoutesInShop {
  routes: RouteRules;
  /** Outer diameter by cross-section, ascending. */
  outer: readonly { sizeMm2: number; outerMm: number }[];
  ends: readonly EndRule[];
}

/** Of older files: one loop for crossings of every kind; how far a wire went for less way beside another class. */
const OF_BEFORE = { crossingLoopMm: Joi.number().min(0).max(100_000), apartWeight: Joi.number().min(0).max(1000) };

/** What a job may say of them for itself. */
export interface RoutesOfJob {
  /**
   * `crossingLoopMm`: older files state one loop for crossings of every kind. `apartWeight`: older files state how far
   * a wire went for less way beside another class; it does not count any more.
   */
  routes?: Partial<OwnRouteRules> & { crossingLoopMm?: number; apartWeight?: number };
  ends?: EndRule[];
}

export const RULES: StageRules = {
  stage: "routes",
  rules: { routes: ROUTE_RULES, outer: OUTER_RULES, ends: END_RULES },
  needed: ["routes", "outer", "ends"],
  gone: { routes: ["apartWeight"] },
  own: {
    routes: {
      form: groupForm<OwnRouteRules>(OWN_ROUTE_RULES).keys(OF_BEFORE as object),
      over: (shop: RouteRules, job: OwnInFile): RouteRules => ({ ...shop, ...ownRoutes(job) }),
    },
    // Its list is looked at first.
    ends: { form: ruleForm(END_RULES), over: (shop: EndRule[], job: EndRule[]) => [...job, ...shop] },
  },
};

type OwnInFile = NonNullable<RoutesOfJob["routes"]>;

/** Route rules that a job states itself. */
export function ownRoutes({ crossingLoopMm: loop, apartWeight: _, ...own }: OwnInFile): Partial<OwnRouteRules> {
  const loops = loop === undefined ? {} : { loopHingeMm: loop, loopWallMm: loop, loopEdgeMm: loop };
  return { ...loops, ...own };
}

/** The rule that gives the loop of a crossing without its own. */
export const LOOPS = { hinge: "loopHingeMm", wall: "loopWallMm", edge: "loopEdgeMm" } as const;
