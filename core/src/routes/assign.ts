import { NET_CLASSES, type NetClass } from "../design/model";
import type { RouteRules } from "./rules";
import { toNm } from "../design/tolerance";
import { Raised, rangesOf, type Cells } from "./cells";
import { HOPS, type Network } from "./network";
import { relieve } from "./relieve";
import { apartFrom, holdersOf, type Chosen, type Trip } from "./trip";
import { findWay, reversed, Trees, type PartCost, type Way } from "./search";

/** Of what is told of progress, the share of relieving full ducts. */
const FOR_RELIEF = 0.3;

export type Progress = (done: number, total: number) => void;

/**
 * Chooses a way for every trip: the shortest, unless that leads it together with a class it may not
 * share a duct with, or through a duct that is full.
 *
 * Classes take turns: the first of every pair that stays apart goes before the second, and the second
 * keeps out of the cells the first lies in. Where no way within the longest detour is clear it takes its
 * shortest one all the same. Then ducts over their limit give up wires, see `relieve`.
 * @returns one choice per trip, null where there is no way, and over-full pieces that could not be relieved in time.
 * Independent of the order of trips.
 */
export function chooseWays(
  net: Network,
  cells: Cells,
  trips: readonly (Trip | null)[],
  rules: RouteRules,
  progress?: Progress,
  mostRelief?: number,
): { chosen: (Chosen | null)[]; unrelieved: number[] } {
  const chosen: (Chosen | null)[] = trips.map(() => null);
  const holders = new Map<NetClass, Float64Array>();
  const free = new Trees(net, null);
  let done = 0;
  for (const cls of classOrder(rules.apart)) {
    const group: number[] = [];
    trips.forEach((t, i) => {
      if (t && t.class === cls) group.push(i);
    });
    if (group.length === 0) continue;
    // In order of place, so that the few trees kept serve many wires.
    const start = (i: number): number => trips[i]!.tries[0]!.starts[0]?.position ?? 0;
    group.sort((i, j) => start(i) - start(j));
    const apart = cls ? keepApart(net, cells, cls, rules, holders) : null;
    const mine = new Raised(cells);
    for (const i of group) {
      const choice = choose(net, cells, trips[i]!, free, apart);
      chosen[i] = choice;
      if (choice) mine.raise(choice.ranges, 1);
      if (++done % 500 === 0) progress?.((1 - FOR_RELIEF) * done, trips.length);
    }
    if (cls) holders.set(cls, mine.total());
  }
  const relieving = (share: number): void =>
    progress?.((1 - FOR_RELIEF) * trips.length + FOR_RELIEF * share * trips.length, trips.length);
  const unrelieved = relieve(net, cells, trips, chosen, rules, relieving, mostRelief);
  markCompany(net, cells, trips, chosen, rules);
  return { chosen, unrelieved };
}

/**
 * Wires without a class, then the classes such that the first of every pair goes before the second. In a
 * ring of pairs the first of the ring in the list of classes begins.
 */
export function classOrder(apart: RouteRules["apart"]): (NetClass | null)[] {
  const order: NetClass[] = [];
  const left = new Set<NetClass>(NET_CLASSES);
  while (left.size > 0) {
    const waits = (c: NetClass): boolean => apart.some(([a, b]) => b === c && a !== c && left.has(a));
    const next = NET_CLASSES.find((c) => left.has(c) && !waits(c)) ?? NET_CLASSES.find((c) => left.has(c))!;
    order.push(next);
    left.delete(next);
  }
  return [null, ...order];
}

/** How a class keeps out of cells. */
interface Apart {
  clear(ranges: readonly number[]): boolean;
  trees: Trees;
  part: PartCost;
  /** What a way may cost more than the shortest. */
  mostMore: number;
}

/** Cells a class keeps out of: those of ducts kept for others, and those where a class lies it stays apart from. */
function keepApart(
  net: Network,
  cells: Cells,
  cls: NetClass,
  rules: RouteRules,
  holders: ReadonlyMap<NetClass, Float64Array>,
): Apart | null {
  const foes = apartFrom(cls, rules.apart).flatMap((c) => holders.get(c) ?? []);
  // Forbidden length before each boundary, so that any range is one subtraction.
  const before = new Float64Array(cells.count + 1);
  for (let p = 0; p < cells.count; p++) {
    const bars = net.bars[cells.bar[p]!]!.classes;
    const forbidden = cells.piece[p]! >= 0 && ((bars && !bars.includes(cls)) || foes.some((f) => f[p]! > 0));
    before[p + 1] = before[p]! + (forbidden ? cells.at[p + 1]! - cells.at[p]! : 0);
  }
  if (before[cells.count] === 0) return null;
  const forbidden = (p: number, q: number): number => Math.abs(before[q]! - before[p]!);
  const part: PartCost = (p, q) => (forbidden(p, q) > 0 ? Infinity : 0);
  const costs = Float64Array.from(net.edges, (e, i) =>
    e.kind === "piece" ? net.cost[i]! + part(cells.ofNode[e.a]!, cells.ofNode[e.b]!) : net.cost[i]!,
  );
  return {
    clear: (ranges) => {
      for (let i = 0; i < ranges.length; i += 2) if (forbidden(ranges[i]!, ranges[i + 1]!) > 0) return false;
      return true;
    },
    trees: new Trees(net, (e) => costs[e]!),
    part,
    // The count of changes of duct is no length.
    mostMore: (toNm(rules.detourMostMm) + 1) * HOPS - 1,
  };
}

const NO_COST: PartCost = () => 0;

/** The shortest way of a trip, whatever lies in the ducts; null where there is none. */
export function shortestOf(net: Network, cells: Cells, free: Trees, trip: Trip): { way: Way; taken: number } | null {
  for (const [taken, { starts, goals }] of trip.tries.entries()) {
    const way = findWay(net, free, cells.ofNode, NO_COST, starts, goals);
    if (way) return { way, taken };
  }
  return null;
}

function choose(net: Network, cells: Cells, trip: Trip, free: Trees, apart: Apart | null): Chosen | null {
  const found = shortestOf(net, cells, free, trip);
  if (!found) return null;
  const { way: shortest, taken } = found;
  const ranges = rangesOf(net, cells, shortest);
  const stays: Chosen = { way: shortest, taken, ranges, shortest, why: "shortest", shared: false, excluded: false };
  if (!apart || apart.clear(ranges)) return stays;
  const { starts, goals } = trip.tries[taken]!;
  const way = findWay(net, apart.trees, cells.ofNode, apart.part, starts, goals, shortest.cost + apart.mostMore);
  return way ? { ...stays, way, ranges: rangesOf(net, cells, way), why: "class" } : stays;
}

/** Marks wires that lie beside a class that goes before theirs, or in a duct kept for others. */
function markCompany(
  net: Network,
  cells: Cells,
  trips: readonly (Trip | null)[],
  chosen: readonly (Chosen | null)[],
  rules: RouteRules,
): void {
  const holders = holdersOf(cells, trips, chosen);
  const prefix = new Map<NetClass, Float64Array>();
  for (const cls of NET_CLASSES) {
    const before = rules.apart.filter(([a, b]) => b === cls && a !== cls).flatMap(([a]) => holders.get(a) ?? []);
    if (before.length === 0) continue;
    const sums = new Float64Array(cells.count + 1);
    for (let p = 0; p < cells.count; p++) sums[p + 1] = sums[p]! + (before.some((f) => f[p]! > 0) ? 1 : 0);
    prefix.set(cls, sums);
  }
  chosen.forEach((c, i) => {
    const cls = trips[i]?.class;
    if (!c || !cls) return;
    const sums = prefix.get(cls);
    for (let k = 0; k < c.ranges.length; k += 2) {
      const [lo, hi] = [c.ranges[k]!, c.ranges[k + 1]!];
      if (sums && sums[hi]! > sums[lo]!) c.shared = true;
      const kept = net.bars[cells.bar[lo]!]!.classes;
      if (kept && !kept.includes(cls)) c.excluded = true;
    }
  });
}

/** Length of a way through the network, nm: what it takes on ducts and crossings, and loops apart. */
export function lengthOf(net: Network, way: Way): { nm: number; loopNm: number } {
  let nm = way.from.asideNm + way.to.asideNm;
  let loopNm = 0;
  if (way.first < 0) nm += Math.abs(way.from.t - way.to.t);
  else nm += Math.abs(way.from.t - net.nodeAt[way.first]!) + Math.abs(way.to.t - net.nodeAt[way.last]!);
  for (const e of way.edges) {
    nm += net.edges[e]!.nm;
    loopNm += net.edges[e]!.loopNm;
  }
  return { nm, loopNm };
}

/** The way as the wire runs, from its first end to its second. */
export const asWired = (trip: Trip, way: Way): Way => (trip.turned ? reversed(way) : way);
