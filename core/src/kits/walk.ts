import FlatQueue from "flatqueue";
import type { Aisle, KitRules, StorePlace } from "./rules";
import { byText, pushTo } from "../design/order";
import { tourOf } from "../solve/tour";
import type { Walk } from "./result";

/** Far beyond any store: such a way is never walked. m */
const NEVER = 1e6;

interface Ways {
  metres: Map<string, number>;
  /** The place before each, on the way to it. */
  before: Map<string, string>;
}

type Joined = ReadonlyMap<string, readonly { to: string; metres: number; way: number }[]>;

/** From every place of the store the ways that lead on, each both ways. */
export function joinedBy(aisles: readonly Aisle[]): Joined {
  const ways = new Map<string, { to: string; metres: number; way: number }[]>();
  aisles.forEach(({ from, to, metres }, way) => {
    pushTo(ways, from, { to, metres, way });
    pushTo(ways, to, { to: from, metres, way });
  });
  return ways;
}

/** Shortest ways from one place of the store to all others (Dijkstra 1959). O(ways log ways) */
export function waysFrom(start: string, ways: Joined): Ways {
  const found: Ways = { metres: new Map(), before: new Map() };
  const nearest = new Map([[start, 0]]);
  const open = new FlatQueue<string>();
  open.push(start, 0);
  for (let here = open.pop(); here !== undefined; here = open.pop()) {
    if (found.metres.has(here)) continue;
    const least = nearest.get(here)!;
    found.metres.set(here, least);
    for (const { to, metres } of ways.get(here) ?? []) {
      const far = least + metres;
      if (found.metres.has(to) || far >= (nearest.get(to) ?? Infinity)) continue;
      nearest.set(to, far);
      open.push(to, far);
      found.before.set(to, here);
    }
  }
  return found;
}

/** How hard a single walk is looked for, as long as it passes few places of the ways. */
const ALONE = 4;
const FEW = 160;

/** Where a walk passes: at a place of the ways, so far along its shelf. */
interface Stop {
  at: string;
  metres: number;
}

export type StoreRules = Pick<KitRules, "aisles" | "places" | "start" | "end">;

/** A store as its rules describe it; ways are worked out once and kept. */
export interface Store {
  /** The row whose beginning fits a stock place, the longest of several; undefined where none does. O(length of its name) */
  rowFor(place: string): StorePlace | undefined;
  /** Whether a way leads there from where walks begin. */
  reaches(at: string): boolean;
  /** Places of the ways from one to another, both included; empty where no way leads there. */
  past(a: string, b: string): string[];
  /** Metres between two stock places; null where nothing leads to one of them. */
  between(a: string, b: string): number | null;
  /**
   * Stock places in the order of the shortest walk found: from where walks begin, past all, to where they end. What is reached at one
   * and the same place of the ways is fetched at once, from the nearest to the farthest along its shelf: the shortest walk does so too.
   * Up to seven places of the ways it is the shortest of all; beyond, as good as its bound says. O(places log places) and a tour of
   * the places of the ways
   * @param effort less of it where there are many walks to find
   */
  walk(wanted: readonly string[], effort?: number): Walk;
}

/** Stores by their rules: walks that were found are kept with them. */
const stores = new WeakMap<StoreRules, Store>();

export function storeOf(rules: StoreRules): Store {
  let store = stores.get(rules);
  if (!store) stores.set(rules, (store = newStore(rules)));
  return store;
}

/** Walks that were found last. */
const MOST_WALKS = 200;

function newStore({ aisles, places, start, end }: StoreRules): Store {
  const walks = new Map<string, Walk>();
  const byBeginning = new Map([...places].reverse().map((row) => [row.begins, row]));
  const joined = joinedBy(aisles);
  const ways = new Map<string, Ways>();
  const waysOf = (a: string): Ways => {
    let found = ways.get(a);
    if (!found) ways.set(a, (found = waysFrom(a, joined)));
    return found;
  };
  const from = (a: string): Map<string, number> => waysOf(a).metres;
  const way = (a: Stop, b: Stop): number =>
    a.at === b.at ? Math.abs(a.metres - b.metres) : a.metres + (from(a.at).get(b.at) ?? NEVER) + b.metres;
  const rowFor = (place: string): StorePlace | undefined => {
    for (let n = place.length; n > 0; n--) {
      const row = byBeginning.get(place.slice(0, n));
      if (row) return row;
    }
    return undefined;
  };
  const reaches = (at: string): boolean => from(start).has(at);
  /** A stock place that can be walked to. */
  const reached = (place: string): StorePlace | undefined => {
    const row = rowFor(place);
    return row && reaches(row.at) ? row : undefined;
  };
  return {
    rowFor,
    reaches,
    past(a, b) {
      const { metres, before } = waysOf(a);
      if (!metres.has(b)) return [];
      const way = [b];
      for (let at = b; at !== a; at = before.get(at)!) way.unshift(before.get(at)!);
      return way;
    },
    between(a, b) {
      const [one, two] = [reached(a), reached(b)];
      return one && two ? way(one, two) : null;
    },
    walk(wanted, effort = ALONE) {
      const key = JSON.stringify([effort, wanted]);
      const found = walks.get(key) ?? walkPast(wanted, effort);
      walks.delete(key);
      walks.set(key, found);
      if (walks.size > MOST_WALKS) walks.delete(walks.keys().next().value!);
      return found;
    },
  };
  function walkPast(wanted: readonly string[], effort: number): Walk {
    const list = [...new Set(wanted)];
    const known = list.filter((p) => reached(p));
    const stopOf = new Map(known.map((p) => [p, rowFor(p)!]));
    const shelves = new Map<string, string[]>();
    for (const p of known) pushTo(shelves, stopOf.get(p)!.at, p);
    const last = reaches(end) ? end : start;
    // Along each shelf to its farthest place and back.
    let along = 0;
    for (const there of shelves.values()) {
      there.sort((a, b) => stopOf.get(a)!.metres - stopOf.get(b)!.metres || byText(a, b));
      along += 2 * stopOf.get(there[there.length - 1]!)!.metres;
    }
    const corners = [...shelves.keys()].filter((at) => at !== start && at !== last);
    const tour = tourPast(corners, start, last, (a, b) => from(a).get(b) ?? NEVER, effort);
    const order = [start, ...tour.order, ...(last === start ? [] : [last])];
    const bound = Math.max(tour.bound ?? 0, leastBy(joined, start, last, new Set(corners)));
    const unknown = list.filter((p) => !stopOf.has(p));
    return {
      stops: [...order.flatMap((at) => shelves.get(at) ?? []), ...unknown],
      metres: tour.length + along,
      boundMetres: tour.bound === null && bound === 0 ? null : Math.min(bound, tour.length) + along,
      listMetres: [...known.map((p) => stopOf.get(p)!), { at: last, metres: 0 }].reduce(
        ({ sum, before }, stop) => ({ sum: sum + way(before, stop), before: stop }),
        { sum: 0, before: { at: start, metres: 0 } as Stop },
      ).sum,
      unknown,
    };
  }
}

/** The shortest way found from one place past all others to another one, or round; its bound null where nobody looked. */
function tourPast(
  corners: readonly string[],
  start: string,
  end: string,
  far: (a: string, b: string) => number,
  effort: number,
): { order: string[]; length: number; bound: number | null } {
  const round = start === end;
  // A round: from the beginning past all to the end, and from there back for nothing.
  const all: (string | null)[] = round ? [start, ...corners] : [null, start, ...corners, end];
  const n = all.length;
  const cost = (i: number, j: number): number => {
    const [a, b] = [all[i], all[j]];
    if (typeof a === "string" && typeof b === "string") return far(a, b);
    const other = typeof a === "string" ? i : j;
    return other === 1 || other === n - 1 ? 0 : NEVER;
  };
  const points = all.map((_, i) => ({ x: i, y: 0 }));
  const { order, length, bound } = tourOf(points, (a, b) => cost(a.x, b.x), n <= FEW ? effort : Math.min(1, effort));
  const rest = order.slice(1);
  // The round begins at nothing: beside it stand beginning and end, in either direction.
  const forward = round || rest[0] === 1 ? rest : [...rest].reverse();
  return {
    order: forward.filter((i) => round || (i !== 1 && i !== n - 1)).map((i) => all[i]!),
    length,
    bound: bound <= 0 && length > 0 ? null : bound,
  };
}

/**
 * What no walk falls below, by the ways that cannot be gone round: each is walked there and back where something wanted lies behind
 * it, and once where the end does. In a store whose ways form no ring this is the shortest walk itself. O(ways)
 */
function leastBy(ways: Joined, start: string, end: string, wanted: ReadonlySet<string>): number {
  let least = 0;
  // Depth first without calling itself: a way is needed if nothing behind it leads to before it (Tarjan 1974).
  const seen = new Map([[start, 0]]);
  const low = new Map([[start, 0]]);
  const holds = new Map<string, { wanted: boolean; end: boolean }>([[start, { wanted: false, end: start === end }]]);
  const stack: { at: string; by: { from: string; metres: number; way: number } | null; next: number }[] = [
    { at: start, by: null, next: 0 },
  ];
  while (stack.length > 0) {
    const top = stack[stack.length - 1]!;
    const out = ways.get(top.at)?.[top.next++];
    if (out) {
      if (out.way === top.by?.way) continue;
      const there = seen.get(out.to);
      if (there !== undefined) {
        low.set(top.at, Math.min(low.get(top.at)!, there));
        continue;
      }
      seen.set(out.to, seen.size);
      low.set(out.to, seen.get(out.to)!);
      holds.set(out.to, { wanted: wanted.has(out.to), end: out.to === end });
      stack.push({ at: out.to, by: { from: top.at, metres: out.metres, way: out.way }, next: 0 });
      continue;
    }
    stack.pop();
    if (!top.by) continue;
    const { from, metres } = top.by;
    const [behind, before] = [holds.get(top.at)!, holds.get(from)!];
    if (low.get(top.at)! > seen.get(from)!)
      least += behind.end && start !== end ? metres : behind.wanted ? 2 * metres : 0;
    low.set(from, Math.min(low.get(from)!, low.get(top.at)!));
    before.wanted ||= behind.wanted;
    before.end ||= behind.end;
  }
  return least;
}
