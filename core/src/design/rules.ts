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
    crossingLoopMm: 250,
    reservePercent: 0,
    stepMm: 5,
    shortestLeadMm: 120,
    reachMm: 400,
    joinGapMm: 5,
    watchGapMm: 20,
    directReachMm: 150,
    fillWatchPercent: 55,
    fillLimitPercent: 70,
    detourMostMm: 2000,
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
  crossingLoopMm: { text: "loop at a crossing", unit: "mm", source: SHOP },
  reservePercent: { text: "reserve on the sum", unit: "%", source: SHOP },
  stepMm: { text: "cut lengths go up in steps of", unit: "mm", source: SHOP },
  shortestLeadMm: { text: "shortest lead", unit: "mm", source: SHOP },
  reachMm: { text: "reach from a pin to a duct", unit: "mm", source: SHOP },
  joinGapMm: { text: "ducts are joined up to a gap of", unit: "mm", source: SHOP },
  watchGapMm: { text: "gaps between duct ends are reported up to", unit: "mm", source: SHOP },
  directReachMm: { text: "direct lead without a duct up to", unit: "mm", source: SHOP },
  fillWatchPercent: { text: "duct fill to watch from", unit: "%", source: SHOP },
  fillLimitPercent: { text: "duct fill limit", unit: "%", source: SHOP },
  detourMostMm: { text: "longest detour round a full duct", unit: "mm", source: SHOP },
  apart: { text: "classes that do not share a duct", unit: "", source: SHOP },
};

/** Source of the outer diameters counted with when a wire type does not state its own. */
export const OUTER_SOURCE = "EN 50525-2-31, upper limit, single core PVC";

/** The shop's rules with a job's own on top. The job's list of end rules is looked at first. */
export function rulesFor(shop: Rules, job: RuleOverrides): Rules {
  const classes = { ...shop.classes };
  for (const [name, own] of Object.entries(job.classes ?? {})) {
    classes[name as NetClass] = { ...classes[name as NetClass], ...own };
  }
  return {
    routes: { ...shop.routes, ...job.routes },
    classes,
    outer: shop.outer,
    ends: [...(job.ends ?? []), ...shop.ends],
  };
}
