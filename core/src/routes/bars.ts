import type { Face, Rect } from "../design/geometry";
import type { Lookup } from "../design/lookup";
import type { NetClass } from "../design/model";
import { byText } from "../design/order";
import { toNm } from "../design/tolerance";
import type { PanelResult } from "../panel/result";

/** A duct as its centre line, from t0 to t1 along its run, at `across` on the other axis. Whole nanometres. */
export interface Bar {
  index: number;
  tag: string;
  face: Face;
  flat: boolean;
  outline: Rect;
  t0: number;
  t1: number;
  across: number;
  height: number;
  /** 0: the part states no inside size; then `height` is a guess too. */
  insideMm2: number;
  /** Inner width, nm; 0 when not stated. */
  wide: number;
  classes: readonly NetClass[] | null;
  /** Ascending places of nodes. Node i of the bar is `firstNode + i`, piece i `firstEdge + i`. */
  stops: number[];
  firstNode: number;
  firstEdge: number;
  /** Stretches along which it lies beside another duct, where wires pass over anywhere. */
  sides: Side[];
}

/** A stretch that two ducts of one run have in common. */
export interface Side {
  other: number;
  lo: number;
  hi: number;
  /** From centre line to centre line, step in height included. */
  nm: number;
}

/** A place on a bar. */
export interface Foot {
  bar: number;
  t: number;
}

export const clamp = (v: number, lo: number, hi: number): number => Math.min(Math.max(v, lo), hi);

export function makeBars(look: Lookup, panel: PanelResult): Bar[] {
  const bars = panel.ducts.map((d): Bar => {
    const { x, y, w, h } = d.outline;
    const flat = d.run === "right";
    const inner = look.parts.get(d.part)?.duct;
    const [x0, y0, x1, y1] = [toNm(x), toNm(y), toNm(x + w), toNm(y + h)];
    return {
      index: 0,
      tag: d.tag,
      face: look.faces.get(d.face)!,
      flat,
      outline: { x: x0, y: y0, w: x1 - x0, h: y1 - y0 },
      t0: flat ? x0 : y0,
      t1: flat ? x1 : y1,
      across: Math.round(flat ? (y0 + y1) / 2 : (x0 + x1) / 2),
      height: toNm((inner?.innerH ?? d.height) / 2),
      insideMm2: inner ? inner.innerW * inner.innerH : 0,
      wide: toNm(inner?.innerW ?? 0),
      classes: look.ducts.get(d.tag)!.classes ?? null,
      stops: [],
      firstNode: 0,
      firstEdge: 0,
      sides: [],
    };
  });
  bars.sort(
    (a, b) =>
      byText(a.face.id, b.face.id) || a.outline.y - b.outline.y || a.outline.x - b.outline.x || byText(a.tag, b.tag),
  );
  bars.forEach((bar, i) => (bar.index = i));
  return bars;
}

/** Nearest place on a bar's centre line to a point of its face, and the square distance to it. */
export function footOn(bar: Bar, x: number, y: number): { t: number; distance: number } {
  const along = bar.flat ? x : y;
  const off = bar.flat ? y : x;
  const t = clamp(along, bar.t0, bar.t1);
  return { t, distance: Math.abs(along - t) + Math.abs(off - bar.across) };
}

/** Square distance from a point to an outline; 0 inside. */
export const toOutline = (o: Rect, x: number, y: number): number =>
  Math.max(0, o.x - x, x - (o.x + o.w)) + Math.max(0, o.y - y, y - (o.y + o.h));

export const pointOn = (bar: Bar, t: number): { x: number; y: number } =>
  bar.flat ? { x: t, y: bar.across } : { x: bar.across, y: t };

/** Index of a place among the stops of a bar; the place must be one. */
export function stopAt(bar: Bar, t: number): number {
  let lo = 0;
  let hi = bar.stops.length - 1;
  while (lo < hi) {
    const mid = (lo + hi) >> 1;
    if (bar.stops[mid]! < t) lo = mid + 1;
    else hi = mid;
  }
  return lo;
}
