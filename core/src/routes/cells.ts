import type { Foot } from "./bars";
import { HOPS, isStop, pieceAt, type Network } from "./network";
import type { Entry } from "./attach";
import type { Access, Way } from "./search";

/**
 * Ducts cut wherever a wire may begin, end or turn off: at nodes and at the places of pins. Within one
 * cell the same wires lie side by side, so fill and separation of classes are judged cell by cell.
 *
 * Boundaries are numbered along the bars, bar after bar; cell p lies between the boundaries p and p + 1.
 * The cell after the last boundary of a bar is void: length 0, never in a range.
 *
 *   bar 0   0───1──2────3        cells 0, 1, 2; 3 is void
 *   bar 1   4──5──────6          cells 4, 5;    6 is void
 */
export interface Cells {
  count: number;
  /** Place of the boundary along its bar, nm. */
  at: Float64Array;
  bar: Int32Array;
  /** Edge number of the piece a cell belongs to; −1 for void cells. */
  piece: Int32Array;
  /** Boundary of a node. */
  ofNode: Int32Array;
}

/** @param feet places of pins; any order, with repetitions. O(n log n) */
export function cutCells(net: Network, feet: readonly Foot[]): Cells {
  const places: number[][] = net.bars.map((bar) => [...bar.stops]);
  for (const { bar, t } of feet) places[bar]!.push(t);
  const cuts = places.map((list) => Float64Array.from(new Set(list)).sort());
  const count = cuts.reduce((sum, list) => sum + list.length, 0);
  const at = new Float64Array(count);
  const bar = new Int32Array(count);
  const piece = new Int32Array(count).fill(-1);
  const ofNode = new Int32Array(net.nodeBar.length);
  let p = 0;
  for (const b of net.bars) {
    let node = -1;
    const last = cuts[b.index]!.length - 1;
    cuts[b.index]!.forEach((t, i) => {
      at[p] = t;
      bar[p] = b.index;
      if (b.stops[node + 1] === t) {
        node++;
        ofNode[b.firstNode + node] = p;
      }
      if (i < last) piece[p] = b.firstEdge + node;
      p++;
    });
  }
  return { count, at, bar, piece, ofNode };
}

/** Boundary of a place; the place must be among those the cells were cut at. O(log n) */
export function boundaryOf(net: Network, cells: Cells, foot: Foot): number {
  const bar = net.bars[foot.bar]!;
  let lo = cells.ofNode[bar.firstNode]!;
  let hi = cells.ofNode[bar.firstNode + bar.stops.length - 1]!;
  while (lo < hi) {
    const mid = (lo + hi) >> 1;
    if (cells.at[mid]! < foot.t) lo = mid + 1;
    else hi = mid;
  }
  return lo;
}

/** A place reached from an entry by passing over ducts that lie side by side. */
export interface Beside extends Foot {
  asideNm: number;
  hops: number;
  over: number[];
}

const before = (a: Beside, b: Beside): boolean => (a.asideNm - b.asideNm || a.hops - b.hops || a.bar - b.bar) < 0;

/** Whether not all ducts that an entry could step into were looked at. */
export const isCrowded = (beside: readonly Beside[]): boolean => beside.length > MOST_BESIDE;

/** Ducts that are passed over from one entry. */
const MOST_BESIDE = 8;

/**
 * Every place an entry gives access to: its own and, where its duct lies beside others, the same place
 * on those; the nearest when they are more than `MOST_BESIDE`. At a node the joints of the network do this already.
 */
export function besides(net: Network, entry: Foot): Beside[] {
  const own: Beside = { bar: entry.bar, t: entry.t, asideNm: 0, hops: 0, over: [] };
  const found = [own];
  const bar = net.bars[entry.bar]!;
  if (bar.sides.length === 0 || isStop(bar, entry.t)) return found;
  const open = new Map<number, Beside>([[own.bar, own]]);
  const done = new Set<number>();
  for (;;) {
    let next: Beside | null = null;
    for (const b of open.values()) if (!done.has(b.bar) && (!next || before(b, next))) next = b;
    if (!next || found.length > MOST_BESIDE) break;
    done.add(next.bar);
    if (next !== own) found.push(next);
    for (const side of net.bars[next.bar]!.sides) {
      if (entry.t < side.lo || entry.t > side.hi || done.has(side.other)) continue;
      const asideNm = next.asideNm + side.nm;
      const known = open.get(side.other);
      if (known && (known.asideNm < asideNm || (known.asideNm === asideNm && known.hops <= next.hops + 1))) continue;
      const over = [...next.over, pieceAt(net.bars[side.other]!, entry.t)];
      open.set(side.other, { bar: side.other, t: entry.t, asideNm, hops: next.hops + 1, over });
    }
  }
  return found;
}

/** The accesses of a pin's entries, in order of the entries; `beside` of each entry as `besides` gives it. */
export function accessesOf(
  net: Network,
  cells: Cells,
  entries: readonly Entry[],
  beside: readonly (readonly Beside[])[],
): Access[] {
  // A place that is an entry itself is reached no cheaper by stepping aside from another one.
  const own = new Set(entries.length > 1 ? entries.map((e) => `${e.bar} ${e.t}`) : []);
  const needed = (b: Beside): boolean => b.hops === 0 || !own.has(`${b.bar} ${b.t}`);
  return entries.flatMap((entry, index) =>
    beside[index]!.filter(needed).map(({ bar, t, asideNm, hops, over }): Access => ({
      bar,
      t,
      piece: pieceAt(net.bars[bar]!, t),
      position: boundaryOf(net, cells, { bar, t }),
      cost: (entry.planeNm + entry.riseNm + asideNm) * HOPS + hops,
      asideNm,
      entry: index,
      over,
    })),
  );
}

/** Where a way lies: pairs of boundaries, lower first, one pair per uninterrupted stretch of a bar. */
export function rangesOf(net: Network, cells: Cells, way: Way): number[] {
  const ranges: number[] = [];
  const add = (p: number, q: number): void => {
    const [lo, hi] = p < q ? [p, q] : [q, p];
    if (lo === hi) return;
    const n = ranges.length;
    // The boundary between two bars is never shared, so touching numbers are touching places.
    if (n > 0 && ranges[n - 1] === lo) ranges[n - 1] = hi;
    else if (n > 0 && ranges[n - 2] === hi) ranges[n - 2] = lo;
    else ranges.push(lo, hi);
  };
  const { ofNode } = cells;
  if (way.first < 0) {
    add(way.from.position, way.to.position);
    return ranges;
  }
  add(way.from.position, ofNode[way.first]!);
  for (const e of way.edges) {
    const edge = net.edges[e]!;
    if (edge.kind === "piece") add(ofNode[edge.a]!, ofNode[edge.b]!);
  }
  add(way.to.position, ofNode[way.last]!);
  return ranges;
}

/** Pieces that ranges touch, in order; each once per range. O(pieces) */
export function piecesOf(net: Network, cells: Cells, ranges: readonly number[]): number[] {
  const found: number[] = [];
  for (let i = 0; i < ranges.length; i += 2) {
    for (let p = ranges[i]!; p < ranges[i + 1]!;) {
      const piece = cells.piece[p]!;
      if (found[found.length - 1] !== piece) found.push(piece);
      p = cells.ofNode[net.edges[piece]!.b]!;
    }
  }
  return found;
}

/** Sums over cells that are raised range by range: call `raise`, then `total` once. */
export class Raised {
  readonly #steps: Float64Array;

  constructor(cells: Cells) {
    this.#steps = new Float64Array(cells.count + 1);
  }

  raise(ranges: readonly number[], by: number): void {
    for (let i = 0; i < ranges.length; i += 2) {
      this.#steps[ranges[i]!]! += by;
      this.#steps[ranges[i + 1]!]! -= by;
    }
  }

  /** The sum in every cell. Whole numbers stay exact. */
  total(): Float64Array {
    const sums = this.#steps;
    for (let p = 1; p < sums.length; p++) sums[p]! += sums[p - 1]!;
    return sums;
  }
}
