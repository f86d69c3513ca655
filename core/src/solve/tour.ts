import type { Point } from "../design/geometry";
import { randomFrom } from "./random";

/** How long a move takes from one point to another, or how far it is: the same both ways. */
export type Metric = (a: Point, b: Point) => number;

// A root is several times as fast as Math.hypot, and lengths of a sheet neither overflow nor vanish.
export const straight: Metric = (a, b) => Math.sqrt((a.x - b.x) ** 2 + (a.y - b.y) ** 2);
/** Both axes at full speed: the longer way decides. */
export const byLongerAxis: Metric = (a, b) => Math.max(Math.abs(a.x - b.x), Math.abs(a.y - b.y));

export interface Tour {
  /** Numbers of the points in their order; the first is where it begins and ends. */
  order: number[];
  length: number;
  /** No tour is shorter. */
  bound: number;
}

const NEIGHBOURS = 10;
/** Points up to which every order is looked at. */
const EXACT = 9;
const KICKS_A_POINT = 6;
const MOST_KICKS = 20_000;
const BOUND_STEPS = 120;
/** Beyond so many points the bound has fewer steps: each looks at all pairs. */
const MANY = 1500;
const MANY_STEPS = 30;
const LEAST_STEPS = 10;
/** A bound this near is near enough. */
const CLOSE = 0.001;
const SEGMENT = 30;
const EPS = 1e-9;

/**
 * A short closed way through all points, beginning at the first, with a bound. Up to nine points the shortest; beyond that
 * nearest neighbours, improved by exchanging two legs and by moving stretches of up to three points, and kicked where it
 * got stuck. Nothing is drawn by chance from outside: equal points give equal tours. O(n² · steps of the bound)
 * @param effort share of the kicks and of the steps of the bound, where there are many tours to find
 * @param fixed what every tour has in its length: a bound is near enough by the rest of it
 */
export function tourOf(points: readonly Point[], metric: Metric = straight, effort = 1, fixed = 0): Tour {
  return points.length <= TABLED ? tabledTour(points, metric, effort, fixed) : bandedTour(points, metric);
}

/** Up to so many points all distances are worked out once: a metric may be dear. Beyond, points are gone through in bands. */
const TABLED = 3000;

function tabledTour(points: readonly Point[], metric: Metric, effort: number, fixed: number): Tour {
  const n = points.length;
  const table = new Float64Array(n * n);
  for (let i = 0; i < n; i++)
    for (let j = i + 1; j < n; j++) table[i * n + j] = table[j * n + i] = metric(points[i]!, points[j]!);
  const known = points.map(({ x, y }, i): Numbered => ({ x, y, i }));
  return tourBy(known, (a, b) => table[(a as Numbered).i * n + (b as Numbered).i]!, effort, fixed);
}

/** To and fro in bands across the shorter side; its bound is none, so that it says nothing of how good it is. O(n log n) */
function bandedTour(points: readonly Point[], metric: Metric): Tour {
  const [xs, ys] = [points.map((p) => p.x), points.map((p) => p.y)];
  const least = (list: readonly number[]): number => list.reduce((a, b) => Math.min(a, b), Infinity);
  const most = (list: readonly number[]): number => list.reduce((a, b) => Math.max(a, b), -Infinity);
  const [x0, y0] = [least(xs), least(ys)];
  const [w, h] = [most(xs) - x0, most(ys) - y0];
  const bands = Math.max(1, Math.round(Math.sqrt((points.length * Math.min(w, h)) / (3 * Math.max(w, h, 1)))));
  const breadth = Math.max(Math.min(w, h) / bands, 1e-9);
  const across = (p: Point): number => (w < h ? p.x - x0 : p.y - y0);
  const along = (p: Point): number => (w < h ? p.y : p.x);
  const band = (p: Point): number => Math.min(bands - 1, Math.floor(across(p) / breadth));
  const rest = points
    .map((p, i) => ({ i, band: band(p), along: along(p) }))
    .slice(1)
    .sort((a, b) => a.band - b.band || (a.band % 2 === 0 ? a.along - b.along : b.along - a.along) || a.i - b.i);
  const order = [0, ...rest.map((r) => r.i)];
  return { order, length: lengthOf(order, points, metric), bound: 0 };
}

interface Numbered extends Point {
  i: number;
}

function tourBy(points: readonly Point[], metric: Metric, effort: number, fixed: number): Tour {
  const n = points.length;
  if (n <= 3) {
    const order = points.map((_, i) => i);
    const length = lengthOf(order, points, metric);
    return { order, length, bound: length };
  }
  if (n <= EXACT) {
    const order = shortest(points, metric);
    const length = lengthOf(order, points, metric);
    return { order, length, bound: length };
  }
  const order = improved(points, metric, effort);
  const length = lengthOf(order, points, metric);
  return { order, length, bound: Math.min(length, boundOf(points, metric, length, effort, fixed)) };
}

/** Length of a closed way. */
export const lengthOf = (order: readonly number[], points: readonly Point[], metric: Metric): number =>
  order.reduce((sum, p, i) => sum + metric(points[p]!, points[order[(i + 1) % order.length]!]!), 0);

/** Always to the nearest that is left: what one does by hand. O(n²) */
export function nearestNeighbours(points: readonly Point[], metric: Metric = straight): number[] {
  const left = new Set(points.map((_, i) => i));
  const order = [0];
  left.delete(0);
  while (left.size > 0) {
    const here = points[order[order.length - 1]!]!;
    let [best, at] = [Infinity, -1];
    for (const i of left) {
      const d = metric(here, points[i]!);
      if (d < best) [best, at] = [d, i];
    }
    order.push(at);
    left.delete(at);
  }
  return order;
}

/** The shortest of all, set by set. O(n² · 2ⁿ) */
function shortest(points: readonly Point[], metric: Metric): number[] {
  const m = points.length - 1;
  const d = points.map((a) => points.map((b) => metric(a, b)));
  const full = 1 << m;
  const cost = Array.from({ length: full }, () => new Float64Array(m).fill(Infinity));
  const from = Array.from({ length: full }, () => new Int8Array(m).fill(-1));
  for (let i = 0; i < m; i++) cost[1 << i]![i] = d[0]![i + 1]!;
  for (let set = 1; set < full; set++)
    for (let i = 0; i < m; i++) {
      const c = cost[set]![i]!;
      if (c === Infinity) continue;
      for (let j = 0; j < m; j++) {
        if (set & (1 << j)) continue;
        const next = set | (1 << j);
        const total = c + d[i + 1]![j + 1]!;
        if (total < cost[next]![j]!) {
          cost[next]![j] = total;
          from[next]![j] = i;
        }
      }
    }
  let [best, last] = [Infinity, 0];
  for (let i = 0; i < m; i++) {
    const total = cost[full - 1]![i]! + d[i + 1]![0]!;
    if (total < best) [best, last] = [total, i];
  }
  const order: number[] = [];
  for (let set = full - 1, i = last; i >= 0;) {
    order.push(i + 1);
    const before = from[set]![i]!;
    set &= ~(1 << i);
    i = before;
  }
  return [0, ...order.reverse()];
}

function improved(points: readonly Point[], metric: Metric, effort: number): number[] {
  const n = points.length;
  const near = neighboursOf(points, metric);
  const d = (a: number, b: number): number => metric(points[a]!, points[b]!);
  const tour = Int32Array.from(nearestNeighbours(points, metric));
  const pos = new Int32Array(n);
  tour.forEach((p, i) => (pos[p] = i));
  const next = (p: number): number => tour[pos[p]! + 1 === n ? 0 : pos[p]! + 1]!;
  const before = (p: number): number => tour[pos[p] === 0 ? n - 1 : pos[p]! - 1]!;
  /** Turns the stretch from place i to place j round, or the rest of the way, whichever is shorter. */
  const reverse = (i: number, j: number, log?: number[]): void => {
    let inside = j - i;
    if (inside < 0) inside += n;
    inside++;
    let [a, b, swaps] = [i, j, inside >> 1];
    if (2 * inside > n) [a, b, swaps] = [j + 1 === n ? 0 : j + 1, i === 0 ? n - 1 : i - 1, (n - inside) >> 1];
    log?.push(a, b, swaps);
    turn(a, b, swaps);
  };
  const turn = (i: number, j: number, swaps: number): void => {
    for (let [a, b] = [i, j]; swaps > 0; swaps--) {
      const [p, q] = [tour[a]!, tour[b]!];
      tour[a] = q;
      tour[b] = p;
      pos[q] = a;
      pos[p] = b;
      a = a + 1 === n ? 0 : a + 1;
      b = b === 0 ? n - 1 : b - 1;
    }
  };
  const waiting: number[] = [];
  const waits = new Uint8Array(n);
  const push = (p: number): void => {
    if (waits[p]) return;
    waits[p] = 1;
    waiting.push(p);
  };
  /** Exchanges two legs at a point if that is shorter. @returns what is saved */
  const twoLegs = (p: number, log?: number[]): number => {
    for (const forward of [true, false]) {
      const q = forward ? next(p) : before(p);
      const pq = d(p, q);
      for (const c of near[p]!) {
        const pc = d(p, c);
        if (pc >= pq) break;
        const e = forward ? next(c) : before(c);
        if (c === q || e === p) continue;
        const saved = pq + d(c, e) - pc - d(q, e);
        if (saved <= EPS) continue;
        if (forward) reverse(pos[q]!, pos[c]!, log);
        else reverse(pos[c]!, pos[q]!, log);
        for (const x of [p, q, c, e]) push(x);
        return saved;
      }
    }
    return 0;
  };
  /** Moves a stretch of up to three points that begins at a point between two neighbours elsewhere. */
  const moveStretch = (p: number, log?: number[]): number => {
    for (const forward of [true, false]) {
      const step = forward ? next : before;
      const back = forward ? before : next;
      let end = p;
      for (let k = 1; k <= 3; k++, end = step(end)) {
        const [a, b] = [back(p), step(end)];
        if (a === end || b === p || a === b) break;
        const taken = d(a, p) + d(end, b) - d(a, b);
        if (taken <= EPS) continue;
        for (const c of near[p]!) {
          const pc = d(c, p);
          if (pc >= taken) break;
          // In the stretch itself it has no place.
          let inside = false;
          for (let x = p, i = 0; i < k; i++, x = step(x)) inside ||= x === c;
          if (inside) continue;
          for (const e of [step(c), back(c)]) {
            let there = false;
            for (let x = p, i = 0; i < k; i++, x = step(x)) there ||= x === e;
            if (there) continue;
            const saved = taken - pc - d(end, e) + d(c, e);
            if (saved <= EPS) continue;
            place(p, end, a, b, c, e, forward, log);
            for (const x of [p, end, a, b, c, e]) push(x);
            return saved;
          }
        }
      }
    }
    return 0;
  };
  /**
   * The stretch from p to end, between a and b, comes between c and e, p beside c: it changes places with what lies between, on
   * the shorter side, as turns of ranges.
   */
  const place = (
    p: number,
    end: number,
    a: number,
    b: number,
    c: number,
    e: number,
    forward: boolean,
    log?: number[],
  ): void => {
    // In the direction of the way: left | s1 … s2 | right … x | y … left.
    const [s1, s2] = forward ? [p, end] : [end, p];
    const [left, right] = forward ? [a, b] : [b, a];
    const x = next(c) === e ? c : e;
    const y = x === c ? e : c;
    // With p beside c the stretch keeps its direction, or is turned.
    const keeps = forward === (c === x);
    const size = count(s1, s2);
    const [onward, backward] = [count(right, x), count(y, left)];
    const wrap = (i: number): number => ((i % n) + n) % n;
    if (onward <= backward) {
      const from = pos[s1]!;
      reverseRange(from, wrap(from + size + onward - 1), log);
      reverseRange(from, wrap(from + onward - 1), log);
      if (keeps) reverseRange(wrap(from + onward), wrap(from + onward + size - 1), log);
    } else {
      const from = pos[y]!;
      reverseRange(from, wrap(from + backward + size - 1), log);
      reverseRange(wrap(from + size), wrap(from + size + backward - 1), log);
      if (keeps) reverseRange(from, wrap(from + size - 1), log);
    }
  };
  const count = (from: number, to: number): number => {
    const k = pos[to]! - pos[from]!;
    return (k < 0 ? k + n : k) + 1;
  };
  /** Turns exactly the places from i to j round, never the rest. */
  const reverseRange = (i: number, j: number, log?: number[]): void => {
    let inside = j - i;
    if (inside < 0) inside += n;
    const swaps = (inside + 1) >> 1;
    log?.push(i, j, swaps);
    turn(i, j, swaps);
  };
  const settle = (log?: number[]): number => {
    let saved = 0;
    while (waiting.length > 0) {
      const p = waiting.pop()!;
      waits[p] = 0;
      for (;;) {
        const got = twoLegs(p, log) || moveStretch(p, log);
        if (got === 0) break;
        saved += got;
      }
    }
    return saved;
  };
  for (let i = n - 1; i >= 0; i--) push(tour[i]!);
  settle();
  const random = randomFrom(n * 2_654_435_761);
  const kicks = Math.min(MOST_KICKS, Math.round(KICKS_A_POINT * n * effort));
  for (let k = 0; k < kicks; k++) {
    // Two stretches side by side change places: four legs anew, near each other.
    const start = Math.floor(random() * n);
    const l1 = 1 + Math.floor(random() * Math.min(SEGMENT, (n - 2) / 3));
    const l2 = 1 + Math.floor(random() * Math.min(SEGMENT, (n - 2) / 3));
    const at = (i: number): number => tour[(start + i) % n]!;
    const [a, b, c, e, f, g] = [at(0), at(1), at(l1), at(l1 + 1), at(l1 + l2), at(l1 + l2 + 1)];
    const added = d(a, e) + d(f, b) + d(c, g) - d(a, b) - d(c, e) - d(f, g);
    const log: number[] = [];
    const first = (start + 1) % n;
    const wrap = (i: number): number => i % n;
    reverseRange(first, wrap(first + l1 + l2 - 1), log);
    reverseRange(first, wrap(first + l2 - 1), log);
    reverseRange(wrap(first + l2), wrap(first + l1 + l2 - 1), log);
    for (const x of [a, b, c, e, f, g]) push(x);
    if (added - settle(log) <= EPS) continue;
    // No shorter: everything back as it was.
    for (let i = log.length - 3; i >= 0; i -= 3) turn(log[i]!, log[i + 1]!, log[i + 2]!);
  }
  const zero = pos[0]!;
  return Array.from({ length: n }, (_, i) => tour[(zero + i) % n]!);
}

/** The nearest of each point, the nearest first. O(n²) */
function neighboursOf(points: readonly Point[], metric: Metric): Int32Array[] {
  const n = points.length;
  const most = Math.min(NEIGHBOURS, n - 1);
  return points.map((a, i) => {
    const best: { j: number; d: number }[] = [];
    for (let j = 0; j < n; j++) {
      if (j === i) continue;
      const d = metric(a, points[j]!);
      if (best.length === most && d >= best[most - 1]!.d) continue;
      let at = best.length;
      while (at > 0 && best[at - 1]!.d > d) at--;
      best.splice(at, 0, { j, d });
      if (best.length > most) best.pop();
    }
    return Int32Array.from(best, (b) => b.j);
  });
}

/**
 * A length that no tour falls below: the shortest spanning tree of all points but the first, with two legs to that, where
 * points get weights that draw every degree towards two (Held and Karp 1970). O(n² · steps)
 */
export function boundOf(points: readonly Point[], metric: Metric, length: number, effort = 1, fixed = 0): number {
  const n = points.length;
  const weight = new Float64Array(n);
  const degree = new Int32Array(n);
  const key = new Float64Array(n);
  const parent = new Int32Array(n);
  const inside = new Uint8Array(n);
  let best = 0;
  let step = 2;
  const steps = Math.max(LEAST_STEPS, Math.round((n > MANY ? MANY_STEPS : BOUND_STEPS) * effort));
  const held = new Int32Array(n);
  for (let k = 0; k < steps; k++) {
    degree.fill(0);
    inside.fill(0);
    key.fill(Infinity);
    let total = 0;
    let last = 1;
    inside[1] = 1;
    for (let added = 2; added < n; added++) {
      let [least, at] = [Infinity, -1];
      for (let j = 1; j < n; j++) {
        if (inside[j]) continue;
        const d = metric(points[last]!, points[j]!) + weight[last]! + weight[j]!;
        if (d < key[j]!) {
          key[j] = d;
          parent[j] = last;
        }
        if (key[j]! < least) [least, at] = [key[j]!, j];
      }
      inside[at] = 1;
      total += least;
      degree[at]!++;
      degree[parent[at]!]!++;
      last = at;
    }
    // The two nearest of the first.
    let [d1, d2, p1, p2] = [Infinity, Infinity, -1, -1];
    for (let j = 1; j < n; j++) {
      const d = metric(points[0]!, points[j]!) + weight[0]! + weight[j]!;
      if (d < d1) [d2, p2, d1, p1] = [d1, p1, d, j];
      else if (d < d2) [d2, p2] = [d, j];
    }
    total += d1 + d2;
    degree[0] = 2;
    degree[p1]!++;
    degree[p2]!++;
    let off = 0;
    let weights = 0;
    for (let i = 0; i < n; i++) {
      off += (degree[i]! - 2) ** 2;
      weights += weight[i]!;
    }
    const found = total - 2 * weights;
    if (found > best) best = found;
    else step *= 0.93;
    if (off === 0 || length - best <= (length - fixed) * CLOSE) break;
    // Towards the length that is known, with half of the direction before.
    const size = (step * Math.max(0, length - found)) / off;
    for (let i = 0; i < n; i++) {
      weight[i]! += size * (0.7 * (degree[i]! - 2) + 0.3 * (held[i]! - 2));
      held[i] = degree[i]!;
    }
  }
  return best;
}
