import type { Aisle, KitRules, StorePlace } from "../design/kit-rules";
import { pushTo } from "../design/order";
import { lengthOf, tourOf } from "../design/tour";
import type { Walk } from "./result";

/** Far beyond any store: such a way is never walked. m */
const NEVER = 1e6;

/** Shortest ways from one place of the store to all others. O(places²), which is enough for a store */
export function distancesFrom(start: string, aisles: readonly Aisle[]): Map<string, number> {
  const ways = new Map<string, { to: string; metres: number }[]>();
  for (const { from, to, metres } of aisles) {
    pushTo(ways, from, { to, metres });
    pushTo(ways, to, { to: from, metres });
  }
  const found = new Map<string, number>();
  const open = new Map([[start, 0]]);
  while (open.size > 0) {
    let [here, least] = ["", Infinity];
    for (const [place, metres] of open) if (metres < least) [here, least] = [place, metres];
    open.delete(here);
    found.set(here, least);
    for (const { to, metres } of ways.get(here) ?? [])
      if (!found.has(to)) open.set(to, Math.min(open.get(to) ?? Infinity, least + metres));
  }
  return found;
}

/** The row whose beginning fits a stock place, the longest of several; undefined where none does. */
export const rowFor = (place: string, places: readonly StorePlace[]): StorePlace | undefined =>
  places.reduce<StorePlace | undefined>(
    (best, row) => (place.startsWith(row.begins) && row.begins.length > (best?.begins.length ?? -1) ? row : best),
    undefined,
  );

/**
 * Stock places in the order of the shortest walk found: from where walks begin, past all, to where they end. Two places reached at
 * one and the same place of the ways are walked between along their shelf. Up to eight places it is the shortest of all; beyond, as
 * good as its bound says. O(places² · steps of the bound)
 */
export function walkOf(
  wanted: readonly string[],
  { aisles, places, start, end }: Pick<KitRules, "aisles" | "places" | "start" | "end">,
): Walk {
  const list = [...new Set(wanted)];
  const rows = new Map(list.map((p) => [p, rowFor(p, places)]));
  const known = list.filter((p) => rows.get(p) !== undefined);
  const unknown = list.filter((p) => rows.get(p) === undefined);
  const from = new Map<string, Map<string, number>>();
  const between = (a: string, b: string): number => {
    let ways = from.get(a);
    if (!ways) from.set(a, (ways = distancesFrom(a, aisles)));
    return ways.get(b) ?? NEVER;
  };
  interface Stop {
    at: string;
    metres: number;
  }
  const stops: Stop[] = known.map((p) => {
    const row = rows.get(p)!;
    return { at: row.at, metres: row.metres };
  });
  const way = (a: Stop, b: Stop): number =>
    a.at === b.at ? Math.abs(a.metres - b.metres) : a.metres + between(a.at, b.at) + b.metres;
  const first: Stop = { at: start, metres: 0 };
  const last: Stop = { at: end, metres: 0 };
  // A round: from the beginning past all to the end, and from there back for nothing.
  const all: (Stop | null)[] = start === end ? [first, ...stops] : [null, first, ...stops, last];
  const n = all.length;
  const cost = (i: number, j: number): number => {
    const [a, b] = [all[i], all[j]];
    if (!a || !b) {
      const other = a === null ? j : i;
      return other === 1 || other === n - 1 ? 0 : NEVER;
    }
    return way(a, b);
  };
  const points = all.map((_, i) => ({ x: i, y: 0 }));
  const { order, length, bound } = tourOf(points, (a, b) => cost(a.x, b.x));
  const walked = directed(order, start !== end, n);
  const offset = start === end ? 1 : 2;
  return {
    stops: [...walked.map((i) => known[i - offset]!), ...unknown],
    metres: length,
    boundMetres: Math.min(bound, length),
    listMetres: lengthOf(
      start === end ? points.map((_, i) => i) : [0, ...points.slice(1).map((_, i) => i + 1)],
      points,
      (a, b) => cost(a.x, b.x),
    ),
    unknown,
  };
}

/** Stops alone, in the direction from the beginning to the end. */
function directed(order: readonly number[], open: boolean, n: number): number[] {
  if (!open) return order.slice(1);
  // The round begins at nothing: beside it stand beginning and end, in either direction.
  const rest = order.slice(1);
  const forward = rest[0] === 1 ? rest : [...rest].reverse();
  return forward.filter((i) => i !== 1 && i !== n - 1);
}
