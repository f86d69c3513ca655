import type { Net, Part, Strand, Wire } from "../design/model";
import { OUTER_SOURCE } from "../routes/rules";
import type { EndTreatment } from "../design/model";
import type { EndRule } from "../routes/rules";
import type { Rules } from "../shop/rules";
import { sameSize, SIZE_TOLERANCE_MM2 } from "../design/tolerance";

/** Where a value of a wire was found. */
export type Origin = "wire" | "net" | "job class" | "shop class" | "wire type";

export interface Resolved<T> {
  value: T;
  origin: Origin;
}

type Classes = Rules["classes"];

/**
 * Colour or cross-section of a wire: the first that is given of the wire itself, its net, its class
 * in the job, its class in the shop's rules, the wire type it is cut from. Null when none is.
 */
export function resolve<K extends "colour" | "sizeMm2">(
  key: K,
  wire: Wire,
  net: Net | undefined,
  type: Part | undefined,
  jobClasses: Classes,
  shopClasses: Classes,
): Resolved<NonNullable<Wire[K]>> | null {
  const cls = net?.class;
  return (
    take(key, wire, "wire") ??
    take(key, net, "net") ??
    (cls ? (take(key, jobClasses[cls], "job class") ?? take(key, shopClasses[cls], "shop class")) : null) ??
    take(key, type?.wire, "wire type")
  );
}

const take = <K extends "colour" | "sizeMm2">(
  key: K,
  place: Partial<Record<K, unknown>> | undefined,
  origin: Origin,
): Resolved<NonNullable<Wire[K]>> | null => {
  const value = place?.[key];
  return value === undefined ? null : { value: value as NonNullable<Wire[K]>, origin };
};

export interface Outer {
  mm: number;
  source: string;
  /** True when the size stands in no table and the next larger one was taken. */
  fallback: boolean;
}

/**
 * Outer diameter to count with: the wire type's own, else the table's; a size between two of the
 * table takes the larger, a size above it grows the last diameter with the root of the area.
 */
export function outerOf(sizeMm2: number, type: Part | undefined, rules: Rules): Outer {
  if (type?.wire) return { mm: type.wire.outer, source: `wire type ${type.number}`, fallback: false };
  const row = rules.outer.find((r) => r.sizeMm2 >= sizeMm2 || sameSize(r.sizeMm2, sizeMm2));
  if (row) return { mm: row.outerMm, source: OUTER_SOURCE, fallback: !sameSize(row.sizeMm2, sizeMm2) };
  const last = rules.outer[rules.outer.length - 1]!;
  return {
    mm: last.outerMm * Math.sqrt(sizeMm2 / last.sizeMm2),
    source: `${OUTER_SOURCE}, extended`,
    fallback: true,
  };
}

/** Cross-section of a gauge, mm². 0, 00 and so on are 0, −1 and so on. ASTM B258. */
export const awgMm2 = (n: number): number => 0.012668 * 92 ** ((36 - n) / 19.5);

/** The gauge nearest to a cross-section, as it is written: `14`, `2/0`. */
export function nearestAwg(sizeMm2: number): string {
  const n = Math.round(36 - (19.5 * Math.log(sizeMm2 / 0.012668)) / Math.log(92));
  return n >= 1 ? String(n) : `${1 - n}/0`;
}

export interface EndQuery {
  clamp: string | undefined;
  strand: Strand;
  twin: boolean;
  sizeMm2: number;
}

/** The first rule that fits, or null: then nobody said what to do with this end. */
export const endTreatment = (rules: Rules, query: EndQuery): EndTreatment | null => endRule(rules, query)?.end ?? null;

const endRule = (rules: Rules, query: EndQuery): EndRule | null => rules.ends[endRuleIndex(rules, query)] ?? null;

/** Place of the first rule that fits, -1 when none does. */
export const endRuleIndex = (rules: Rules, query: EndQuery): number =>
  query.clamp === undefined ? -1 : rules.ends.findIndex((rule) => fits(rule, query) && fitsSize(rule, query));

const fits = (rule: EndRule, query: EndQuery): boolean =>
  (rule.clamp === undefined || rule.clamp === query.clamp) &&
  (rule.strand === undefined || rule.strand === query.strand) &&
  (rule.twin === undefined || rule.twin === query.twin);

/** Strand class of a wire: its own, that of its type, fine where neither says one. */
export const strandOf = (wire: Pick<Wire, "strand">, type: Pick<Part, "wire"> | undefined): Strand =>
  wire.strand ?? type?.wire?.strand ?? "fine";

/** Whether a row for a range of cross-sections takes one. */
export const fitsSize = (
  rule: { sizeMinMm2?: number; sizeMaxMm2?: number },
  { sizeMm2 }: Pick<EndQuery, "sizeMm2">,
): boolean =>
  (rule.sizeMinMm2 === undefined || sizeMm2 >= rule.sizeMinMm2 - SIZE_TOLERANCE_MM2) &&
  (rule.sizeMaxMm2 === undefined || sizeMm2 <= rule.sizeMaxMm2 + SIZE_TOLERANCE_MM2);

/**
 * Whether two conductors under one clamp would be treated as a pair if they were smaller, but are not:
 * every rule for pairs that fits them otherwise ends below their size. Returns the largest size such a
 * rule takes, mm², or null.
 */
export function twinTooLarge(rules: Rules, query: EndQuery): number | null {
  if (!query.twin || query.clamp === undefined || endRule(rules, query)?.twin === true) return null;
  const most = rules.ends
    .filter((rule) => rule.twin === true && fits(rule, query) && rule.sizeMaxMm2 !== undefined)
    .map((rule) => rule.sizeMaxMm2!)
    .filter((size) => size < query.sizeMm2);
  return most.length === 0 ? null : Math.max(...most);
}
