import type { Point } from "../design/geometry";
import { INK, textAt, type SceneItem } from "./scene";

/** Places along a line for labels that would cover each other: moved apart, in their order, within the line; null where they find no room. */
export function spread(wanted: readonly number[], gap: number, from: number, to: number): number[] | null {
  if (wanted.length * gap > to - from + gap) return null;
  const placed: number[] = [];
  wanted.forEach((w, i) => placed.push(Math.max(w, i === 0 ? from : placed[i - 1]! + gap)));
  let most = to;
  for (let i = placed.length - 1; i >= 0; i--) {
    placed[i] = Math.min(placed[i]!, most);
    most = placed[i]! - gap;
  }
  return placed;
}

/** How many places are seen along an axis, each once. */
const distinct = (values: readonly number[]): number[] =>
  [...new Set(values.map((v) => Math.round(v * 100) / 100))].sort((a, b) => a - b);

const line = (x1: number, y1: number, x2: number, y2: number): SceneItem => ({
  kind: "line",
  x1,
  y1,
  x2,
  y2,
  width: 0.18,
  layer: "mark",
  colour: INK,
});

export interface OrdinateFrame {
  /** From a place on the face to the sheet. */
  at(p: Point): Point;
  /** Of the face. */
  w: number;
  h: number;
  /** Height of the figures, mm. */
  size: number;
  /** How far figures below may reach beyond the right edge. */
  beyond: number;
  /** A length as it is written. */
  words(mm: number): string;
  /** Where they find no room. */
  crowded(count: number, axis: "x" | "y"): string;
}

/** Distances from the datum at the lower left corner, along the lower and the left edge; where they find no room, a word. */
export function ordinates(xs: readonly number[], ys: readonly number[], frame: OrdinateFrame): SceneItem[] {
  const { at, w, h, size, beyond, words, crowded } = frame;
  const gap = size * 1.05;
  const [left, bottom] = [at({ x: 0, y: 0 }).x, at({ x: 0, y: 0 }).y];
  const right = at({ x: w, y: 0 }).x;
  const top = at({ x: 0, y: h }).y;
  const items: SceneItem[] = [];
  const [across, upward] = [distinct(xs), distinct(ys)];
  const along = spread(
    across.map((x) => at({ x, y: 0 }).x),
    gap,
    left,
    right + beyond,
  );
  if (along)
    across.forEach((x, i) => {
      const from = at({ x, y: 0 }).x;
      items.push(line(from, bottom + 1, from, bottom + 3), line(from, bottom + 3, along[i]!, bottom + 8));
      items.push(textAt(along[i]!, bottom + 9, words(x), size, { turn: 90, anchor: "end" }));
    });
  else items.push(textAt(left, bottom + 6, crowded(across.length, "x"), size));
  const up = spread(
    upward.map((y) => -at({ x: 0, y }).y),
    gap,
    -bottom,
    -top + gap,
  );
  if (up)
    upward.forEach((y, i) => {
      const from = at({ x: 0, y }).y;
      items.push(line(left - 1, from, left - 3, from), line(left - 3, from, left - 8, -up[i]!));
      items.push(textAt(left - 9, -up[i]!, words(y), size, { anchor: "end" }));
    });
  else items.push(textAt(left - 3, top, crowded(upward.length, "y"), size, { turn: 90, anchor: "end" }));
  return items;
}
