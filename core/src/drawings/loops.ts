/**
 * Closed loops of lines that meet at their ends: frames that were drawn, or have been broken up, line by line. Four straight lines that
 * follow one another and close are one in any case: so a frame comes that was broken up, and whatever shares its corners is another
 * one. Of the others lines that lie twice count once, and a loop that others branch off from is none. O(lines)
 * @param strokes points as x, y, x, y …, each from end to end; not mutated
 * @param tolerance ends nearer than this are one
 */
export function closedLoops(strokes: readonly number[][], tolerance: number): { closed: number[][]; rest: number[][] } {
  const nodes = new Nodes(tolerance);
  const seen = new Set<string>();
  const edges: Edge[] = [];
  const rest: number[][] = [];
  const closed: number[][] = [];
  const all = strokes.map((points): Edge => ({
    a: nodes.at(points[0]!, points[1]!),
    b: nodes.at(points.at(-2)!, points.at(-1)!),
    points,
  }));
  for (let i = 0; i < all.length; i++) {
    const four = fourOf(all, i);
    if (four) {
      closed.push(joined(four, four[0]!.a));
      for (const edge of four) seen.add(keyOf(edge));
      i += 3;
      continue;
    }
    const { a, b, points } = all[i]!;
    const key = points.length === 4 ? keyOf(all[i]!) : null;
    if (a === b) {
      if (points.length > 6) rest.push(points);
      continue;
    }
    if (key !== null && seen.has(key)) continue;
    if (key !== null) seen.add(key);
    edges.push({ a, b, points });
  }
  const at: number[][] = Array.from({ length: nodes.count }, () => []);
  for (const [i, { a, b }] of edges.entries()) {
    at[a]!.push(i);
    at[b]!.push(i);
  }
  const done = new Uint8Array(edges.length);
  for (const [first, edge] of edges.entries()) {
    if (done[first] === 1) continue;
    // Along the lines as long as exactly one other goes on.
    const chain = [first];
    let node = edge.b;
    let last = first;
    done[first] = 1;
    while (node !== edge.a && at[node]!.length === 2) {
      const next = at[node]!.find((e) => e !== last)!;
      if (done[next] === 1) break;
      done[next] = 1;
      chain.push(next);
      last = next;
      node = edges[next]!.a === node ? edges[next]!.b : edges[next]!.a;
    }
    if (node !== edge.a || chain.length < 2 || at[edge.a]!.length !== 2) {
      for (const e of chain) rest.push(edges[e]!.points);
      continue;
    }
    closed.push(
      joined(
        chain.map((e) => edges[e]!),
        edge.a,
      ),
    );
  }
  return { closed, rest };
}

/** A line from node to node. */
interface Edge {
  a: number;
  b: number;
  points: number[];
}

/** A straight line, whichever way it is drawn. */
const keyOf = ({ a, b }: Edge): string => `${Math.min(a, b)} ${Math.max(a, b)}`;

/** Four straight lines from one on, in an order in which they close; null where they do not. */
function fourOf(edges: readonly Edge[], from: number): Edge[] | null {
  const some = edges.slice(from, from + 4);
  if (some.length < 4 || some.some((e) => e.points.length !== 4 || e.a === e.b)) return null;
  const chain = [some[0]!];
  let node = some[0]!.b;
  while (chain.length < 4) {
    const next = some.find((e) => !chain.includes(e) && (e.a === node || e.b === node));
    if (!next) return null;
    chain.push(next);
    node = next.a === node ? next.b : next.a;
  }
  // A corner for each of them: there and back is none.
  return node === some[0]!.a && new Set(some.flatMap((e) => [e.a, e.b])).size === 4 ? chain : null;
}

/** Points along a chain of lines, each turned so that it goes on where the one before ends; without the last, which is the first. */
function joined(chain: readonly Edge[], from: number): number[] {
  const all: number[] = [];
  let node = from;
  for (const { a, b, points } of chain) {
    const forward = a === node;
    for (let i = 0; i < points.length - 2; i += 2) {
      const k = forward ? i : points.length - 2 - i;
      all.push(points[k]!, points[k + 1]!);
    }
    node = forward ? b : a;
  }
  return all;
}

/** Cells of the grid are so many tolerances wide: few points lie near an edge of theirs. */
const CELL = 16;
/** Columns of the grid have numbers this far apart. */
const COLUMN = 2 ** 26;

/** Points that are one when they are near enough, found by a grid. */
class Nodes {
  private readonly grid = new Map<number, number[]>();
  private readonly xs: number[] = [];
  private readonly ys: number[] = [];
  private readonly tolerance: number;
  private readonly cell: number;

  constructor(tolerance: number) {
    this.tolerance = tolerance;
    this.cell = tolerance * CELL;
  }

  get count(): number {
    return this.xs.length;
  }

  at(x: number, y: number): number {
    const { tolerance: by, cell } = this;
    // Only where an edge is near the next cell is looked into too.
    const [left, right] = [Math.floor((x - by) / cell), Math.floor((x + by) / cell)];
    const [low, high] = [Math.floor((y - by) / cell), Math.floor((y + by) / cell)];
    for (let i = left; i <= right; i++)
      for (let j = low; j <= high; j++) {
        const there = this.grid.get(i * COLUMN + j);
        if (there) for (const n of there) if (Math.hypot(this.xs[n]! - x, this.ys[n]! - y) <= by) return n;
      }
    const key = Math.floor(x / cell) * COLUMN + Math.floor(y / cell);
    const n = this.xs.push(x) - 1;
    this.ys.push(y);
    const there = this.grid.get(key);
    if (there) there.push(n);
    else this.grid.set(key, [n]);
    return n;
  }
}
