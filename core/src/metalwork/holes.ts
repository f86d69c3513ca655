import { enclosureOf, faceId, onBody, type Body, type Face, type Point } from "../design/geometry";
import type { Enclosure, Fixing, Hole, Part, Perforation, Turn } from "../design/model";
import type { Lookup } from "../design/lookup";
import type { MetalworkRules } from "./rules";
import type { ThreadRow } from "../design/threads";
import { byText, mapBy, pushTo } from "../design/order";
import type { PanelResult, PlacedBar, PlacedDevice } from "../panel/result";
import { Obstacles } from "./aside";
import type { Cut, Drilled, FaceHole, NotDrilled, Origin } from "./result";
import { middleOf } from "./shapes";
import { coreOf, nutOf, threadThrough, throughOf } from "../design/threads";

/** How rails and ducts are fixed. Lengths in mm. */
export type FixingRules = Pick<
  MetalworkRules,
  | "railEndMm"
  | "railMostMm"
  | "railThread"
  | "ductEndMm"
  | "ductMostMm"
  | "ductTwoRowsMm"
  | "ductThread"
  | "asideMm"
  | "webMm"
  | "doorInside"
  | "threads"
>;

/** The key of a control unit stands above its hole. */
const KEY_ANGLE = 90;

const turned = (angle: number, turn: Turn): number => (((angle + turn) % 360) + 360) % 360;

/** A rectangle from two opposite corners. */
const boxOf = (a: Point, b: Point): { x: number; y: number; w: number; h: number } => ({
  x: Math.min(a.x, b.x),
  y: Math.min(a.y, b.y),
  w: Math.abs(a.x - b.x),
  h: Math.abs(a.y - b.y),
});

/** A hole of a pattern where it comes to lie, turned and moved with its body. Null for a thread without a known core. */
export function cutOf(hole: Hole, body: Body, threads: readonly ThreadRow[]): Cut | null {
  const at = (x: number, y: number): Point => {
    const p = onBody(body, { x, y, z: 0 });
    return { x: p.x, y: p.y };
  };
  switch (hole.kind) {
    case "round":
      return {
        kind: "round",
        ...at(hole.x, hole.y),
        d: hole.d,
        ...(hole.notch ? { notch: { ...hole.notch, angle: turned(KEY_ANGLE, body.turn) } } : {}),
      };
    case "thread": {
      const d = coreOf(hole.thread, threads);
      return d === null ? null : { kind: "thread", ...at(hole.x, hole.y), d, thread: hole.thread };
    }
    case "countersunk":
      return { kind: "countersunk", ...at(hole.x, hole.y), d: hole.d, head: hole.head };
    case "knockout":
      return { kind: "knockout", ...at(hole.x, hole.y), d: hole.d };
    case "rect":
      return { kind: "rect", ...boxOf(at(hole.x, hole.y), at(hole.x + hole.w, hole.y + hole.h)), r: hole.r ?? 0 };
    case "slot":
      return {
        kind: "slot",
        ...at(hole.x + hole.w / 2, hole.y + hole.h / 2),
        w: hole.w,
        h: hole.h,
        // Half a turn makes the same slot.
        angle: turned(hole.angle ?? 0, body.turn) % 180,
      };
    case "polygon":
      return { kind: "polygon", points: hole.points.map((p) => at(p.x, p.y)) };
  }
}

/** Why a hole of a pattern cannot be made as it is stated; null where it can. */
export function holeFault(hole: Hole): string | null {
  switch (hole.kind) {
    case "round":
      if (!hole.notch) return null;
      if (hole.notch.to <= hole.d)
        return `its key reaches to ${hole.notch.to} mm, which is within its own ${hole.d} mm`;
      return hole.notch.w >= hole.d ? `its key is ${hole.notch.w} mm wide, as wide as the hole` : null;
    case "countersunk":
      return hole.head <= hole.d ? `it is countersunk to ${hole.head} mm, within its own ${hole.d} mm` : null;
    case "rect":
      return (hole.r ?? 0) > Math.min(hole.w, hole.h) / 2 + 1e-9
        ? `its corners of R ${hole.r} are rounder than half of it`
        : null;
    case "polygon":
      return crossesItself(hole.points) ? "its outline crosses itself, or has no area" : null;
    default:
      return null;
  }
}

/** More corners than this are looked at by nobody. */
const MOST_CORNERS = 2000;

function crossesItself(points: readonly Point[]): boolean {
  const n = points.length;
  if (n > MOST_CORNERS) return true;
  const area = points.reduce((sum, p, i) => {
    const q = points[(i + 1) % n]!;
    return sum + p.x * q.y - q.x * p.y;
  }, 0);
  if (Math.abs(area) < 1e-6) return true;
  const turn = (o: Point, a: Point, b: Point): number => (a.x - o.x) * (b.y - o.y) - (a.y - o.y) * (b.x - o.x);
  for (let i = 0; i < n; i++)
    for (let j = i + 2; j < n; j++) {
      if (i === 0 && j === n - 1) continue;
      const [a, b, c, d] = [points[i]!, points[i + 1]!, points[j]!, points[(j + 1) % n]!];
      if (turn(a, b, c) * turn(a, b, d) < 0 && turn(c, d, a) * turn(c, d, b) < 0) return true;
    }
  return false;
}

/** The body of the face itself: nothing is turned or moved. */
const unmoved = (face: Face): Body => ({
  centre: { x: face.w / 2, y: face.h / 2 },
  turn: 0,
  w: face.w,
  h: face.h,
  outline: { x: 0, y: 0, w: face.w, h: face.h },
  z: 0,
});

/**
 * Places along a bar: the first and the last so far from its ends, between them evenly, no two further apart than may be.
 * A bar shorter than both ends has one in its middle.
 */
export function fixingsAlong(length: number, end: number, most: number): number[] {
  if (length <= 2 * end) return [length / 2];
  const span = length - 2 * end;
  const n = Math.max(1, Math.ceil(span / most - 1e-9));
  return Array.from({ length: n + 1 }, (_, i) => end + (span * i) / n);
}

/** Middles of the whole slots of a bar, from its start. */
export function slotsAlong(length: number, { first, pitch, slot }: Perforation): number[] {
  const last = Math.floor((length - slot / 2 - first) / pitch + 1e-9);
  return Array.from({ length: Math.max(0, last + 1) }, (_, k) => first + k * pitch).filter((a) => a >= slot / 2 - 1e-9);
}

/**
 * The same places, each at the slot nearest to it (of two the one further from the end), with more of them where two
 * would lie further apart than may be; null where slots allow no such places. O(slots²) at worst
 */
export function slottedAlong(length: number, end: number, most: number, slots: readonly number[]): number[] | null {
  const middle = length / 2;
  const at = (a: number): number =>
    slots.reduce((best, s) => {
      const d = Math.abs(s - a) - Math.abs(best - a);
      return d < -1e-9 || (Math.abs(d) <= 1e-9 && Math.abs(s - middle) < Math.abs(best - middle)) ? s : best;
    });
  if (slots.length === 0) return null;
  if (length <= 2 * end) return [at(middle)];
  const [from, to] = [at(end), at(length - end)];
  if (to <= from) return slots.length === 1 && length <= most ? [from] : null;
  for (let n = Math.max(1, Math.ceil((to - from) / most - 1e-9)); n < slots.length; n++) {
    const places = Array.from({ length: n + 1 }, (_, i) => at(from + ((to - from) * i) / n));
    if (places.every((a, i) => i === 0 || (a > places[i - 1]! && a - places[i - 1]! <= most + 1e-9))) return places;
  }
  return null;
}

/** Where a bar is fixed: along it, and across it as a share of its breadth; the slots it has where it takes them. */
interface BarFixings {
  places: { a: number; share: number }[];
  slots: readonly number[] | null;
}

function fixingsOf(
  length: number,
  end: number,
  most: number,
  rows: readonly number[],
  part: Part | undefined,
): BarFixings {
  const slots = part?.perforation ? slotsAlong(length, part.perforation) : [];
  const slotted = slottedAlong(length, end, most, slots);
  return {
    places: (slotted ?? fixingsAlong(length, end, most)).flatMap((a) => rows.map((share) => ({ a, share }))),
    slots: slotted && slots,
  };
}

const railFixings = (rail: PlacedBar, { railEndMm, railMostMm }: FixingRules, part: Part | undefined): BarFixings =>
  fixingsOf(rail.length, railEndMm, railMostMm, [0.5], part);

/** Along its middle, of a wide duct along both quarters. */
function ductFixings(
  duct: PlacedBar,
  { ductEndMm, ductMostMm, ductTwoRowsMm }: FixingRules,
  part: Part | undefined,
): BarFixings {
  const across = duct.run === "up" ? duct.outline.w : duct.outline.h;
  return fixingsOf(duct.length, ductEndMm, ductMostMm, across >= ductTwoRowsMm ? [0.25, 0.75] : [0.5], part);
}

/** How far from the middle of its slot a screw of a thread can stand. */
const playOf = (perforation: Perforation | undefined, thread: string, threads: readonly ThreadRow[]): number =>
  perforation === undefined
    ? 0
    : Math.max(0, (perforation.slot - (throughOf(thread, threads) ?? perforation.slot)) / 2);

/** Dimple for the point of a screw that drills its own hole, mm. */
const MARK_MM = 1;
/** A hole beyond this is no hole for a screw. */
const SCREW_MOST_MM = 11.5;

/** A hole of a pattern as a person wants it made; openings and keyed holes stay as they are. Null: no such screw. */
export function madeAs(cut: Cut, fixing: Fixing | undefined, threads: readonly ThreadRow[]): Cut | null {
  if (fixing === undefined) return cut;
  const screw =
    cut.kind === "thread" ||
    cut.kind === "countersunk" ||
    (cut.kind === "round" && !cut.notch && cut.d <= SCREW_MOST_MM);
  if (!screw) return cut;
  const { x, y } = cut;
  if (fixing === "marked") return { kind: "mark", x, y, d: MARK_MM };
  const thread = cut.kind === "thread" ? cut.thread : threadThrough(cut.d, threads);
  if (thread === null) return null;
  const of = fixing === "tapped" ? coreOf : fixing === "rivet nut" ? nutOf : throughOf;
  const d = of(thread, threads);
  if (d === null) return null;
  return fixing === "tapped" ? { kind: "thread", x, y, d, thread } : { kind: "round", x, y, d };
}

const along = ({ run, outline: o }: PlacedBar, a: number, share: number): Point =>
  run === "up" ? { x: o.x + share * o.w, y: o.y + a } : { x: o.x + a, y: o.y + share * o.h };

const screwAt = (p: Point, thread: string, threads: readonly ThreadRow[]): Cut | null => {
  const d = coreOf(thread, threads);
  return d === null ? null : { kind: "thread", ...p, d, thread };
};

/** Two holes are the same within so much, mm. */
const SAME_MM = 0.2;

/** What two holes must have alike to be one, beside their places. */
function likeness(cut: Cut): string {
  switch (cut.kind) {
    case "round":
      return JSON.stringify([cut.kind, cut.d, cut.notch]);
    case "thread":
      return JSON.stringify([cut.kind, cut.thread]);
    case "countersunk":
      return JSON.stringify([cut.kind, cut.d, cut.head]);
    case "knockout":
    case "mark":
      return JSON.stringify([cut.kind, cut.d]);
    case "slot":
      return JSON.stringify([cut.kind, cut.w, cut.h, cut.angle]);
    case "rect":
      return JSON.stringify([cut.kind, cut.w, cut.h, cut.r]);
    case "polygon": {
      const m = middleOf(cut);
      return JSON.stringify([cut.kind, cut.points.map((p) => [Math.round(p.x - m.x), Math.round(p.y - m.y)])]);
    }
  }
}

/** Devices, ducts, the face, rails, each by name: which of several origins counts does not hang on the order of a file. */
const byOrigin = (a: Origin, b: Origin): number => byText(a.thing, b.thing) || byText(a.of, b.of) || a.nth - b.nth;

/**
 * Holes of one face in order of place, equal ones made one: the first by its origin stands for them.
 * O(n log n) for holes that are spread
 */
export function merged(holes: readonly { cut: Cut; from: Origin }[]): FaceHole[] {
  const asked = [...holes].sort((a, b) => byOrigin(a.from, b.from));
  const cells = new Map<string, { cut: Cut; at: Point; from: Origin[] }[]>();
  const kept: { cut: Cut; at: Point; from: Origin[] }[] = [];
  for (const { cut, from } of asked) {
    const at = middleOf(cut);
    const like = likeness(cut);
    const [cx, cy] = [Math.floor(at.x / SAME_MM), Math.floor(at.y / SAME_MM)];
    let same: (typeof kept)[number] | undefined;
    for (let dx = -1; dx <= 1 && !same; dx++)
      for (let dy = -1; dy <= 1 && !same; dy++)
        same = cells
          .get(`${cx + dx} ${cy + dy} ${like}`)
          ?.find((k) => Math.hypot(k.at.x - at.x, k.at.y - at.y) <= SAME_MM);
    if (same) {
      same.from.push(from);
      continue;
    }
    const one = { cut, at, from: [from] };
    kept.push(one);
    pushTo(cells, `${cx} ${cy} ${like}`, one);
  }
  kept.sort((a, b) => a.at.y - b.at.y || a.at.x - b.at.x || (likeness(a.cut) < likeness(b.cut) ? -1 : 1));
  return kept.map(({ cut, from }, i) => ({ number: i + 1, cut, from }));
}

/** Devices that stand on a face themselves, by face. O(devices) */
export function standOnFaces({ devices }: Pick<PanelResult, "devices">): Map<string, PlacedDevice[]> {
  const byFace = new Map<string, PlacedDevice[]>();
  for (const d of devices) if (d.carrier === null) pushTo(byFace, d.face, d);
  return byFace;
}

/** A hole that cannot be made as it is asked for. */
export interface Unmade {
  from: Origin;
  why: string;
}

/** More holes than any panel has: what goes beyond is told and left out. */
export const MOST_HOLES = 50_000;

export interface HolesResult {
  faces: Drilled[];
  unmade: Unmade[];
  /** Fixings that found no place clear of what is in their way. */
  stuck: { face: string; from: Origin; by: string }[];
  /** Set when there were more than are gone through. */
  beyond: number;
}

/**
 * Every hole of every face that has one: patterns of the devices that stand on it, its own, and fixings of its rails and
 * ducts, which step aside from those. What clips onto a rail or sits in another device is fixed by that.
 * O(devices · pattern + bars + holes log holes)
 */
export function holesOf(look: Lookup, panel: PanelResult, rules: FixingRules): HolesResult {
  const asked = new Map<string, { cut: Cut; from: Origin }[]>();
  const off = new Map<string, NotDrilled[]>();
  const unmade: Unmade[] = [];
  const stuck: HolesResult["stuck"] = [];
  let count = 0;
  const ask = (face: string, cut: Cut | null, from: Origin, why: string): void => {
    if (!cut) unmade.push({ from, why });
    else if (++count <= MOST_HOLES) pushTo(asked, face, { cut, from });
  };
  const unknown = (thread: string): string => `no core hole is known for its thread ${thread}`;
  for (const d of panel.devices) {
    if (d.carrier !== null) continue;
    const holes = look.parts.get(d.part)?.holes ?? [];
    if (holes.length === 0) continue;
    const fixing = look.devices.get(d.tag)?.fixing;
    if (fixing === "not drilled") {
      pushTo(off, d.face, { thing: "device", of: d.tag, holes: holes.length });
      continue;
    }
    const body: Body = bodyOf(d);
    holes.forEach((hole, i) => {
      const from: Origin = { thing: "device", of: d.tag, nth: i + 1, ...(fixing ? { fixing } : {}) };
      const fault = holeFault(hole);
      const cut = fault === null ? cutOf(hole, body, rules.threads) : null;
      if (!cut) ask(d.face, null, from, fault ?? unknown(hole.kind === "thread" ? hole.thread : ""));
      else
        ask(
          d.face,
          madeAs(cut, fixing, rules.threads),
          from,
          `no screw is known that it could be made for as ${fixing}`,
        );
    });
  }
  const faces = new Map(panel.faces.map((f) => [f.id, f]));
  const own = mapBy(look.design.faces, (o) => faceId(o.enclosure, o.kind));
  for (const [id, o] of own) {
    const face = faces.get(id);
    if (!face) continue;
    (o.holes ?? []).forEach((hole, i) => {
      const fault = holeFault(hole);
      ask(
        face.id,
        fault === null ? cutOf(hole, unmoved(face), rules.threads) : null,
        { thing: "face", of: face.id, nth: i + 1 },
        fault ?? unknown(hole.kind === "thread" ? hole.thread : ""),
      );
    });
  }
  const standing = standOnFaces(panel);
  const obstacles = new Map<string, Obstacles>();
  const obstaclesOn = (face: string): Obstacles => {
    let known = obstacles.get(face);
    if (!known)
      obstacles.set(
        face,
        (known = new Obstacles(
          asked.get(face) ?? [],
          own.get(face)?.keepOuts ?? [],
          standing.get(face) ?? [],
          rules.webMm,
        )),
      );
    return known;
  };
  for (const [thing, bars, fixingsOfBar, thread, lookUpBar] of [
    ["rail", panel.rails, railFixings, rules.railThread, look.rails],
    ["duct", panel.ducts, ductFixings, rules.ductThread, look.ducts],
  ] as const)
    for (const bar of bars) {
      const part = look.parts.get(bar.part);
      const { places: fixings, slots } = fixingsOfBar(bar, rules, part);
      const play = playOf(part?.perforation, thread, rules.threads);
      const slotAt = (a: number): number => (slots ?? []).findIndex((s) => Math.abs(s - a) <= play + 1e-9);
      const fixing = lookUpBar.get(bar.tag)?.fixing;
      if (fixing === "not drilled") {
        pushTo(off, bar.face, { thing, of: bar.tag, holes: fixings.length });
        continue;
      }
      if (count >= MOST_HOLES) {
        count += fixings.length;
        continue;
      }
      fixings.forEach(({ a, share }, i) => {
        const made = (at: number): Cut | null => {
          const cut = screwAt(along(bar, at, share), thread, rules.threads);
          return cut && madeAs(cut, fixing, rules.threads);
        };
        const found = obstaclesOn(bar.face).stepAside(a, bar.length, rules.asideMm, made, (at) =>
          slots === null ? true : slotAt(at) >= 0,
        );
        const slot = slotAt(found.a);
        const from: Origin = {
          thing,
          of: bar.tag,
          nth: i + 1,
          ...(slot >= 0 ? { slot: slot + 1 } : {}),
          ...(fixing ? { fixing } : {}),
        };
        if (found.by !== null) stuck.push({ face: bar.face, from, by: found.by });
        ask(bar.face, made(found.a), found.a === a ? from : { ...from, asideMm: found.a - a }, unknown(thread));
      });
    }
  return {
    faces: panel.faces.flatMap((face): Drilled[] => {
      const list = asked.get(face.id) ?? [];
      const notDrilled = off.get(face.id) ?? [];
      if (list.length === 0 && notDrilled.length === 0) return [];
      const { id, enclosure, kind, w, h } = face;
      const inside = kind === "door" && rules.doorInside > 0;
      return [
        {
          face: id,
          enclosure,
          kind,
          w,
          h,
          ...sheetOf(face, look.enclosures.get(enclosureOf(id))),
          seen: own.get(id)?.seen ?? (inside ? "inside" : "outside"),
          holes: merged(list),
          notDrilled,
        },
      ];
    }),
    unmade,
    stuck,
    beyond: Math.max(0, count - MOST_HOLES),
  };
}

const bodyOf = ({ centre, turn, w, h, outline, z }: PlacedDevice): Body => ({ centre, turn, w, h, outline, z });

/** The plate, or the sheet the enclosure is made of; null where the design states none. */
function sheetOf(face: Face, enclosure: Enclosure | undefined): Pick<Drilled, "thicknessMm" | "material"> {
  const { thickness, material } = (face.kind === "plate" ? enclosure?.plate : enclosure?.sheet) ?? {};
  return { thicknessMm: thickness ?? null, material: material ?? null };
}
