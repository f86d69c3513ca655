import type { NetClass } from "../design/model";
import type { RouteRules } from "../design/rules";
import { toUm } from "../design/tolerance";
import { pieceAt, type Foot, type Network } from "./network";
import { findWay, piecesOf, treeSource, type Way } from "./search";

/** A wire as the choice of ways sees it. */
export interface Trip {
  a: Foot;
  b: Foot;
  class: NetClass | null;
  /** Area its outer diameter fills, mm²; 0 when the size is not known. */
  areaMm2: number;
}

export interface Chosen {
  way: Way;
  pieces: number[];
  /** The shortest way there is, when the chosen one is longer, µm with loops. */
  shortestUm: number | null;
  why: "shortest" | "class" | "fill";
  /** It lies together with a class it may not lie with: there was no other way. */
  shared: boolean;
}

export type Progress = (done: number, total: number) => void;

/**
 * Chooses a way for every trip: the shortest, unless that leads it together with a class it may not
 * share a duct with, or through a duct that is full.
 *
 * Classes take turns: the first of every pair that stays apart goes before the second, and the second
 * keeps out of pieces the first lies in. Then every piece over its limit gives up wires that only
 * pass through it, while another way within the detour limit has room for them.
 * @returns one choice per trip, null where there is no way; deterministic, ties by order of trips
 */
export function chooseWays(
  net: Network,
  trips: readonly (Trip | null)[],
  rules: RouteRules,
  progress?: Progress,
): (Chosen | null)[] {
  const chosen: (Chosen | null)[] = trips.map(() => null);
  const holders = new Map<NetClass, Uint8Array>();
  let done = 0;
  for (const cls of classOrder(rules)) {
    const group: number[] = [];
    trips.forEach((t, i) => {
      if (t && t.class === cls) group.push(i);
    });
    if (group.length === 0) continue;
    // In order of place, so that the few remembered trees serve many wires.
    group.sort((i, j) => startOf(net, trips[i]!) - startOf(net, trips[j]!) || i - j);
    const blocked = cls ? blockedFor(net, cls, rules, holders) : null;
    const free = treeSource(net, null);
    const apart = blocked ? treeSource(net, blocked) : null;
    const mine = new Uint8Array(net.edges.length);
    for (const i of group) {
      const trip = trips[i]!;
      const choice = choose(net, trip, free, apart, blocked);
      chosen[i] = choice;
      for (const p of choice?.pieces ?? []) mine[p] = 1;
      if (++done % 500 === 0) progress?.(done, trips.length);
    }
    if (cls) holders.set(cls, mine);
  }
  relieve(net, trips, chosen, rules, holders);
  return chosen;
}

function startOf(net: Network, trip: Trip): number {
  return Math.min(pieceAt(net.bars[trip.a.bar]!, trip.a.t), pieceAt(net.bars[trip.b.bar]!, trip.b.t));
}

/** Wires without a class first, then the classes named first in a pair, then the rest. */
function classOrder(rules: RouteRules): (NetClass | null)[] {
  const order: (NetClass | null)[] = [null];
  const all: NetClass[] = ["supply", "drive", "control", "signal", "earth"];
  const second = new Set(rules.apart.map(([, b]) => b));
  for (const c of all) if (!second.has(c)) order.push(c);
  for (const c of all) if (second.has(c)) order.push(c);
  return order;
}

/** Pieces a class keeps out of: those of another's duct, and those where a class lies it stays apart from. */
function blockedFor(
  net: Network,
  cls: NetClass,
  rules: RouteRules,
  holders: ReadonlyMap<NetClass, Uint8Array>,
): Uint8Array | null {
  const blocked = new Uint8Array(net.edges.length);
  let any = false;
  const foes = rules.apart.flatMap(([a, b]) => (a === cls ? [b] : b === cls ? [a] : []));
  net.edges.forEach((e, i) => {
    if (e.kind !== "piece") return;
    const classes = net.bars[e.bar]!.classes;
    if ((classes && !classes.includes(cls)) || foes.some((f) => holders.get(f)?.[i])) {
      blocked[i] = 1;
      any = true;
    }
  });
  return any ? blocked : null;
}

const total = (way: Way): number => way.um + way.loopUm;

function choose(
  net: Network,
  trip: Trip,
  free: ReturnType<typeof treeSource>,
  apart: ReturnType<typeof treeSource> | null,
  blocked: Uint8Array | null,
): Chosen | null {
  const shortest = findWay(net, free, trip.a, trip.b);
  if (!shortest) return null;
  const plain = piecesOf(net, shortest, trip.a, trip.b);
  const meets = (pieces: number[]): boolean => blocked !== null && pieces.some((p) => blocked[p]);
  if (!apart || !meets(plain))
    return { way: shortest, pieces: plain, shortestUm: null, why: "shortest", shared: false };
  const round = findWay(net, apart, trip.a, trip.b);
  if (!round) return { way: shortest, pieces: plain, shortestUm: null, why: "shortest", shared: true };
  const pieces = piecesOf(net, round, trip.a, trip.b);
  return {
    way: round,
    pieces,
    shortestUm: total(round) > total(shortest) ? total(shortest) : null,
    why: "class",
    shared: meets(pieces),
  };
}

/** Leads passing wires out of pieces that are over their limit. */
function relieve(
  net: Network,
  trips: readonly (Trip | null)[],
  chosen: (Chosen | null)[],
  rules: RouteRules,
  holders: ReadonlyMap<NetClass, Uint8Array>,
): void {
  if (rules.detourMostMm <= 0) return;
  const used = new Float64Array(net.edges.length);
  const room = (p: number): number => {
    const inside = net.bars[net.edges[p]!.bar]!.insideMm2;
    return inside === 0 ? Infinity : (inside * rules.fillLimitPercent) / 100;
  };
  chosen.forEach((c, i) => c?.pieces.forEach((p) => (used[p]! += trips[i]!.areaMm2)));
  const over: number[] = [];
  net.edges.forEach((e, p) => {
    if (e.kind === "piece" && used[p]! > room(p)) over.push(p);
  });
  if (over.length === 0) return;
  const detourMost = toUm(rules.detourMostMm);
  for (const piece of over) {
    const hopeless = new Set<string>();
    for (let i = 0; i < trips.length && used[piece]! > room(piece); i++) {
      const trip = trips[i];
      const current = chosen[i];
      if (!trip || !current || trip.areaMm2 === 0 || !current.pieces.includes(piece)) continue;
      const pa = pieceAt(net.bars[trip.a.bar]!, trip.a.t);
      const pb = pieceAt(net.bars[trip.b.bar]!, trip.b.t);
      if (pa === piece || pb === piece) continue;
      const key = `${pa} ${pb} ${trip.class} ${trip.areaMm2}`;
      if (hopeless.has(key)) continue;
      const apart = trip.class && blockedFor(net, trip.class, rules, holders);
      const blocked = apart ? apart.slice() : new Uint8Array(net.edges.length);
      const own = new Set(current.pieces);
      net.edges.forEach((e, p) => {
        if (e.kind === "piece" && used[p]! + (own.has(p) ? 0 : trip.areaMm2) > room(p)) blocked[p] = 1;
      });
      const way = findWay(net, treeSource(net, blocked), trip.a, trip.b);
      const shortestUm = current.shortestUm ?? total(current.way);
      if (!way || total(way) - shortestUm > detourMost || way.cost === current.way.cost) {
        hopeless.add(key);
        continue;
      }
      for (const p of current.pieces) used[p]! -= trip.areaMm2;
      const pieces = piecesOf(net, way, trip.a, trip.b);
      for (const p of pieces) used[p]! += trip.areaMm2;
      chosen[i] = {
        way,
        pieces,
        shortestUm: total(way) > shortestUm ? shortestUm : null,
        why: "fill",
        shared: apart ? pieces.some((p) => apart[p]) : false,
      };
      const held = trip.class && holders.get(trip.class);
      if (held) for (const p of pieces) held[p] = 1;
    }
  }
}
