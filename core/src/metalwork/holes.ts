import { enclosureOf, onBody, type Body, type Face, type Point } from "../design/geometry";
import type { Enclosure, Hole, Turn } from "../design/model";
import type { Lookup } from "../design/lookup";
import { pushTo } from "../design/order";
import type { PanelResult, PlacedBar, PlacedDevice } from "../panel/result";
import type { Cut, FaceHole, FaceWork, Origin } from "./result";

/** How rails and ducts are fixed. Lengths in mm. */
export interface FixingRules {
  railEndMm: number;
  railMostMm: number;
  railThread: string;
  ductEndMm: number;
  ductMostMm: number;
  /** Ducts at least this wide have two rows. */
  ductTwoRowsMm: number;
  ductThread: string;
}

export const FIXING_DEFAULTS: FixingRules = {
  railEndMm: 25,
  railMostMm: 250,
  railThread: "M5",
  ductEndMm: 30,
  ductMostMm: 300,
  ductTwoRowsMm: 80,
  ductThread: "M5",
};

/** Core holes of metric threads (ISO 261, coarse; the pitch where one is stated): what tapping needs. */
const CORES: Readonly<Record<string, number>> = { M3: 2.5, M4: 3.3, M5: 4.2, M6: 5, M8: 6.8, M10: 8.5 };

/** Diameter of the core hole of a thread: of the table, else its diameter less its pitch; null where neither is known. */
export function coreOf(thread: string): number | null {
  const known = CORES[thread];
  if (known !== undefined) return known;
  const [, d, pitch] = /^M(\d+(?:\.\d+)?)(?:x(\d+(?:\.\d+)?))?$/.exec(thread) ?? [];
  return d !== undefined && pitch !== undefined ? Math.round((Number(d) - Number(pitch)) * 1000) / 1000 : null;
}

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
export function cutOf(hole: Hole, body: Body): Cut | null {
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
      const d = coreOf(hole.thread);
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

/** Fixings of a rail along its middle. */
function railCuts(rail: PlacedBar, { railEndMm, railMostMm, railThread }: FixingRules): (Cut | null)[] {
  return fixingsAlong(rail.length, railEndMm, railMostMm).map((a) => screwAt(along(rail, a, 0.5), railThread));
}

/** Fixings of a duct: along its middle, of a wide one along both quarters. */
function ductCuts(duct: PlacedBar, { ductEndMm, ductMostMm, ductTwoRowsMm, ductThread }: FixingRules): (Cut | null)[] {
  const across = duct.run === "up" ? duct.outline.w : duct.outline.h;
  const rows = across >= ductTwoRowsMm ? [0.25, 0.75] : [0.5];
  return fixingsAlong(duct.length, ductEndMm, ductMostMm).flatMap((a) =>
    rows.map((share) => screwAt(along(duct, a, share), ductThread)),
  );
}

const along = ({ run, outline: o }: PlacedBar, a: number, share: number): Point =>
  run === "up" ? { x: o.x + share * o.w, y: o.y + a } : { x: o.x + a, y: o.y + share * o.h };

const screwAt = (p: Point, thread: string): Cut | null => {
  const d = coreOf(thread);
  return d === null ? null : { kind: "thread", ...p, d, thread };
};

/** Two holes are the same within so much, mm. */
const SAME_MM = 0.2;

const middleOf = (cut: Cut): Point => {
  switch (cut.kind) {
    case "rect":
      return { x: cut.x + cut.w / 2, y: cut.y + cut.h / 2 };
    case "polygon": {
      const n = cut.points.length;
      return { x: cut.points.reduce((s, p) => s + p.x, 0) / n, y: cut.points.reduce((s, p) => s + p.y, 0) / n };
    }
    default:
      return { x: cut.x, y: cut.y };
  }
};

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

/** Holes of one face in order of place, equal ones made one. O(n log n) for holes that are spread */
export function merged(asked: readonly { cut: Cut; from: Origin }[]): FaceHole[] {
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

/** A hole that cannot be made: its thread has no known core. */
export interface Unmade {
  from: Origin;
  thread: string;
}

/**
 * Every hole of every face that has one: patterns of the devices that stand on it, fixings of its rails and ducts, its own.
 * What clips onto a rail or sits in another device is fixed by that. O(devices · pattern + bars + holes log holes)
 */
export function holesOf(look: Lookup, panel: PanelResult, rules: FixingRules): { faces: FaceWork[]; unmade: Unmade[] } {
  const asked = new Map<string, { cut: Cut; from: Origin }[]>();
  const unmade: Unmade[] = [];
  const ask = (face: string, cut: Cut | null, from: Origin, thread: string): void => {
    if (cut) pushTo(asked, face, { cut, from });
    else unmade.push({ from, thread });
  };
  for (const d of panel.devices) {
    if (d.carrier !== null) continue;
    const body: Body = bodyOf(d);
    (look.parts.get(d.part)?.holes ?? []).forEach((hole, i) =>
      ask(
        d.face,
        cutOf(hole, body),
        { thing: "device", of: d.tag, nth: i + 1 },
        hole.kind === "thread" ? hole.thread : "",
      ),
    );
  }
  for (const [thing, bars, cuts, thread] of [
    ["rail", panel.rails, railCuts, rules.railThread],
    ["duct", panel.ducts, ductCuts, rules.ductThread],
  ] as const)
    for (const bar of bars)
      cuts(bar, rules).forEach((cut, i) => ask(bar.face, cut, { thing, of: bar.tag, nth: i + 1 }, thread));
  const faces = new Map(panel.faces.map((f) => [f.id, f]));
  for (const o of look.design.faces) {
    const face = faces.get(`${o.enclosure}/${o.kind}`);
    if (!face) continue;
    (o.holes ?? []).forEach((hole, i) =>
      ask(
        face.id,
        cutOf(hole, unmoved(face)),
        { thing: "face", of: face.id, nth: i + 1 },
        hole.kind === "thread" ? hole.thread : "",
      ),
    );
  }
  return {
    faces: panel.faces.flatMap((face): FaceWork[] => {
      const list = asked.get(face.id);
      if (!list) return [];
      const { id, enclosure, kind, w, h } = face;
      return [
        {
          face: id,
          enclosure,
          kind,
          w,
          h,
          thicknessMm: thicknessOf(face, look.enclosures.get(enclosureOf(id))),
          holes: merged(list),
        },
      ];
    }),
    unmade,
  };
}

const bodyOf = ({ centre, turn, w, h, outline, z }: PlacedDevice): Body => ({ centre, turn, w, h, outline, z });

/** Of the plate, or of the sheet the enclosure is made of; null where the design states none. */
const thicknessOf = (face: Face, enclosure: Enclosure | undefined): number | null =>
  (face.kind === "plate" ? enclosure?.plate?.thickness : enclosure?.sheet?.thickness) ?? null;

/** A hole as it is seen from inside: left and right change places. Twice is as it was. */
export function mirrored(cut: Cut, w: number): Cut {
  switch (cut.kind) {
    case "rect":
      return { ...cut, x: w - cut.x - cut.w };
    case "polygon":
      return { ...cut, points: cut.points.map((p) => ({ x: w - p.x, y: p.y })) };
    case "slot":
      return { ...cut, x: w - cut.x, angle: (180 - cut.angle) % 180 };
    case "round":
      return {
        ...cut,
        x: w - cut.x,
        ...(cut.notch ? { notch: { ...cut.notch, angle: (((180 - cut.notch.angle) % 360) + 360) % 360 } } : {}),
      };
    default:
      return { ...cut, x: w - cut.x };
  }
}
