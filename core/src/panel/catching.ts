import { alongRail } from "../design/hung";
import type { Rect } from "../design/geometry";
import { lookUp, mountOf, type Lookup } from "../design/lookup";
import type { Design, Device, Part, Place, Rail } from "../design/model";
import { bodyOnRail } from "./on-rail";
import { insertDevice } from "./edits";
import type { PanelResult } from "./result";
import { even, gapBetween, heldByStrips, isIn, laidStripOf, standsOn } from "./stands";

/**
 * Where a thing that is dragged takes hold: little precision is needed, as it catches the edges, middles and equal gaps of
 * what stands around it, and rails where its part has a mount for one.
 */

/** A line that was caught, on the face. */
export interface Guide {
  /** The coordinate that it fixes. */
  axis: "x" | "y";
  at: number;
}

/** What would be laid if it were let go here, and where it would stand then. */
export interface Hold {
  /** Null: it takes hold nowhere here; `reason` says why. */
  edit: { kind: string; payload: object } | null;
  reason: string;
  face: string;
  outline: Rect;
  guides: Guide[];
  /** Others that move with it or out of its way, where they would stand. */
  others: Rect[];
}

type Box = Pick<PanelResult, "faces" | "devices" | "rails" | "ducts" | "hung">;

/** Only so many bodies, the nearest, are looked at: what lies far away is not meant. */
const MOST_NEAR = 40;

interface Caught {
  from: number;
  line: number | null;
}

/**
 * The beginning of a stretch, moved to the nearest of what it may catch within reach; edges before middles, middles
 * before gaps where two are as near. O(lines)
 */
export function catchOn(
  from: number,
  wide: number,
  { edges, middles, starts }: { edges: readonly number[]; middles: readonly number[]; starts: readonly number[] },
  reach: number,
): Caught {
  let best: Caught = { from, line: null };
  let off = reach;
  const take = (to: number, line: number): void => {
    // Nearer by more than noise: the first of two that are as near stays.
    if (Math.abs(to - from) < off - (best.line === null ? -1e-9 : 1e-9)) {
      off = Math.abs(to - from);
      best = { from: to, line };
    }
  };
  for (const e of edges) {
    take(e, e);
    take(e - wide, e);
  }
  for (const m of middles) take(m - wide / 2, m);
  for (const s of starts) take(s, s);
  return { from: even(best.from), line: best.line };
}

const END = { x: "w", y: "h" } as const;
const gapTo = (a: Rect, b: Rect): number =>
  Math.hypot(Math.max(0, a.x - b.x - b.w, b.x - a.x - a.w), Math.max(0, a.y - b.y - b.h, b.y - a.y - a.h));

/** Beginnings at which the gaps beside a stretch are equal: in the middle between two, or as far from one as that is from its own neighbour. */
function equalGaps(raw: Rect, near: readonly Rect[], axis: "x" | "y"): number[] {
  const other = axis === "x" ? "y" : "x";
  const row = near
    .filter((b) => b[other] < raw[other] + raw[END[other]] && raw[other] < b[other] + b[END[other]])
    .map((b): [number, number] => [b[axis], b[axis] + b[END[axis]]])
    .sort((a, b) => a[0] - b[0]);
  const [wide, middle] = [raw[END[axis]], raw[axis] + raw[END[axis]] / 2];
  const before = row.filter(([from, to]) => (from + to) / 2 <= middle);
  const behind = row.filter(([from, to]) => (from + to) / 2 > middle);
  const [l, ll] = [before[before.length - 1], before[before.length - 2]];
  const [r, rr] = [behind[0], behind[1]];
  const starts: number[] = [];
  if (l && r && r[0] - l[1] > wide) starts.push((l[1] + r[0] - wide) / 2);
  if (l && ll && l[0] > ll[1]) starts.push(l[1] + l[0] - ll[1]);
  if (r && rr && rr[0] > r[1]) starts.push(r[0] - (rr[0] - r[1]) - wide);
  return starts;
}

/** A rectangle on a face, moved to what it catches there. */
function catchBox(
  raw: Rect,
  face: { w: number; h: number },
  others: readonly Rect[],
  reach: number,
): { outline: Rect; guides: Guide[] } {
  const near = [...others]
    .map((b) => ({ b, far: gapTo(raw, b) }))
    .sort((a, b) => a.far - b.far)
    .slice(0, MOST_NEAR)
    .map(({ b }) => b);
  const guides: Guide[] = [];
  const along = (axis: "x" | "y"): number => {
    const size = END[axis];
    const caught = catchOn(
      raw[axis],
      raw[size],
      {
        edges: [0, face[size], ...near.flatMap((b) => [b[axis], b[axis] + b[size]])],
        middles: [face[size] / 2, ...near.map((b) => b[axis] + b[size] / 2)],
        starts: equalGaps(raw, near, axis),
      },
      reach,
    );
    if (caught.line !== null) guides.push({ axis, at: caught.line });
    return caught.from;
  };
  return { outline: { ...raw, x: along("x"), y: along("y") }, guides };
}

/** Within its face: what is dragged beyond its edge stays at it, where it fits at all. */
const kept = (raw: Rect, face: { w: number; h: number }): Rect => ({
  ...raw,
  x: Math.max(0, Math.min(raw.x, face.w - raw.w)),
  y: Math.max(0, Math.min(raw.y, face.h - raw.h)),
});

/** What a dragged thing can catch on a face. */
const bodiesOn = (panel: Box, face: string, but: (tag: string) => boolean): Rect[] => [
  ...panel.devices.filter((d) => d.face === face && !but(d.tag)).map((d) => d.outline),
  ...panel.rails.filter((r) => r.face === face && !but(r.tag)).map((r) => r.outline),
  ...panel.ducts.filter((d) => d.face === face && !but(d.tag)).map((d) => d.outline),
  ...panel.hung.filter((p) => p.face === face).map((p) => p.outline),
];

const nothing = (reason: string, face: string, outline: Rect): Hold => ({
  edit: null,
  reason,
  face,
  outline,
  guides: [],
  others: [],
});

/** Whether a device can be dragged: it has a place of its own, or a loose one could get one. */
export function canDrag(design: Design, tag: string): boolean {
  const device = lookUp(design).devices.get(tag);
  return device !== undefined && device.on?.slot === undefined && !laidStripOf(design, tag);
}

/**
 * Where a device would stand if it were let go with its outline here.
 * @param raw its outline as it is dragged, mm on the face
 * @param reach how far it catches, mm; 0: not at all
 */
export function holdDevice(design: Design, panel: Box, tag: string, face: string, raw: Rect, reach: number): Hold {
  const look = lookUp(design);
  const [device, on] = [look.devices.get(tag), look.faces.get(face)];
  const part = device && look.parts.get(device.part);
  if (!device || !part || !on) return nothing(`${tag} has no body`, face, raw);
  const rail = railUnder(raw, face, device, part, look, reach);
  if (rail) return onRail(design, panel, device, part, rail, raw, reach, look);
  const mounts = part.mounts ?? [];
  if (mounts.length > 0 && !mountOf(part, "plate") && !mountOf(part, "door"))
    return nothing(`${tag} stands on rails alone: bring it to one`, face, raw);
  const carried = (t: string): boolean => t === tag || isIn(look, t, (c) => c === tag);
  const { outline, guides } = catchBox(kept(raw, on), on, bodiesOn(panel, face, carried), reach);
  return {
    edit: {
      kind: "place",
      payload: {
        device: tag,
        on: { face, x: even(outline.x + (outline.w - part.w) / 2), y: even(outline.y + (outline.h - part.h) / 2) },
      },
    },
    reason: "",
    face,
    outline,
    guides,
    others: goingAlong(panel, carried, tag, outline),
  };
}

/** What stands in the slots of a device that is moved to an outline. */
function goingAlong(panel: Box, carried: (tag: string) => boolean, tag: string, to: Rect): Rect[] {
  const from = panel.devices.find((d) => d.tag === tag)?.outline;
  if (!from) return [];
  return panel.devices
    .filter((d) => d.tag !== tag && carried(d.tag))
    .map(({ outline: o }) => ({ ...o, x: o.x + to.x - from.x, y: o.y + to.y - from.y }));
}

/** Its outline on a rail at a place of it. */
const outlineOn = (device: Device, part: Part, rail: Rail, look: Lookup, x: number): Rect =>
  bodyOnRail(part, device.turn ?? 0, rail, look.parts.get(rail.part)!, x).outline;

/** The rail that a body lies over, or comes near to, with its datum; the nearest of several. Null for what has no mount for one. */
function railUnder(raw: Rect, face: string, device: Device, part: Part, look: Lookup, reach: number): Rail | null {
  if ((part.mounts ?? []).length > 0 && !mountOf(part, "rail")) return null;
  let best: { rail: Rail; off: number } | null = null;
  for (const rail of look.rails.values()) {
    if (rail.face !== face || !look.parts.has(rail.part)) continue;
    const [along, across] = rail.run === "up" ? (["y", "x"] as const) : (["x", "y"] as const);
    const off = Math.abs(outlineOn(device, part, rail, look, 0)[across] - raw[across]);
    const start = raw[along] - rail[along];
    if (off > raw[END[across]] / 2 + reach) continue;
    if (start > rail.length || start + raw[END[along]] < 0) continue;
    if (!best || off < best.off) best = { rail, off };
  }
  // What can stand on the face as well takes hold of a rail only where it is meant.
  const free = mountOf(part, "plate") ?? mountOf(part, "door") ?? (part.mounts ? undefined : part);
  return best && (!free || best.off <= Math.max(reach, 10)) ? best.rail : null;
}

function onRail(
  design: Design,
  panel: Box,
  device: Device,
  part: Part,
  rail: Rail,
  raw: Rect,
  reach: number,
  look: Lookup,
): Hold {
  const axis = rail.run === "up" ? "y" : "x";
  const wide = alongRail(device, look)!;
  const stands = standsOn(design, rail.tag, new Set([device.tag]));
  const at = raw[axis] - rail[axis];
  const middle = at + wide / 2;
  const before = stands.filter((s) => (s.from + s.to) / 2 <= middle).at(-1);
  const behind = stands.find((s) => (s.from + s.to) / 2 > middle);
  const low = before ? before.to + gapBetween(before.device, device, rail, look) : 0;
  const high = (behind ? behind.from - gapBetween(device, behind.device, rail, look) : rail.length) - wide;
  const place = (x: number, guides: Guide[]): Hold => ({
    edit: { kind: "place", payload: { device: device.tag, on: { rail: rail.tag, x } } },
    reason: "",
    face: rail.face,
    outline: outlineOn(device, part, rail, look, x),
    guides,
    others: [],
  });
  if (low <= high + 1e-6) {
    const clamped = Math.max(low, Math.min(at, high));
    const caught = catchOn(
      clamped,
      wide,
      { edges: [], middles: before || behind ? [] : [rail.length / 2], starts: [low, high, (low + high) / 2] },
      reach,
    );
    const line = caught.line === null ? [] : [{ axis, at: rail[axis] + caught.from } as Guide];
    const hold = place(caught.from, line);
    const from = panel.devices.find((d) => d.tag === device.tag)?.outline;
    return {
      ...hold,
      others: from ? goingAlong(panel, (t) => isIn(look, t, (c) => c === device.tag), device.tag, hold.outline) : [],
    };
  }
  // No room between the two: it goes beside the one that it lies over, and pushes what is in its way along.
  const [beside, side] = before?.device ? ([before, "behind"] as const) : behind?.device ? ([behind, "before"] as const) : [null, "behind"]; // prettier-ignore
  if (!beside) return nothing(`a strip is in the way on ${rail.tag}`, rail.face, raw);
  const payload = { device: device.tag, beside: beside.of, side };
  const applied = insertDevice.apply(design, payload);
  if (!applied.ok) return nothing(applied.reason, rail.face, raw);
  const was = new Map<string, Place | undefined>(design.devices.map((d) => [d.tag, d.on]));
  const after = lookUp(applied.design);
  const pushed = [...after.devices.values()].filter((d) => d.tag !== device.tag && d.on !== was.get(d.tag));
  const outline = (d: Device): Rect => outlineOn(d, look.parts.get(d.part)!, rail, look, d.on!.x!);
  return {
    edit: { kind: "insert", payload },
    reason: "",
    face: rail.face,
    outline: outline(after.devices.get(device.tag)!),
    guides: [],
    others: pushed.filter((d) => look.parts.has(d.part)).map(outline),
  };
}

/** What is done to a rail or a duct: all of it is moved, or one of its ends. */
export type Grip = "all" | "start" | "end";

/**
 * Where a rail or a duct would lie if it were let go here; what stands on a rail goes along.
 * @param by how far it is dragged, mm on its face
 * @param reach how far it catches, mm; 0: not at all
 */
export function holdBar(
  design: Design,
  panel: Box,
  thing: "rail" | "duct",
  tag: string,
  grip: Grip,
  by: { x: number; y: number },
  reach: number,
): Hold {
  const look = lookUp(design);
  const bar = (thing === "rail" ? look.rails : look.ducts).get(tag);
  const placed = (thing === "rail" ? panel.rails : panel.ducts).find((b) => b.tag === tag);
  const face = bar && look.faces.get(bar.face);
  if (!bar || !placed || !face)
    return nothing(`${thing} ${tag} lies nowhere`, bar?.face ?? "", { x: 0, y: 0, w: 0, h: 0 });
  const axis = bar.run === "up" ? "y" : "x";
  const o = placed.outline;
  const held = heldByStrips(design);
  const stands = (t: string): boolean => {
    const d = look.devices.get(t);
    return d !== undefined && (d.on?.rail === tag || (held.has(t) && laidStripOf(design, t)?.rail === tag));
  };
  const carried = (t: string): boolean =>
    stands(t) || panel.devices.some((d) => stands(d.tag) && isIn(look, t, (c) => c === d.tag));
  const going = thing === "rail" ? panel.devices.filter((d) => d.face === bar.face && carried(d.tag)) : [];
  const goes = new Set(going.map((d) => d.tag));
  const others = bodiesOn(panel, bar.face, (t) => t === tag || goes.has(t));
  if (grip === "all") {
    const { outline, guides } = catchBox(kept({ ...o, x: o.x + by.x, y: o.y + by.y }, face), face, others, reach);
    const [dx, dy] = [outline.x - o.x, outline.y - o.y];
    return {
      edit: { kind: "set bar", payload: { thing, tag, x: even(bar.x + dx), y: even(bar.y + dy) } },
      reason: "",
      face: bar.face,
      outline,
      guides,
      others: going.map(({ outline: d }) => ({ ...d, x: d.x + dx, y: d.y + dy })),
    };
  }
  // The end that is dragged catches as an edge of no width does.
  const size = END[axis];
  const end = grip === "end" ? o[axis] + o[size] + by[axis] : o[axis] + by[axis];
  const near = others.flatMap((b) => [b[axis], b[axis] + b[size]]);
  const caught = catchOn(
    Math.max(0, Math.min(end, face[size])),
    0,
    { edges: [0, face[size], ...near], middles: [face[size] / 2], starts: [] },
    reach,
  );
  const length = even(grip === "end" ? caught.from - o[axis] : o[axis] + o[size] - caught.from);
  const outline = { ...o, [size]: length, ...(grip === "end" ? {} : { [axis]: caught.from }) };
  if (length < LEAST_MM) return nothing(`shorter than ${LEAST_MM} mm it is none`, bar.face, o);
  if (grip === "start" && (going.length > 0 || design.strips.some((s) => s.rail === tag && s.at !== undefined)))
    return nothing(`what stands on ${tag} is measured from its start: drag its other end, or move it`, bar.face, o);
  return {
    edit: { kind: "set bar", payload: { thing, tag, length, ...(grip === "end" ? {} : { [axis]: caught.from }) } },
    reason: "",
    face: bar.face,
    outline,
    guides: caught.line === null ? [] : [{ axis, at: caught.line }],
    others: [],
  };
}

/** A rail or a duct is at least as long as that. */
const LEAST_MM = 10;
