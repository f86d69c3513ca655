import FlatQueue from "flatqueue";
import { HOPS, type Network } from "./network";

/** What an edge costs in one search: its own cost, more, or `Infinity` where it may not be used. */
export type EdgeCost = (edge: number) => number;

/**
 * Shortest ways from one node, found as far as they are asked for (Dijkstra's search that pauses once
 * the node asked for is settled).
 *
 * Ties: of two ways of equal cost the one that arrives by the lower edge number, and edges are numbered
 * by place. Costs are whole numbers greater than zero, so a settled node keeps its edge and the answer
 * does not depend on the order of the queue or of the questions.
 */
export class Tree {
  readonly #net: Network;
  readonly #edgeCost: EdgeCost | null;
  readonly #cost: Float64Array;
  readonly #by: Int32Array;
  readonly #settled: Uint8Array;
  readonly #queue = new FlatQueue<number>();
  #touched: number[] = [];
  #source = -1;

  /** @param edgeCost null for the network's own costs */
  constructor(net: Network, edgeCost: EdgeCost | null) {
    const nodes = net.nodeBar.length;
    this.#net = net;
    this.#edgeCost = edgeCost;
    this.#cost = new Float64Array(nodes).fill(Infinity);
    this.#by = new Int32Array(nodes).fill(-1);
    this.#settled = new Uint8Array(nodes);
  }

  /** Begins anew from another node. O(nodes touched before). */
  begin(source: number): this {
    for (const n of this.#touched) {
      this.#cost[n] = Infinity;
      this.#by[n] = -1;
      this.#settled[n] = 0;
    }
    this.#touched = [source];
    this.#queue.clear();
    this.#source = source;
    this.#cost[source] = 0;
    this.#queue.push(source, 0);
    return this;
  }

  get source(): number {
    return this.#source;
  }

  /**
   * Cost of the shortest way to a node, `Infinity` where there is none or it costs more than `most`.
   * O(E log E) in what is searched anew.
   */
  costTo(goal: number, most = Infinity): number {
    const { head, adjacent, beyond, cost: own } = this.#net;
    const cost = this.#cost;
    const by = this.#by;
    const settled = this.#settled;
    const queue = this.#queue;
    while (!settled[goal] && queue.length > 0) {
      const reached = queue.peekValue()!;
      if (reached > most) break;
      const node = queue.pop()!;
      if (settled[node]) continue;
      settled[node] = 1;
      for (let i = head[node]!; i < head[node + 1]!; i++) {
        const next = beyond[i]!;
        if (settled[next]) continue;
        const edge = adjacent[i]!;
        const total = reached + (this.#edgeCost ? this.#edgeCost(edge) : own[edge]!);
        const known = cost[next]!;
        if (total < known) {
          if (known === Infinity) this.#touched.push(next);
          cost[next] = total;
          by[next] = edge;
          queue.push(next, total);
        } else if (total === known && total < Infinity && edge < by[next]!) {
          by[next] = edge;
        }
      }
    }
    return settled[goal] ? cost[goal]! : Infinity;
  }

  /** Edges from the source to a node whose cost has been asked for and is finite, in order. */
  edgesTo(goal: number): number[] {
    const edges: number[] = [];
    for (let node = goal; node !== this.#source;) {
      const edge = this.#by[node]!;
      edges.push(edge);
      const { a, b } = this.#net.edges[edge]!;
      node = a === node ? b : a;
    }
    return edges.reverse();
  }
}

/** A pin has few places to start from; of ducts side by side each is one. In a large network fewer are kept. */
const LEAST_TREES = 6;
const MOST_TREES = 16;
const NODES_KEPT = 2_000_000;

/** Trees of the nodes asked for last: callers ask in order of place, and neighbours share them. */
export class Trees {
  readonly #net: Network;
  readonly #edgeCost: EdgeCost | null;
  readonly #keep: number;
  readonly #kept: Tree[] = [];
  #inUse = 0;

  constructor(net: Network, edgeCost: EdgeCost | null) {
    this.#net = net;
    this.#edgeCost = edgeCost;
    this.#keep = Math.min(MOST_TREES, Math.max(LEAST_TREES, Math.floor(NODES_KEPT / net.nodeBar.length)));
  }

  of(node: number): Tree {
    for (let i = this.#inUse - 1; i >= 0; i--) if (this.#kept[i]!.source === node) return this.#kept[i]!;
    const full = this.#inUse === this.#keep;
    const tree = full ? this.#kept.shift()! : (this.#kept[this.#inUse] ?? new Tree(this.#net, this.#edgeCost));
    if (full) this.#kept.push(tree);
    else this.#kept[this.#inUse++] = tree;
    return tree.begin(node);
  }

  /** To be called when what the edges cost has changed. The memory of the trees is kept. */
  forget(): void {
    this.#inUse = 0;
  }
}

/** A place from which a way can start: a place on a duct, or one reached from it by passing over beside it. */
export interface Access {
  bar: number;
  /** The piece it lies in. */
  piece: number;
  t: number;
  /** Cell boundary it stands on, see `cells`. */
  position: number;
  /** What it costs to stand here: entry from the pin and steps aside, with changes of duct. */
  cost: number;
  /** Length of the steps aside, nm. */
  asideNm: number;
  /** The entry of the pin it belongs to. */
  entry: number;
  /** Pieces stepped into on the way here after the entry's own. */
  over: number[];
}

/** A way between two places of the network. */
export interface Way {
  from: Access;
  to: Access;
  /** Cost it was chosen by, with both accesses. */
  cost: number;
  /** Node where whole edges begin, −1 when both places lie in one piece and nothing lies between. */
  first: number;
  /** Node where they end. */
  last: number;
  edges: number[];
}

/** How much a partly used piece costs on top of its length, from one cell boundary to another. */
export type PartCost = (from: number, to: number) => number;

/**
 * The cheapest way between two sets of places, or null. Ties go to the access, then to the node, that
 * comes first. O(accesses² + search).
 * @param nodePosition cell boundary of a node
 * @param most ways that cost more are not wanted
 */
export function findWay(
  net: Network,
  trees: Trees,
  nodePosition: Int32Array,
  part: PartCost,
  starts: readonly Access[],
  goals: readonly Access[],
  most = Infinity,
): Way | null {
  let bestFrom: Access | null = null;
  let bestTo: Access | null = null;
  let bestFirst = -1;
  let bestLast = -1;
  let bound = most;
  const better = (cost: number): boolean => cost < bound || (!bestFrom && cost === bound && cost < Infinity);
  for (const from of starts) {
    for (const to of goals) {
      if (from.piece !== to.piece) continue;
      const cost = from.cost + to.cost + Math.abs(from.t - to.t) * HOPS + part(from.position, to.position);
      if (!better(cost)) continue;
      bestFrom = from;
      bestTo = to;
      bound = cost;
    }
  }
  for (const from of starts) {
    for (let first = firstEnd(net, from), i = 0; i < 2; i++, first++) {
      const before =
        from.cost + Math.abs(from.t - net.nodeAt[first]!) * HOPS + part(from.position, nodePosition[first]!);
      if (before > bound) continue;
      const tree = trees.of(first);
      for (const to of goals) {
        for (let last = firstEnd(net, to), j = 0; j < 2; j++, last++) {
          const after = to.cost + Math.abs(to.t - net.nodeAt[last]!) * HOPS + part(to.position, nodePosition[last]!);
          if (before + after > bound) continue;
          const cost = before + tree.costTo(last, bound - before - after) + after;
          if (!better(cost)) continue;
          bestFrom = from;
          bestTo = to;
          bestFirst = first;
          bestLast = last;
          bound = cost;
        }
      }
    }
  }
  if (!bestFrom || !bestTo) return null;
  let edges: number[] = [];
  if (bestFirst >= 0) {
    const tree = trees.of(bestFirst);
    tree.costTo(bestLast);
    edges = tree.edgesTo(bestLast);
  }
  return { from: bestFrom, to: bestTo, cost: bound, first: bestFirst, last: bestLast, edges };
}

/** The two nodes a place lies between: successive numbers, as nodes are numbered along their bar. */
const firstEnd = (net: Network, at: Access): number => net.edges[at.piece]!.a;

/** The same way from its other end. */
export const reversed = ({ from, to, cost, first, last, edges }: Way): Way => ({
  from: to,
  to: from,
  cost,
  first: last,
  last: first,
  edges: edges.slice().reverse(),
});
