import Flatbush from "flatbush";
import { rowPlaces, toFace, type Face, type Point3, type Rect } from "../design/geometry";
import type { Lookup } from "../design/lookup";
import type { Crossing, CrossingEnd, NetClass } from "../design/model";
import type { OpenPoints } from "../design/open-points";
import type { RouteRules } from "../design/rules";
import { toMm, toUm } from "../design/tolerance";
import type { PanelResult } from "../panel/result";

/**
 * The network of ducts. All lengths in whole micrometres, so that sums are exact.
 *
 * Each duct is its centre line, from t0 to t1 along its run, at `across` on the other axis and
 * `height` above its face. Nodes are points on centre lines; pieces join successive nodes of a duct:
 *
 *        t0    node         node  t1
 *        ├──────●────────────●─────┤      pieces W3.1, W3.2, W3.3
 *               │ joint      │ crossing
 */
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
  insideMm2: number;
  classes: readonly NetClass[] | null;
  /** Ascending places of nodes, and the node and piece (edge) numbers that belong to them. */
  stops: number[];
  firstNode: number;
  firstEdge: number;
}

export interface NetEdge {
  kind: "piece" | "joint" | "crossing";
  a: number;
  b: number;
  um: number;
  loopUm: number;
  /** Bar of a piece; for the others −1. */
  bar: number;
  crossing: Crossing | null;
}

export interface Network {
  bars: Bar[];
  byFace: Map<string, Bar[]>;
  nodeBar: Int32Array;
  /** Place of the node along its bar. */
  nodeAt: Float64Array;
  edges: NetEdge[];
  /** Neighbour lists: edges of node n are `adjacent[head[n] … head[n + 1])`. */
  head: Int32Array;
  adjacent: Int32Array;
  /** Cost of an edge, see `edgeCost`. */
  cost: Float64Array;
  /** Crossings with an end that reaches no duct: why. */
  hanging: Map<string, string>;
  /** Connected part of the network each bar belongs to. */
  part: Int32Array;
}

/** A place on a bar. */
export interface Foot {
  bar: number;
  t: number;
}

/** Share of the cost that counts changes of duct: of equally long ways the one with fewest is taken. */
export const HOPS = 1024;

const edgeCost = (e: NetEdge): number => (e.um + e.loopUm) * HOPS + (e.kind === "piece" ? 0 : 1);

const clamp = (v: number, lo: number, hi: number): number => Math.min(Math.max(v, lo), hi);

export function makeBars(look: Lookup, panel: PanelResult): Bar[] {
  return panel.ducts.map((d, index) => {
    const { x, y, w, h } = d.outline;
    const flat = d.run === "right";
    const duct = look.ducts.get(d.tag)!;
    const inner = look.parts.get(d.part)?.duct;
    const [x0, y0, x1, y1] = [toUm(x), toUm(y), toUm(x + w), toUm(y + h)];
    return {
      index,
      tag: d.tag,
      face: look.faces.get(d.face)!,
      flat,
      outline: { x: x0, y: y0, w: x1 - x0, h: y1 - y0 },
      t0: flat ? x0 : y0,
      t1: flat ? x1 : y1,
      across: Math.round(flat ? (y0 + y1) / 2 : (x0 + x1) / 2),
      height: toUm((inner?.innerH ?? d.height) / 2),
      insideMm2: inner ? inner.innerW * inner.innerH : 0,
      classes: duct.classes ?? null,
      stops: [],
      firstNode: 0,
      firstEdge: 0,
    };
  });
}

/** Nearest place on a bar's centre line to a point of its face, and the square distance to it. */
export function footOn(bar: Bar, x: number, y: number): { t: number; distance: number } {
  const along = bar.flat ? x : y;
  const off = bar.flat ? y : x;
  const t = clamp(along, bar.t0, bar.t1);
  return { t, distance: Math.abs(along - t) + Math.abs(off - bar.across) };
}

/** The bar of a face whose centre line is nearest by square distance; ties go to the earlier one. */
export function nearestBar(
  bars: readonly Bar[],
  x: number,
  y: number,
): { bar: Bar; t: number; distance: number } | null {
  let best: { bar: Bar; t: number; distance: number } | null = null;
  for (const bar of bars) {
    const foot = footOn(bar, x, y);
    if (!best || foot.distance < best.distance) best = { bar, ...foot };
  }
  return best;
}

export const pointOn = (bar: Bar, t: number): { x: number; y: number } =>
  bar.flat ? { x: t, y: bar.across } : { x: bar.across, y: t };

interface Link {
  from: Foot;
  to: Foot;
  um: number;
  loopUm: number;
  crossing: Crossing | null;
}

/** Builds the network of all ducts and crossings. O(n log n) in ducts and joints. */
export function buildNetwork(look: Lookup, panel: PanelResult, rules: RouteRules, points: OpenPoints): Network {
  const bars = makeBars(look, panel);
  const byFace = new Map<string, Bar[]>();
  for (const bar of bars) byFace.set(bar.face.id, [...(byFace.get(bar.face.id) ?? []), bar]);
  const links: Link[] = [];
  for (const onFace of byFace.values()) joinDucts(onFace, rules, links, points);
  const hanging = new Map<string, string>();
  for (const crossing of look.crossings.values()) {
    const link = joinCrossing(crossing, look, bars, byFace, rules);
    if (typeof link !== "string") {
      links.push(link);
      continue;
    }
    hanging.set(crossing.tag, link);
    points.add({
      severity: "check",
      kind: "crossing hangs free",
      thing: "crossing",
      of: crossing.tag,
      text: `crossing ${crossing.tag} hangs free: ${link}`,
      remedy: "Lead both of its ends to a duct.",
    });
  }
  return assemble(bars, byFace, links, hanging);
}

/** Finds joints between the ducts of one face, and ends that face a duct but stand too far off. */
function joinDucts(bars: readonly Bar[], rules: RouteRules, links: Link[], points: OpenPoints): void {
  if (bars.length < 2) return;
  const index = new Flatbush(bars.length);
  for (const { outline: o } of bars) index.add(o.x, o.y, o.x + o.w, o.y + o.h);
  index.finish();
  const joinGap = toUm(rules.joinGapMm);
  const watchGap = Math.max(joinGap, toUm(rules.watchGapMm));
  bars.forEach((a, i) => {
    const o = a.outline;
    const near = index.search(o.x - watchGap, o.y - watchGap, o.x + o.w + watchGap, o.y + o.h + watchGap);
    for (const j of near.sort((p, q) => p - q)) {
      if (j <= i) continue;
      const b = bars[j]!;
      const gapX = Math.max(0, b.outline.x - (o.x + o.w), o.x - (b.outline.x + b.outline.w));
      const gapY = Math.max(0, b.outline.y - (o.y + o.h), o.y - (b.outline.y + b.outline.h));
      const gap = Math.hypot(gapX, gapY);
      if (gap <= joinGap) {
        links.push(...joint(a, b));
      } else if (gap <= watchGap && (gapX === 0 || gapY === 0) && facing(a, b, gapX > 0)) {
        points.add({
          severity: "check",
          kind: "gap between ducts",
          thing: "duct",
          of: a.tag,
          text: `${a.tag} and ${b.tag} face each other ${toMm(gap)} mm apart and are not joined`,
          remedy: `Close the gap to ${rules.joinGapMm} mm or less if wires shall pass.`,
        });
      }
    }
  });
}

/** Whether an end of one of the two looks at the other across a gap along x (or along y). */
const facing = (a: Bar, b: Bar, alongX: boolean): boolean => a.flat === alongX || b.flat === alongX;

function joint(a: Bar, b: Bar): Link[] {
  const step = Math.abs(a.height - b.height);
  const link = (ta: number, tb: number, um: number): Link => ({
    from: { bar: a.index, t: ta },
    to: { bar: b.index, t: tb },
    um: um + step,
    loopUm: 0,
    crossing: null,
  });
  if (a.flat !== b.flat) {
    // The shorter reach is extended square to the other's centre line.
    const ta = clamp(b.across, a.t0, a.t1);
    const tb = clamp(a.across, b.t0, b.t1);
    return [link(ta, tb, Math.abs(b.across - ta) + Math.abs(a.across - tb))];
  }
  const lo = Math.max(a.t0, b.t0);
  const hi = Math.min(a.t1, b.t1);
  const aside = Math.abs(a.across - b.across);
  if (hi < lo) return [a.t1 < b.t0 ? link(a.t1, b.t0, lo - hi + aside) : link(a.t0, b.t1, lo - hi + aside)];
  // Side by side: wires pass over at either end of the stretch they have in common.
  return hi > lo ? [link(lo, lo, aside), link(hi, hi, aside)] : [link(lo, lo, aside)];
}

function joinCrossing(
  crossing: Crossing,
  look: Lookup,
  bars: readonly Bar[],
  byFace: ReadonlyMap<string, Bar[]>,
  rules: RouteRules,
): Link | string {
  const row = rowPlaces(look.design.enclosures).get(crossing.enclosure);
  if (!row) return `enclosure ${crossing.enclosure} is not in the design`;
  const path = crossing.points.map((p) => ({ x: p.x + row.x, y: p.y, z: p.z }));
  const end = (named: CrossingEnd, p: Point3): (Foot & { um: number }) | string => {
    const where = named.duct === undefined ? `face ${named.face}` : `duct ${named.duct}`;
    const on = named.duct === undefined ? (byFace.get(named.face!) ?? []) : bars.filter((b) => b.tag === named.duct);
    const face = on[0]?.face;
    if (!face) return named.duct === undefined ? `there is no duct on ${where}` : `${where} is not in the design`;
    if (face.row !== row.row) return `${where} is in another row of enclosures than ${crossing.enclosure}`;
    const local = toFace(face, p);
    const [x, y, z] = [toUm(local.x), toUm(local.y), toUm(local.z)];
    const nearest = nearestBar(on, x, y)!;
    if (nearest.distance > toUm(rules.reachMm)) {
      return `its end is ${Math.round(toMm(nearest.distance))} mm from ${nearest.bar.tag} on ${face.id}, more than the reach of ${rules.reachMm} mm`;
    }
    return { bar: nearest.bar.index, t: nearest.t, um: nearest.distance + Math.abs(z - nearest.bar.height) };
  };
  const from = end(crossing.from, path[0]!);
  if (typeof from === "string") return from;
  const to = end(crossing.to, path[path.length - 1]!);
  if (typeof to === "string") return to;
  let mm = 0;
  for (let i = 1; i < path.length; i++) {
    mm += Math.hypot(path[i]!.x - path[i - 1]!.x, path[i]!.y - path[i - 1]!.y, path[i]!.z - path[i - 1]!.z);
  }
  return {
    from,
    to,
    um: from.um + toUm(mm) + to.um,
    loopUm: toUm(crossing.loop ?? rules.crossingLoopMm),
    crossing,
  };
}

function assemble(
  bars: Bar[],
  byFace: Map<string, Bar[]>,
  links: readonly Link[],
  hanging: Map<string, string>,
): Network {
  for (const bar of bars) bar.stops = [bar.t0, bar.t1];
  for (const { from, to } of links) {
    bars[from.bar]!.stops.push(from.t);
    bars[to.bar]!.stops.push(to.t);
  }
  const edges: NetEdge[] = [];
  let nodes = 0;
  for (const bar of bars) {
    bar.stops = [...new Set(bar.stops)].sort((p, q) => p - q);
    bar.firstNode = nodes;
    bar.firstEdge = edges.length;
    for (let i = 1; i < bar.stops.length; i++) {
      const um = bar.stops[i]! - bar.stops[i - 1]!;
      edges.push({
        kind: "piece",
        a: nodes + i - 1,
        b: nodes + i,
        um,
        loopUm: 0,
        bar: bar.index,
        crossing: null,
      });
    }
    nodes += bar.stops.length;
  }
  const nodeOf = (foot: Foot): number => bars[foot.bar]!.firstNode + bars[foot.bar]!.stops.indexOf(foot.t);
  for (const { from, to, um, loopUm, crossing } of links) {
    edges.push({
      kind: crossing ? "crossing" : "joint",
      a: nodeOf(from),
      b: nodeOf(to),
      um,
      loopUm,
      bar: -1,
      crossing,
    });
  }
  const nodeBar = new Int32Array(nodes);
  const nodeAt = new Float64Array(nodes);
  for (const bar of bars) {
    bar.stops.forEach((t, i) => {
      nodeBar[bar.firstNode + i] = bar.index;
      nodeAt[bar.firstNode + i] = t;
    });
  }
  const { head, adjacent } = neighbours(nodes, edges);
  return {
    bars,
    byFace,
    nodeBar,
    nodeAt,
    edges,
    head,
    adjacent,
    cost: Float64Array.from(edges, edgeCost),
    hanging,
    part: connectedParts(bars, edges, nodeBar),
  };
}

function neighbours(nodes: number, edges: readonly NetEdge[]): { head: Int32Array; adjacent: Int32Array } {
  const head = new Int32Array(nodes + 1);
  for (const e of edges) {
    head[e.a + 1]!++;
    head[e.b + 1]!++;
  }
  for (let n = 0; n < nodes; n++) head[n + 1]! += head[n]!;
  const fill = head.slice(0, nodes);
  const adjacent = new Int32Array(edges.length * 2);
  edges.forEach((e, i) => {
    adjacent[fill[e.a]!++] = i;
    adjacent[fill[e.b]!++] = i;
  });
  return { head, adjacent };
}

function connectedParts(bars: readonly Bar[], edges: readonly NetEdge[], nodeBar: Int32Array): Int32Array {
  const part = Int32Array.from(bars, (_, i) => i);
  const root = (i: number): number => {
    while (part[i] !== i) i = part[i] = part[part[i]!]!;
    return i;
  };
  for (const e of edges) {
    if (e.kind === "piece") continue;
    const [a, b] = [root(nodeBar[e.a]!), root(nodeBar[e.b]!)];
    // The lower number wins, so that the answer does not depend on the order of joints.
    part[Math.max(a, b)] = Math.min(a, b);
  }
  return Int32Array.from(bars, (_, i) => root(i));
}

/** Edge number of the piece that holds a place of a bar; a place on a node belongs to the piece before it. */
export function pieceAt(bar: Bar, t: number): number {
  let lo = 0;
  let hi = bar.stops.length - 2;
  while (lo < hi) {
    const mid = (lo + hi) >> 1;
    if (bar.stops[mid + 1]! >= t) hi = mid;
    else lo = mid + 1;
  }
  return bar.firstEdge + lo;
}
