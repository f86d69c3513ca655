import type { NetClass } from "../design/model";
import { byText } from "../design/order";
import type { RouteRules } from "./rules";
import { toNm } from "../design/tolerance";
import { piecesOf, rangesOf, type Cells } from "./cells";
import { HOPS, type Network } from "./network";
import { findWay, Trees, type PartCost, type Way } from "./search";
import { apartFrom, holdersOf, loadOf, type Chosen, type Trip } from "./trip";

/** Wires that could change places with each other: same ends, class, thickness and way. */
interface Group {
  /** Trips that still lie there, by wire number, last first. */
  trips: number[];
  /** Another way with room for one of them; null when there is none. */
  way: Way | null;
  ranges: number[];
  /** What the other way costs more. */
  extra: number;
  /** Breaks ties: where it begins, where it ends, first wire. */
  place: string;
}

/**
 * What all searches together may look at. Beyond it ducts stay as full as they are: a panel that is built takes less
 * than a hundredth, and no shop waits for the ten thousandth detour through ducts that are full everywhere.
 */
const MOST_WORK = 20_000_000;

/**
 * Leads wires out of ducts that are over their limit, while another way within the longest detour has
 * room for them and keeps them as far from other classes as they are. An equally long way will do.
 *
 * Pieces are taken by place. Out of a piece goes the wire whose other way costs least more; of equal
 * ones by place of its ends, then by its number. Changes `chosen` in place.
 * O(over-full pieces · groups of like wires in them · search within the longest detour), up to `most`.
 * @returns over-full pieces that were not looked at, or not to the end, because all searches took too long
 */
export function relieve(
  net: Network,
  cells: Cells,
  trips: readonly (Trip | null)[],
  chosen: (Chosen | null)[],
  rules: RouteRules,
  progress?: (share: number) => void,
  most = MOST_WORK,
): number[] {
  if (rules.detourMostMm <= 0) return [];
  const load = loadOf(cells, trips, chosen);
  const room = net.bars.map(({ insideMm2 }) => (insideMm2 === 0 ? Infinity : insideMm2 * 1e4 * rules.fillLimitPercent));
  const over = (p: number): boolean => cells.piece[p]! >= 0 && load[p]! > room[cells.bar[p]!]!;
  const pieces = new Set<number>();
  for (let p = 0; p < cells.count; p++) if (over(p)) pieces.add(cells.piece[p]!);
  const left = [...pieces];
  if (left.length === 0) return left;
  const detours = new Detours(net, cells, load, room, holdersOf(cells, trips, chosen), rules);
  const riders = ridersOf(net, cells, chosen, pieces);
  const like = new Likeness(trips, chosen);
  const isOver = (piece: number): boolean => {
    const { a, b } = net.edges[piece]!;
    const hi = cells.ofNode[b]!;
    for (let p = cells.ofNode[a]!; p < hi; p++) if (over(p)) return true;
    return false;
  };
  for (const [done, piece] of left.entries()) {
    progress?.(Math.max(done / left.length, detours.work / most));
    const { a, b } = net.edges[piece]!;
    const [lo, hi] = [cells.ofNode[a]!, cells.ofNode[b]!];
    const liesInOver = ({ trips: [first] }: Group): boolean => {
      if (first === undefined) return false;
      const { ranges } = chosen[first]!;
      for (let i = 0; i < ranges.length; i += 2) {
        for (let p = Math.max(lo, ranges[i]!); p < Math.min(hi, ranges[i + 1]!); p++) if (over(p)) return true;
      }
      return false;
    };
    const look = (g: Group): void => detours.look(g, trips[g.trips[0]!]!, chosen[g.trips[0]!]!, lo, hi);
    // Those with another way, the cheapest last. What lies in no over-full place any more never does again.
    const open: Group[] = [];
    for (const g of groupRiders(riders.get(piece)!, trips, chosen, like)) {
      if (detours.work > most) return left.slice(done).filter(isOver);
      if (!liesInOver(g)) continue;
      look(g);
      if (g.way) open.push(g);
    }
    open.sort(lastFirst);
    while (open.length > 0 && isOver(piece)) {
      if (detours.work > most) return left.slice(done).filter(isOver);
      const best = open[open.length - 1]!;
      if (!liesInOver(best)) {
        open.pop();
        continue;
      }
      const i = best.trips[best.trips.length - 1]!;
      if (detours.fits(best.ranges, trips[i]!, chosen[i]!)) {
        best.trips.pop();
        detours.move(trips[i]!, chosen[i]!, best);
        continue;
      }
      open.pop();
      look(best);
      if (best.way) open.splice(placeFor(open, best), 0, best);
    }
  }
  return [];
}

/** The cheapest other way last; of equal ones by place. */
const lastFirst = (a: Group, b: Group): number => b.extra - a.extra || byText(b.place, a.place);

/** Where a group belongs in a list that is in order. O(log n) */
function placeFor(list: readonly Group[], g: Group): number {
  let lo = 0;
  let hi = list.length;
  while (lo < hi) {
    const mid = (lo + hi) >> 1;
    if (lastFirst(list[mid]!, g) < 0) lo = mid + 1;
    else hi = mid;
  }
  return lo;
}

function ridersOf(
  net: Network,
  cells: Cells,
  chosen: readonly (Chosen | null)[],
  pieces: ReadonlySet<number>,
): Map<number, Set<number>> {
  const riders = new Map<number, Set<number>>([...pieces].map((p) => [p, new Set<number>()]));
  chosen.forEach((c, i) => {
    for (const p of c ? piecesOf(net, cells, c.ranges) : []) riders.get(p)?.add(i);
  });
  return riders;
}

/** Numbers for wires, equal for those that could change places with each other on the ways they have. */
class Likeness {
  readonly #trips: readonly (Trip | null)[];
  readonly #chosen: readonly (Chosen | null)[];
  readonly #numbers = new Map<string, number>();
  readonly #known = new Map<number, { way: Way; number: number }>();

  constructor(trips: readonly (Trip | null)[], chosen: readonly (Chosen | null)[]) {
    this.#trips = trips;
    this.#chosen = chosen;
  }

  of(i: number): number {
    const { way, taken, shortest } = this.#chosen[i]!;
    const known = this.#known.get(i);
    if (known?.way === way) return known.number;
    const trip = this.#trips[i]!;
    const { starts, goals } = trip.tries[taken]!;
    const ends = [...starts, ...goals].map((a) => `${a.position}:${a.cost}`).join();
    const key = `${ends} ${trip.class} ${trip.areaUm2} ${way.from.position} ${way.to.position} ${way.first} ${way.edges.join()} ${shortest.cost}`;
    const number = this.#numbers.get(key) ?? this.#numbers.size;
    this.#numbers.set(key, number);
    this.#known.set(i, { way, number });
    return number;
  }
}

/** Groups of like wires, by place. */
function groupRiders(
  riders: ReadonlySet<number>,
  trips: readonly (Trip | null)[],
  chosen: readonly (Chosen | null)[],
  like: Likeness,
): Group[] {
  const groups = new Map<number, Group>();
  for (const i of riders) {
    if (trips[i]!.areaUm2 === 0) continue;
    const key = like.of(i);
    const known = groups.get(key);
    if (known) known.trips.push(i);
    else groups.set(key, { trips: [i], way: null, ranges: [], extra: 0, place: "" });
  }
  for (const g of groups.values()) {
    g.trips.sort((i, j) => byText(trips[j]!.id, trips[i]!.id));
    const { way } = chosen[g.trips[0]!]!;
    const digits = (n: number): string => String(n).padStart(9, "0");
    g.place = `${digits(way.from.position)} ${digits(way.to.position)} ${trips[g.trips[g.trips.length - 1]!]!.id}`;
  }
  return [...groups.values()].sort((a, b) => byText(a.place, b.place));
}

/** Searches ways for one wire at a time through cells that have room for it. */
class Detours {
  readonly #net: Network;
  readonly #cells: Cells;
  readonly #load: Float64Array;
  readonly #room: readonly number[];
  readonly #holders: Map<NetClass, Float64Array>;
  readonly #rules: RouteRules;
  readonly #trees: Trees;
  readonly #own: Int32Array;
  /** Cells and edges looked at so far. */
  work = 0;
  #stamp = 0;
  #trip: Trip | null = null;
  #foes: Float64Array[] = [];
  #closed: [lo: number, hi: number] = [0, 0];

  constructor(
    net: Network,
    cells: Cells,
    load: Float64Array,
    room: readonly number[],
    holders: Map<NetClass, Float64Array>,
    rules: RouteRules,
  ) {
    this.#net = net;
    this.#cells = cells;
    this.#load = load;
    this.#room = room;
    this.#holders = holders;
    this.#rules = rules;
    this.#own = new Int32Array(cells.count);
    this.#trees = new Trees(net, (e) => this.#edgeCost(e));
  }

  /** Finds the group's other way; `lo` and `hi` bound the piece whose over-full cells it is to leave. */
  look(group: Group, trip: Trip, current: Chosen, lo: number, hi: number): void {
    this.#enter(trip, current, lo, hi);
    const { starts, goals } = trip.tries[current.taken]!;
    const most = current.shortest.cost + toNm(this.#rules.detourMostMm) * HOPS;
    const part: PartCost = (p, q) => (this.#open(Math.min(p, q), Math.max(p, q)) ? 0 : Infinity);
    group.way = findWay(this.#net, this.#trees, this.#cells.ofNode, part, starts, goals, most);
    group.ranges = group.way ? rangesOf(this.#net, this.#cells, group.way) : [];
    group.extra = group.way ? group.way.cost - current.way.cost : 0;
  }

  /** Whether there is still room on a way that was found before. */
  fits(ranges: readonly number[], trip: Trip, current: Chosen): boolean {
    this.#enter(trip, current, 0, 0);
    for (let i = 0; i < ranges.length; i += 2) if (!this.#open(ranges[i]!, ranges[i + 1]!)) return false;
    return true;
  }

  move(trip: Trip, current: Chosen, { way, ranges }: Group): void {
    this.#add(trip, current.ranges, -1);
    this.#add(trip, ranges, 1);
    current.way = way!;
    current.ranges = ranges;
    current.why = "fill";
  }

  #add(trip: Trip, ranges: readonly number[], sign: 1 | -1): void {
    const holders = trip.class && this.#holders.get(trip.class);
    for (let i = 0; i < ranges.length; i += 2) {
      for (let p = ranges[i]!; p < ranges[i + 1]!; p++) {
        this.#load[p]! += sign * trip.areaUm2;
        if (holders) holders[p]! += sign;
      }
    }
  }

  #enter(trip: Trip, current: Chosen, lo: number, hi: number): void {
    this.#trip = trip;
    this.#closed = [lo, hi];
    this.#foes = trip.class ? apartFrom(trip.class, this.#rules.apart).flatMap((c) => this.#holders.get(c) ?? []) : [];
    this.#stamp++;
    for (let i = 0; i < current.ranges.length; i += 2)
      this.#own.fill(this.#stamp, current.ranges[i]!, current.ranges[i + 1]!);
    this.#trees.forget();
  }

  /** Whether every cell from `lo` to `hi` takes the wire. */
  #open(lo: number, hi: number): boolean {
    const { bar } = this.#cells;
    const trip = this.#trip!;
    const [closedLo, closedHi] = this.#closed;
    this.work += hi - lo;
    for (let p = lo; p < hi; p++) {
      const room = this.#room[bar[p]!]!;
      const load = this.#load[p]!;
      if (this.#own[p] === this.#stamp) {
        if (p >= closedLo && p < closedHi && load > room) return false;
        continue;
      }
      if (load + trip.areaUm2 > room) return false;
      const kept = this.#net.bars[bar[p]!]!.classes;
      if (kept && trip.class && !kept.includes(trip.class)) return false;
      for (const f of this.#foes) if (f[p]! > 0) return false;
    }
    return true;
  }

  #edgeCost(e: number): number {
    const edge = this.#net.edges[e]!;
    this.work++;
    if (edge.kind !== "piece") return this.#net.cost[e]!;
    const { ofNode } = this.#cells;
    return this.#open(ofNode[edge.a]!, ofNode[edge.b]!) ? this.#net.cost[e]! : Infinity;
  }
}
