import type { Colour, EndRule, NetClass, RouteRules, RuleOverrides } from "./model";

export { END_TREATMENTS, type EndRule, type EndTreatment, type RouteRules } from "./model";

export interface Rules {
  routes: RouteRules;
  classes: Partial<Record<NetClass, { colour?: Colour; sizeMm2?: number }>>;
  /** Outer diameter by cross-section, ascending. */
  outer: readonly { sizeMm2: number; outerMm: number }[];
  ends: readonly EndRule[];
}

export const SHOP_RULES: Rules = {
  routes: {
    slackMm: 30,
    slackDoorMm: 60,
    bendFromMm2: 10,
    bendDiameters: 4,
    loopHingeMm: 250,
    loopWallMm: 0,
    loopEdgeMm: 0,
    reservePercent: 0,
    stepMm: 5,
    shortestLeadMm: 120,
    reachMm: 400,
    corridorMm: 20,
    nearerMm: 100,
    crossingOffMm: 50,
    joinGapMm: 5,
    watchGapMm: 20,
    directReachMm: 150,
    fillWatchPercent: 55,
    fillLimitPercent: 70,
    detourMostMm: 2000,
    apartWeight: 10,
    apart: [["drive", "signal"]],
  },
  classes: { earth: { colour: "GNYE" } },
  outer: [
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
  ends: [
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
};

export interface RuleNote {
  text: string;
  unit: string;
  source: string;
}

const SHOP = "shop default";

/** What each number of the route rules means; every working quotes from here. */
export const ROUTE_RULE_NOTES: Record<keyof RouteRules, RuleNote> = {
  slackMm: { text: "slack at an end", unit: "mm", source: SHOP },
  slackDoorMm: { text: "slack at an end on a door", unit: "mm", source: SHOP },
  bendFromMm2: { text: "slack for bending from a cross-section of", unit: "mm²", source: SHOP },
  bendDiameters: { text: "slack for bending at an end", unit: "outer diameters", source: SHOP },
  loopHingeMm: { text: "loop at a hinge", unit: "mm", source: SHOP },
  loopWallMm: { text: "loop at a wall", unit: "mm", source: SHOP },
  loopEdgeMm: { text: "loop at an edge", unit: "mm", source: SHOP },
  reservePercent: { text: "reserve on the sum", unit: "%", source: SHOP },
  stepMm: { text: "cut lengths go up in steps of", unit: "mm", source: SHOP },
  shortestLeadMm: { text: "shortest lead", unit: "mm", source: SHOP },
  reachMm: { text: "reach to the outline of a duct", unit: "mm", source: SHOP },
  corridorMm: { text: "a pin looks ahead, to each side", unit: "mm", source: SHOP },
  nearerMm: { text: "a duct ahead is doubted when another is nearer by more than", unit: "mm", source: SHOP },
  crossingOffMm: { text: "the end of a crossing is doubted when off its duct by more than", unit: "mm", source: SHOP },
  joinGapMm: { text: "ducts are joined up to a gap of", unit: "mm", source: SHOP },
  watchGapMm: { text: "gaps between duct ends are reported up to", unit: "mm", source: SHOP },
  directReachMm: { text: "direct lead without a duct up to", unit: "mm", source: SHOP },
  fillWatchPercent: { text: "duct fill to watch from", unit: "%", source: SHOP },
  fillLimitPercent: { text: "duct fill limit", unit: "%", source: SHOP },
  detourMostMm: { text: "longest detour round a full duct", unit: "mm", source: SHOP },
  apartWeight: { text: "where no way is clear, a metre together counts as", unit: "m of way", source: SHOP },
  apart: { text: "classes that do not share a duct", unit: "", source: SHOP },
};

/** The rule that gives the loop of a crossing without its own. */
export const LOOPS = { hinge: "loopHingeMm", wall: "loopWallMm", edge: "loopEdgeMm" } as const;

/** Source of the outer diameters counted with when a wire type does not state its own. */
export const OUTER_SOURCE = "EN 50525-2-31, upper limit, single core PVC";

/** The shop's rules with a job's own on top. The job's list of end rules is looked at first. */
export function rulesFor(shop: Rules, job: RuleOverrides): Rules {
  const classes = { ...shop.classes };
  for (const [name, given] of Object.entries(job.classes ?? {})) {
    classes[name as NetClass] = { ...classes[name as NetClass], ...given };
  }
  const { crossingLoopMm: loop, ...own } = job.routes ?? {};
  const loops = loop === undefined ? {} : { loopHingeMm: loop, loopWallMm: loop, loopEdgeMm: loop };
  return {
    routes: { ...shop.routes, ...loops, ...own },
    classes,
    outer: shop.outer,
    ends: [...(job.ends ?? []), ...shop.ends],
  };
}
