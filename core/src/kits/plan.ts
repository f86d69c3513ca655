import type { KitRules, PlanPlace } from "./rules";
import type { Walk } from "./result";
import { storeOf, type Store } from "./walk";

export interface PlanPoint {
  x: number;
  y: number;
}

/** The store as it is drawn: metres, y up. */
export interface StorePlan {
  corners: (PlanPoint & { at: string })[];
  aisles: { from: PlanPoint; to: PlanPoint; metres: number }[];
  /** From the place of the ways to the farthest stock place on it. */
  shelves: { at: string; from: PlanPoint; to: PlanPoint }[];
  stops: (PlanPoint & { place: string; nth: number })[];
  /** The way that is walked, corner by corner. */
  way: PlanPoint[];
  /** Places of the ways without a row in the plan: what passes them is not drawn. */
  lacking: string[];
}

const STEP: Record<NonNullable<PlanPlace["shelf"]>, PlanPoint> = {
  up: { x: 0, y: 1 },
  down: { x: 0, y: -1 },
  left: { x: -1, y: 0 },
  right: { x: 1, y: 0 },
};

type PlanRules = Pick<KitRules, "aisles" | "places" | "plan" | "start" | "end">;

/** A walk on the plan of the store. O(places · places of the ways) */
export function planOf(rules: PlanRules, walk: Walk, store: Store = storeOf(rules)): StorePlan {
  const rows = new Map([...rules.plan].reverse().map((p) => [p.at, p]));
  const named = new Set([...rules.aisles.flatMap((a) => [a.from, a.to]), rules.start, rules.end]);
  const at = (place: string, metres = 0): PlanPoint | undefined => {
    const row = rows.get(place);
    const step = STEP[row?.shelf ?? "up"];
    return row && { x: row.x + step.x * metres, y: row.y + step.y * metres };
  };
  const aisles = rules.aisles.flatMap(({ from, to, metres }) => {
    const [a, b] = [at(from), at(to)];
    return a && b ? [{ from: a, to: b, metres }] : [];
  });
  const farthest = new Map<string, number>();
  for (const { at: corner, metres } of rules.places) farthest.set(corner, Math.max(metres, farthest.get(corner) ?? 0));
  const shelves = [...farthest].flatMap(([corner, metres]) => {
    const [a, b] = [at(corner), at(corner, metres)];
    return a && b && metres > 0 ? [{ at: corner, from: a, to: b }] : [];
  });
  const unknown = new Set(walk.unknown);
  const known = walk.stops.filter((p) => !unknown.has(p)).map((place) => ({ place, row: store.rowFor(place)! }));
  const stops = known.flatMap(({ place, row }, i) => {
    const point = at(row.at, row.metres);
    return point ? [{ ...point, place, nth: i + 1 }] : [];
  });
  const end = store.reaches(rules.end) ? rules.end : rules.start;
  const way: (PlanPoint | undefined)[] = [at(rules.start)];
  let here = rules.start;
  for (const { row } of [...known, { row: { at: end, metres: 0 } }]) {
    if (row.at !== here) for (const corner of store.past(here, row.at)) way.push(at(corner));
    here = row.at;
    way.push(at(row.at, row.metres));
  }
  return {
    corners: [...named].flatMap((name) => {
      const point = at(name);
      return point ? [{ ...point, at: name }] : [];
    }),
    aisles,
    shelves,
    stops,
    way: way.filter((p): p is PlanPoint => p !== undefined),
    lacking: [...named].filter((name) => !rows.has(name)),
  };
}
