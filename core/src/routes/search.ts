import FlatQueue from "flatqueue";
import { HOPS, pieceAt, type Foot, type Network } from "./network";

/** Shortest ways from one node: cost to every node (∞ where there is none) and the edge it is reached by (−1). */
export interface Tree {
  cost: Float64Array;
  by: Int32Array;
}

/**
 * Dijkstra's search from one node over the whole network.
 * @param blocked edges that may not be used, or null
 * Ties: of two ways of equal cost the one that arrives by the lower edge number. Costs are whole
 * numbers greater than zero, so the answer does not depend on the order of the queue.
 * O(E log E) time, O(N) space.
 */
export function shortestTree(net: Network, source: number, blocked: Uint8Array | null): Tree {
  const nodes = net.nodeBar.length;
  const cost = new Float64Array(nodes).fill(Infinity);
  const by = new Int32Array(nodes).fill(-1);
  const queue = new FlatQueue<number>();
  cost[source] = 0;
  queue.push(source, 0);
  while (queue.length > 0) {
    const reached = queue.peekValue()!;
    const node = queue.pop()!;
    if (reached > cost[node]!) continue;
    for (let i = net.head[node]!; i < net.head[node + 1]!; i++) {
      const edge = net.adjacent[i]!;
      if (blocked?.[edge]) continue;
      const { a, b } = net.edges[edge]!;
      const next = a === node ? b : a;
      const total = reached + net.cost[edge]!;
      if (total < cost[next]!) {
        cost[next] = total;
        by[next] = edge;
        queue.push(next, total);
      } else if (total === cost[next]! && next !== source && edge < by[next]!) {
        by[next] = edge;
      }
    }
  }
  return { cost, by };
}

/** A way between two places of the network. */
export interface Way {
  /** Lengths in micrometres; loops apart. */
  um: number;
  loopUm: number;
  /** Cost it was chosen by. */
  cost: number;
  /** Node where whole edges begin, −1 when both places lie in one piece and nothing lies between. */
  first: number;
  edges: number[];
}

export type TreeSource = (node: number) => Tree;

/** A source of trees that remembers the last few, for callers that ask in order of place. */
export function treeSource(net: Network, blocked: Uint8Array | null, keep = 8): TreeSource {
  const kept = new Map<number, Tree>();
  return (node) => {
    const known = kept.get(node);
    if (known) return known;
    if (kept.size >= keep) kept.delete(kept.keys().next().value!);
    const tree = shortestTree(net, node, blocked);
    kept.set(node, tree);
    return tree;
  };
}

const order = (net: Network, f: Foot): [number, number] => [pieceAt(net.bars[f.bar]!, f.t), f.t];

/**
 * The shortest way between two places on ducts, or null. The search always starts from the place
 * that comes first in the network, so that a wire and the same wire with its ends swapped take the
 * same way. The two pieces it begins and ends in are never blocked: the wire is in them already.
 */
export function findWay(net: Network, trees: TreeSource, a: Foot, b: Foot): Way | null {
  const [pa, ta] = order(net, a);
  const [pb, tb] = order(net, b);
  if (pa > pb || (pa === pb && ta > tb)) {
    const way = findOrdered(net, trees, b, pb, a, pa);
    return way && reversed(net, way);
  }
  return findOrdered(net, trees, a, pa, b, pb);
}

function findOrdered(net: Network, trees: TreeSource, a: Foot, pa: number, b: Foot, pb: number): Way | null {
  let best: { cost: number; first: number; last: number; tree: Tree | null } | null = null;
  if (pa === pb) best = { cost: Math.abs(a.t - b.t) * HOPS, first: -1, last: -1, tree: null };
  for (const first of [net.edges[pa]!.a, net.edges[pa]!.b]) {
    const tree = trees(first);
    const before = Math.abs(a.t - net.nodeAt[first]!) * HOPS;
    for (const last of [net.edges[pb]!.a, net.edges[pb]!.b]) {
      const cost = before + tree.cost[last]! + Math.abs(b.t - net.nodeAt[last]!) * HOPS;
      if (cost < (best?.cost ?? Infinity)) best = { cost, first, last, tree };
    }
  }
  if (!best) return null;
  if (!best.tree) return { um: Math.abs(a.t - b.t), loopUm: 0, cost: best.cost, first: -1, edges: [] };
  const edges: number[] = [];
  let loopUm = 0;
  let um = Math.abs(a.t - net.nodeAt[best.first]!) + Math.abs(b.t - net.nodeAt[best.last]!);
  for (let node = best.last; node !== best.first;) {
    const index = best.tree.by[node]!;
    const edge = net.edges[index]!;
    edges.push(index);
    um += edge.um;
    loopUm += edge.loopUm;
    node = edge.a === node ? edge.b : edge.a;
  }
  return { um, loopUm, cost: best.cost, first: best.first, edges: edges.reverse() };
}

function reversed(net: Network, way: Way): Way {
  if (way.first < 0) return way;
  let node = way.first;
  for (const e of way.edges) node = net.edges[e]!.a === node ? net.edges[e]!.b : net.edges[e]!.a;
  return { ...way, first: node, edges: [...way.edges].reverse() };
}

/** Pieces a way lies in, the two partly used ones included when any of their length is used. */
export function piecesOf(net: Network, way: Way, a: Foot, b: Foot): number[] {
  const pa = pieceAt(net.bars[a.bar]!, a.t);
  const pb = pieceAt(net.bars[b.bar]!, b.t);
  if (way.first < 0) return a.t === b.t ? [] : [pa];
  const pieces = new Set(way.edges.filter((e) => net.edges[e]!.kind === "piece"));
  let last = way.first;
  for (const e of way.edges) last = net.edges[e]!.a === last ? net.edges[e]!.b : net.edges[e]!.a;
  if (net.nodeAt[way.first] !== a.t) pieces.add(pa);
  if (net.nodeAt[last] !== b.t) pieces.add(pb);
  return [...pieces];
}
