import FlatQueue from "flatqueue";
import type { Point, Point3, Rect } from "../design/geometry";

/** What stands on a face: its outline, and how high it reaches above the face. */
export interface Block {
  outline: Rect;
  top: number;
}

/** A way outside the ducts, from its first place to its last. */
export interface OpenWay {
  nm: number;
  points: Point3[];
  /** Too many blocks stand about it: it goes over the front, and a shorter way round was not looked for. */
  cut?: true;
}

/**
 * Of more blocks than this about one lead not every way round is looked for: it goes over the front of the highest.
 * A grid of so many has a million places.
 */
const MOST_BLOCKS = 64;

/** A bend counts as so much of a nanometre: of equally long ways the one with fewest bends. */
const PER_NM = 64;

/**
 * The shortest square way between two places above a face that runs through no block: round blocks or over their
 * front, along their sides where that is shortest. At both of its places a lead may always rise, also between blocks
 * that touch. Between two blocks nearer than `passNm` there is no way.
 *
 * Every shortest square way has an equal one on the grid of the coordinates of the places and of the sides and tops of
 * the blocks. Blocks stand on the face, so that each cell of the plan has one height: along an edge of the grid a lead
 * passes at heights from the lower of the two cells beside it on.
 *
 *       ┌───┐            plan: cells between neighbouring lines; the dotted edge lies between a free cell
 *    ···│···│···  edge   and a taken one: it is passed at any height.
 *       └───┘
 *
 * All lengths in whole nanometres. Independent of the order of the blocks. O(n³ log n) for n blocks near the way.
 * @returns the way with its bends, both places included
 */
export function openWay(a: Point3, b: Point3, blocks: readonly Block[], passNm: number): OpenWay {
  const turned = a.x - b.x || a.y - b.y || a.z - b.z;
  if (turned > 0) {
    const way = openWay(b, a, blocks, passNm);
    return { ...way, points: way.points.reverse() };
  }
  const straight = Math.abs(a.x - b.x) + Math.abs(a.y - b.y) + Math.abs(a.z - b.z);
  const plan: Rect = rectOf(a, b);
  const between = blocks.filter((k) => touches(k.outline, plan) && k.top > Math.min(a.z, b.z));
  const front = Math.max(a.z, b.z, ...between.map((k) => k.top));
  const over: OpenWay = {
    nm: Math.abs(a.x - b.x) + Math.abs(a.y - b.y) + 2 * front - a.z - b.z,
    points: tidy([a, { ...a, z: front }, { x: a.x, y: b.y, z: front }, { ...b, z: front }, b]),
  };
  if (between.length === 0) return { nm: straight, points: tidy([a, { ...a, y: b.y }, { ...b, z: a.z }, b]) };
  // No way that is shorter than the one over the front leaves the rectangle by more than half of what that takes more.
  const spare = Math.ceil((over.nm - straight) / 2);
  const wide = { x: plan.x - spare, y: plan.y - spare, w: plan.w + 2 * spare, h: plan.h + 2 * spare };
  const near = blocks.filter((k) => touches(k.outline, wide) && k.top > Math.min(a.z, b.z));
  if (near.length > MOST_BLOCKS) return { ...over, cut: true };
  return search(a, b, withGaps(near, passNm)) ?? over;
}

/** The rectangle between two places. */
export const rectOf = (a: Point, b: Point): Rect => ({
  x: Math.min(a.x, b.x),
  y: Math.min(a.y, b.y),
  w: Math.abs(a.x - b.x),
  h: Math.abs(a.y - b.y),
});

/** Whether two outlines touch; a rectangle may be a line or a point. */
const touches = (a: Rect, b: Rect): boolean =>
  a.x + a.w >= b.x && b.x + b.w >= a.x && a.y + a.h >= b.y && b.y + b.h >= a.y;

/** The blocks, and one in each gap that is too narrow to pass. */
function withGaps(blocks: readonly Block[], passNm: number): Block[] {
  const all = [...blocks];
  blocks.forEach((p, i) => {
    for (const q of blocks.slice(i + 1)) {
      const [o, r] = [p.outline, q.outline];
      const [x0, x1] = [Math.max(o.x, r.x), Math.min(o.x + o.w, r.x + r.w)];
      const [y0, y1] = [Math.max(o.y, r.y), Math.min(o.y + o.h, r.y + r.h)];
      const top = Math.min(p.top, q.top);
      if (x0 > x1 && x0 - x1 < passNm && y1 > y0) all.push({ outline: { x: x1, y: y0, w: x0 - x1, h: y1 - y0 }, top });
      if (y0 > y1 && y0 - y1 < passNm && x1 > x0) all.push({ outline: { x: x0, y: y1, w: x1 - x0, h: y0 - y1 }, top });
    }
  });
  return all;
}

const lines = (values: readonly number[]): number[] => [...new Set(values)].sort((p, q) => p - q);

function search(a: Point3, b: Point3, blocks: readonly Block[]): OpenWay | null {
  const xs = lines([a.x, b.x, ...blocks.flatMap(({ outline: o }) => [o.x, o.x + o.w])]);
  const ys = lines([a.y, b.y, ...blocks.flatMap(({ outline: o }) => [o.y, o.y + o.h])]);
  const low = Math.min(a.z, b.z);
  const zs = lines([a.z, b.z, ...blocks.map((k) => k.top)]).filter((z) => z >= low);
  const [nx, ny, nz] = [xs.length, ys.length, zs.length];
  // Height of each cell of the plan; round the outside nothing stands.
  const tops = new Float64Array((nx + 1) * (ny + 1));
  for (const { outline: o, top } of blocks)
    for (let i = 0; i < nx - 1; i++) {
      if (xs[i]! < o.x || xs[i]! >= o.x + o.w) continue;
      for (let j = 0; j < ny - 1; j++) {
        if (ys[j]! < o.y || ys[j]! >= o.y + o.h) continue;
        const at = (i + 1) * (ny + 1) + j + 1;
        tops[at] = Math.max(tops[at]!, top);
      }
    }
  const top = (i: number, j: number): number => tops[(i + 1) * (ny + 1) + j + 1]!;
  const place = (p: Point3): number => (xs.indexOf(p.x) * ny + ys.indexOf(p.y)) * nz + zs.indexOf(p.z);
  const ends = [a, b].map((p) => xs.indexOf(p.x) * ny + ys.indexOf(p.y));
  const free = (axis: number, i: number, j: number, k: number): boolean => {
    const z = zs[k]!;
    if (axis === 0) return Math.min(top(i, j - 1), top(i, j)) <= z;
    if (axis === 1) return Math.min(top(i - 1, j), top(i, j)) <= z;
    return ends.includes(i * ny + j) || Math.min(top(i - 1, j - 1), top(i, j - 1), top(i - 1, j), top(i, j)) <= z;
  };
  // A state is a place and the axis along which it was reached, so that bends count.
  const states = nx * ny * nz * 3;
  const cost = new Float64Array(states).fill(Infinity);
  const by = new Int32Array(states).fill(-1);
  const done = new Uint8Array(states);
  const queue = new FlatQueue<number>();
  const [start, goal] = [place(a), place(b)];
  for (let axis = 0; axis < 3; axis++) {
    cost[start * 3 + axis] = 0;
    queue.push(start * 3 + axis, 0);
  }
  while (queue.length > 0) {
    const state = queue.pop()!;
    if (done[state]) continue;
    done[state] = 1;
    const at = Math.floor(state / 3);
    if (at === goal) return { nm: Math.floor(cost[state]! / PER_NM), points: wayTo(state) };
    const [i, j, k] = [Math.floor(at / (ny * nz)), Math.floor(at / nz) % ny, at % nz];
    const step = (axis: number, mm: number, next: number, isFree: boolean): void => {
      if (!isFree) return;
      const to = next * 3 + axis;
      const sum = cost[state]! + mm * PER_NM + (state % 3 === axis ? 0 : 1);
      if (sum < cost[to]! || (sum === cost[to] && state < by[to]!)) {
        cost[to] = sum;
        by[to] = state;
        queue.push(to, sum);
      }
    };
    if (i > 0) step(0, xs[i]! - xs[i - 1]!, at - ny * nz, free(0, i - 1, j, k));
    if (i < nx - 1) step(0, xs[i + 1]! - xs[i]!, at + ny * nz, free(0, i, j, k));
    if (j > 0) step(1, ys[j]! - ys[j - 1]!, at - nz, free(1, i, j - 1, k));
    if (j < ny - 1) step(1, ys[j + 1]! - ys[j]!, at + nz, free(1, i, j, k));
    if (k > 0) step(2, zs[k]! - zs[k - 1]!, at - 1, free(2, i, j, k - 1));
    if (k < nz - 1) step(2, zs[k + 1]! - zs[k]!, at + 1, free(2, i, j, k));
  }
  return null;

  function wayTo(state: number): Point3[] {
    const points: Point3[] = [];
    for (let s = state; s >= 0; s = by[s]!) {
      const at = Math.floor(s / 3);
      points.push({ x: xs[Math.floor(at / (ny * nz))]!, y: ys[Math.floor(at / nz) % ny]!, z: zs[at % nz]! });
    }
    return tidy(points.reverse());
  }
}

/** A way without places that are no bends. */
function tidy(points: readonly Point3[]): Point3[] {
  const kept: Point3[] = [];
  for (const p of points) {
    const last = kept[kept.length - 1];
    if (last && last.x === p.x && last.y === p.y && last.z === p.z) continue;
    const before = kept[kept.length - 2];
    const on = (k: "x" | "y" | "z"): boolean => before![k] === last![k] && last![k] === p[k];
    if (before && last && [on("x"), on("y"), on("z")].filter(Boolean).length === 2) kept.pop();
    kept.push(p);
  }
  return kept;
}
