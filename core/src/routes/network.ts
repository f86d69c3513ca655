import { rowPlaces, toFace, type Face, type Point3 } from "../design/geometry";
import type { Lookup } from "../design/lookup";
import type { Crossing, CrossingEnd } from "../design/model";
import { nearPairs } from "../solve/near";
import { listed, type Mend, type NewPoint, type OpenPoints } from "../design/open-points";
import { byText } from "../design/order";
import { LOOPS } from "./rules";
import type { RouteRules } from "./rules";
import { toMm, toNm } from "../design/tolerance";
import type { PanelResult } from "../panel/result";
import { swing } from "./swing";
import type { CrossingSwing } from "./result";
import { clamp, footOn, makeBars, stopAt, toOutline, type Bar, type Foot } from "./bars";
import { layStops, loosenBundles, type Link } from "./bundles";
import { Ground } from "./ground";

export interface NetEdge {
  kind: "piece" | "joint" | "crossing";
  a: number;
  b: number;
  nm: number;
  loopNm: number;
  /** Bar of a piece; for the others −1. */
  bar: number;
  crossing: Crossing | null;
  swing?: CrossingSwing;
}

/** A crossing that joins nothing: why, and where it should. */
export interface Hanging {
  why: string;
  faces: string[];
}

/**
 * The network of ducts. All lengths in whole nanometres, so that sums are exact.
 *
 * Each duct is its centre line, from t0 to t1 along its run, at `across` on the other axis and
 * `height` above its face. Nodes are points on centre lines; pieces join successive nodes of a duct:
 *
 *        t0    node         node  t1
 *        ├──────●────────────●─────┤      pieces W3.1, W3.2, W3.3
 *               │ joint      │ crossing
 *
 * Ducts, nodes and edges are numbered by place (face, lower before higher, left before right), then by
 * tag, never by their order in the file: wherever a lower number wins a tie, the place decides.
 */
export interface Network {
  bars: Bar[];
  byFace: Map<string, Ground>;
  nodeBar: Int32Array;
  /** Place of the node along its bar. */
  nodeAt: Float64Array;
  edges: NetEdge[];
  /** Neighbour lists of node n: `adjacent` (edges) and `beyond` (nodes) at `head[n] … head[n + 1])`. */
  head: Int32Array;
  adjacent: Int32Array;
  beyond: Int32Array;
  /** Cost of an edge, see `edgeCost`. */
  cost: Float64Array;
  /** Crossings with an end that reaches no duct, by tag. */
  hanging: Map<string, Hanging>;
  /** Connected part of the network each bar belongs to: the lowest number of its bars. */
  part: Int32Array;
  /** Ducts of the part a bar belongs to, and their length together, nm. */
  partBars: Int32Array;
  partLength: Float64Array;
}

/** Share of the cost that counts changes of duct: of equally long ways the one with fewest is taken. */
export const HOPS = 1024;

const edgeCost = (e: NetEdge): number => (e.nm + e.loopNm) * HOPS + (e.kind === "piece" ? 0 : 1);

/** Builds the network of all ducts and crossings. O(n log n) in ducts and joints. */
export function buildNetwork(look: Lookup, panel: PanelResult, rules: RouteRules, points: OpenPoints): Network {
  const bars = makeBars(look, panel);
  const lists = new Map<string, Bar[]>();
  for (const bar of bars) {
    const there = lists.get(bar.face.id);
    if (there) there.push(bar);
    else lists.set(bar.face.id, [bar]);
  }
  const links: Link[] = [];
  for (const onFace of lists.values()) joinDucts(onFace, rules, links, points);
  const byFace = new Map([...lists].map(([face, onFace]) => [face, new Ground(onFace)]));
  const hanging = new Map<string, Hanging>();
  const rows = rowPlaces(look.design.enclosures);
  const byTag = new Map(bars.map((b) => [b.tag, b]));
  for (const crossing of look.crossings.values()) {
    const joined = joinCrossing(crossing, look, rows, byTag, byFace, rules, points);
    if (Array.isArray(joined)) {
      links.push(...joined);
      continue;
    }
    hanging.set(crossing.tag, joined);
    points.add({
      severity: "check",
      kind: "crossing hangs free",
      thing: "crossing",
      of: crossing.tag,
      text: `crossing ${crossing.tag} hangs free: ${joined.why}`,
      remedy: "Lead both of its ends to a duct.",
    });
  }
  loosenBundles(bars, links, points);
  return assemble(bars, byFace, links, hanging);
}

/** Finds joints between the ducts of one face, and ends or corners that stand too far off. */
function joinDucts(bars: readonly Bar[], rules: RouteRules, links: Link[], points: OpenPoints): void {
  const joinGap = toNm(rules.joinGapMm);
  const watchGap = Math.max(joinGap, toNm(rules.watchGapMm));
  const { pairs, cut } = nearPairs(
    bars.map((b) => b.outline),
    watchGap,
  );
  for (const [i, j] of pairs) {
    const [a, b] = [bars[i]!, bars[j]!];
    const o = a.outline;
    const gapX = Math.max(0, b.outline.x - (o.x + o.w), o.x - (b.outline.x + b.outline.w));
    const gapY = Math.max(0, b.outline.y - (o.y + o.h), o.y - (b.outline.y + b.outline.h));
    const gap = Math.hypot(gapX, gapY);
    if (gap <= joinGap) {
      join(a, b, links);
    } else if (gap <= watchGap && facing(a, b, gapX, gapY)) {
      const [one, two] = [a.tag, b.tag].sort(byText);
      points.add({
        severity: "check",
        kind: "gap between ducts",
        thing: "duct",
        of: one!,
        text: `${one} and ${two} ${gapX > 0 && gapY > 0 ? "come near each other at a corner," : "face each other"} ${Math.round(toMm(gap) * 10) / 10} mm apart, and are not joined`,
        remedy: `Close the gap to ${rules.joinGapMm} mm or less if wires shall pass.`,
        ...closing(a, b, gapX, gapY),
      });
    }
  }
  if (!cut) return;
  const { id } = bars[0]!.face;
  points.add({
    severity: "stop",
    kind: "too many ducts on one spot",
    thing: "face",
    of: id,
    text: `${cut.crowded.length} ducts of ${id} touch more than ${cut.most} others each: ${listed(cut.crowded.map((i) => bars[i]!.tag))}. They are joined to ${cut.most} of them only, so that wires may be led a longer way than there is`,
    remedy: "Draw every duct once, where it is.",
  });
}

/**
 * The edit that closes a gap between two ducts: the one whose end looks at the other is made longer by the
 * gap; of two the one that comes first. A corner is not closed by one edit.
 */
function closing(a: Bar, b: Bar, gapX: number, gapY: number): { mend?: Mend } {
  if (gapX > 0 && gapY > 0) return {};
  const bar = a.flat === gapX > 0 ? a : b;
  const other = bar === a ? b : a;
  const gap = gapX + gapY;
  const [start, theirs] = bar.flat ? [bar.outline.x, other.outline.x] : [bar.outline.y, other.outline.y];
  const length = toMm(bar.t1 - bar.t0 + gap);
  // Grown at its start, it begins earlier; at its end, it is only longer.
  const back = theirs < start ? { [bar.flat ? "x" : "y"]: toMm(start - gap) } : {};
  const payload = { thing: "duct", tag: bar.tag, ...back, length };
  return {
    mend: {
      label: `Close the gap: ${bar.tag} ${Math.round(toMm(gap) * 1000) / 1000} mm longer`,
      kind: "set bar",
      payload,
      asks: [],
    },
  };
}

/** Whether an end of one of the two looks at the other across the gap, or two corners do. */
const facing = (a: Bar, b: Bar, gapX: number, gapY: number): boolean =>
  (gapX > 0 && gapY > 0) || a.flat === gapX > 0 || b.flat === gapX > 0;

/** Joins two bars: at one place, or along the stretch they have in common side by side. */
function join(a: Bar, b: Bar, links: Link[]): void {
  const step = Math.abs(a.height - b.height);
  const link = (ta: number, tb: number, nm: number): void => {
    links.push({
      from: { bar: a.index, t: ta },
      to: { bar: b.index, t: tb },
      nm: nm + step,
      loopNm: 0,
      crossing: null,
    });
  };
  if (a.flat !== b.flat) {
    // The shorter reach is extended square to the other's centre line.
    const ta = clamp(b.across, a.t0, a.t1);
    const tb = clamp(a.across, b.t0, b.t1);
    link(ta, tb, Math.abs(b.across - ta) + Math.abs(a.across - tb));
    return;
  }
  const lo = Math.max(a.t0, b.t0);
  const hi = Math.min(a.t1, b.t1);
  const aside = Math.abs(a.across - b.across);
  if (hi > lo) {
    a.sides.push({ other: b.index, lo, hi, nm: aside + step });
    b.sides.push({ other: a.index, lo, hi, nm: aside + step });
  } else if (a.t1 <= b.t0) {
    link(a.t1, b.t0, lo - hi + aside);
  } else {
    link(a.t0, b.t1, lo - hi + aside);
  }
}

type CrossingFoot = Foot & { nm: number };

function joinCrossing(
  crossing: Crossing,
  look: Lookup,
  rows: ReturnType<typeof rowPlaces>,
  byTag: ReadonlyMap<string, Bar>,
  byFace: ReadonlyMap<string, Ground>,
  rules: RouteRules,
  points: OpenPoints,
): Link[] | Hanging {
  const faceOf = (end: CrossingEnd): string =>
    end.duct === undefined ? end.face! : (byTag.get(end.duct)?.face.id ?? `${crossing.enclosure}/?`);
  const faces = [faceOf(crossing.from), faceOf(crossing.to)];
  const row = rows.get(crossing.enclosure);
  if (!row) return { why: `enclosure ${crossing.enclosure} is not in the design`, faces };
  const path = crossing.points.map((p) => ({ x: p.x + row.x, y: p.y, z: p.z }));
  const off: string[] = [];
  const end = (named: CrossingEnd, p: Point3, word: string): CrossingFoot[] | string => {
    const where = named.duct === undefined ? `face ${named.face}` : `duct ${named.duct}`;
    const bar = byTag.get(named.duct ?? "");
    const ground = byFace.get(named.face ?? "");
    const face = (bar ?? ground?.bars[0])?.face;
    if (!face) return named.duct === undefined ? `there is no duct on ${where}` : `${where} is not in the design`;
    if (face.row !== row.row) return `${where} is in another row of enclosures than ${crossing.enclosure}`;
    const local = toFace(face, p);
    const [x, y, z] = [toNm(local.x), toNm(local.y), toNm(local.z)];
    const nearest = bar ? [bar] : ground!.nearest(x, y);
    const first = nearest[0]!;
    const plane = toOutline(first.outline, x, y);
    if (plane > toNm(rules.reachMm)) {
      return `its end is ${Math.round(toMm(plane))} mm from ${first.tag} on ${face.id}, more than the reach of ${rules.reachMm} mm`;
    }
    const height = Math.abs(z - first.height);
    if (Math.max(plane, height) > toNm(rules.crossingOffMm)) {
      off.push(
        `its ${word} end is ${Math.round(toMm(plane))} mm beside ${first.tag} and ${Math.round(toMm(height))} mm from its centre line in height`,
      );
    }
    return nearest.map((b) => {
      const { t, distance } = footOn(b, x, y);
      return { bar: b.index, t, nm: distance + Math.abs(z - b.height) };
    });
  };
  const from = end(crossing.from, path[0]!, "first");
  if (typeof from === "string") return { why: from, faces };
  const to = end(crossing.to, path[path.length - 1]!, "last");
  if (typeof to === "string") return { why: to, faces };
  if (off.length > 0) {
    points.add({
      severity: "check",
      kind: "crossing off its duct",
      thing: "crossing",
      of: crossing.tag,
      text: `crossing ${crossing.tag} ends far off: ${off.join("; ")} (doubted from ${rules.crossingOffMm} mm)`,
      remedy: "Correct the points of the crossing, or name the duct it ends in. The distance counts as length.",
    });
  }
  const stretches = path.slice(1).map((q, i) => {
    const p = path[i]!;
    return toNm(Math.hypot(q.x - p.x, q.y - p.y, q.z - p.z));
  });
  const nm = stretches.reduce((all, mm) => all + mm, 0);
  const swung = crossing.kind === "hinge" ? swingOf(crossing, faces, look, path, stretches, rules) : null;
  let loopNm = toNm(crossing.loop ?? rules[LOOPS[crossing.kind]]);
  if (swung) {
    const lacks = Math.max(0, toNm(swung.needMm) - toNm(swung.guidedMm));
    if (crossing.loop === undefined) loopNm += lacks;
    else if (loopNm < lacks) points.add(tooShort(crossing, swung, toMm(lacks), rules));
    const missing = crossing.held?.find((n) => n > path.length);
    if (missing !== undefined)
      points.add({
        severity: "check",
        kind: "held at no point",
        thing: "crossing",
        of: crossing.tag,
        text: `crossing ${crossing.tag} is held at point ${missing}, and has ${path.length}; its last point is taken`,
        remedy: "Say at which of its points it is held.",
      });
    if (swung.sideGuessed) points.add(noHinge(crossing, doorOf(faces, look)!.enclosure, swung));
  }
  // An end midway between two ducts serves both: the shorter way decides.
  return from.flatMap((f) =>
    to.map((t): Link => ({
      from: f,
      to: t,
      nm: f.nm + nm + t.nm,
      loopNm,
      crossing,
      ...(swung ? { swing: swung } : {}),
    })),
  );
}

/** The one face of two that is a door; null when none is, or both are. */
function doorOf(faces: readonly string[], look: Lookup): Face | null {
  const [one, two] = faces.map((f) => look.faces.get(f));
  if ((one?.kind === "door") === (two?.kind === "door")) return null;
  return (one?.kind === "door" ? one : two) ?? null;
}

/**
 * What the swing of a door asks of the bundle that goes over its hinge, between the two places where it is held.
 * Null when neither end is on a door, or both are: then nothing is known that moves against the other.
 */
function swingOf(
  crossing: Crossing,
  faces: readonly string[],
  look: Lookup,
  path: readonly Point3[],
  stretches: readonly number[],
  rules: RouteRules,
): CrossingSwing | null {
  const door = doorOf(faces, look);
  if (!door) return null;
  const body = look.enclosures.get(door.enclosure)!;
  const [one, two] = (crossing.held ?? [1, path.length]).map((n) => clamp(n, 1, path.length) - 1);
  const [lo, hi] = [Math.min(one!, two!), Math.max(one!, two!)];
  const [onDoor, onBody] = door.id === faces[0] ? [path[lo]!, path[hi]!] : [path[hi]!, path[lo]!];
  // The origin of the door is the front corner of its body.
  const left = door.origin.x;
  const nearer = onDoor.x + onBody.x - 2 * left <= body.w ? "left" : "right";
  const side = body.hinge ?? nearer;
  const corner = { x: side === "left" ? left : left + body.w, z: 0 };
  const axis = body.hingeAxis ? { x: left + body.hingeAxis.x, z: body.hingeAxis.z } : corner;
  const openDeg = body.opensDeg ?? rules.doorOpenDeg;
  const { need, atDeg } = swing(axis, onDoor, onBody, side, openDeg);
  return {
    needMm: toMm(toNm(need)),
    guidedMm: toMm(stretches.slice(lo, hi).reduce((all, mm) => all + mm, 0)),
    atDeg: Math.round(atDeg * 10) / 10,
    openDeg,
    side,
    sideGuessed: body.hinge === undefined,
    onTopMm: crossing.loop === undefined ? rules.loopHingeMm : null,
  };
}

const whole = (mm: number): number => Math.ceil(mm - 1e-6);

/** A bundle that a door would tear off. */
const tooShort = (crossing: Crossing, s: CrossingSwing, lacksMm: number, rules: RouteRules): NewPoint => ({
  severity: "stop",
  kind: "loop too short for the door",
  thing: "crossing",
  of: crossing.tag,
  text: `crossing ${crossing.tag}: its door, open by ${s.atDeg}°, needs ${whole(s.needMm)} mm between the places where the bundle is held; ${Math.round(s.guidedMm)} mm are guided and its loop is ${crossing.loop} mm: ${whole(lacksMm - crossing.loop!)} mm are missing`,
  remedy: "Give it a longer loop, lead it nearer to the hinge, or say how far the door opens.",
  mend: {
    label: `Make its loop ${whole(lacksMm + rules.loopHingeMm)} mm`,
    kind: "set crossing",
    payload: { crossing: { ...crossing, loop: whole(lacksMm + rules.loopHingeMm) } },
    asks: [],
  },
});

const noHinge = (crossing: Crossing, enclosure: string, s: CrossingSwing): NewPoint => ({
  severity: "check",
  kind: "side of the hinge not stated",
  thing: "crossing",
  of: crossing.tag,
  text: `crossing ${crossing.tag} goes over a hinge, and its enclosure does not say on which side that is; the ${s.side} one is taken, as it is nearer`,
  remedy: "Say on which side the door is hung; what its swing needs follows from it.",
  mend: {
    label: "Say on which side it is hung",
    kind: "set door",
    payload: { enclosure },
    asks: [{ field: "hinge", label: "Hinge, seen from the front", as: "choice", choices: ["left", "right"] }],
  },
});

function assemble(
  bars: Bar[],
  byFace: Map<string, Ground>,
  links: readonly Link[],
  hanging: Map<string, Hanging>,
): Network {
  layStops(bars, links);
  const edges: NetEdge[] = [];
  let nodes = 0;
  for (const bar of bars) {
    bar.firstNode = nodes;
    bar.firstEdge = edges.length;
    for (let i = 1; i < bar.stops.length; i++) {
      const nm = bar.stops[i]! - bar.stops[i - 1]!;
      edges.push({ kind: "piece", a: nodes + i - 1, b: nodes + i, nm, loopNm: 0, bar: bar.index, crossing: null });
    }
    nodes += bar.stops.length;
  }
  const nodeOf = (foot: Foot): number => bars[foot.bar]!.firstNode + stopAt(bars[foot.bar]!, foot.t);
  const over: NetEdge[] = links.map(({ from, to, nm, loopNm, crossing, swing }) => ({
    kind: crossing ? "crossing" : "joint",
    a: nodeOf(from),
    b: nodeOf(to),
    nm,
    loopNm,
    bar: -1,
    crossing,
    ...(swing ? { swing } : {}),
  }));
  for (const bar of bars) {
    for (const side of bar.sides) {
      if (side.other < bar.index) continue;
      const first = stopAt(bar, side.lo);
      const last = stopAt(bar, side.hi);
      for (let i = first; i <= last; i++) {
        const b = nodeOf({ bar: side.other, t: bar.stops[i]! });
        over.push({ kind: "joint", a: bar.firstNode + i, b, nm: side.nm, loopNm: 0, bar: -1, crossing: null });
      }
    }
  }
  const low = (e: NetEdge): number => Math.min(e.a, e.b);
  const high = (e: NetEdge): number => Math.max(e.a, e.b);
  over.sort((p, q) => low(p) - low(q) || high(p) - high(q) || byText(p.crossing?.tag ?? "", q.crossing?.tag ?? ""));
  for (const e of over) edges.push(e);
  const nodeBar = new Int32Array(nodes);
  const nodeAt = new Float64Array(nodes);
  for (const bar of bars) {
    bar.stops.forEach((t, i) => {
      nodeBar[bar.firstNode + i] = bar.index;
      nodeAt[bar.firstNode + i] = t;
    });
  }
  const part = connectedParts(bars, over, nodeBar);
  const lengths = new Float64Array(bars.length);
  const counts = new Int32Array(bars.length);
  for (const bar of bars) counts[part[bar.index]!]!++;
  for (const bar of bars) lengths[part[bar.index]!]! += bar.t1 - bar.t0;
  return {
    bars,
    byFace,
    nodeBar,
    nodeAt,
    edges,
    ...neighbours(nodes, edges),
    cost: Float64Array.from(edges, edgeCost),
    hanging,
    part,
    partBars: counts.map((_, i) => counts[part[i]!]!),
    partLength: lengths.map((_, i) => lengths[part[i]!]!),
  };
}

function neighbours(nodes: number, edges: readonly NetEdge[]): Pick<Network, "head" | "adjacent" | "beyond"> {
  const head = new Int32Array(nodes + 1);
  for (const e of edges) {
    head[e.a + 1]!++;
    head[e.b + 1]!++;
  }
  for (let n = 0; n < nodes; n++) head[n + 1]! += head[n]!;
  const fill = head.slice(0, nodes);
  const adjacent = new Int32Array(edges.length * 2);
  const beyond = new Int32Array(edges.length * 2);
  edges.forEach((e, i) => {
    adjacent[fill[e.a]!] = i;
    beyond[fill[e.a]!++] = e.b;
    adjacent[fill[e.b]!] = i;
    beyond[fill[e.b]!++] = e.a;
  });
  return { head, adjacent, beyond };
}

function connectedParts(bars: readonly Bar[], over: readonly NetEdge[], nodeBar: Int32Array): Int32Array {
  const part = Int32Array.from(bars, (_, i) => i);
  const root = (i: number): number => {
    while (part[i] !== i) i = part[i] = part[part[i]!]!;
    return i;
  };
  for (const e of over) {
    const [a, b] = [root(nodeBar[e.a]!), root(nodeBar[e.b]!)];
    part[Math.max(a, b)] = Math.min(a, b);
  }
  return Int32Array.from(bars, (_, i) => root(i));
}

/** Edge number of the piece that holds a place of a bar; a place on a node belongs to the piece before it. */
export const pieceAt = (bar: Bar, t: number): number => bar.firstEdge + Math.max(0, stopAt(bar, t) - 1);

/** Whether a place of a bar is one of its nodes. */
export const isStop = (bar: Bar, t: number): boolean => bar.stops[stopAt(bar, t)] === t;
