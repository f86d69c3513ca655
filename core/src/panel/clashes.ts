import { toFace, type Box, type Face, type Rect } from "../design/geometry";
import type { Lookup } from "../design/lookup";
import type { Enclosure, FaceKind, Part, Turn } from "../design/model";
import { byText, pushTo } from "../design/order";
import { TOUCHING_MM } from "../design/tolerance";
import type { Rules } from "../shop/rules";
import { nearPairs, Outlines } from "../solve/near";
import type { Clash, ClashSide } from "./result";
import { boxOf, common, sharedBy, type Solid } from "./solids";

/** What of the shop's rules counts for what fits. */
export interface FitRules {
  /** How far a door opens of which nothing is said, degrees. */
  doorOpenDeg: number;
  /** What the frame takes around the opening of a door. */
  frameMm: number;
}

export const fitRules = ({
  routes,
  metalwork,
}: {
  routes: Pick<Rules["routes"], "doorOpenDeg">;
  metalwork: Pick<Rules["metalwork"], "frameMm">;
}): FitRules => ({
  doorOpenDeg: routes.doorOpenDeg,
  frameMm: metalwork.frameMm,
});

export interface Clashes {
  clashes: Clash[];
  /** Rows in which so much lies on one spot that not all pairs were looked at: who, and how many of each. */
  crowded: { face: string; tags: string[]; most: number }[];
}

/** The face that lies against each, across the enclosure. */
const ACROSS: Record<FaceKind, FaceKind> = {
  plate: "door",
  door: "rear",
  rear: "door",
  left: "right",
  right: "left",
  roof: "base",
  base: "roof",
};

/** Bodies that are looked at beside one that asks for room around it. */
const MOST_NEAR = 200;

const UNDER: ReadonlySet<Solid["thing"]> = new Set(["face", "rail"]);
/** Bodies that are looked at over one rail or plate, and over all together: no panel that is built comes near it. */
const MOST_OVER = 5000;
const MOST_LOOKS = 2_000_000;

const flatOf = ({ box: { min, max } }: Solid): Rect => ({ x: min.x, y: min.y, w: max.x - min.x, h: max.y - min.y });

/**
 * What stands in what, what reaches beyond the door or wall across from it, what is nearer than a part asks for, and what
 * meets something as its door opens. O(n log n) in the number of bodies where they stand side by side.
 */
export function findClashes(solids: readonly Solid[], look: Lookup, rules: FitRules): Clashes {
  const clashes: Clash[] = [];
  const crowded: Clashes["crowded"] = [];
  const rows = new Map<string, Solid[]>();
  const rails = new Map(solids.flatMap((s) => (s.thing === "rail" ? [[s.of, s.outline]] : [])));
  const boundsOf = ({ rail, face }: Solid): Rect =>
    (rail === null ? undefined : rails.get(rail)) ?? { x: 0, y: 0, w: face.w, h: face.h };
  for (const s of solids) pushTo(rows, s.face.row, s);
  const isOpen = openSides(look);
  let looks = 0;
  for (const row of rows.values()) {
    // By name, so that neither what is cut nor who is asked to move hangs on the order of the file.
    const all = row.sort((a, b) => byText(a.of, b.of) || byText(a.thing, b.thing));
    const kin = kinship(all);
    const add = (a: Solid, b: Solid): void => {
      const clash = overlapOf(a, b, kin, boundsOf);
      if (clash) clashes.push(clash);
    };
    // Plates and rails lie under many bodies that stand on them as they should: each asks for its own.
    const here = all.filter((s) => !UNDER.has(s.thing));
    const index = new Outlines(here.map(flatOf));
    const { pairs, cut } = nearPairs(here.map(flatOf), 0);
    if (cut) {
      const tags = cut.crowded.map((i) => here[i]!.of);
      crowded.push({ face: here[cut.crowded[0]!]!.face.id, tags, most: cut.most });
    }
    for (const [i, j] of pairs) add(here[i]!, here[j]!);
    const under = all.filter((s) => UNDER.has(s.thing));
    under.forEach((s, i) => {
      if (looks > MOST_LOOKS) return;
      const over = index.first(flatOf(s), 0, MOST_OVER).sort((a, b) => a - b);
      looks += over.length + under.length - i;
      for (const k of over) if (here[k]!.rail !== s.of || s.thing !== "rail") add(here[k]!, s);
      for (const other of under.slice(i + 1)) add(s, other);
    });
    for (const s of here) clashes.push(...beyondOf(s, look, isOpen));
    const places = new Outlines(all.map(flatOf));
    clashes.push(...nearnessOf(all, places, kin, look, isOpen), ...swingsOf(all, places, look, rules, isOpen));
  }
  clashes.sort((a, b) => byText(a.a.of, b.a.of) || byText(a.kind, b.kind) || byText(a.b.of, b.b.of));
  return { clashes, crowded };
}

const sideOf = ({ thing, of, face }: Solid): ClashSide => ({ thing, of, face: face.id });

/** Whether one carries the other, by however many slots: parents hold their children. */
function kinship(here: readonly Solid[]): (a: Solid, b: Solid) => boolean {
  const carrier = new Map(here.flatMap((s) => (s.thing === "device" && s.carrier !== null ? [[s.of, s.carrier]] : [])));
  const carries = (above: string, below: string): boolean => {
    let steps = 0;
    for (let at = carrier.get(below); at !== undefined && steps++ < carrier.size; at = carrier.get(at))
      if (at === above) return true;
    return false;
  };
  return (a, b) => a.thing === "device" && b.thing === "device" && (carries(a.of, b.of) || carries(b.of, a.of));
}

/** Of two that stand in each other the one that is easier to move: a device, on a door; of two alike the later by name. */
const ease = ({ thing, face }: Solid): number =>
  thing === "device" ? (face.kind === "door" ? 5 : 4) : ["face", "strip", "duct", "rail"].indexOf(thing);

const lengthwise = (s: Solid): "x" | "y" => (s.outline.w >= s.outline.h ? "x" : "y");

/** Things that are made to meet: joints of ducts, a plate and what stands on it, what hangs on one strip. */
function meant(a: Solid, b: Solid): boolean {
  if (a.face.id === b.face.id && (a.thing === "face" || b.thing === "face")) return true;
  if (a.thing === "strip" && b.thing === "strip") return a.of === b.of;
  if (a.thing !== "duct" || b.thing !== "duct" || a.face.id !== b.face.id) return false;
  // Ducts may cross and meet at corners; those that run the same way may not lie in each other.
  if (lengthwise(a) !== lengthwise(b)) return true;
  const along = lengthwise(a) === "x" ? "w" : "h";
  const from = lengthwise(a);
  const shared =
    Math.min(a.outline[from] + a.outline[along], b.outline[from] + b.outline[along]) -
    Math.max(a.outline[from], b.outline[from]);
  return shared <= Math.max(...[a, b].map((s) => Math.min(s.outline.w, s.outline.h)));
}

function overlapOf(
  p: Solid,
  q: Solid,
  kin: (a: Solid, b: Solid) => boolean,
  boundsOf: (s: Solid) => Rect,
): Clash | null {
  const shared = sharedBy(p.box, q.box, TOUCHING_MM);
  if (!shared || meant(p, q) || kin(p, q)) return null;
  const [a, b] = ease(p) > ease(q) ? [p, q] : [q, p];
  return {
    kind: "bodies overlap",
    a: sideOf(a),
    b: sideOf(b),
    missingMm: Math.min(shared.x, shared.y, shared.z),
    row: a.face.row,
    box: common(a.box, b.box),
    on: onFace(a.face, common(a.box, b.box)),
    move: wayOut(a, onFace(a.face, b.box), boundsOf(a)),
  };
}

/** How a block lies on a face. */
function onFace(face: Face, { min, max }: Box): Rect {
  const [a, b] = [toFace(face, min), toFace(face, max)];
  return { x: Math.min(a.x, b.x), y: Math.min(a.y, b.y), w: Math.abs(a.x - b.x), h: Math.abs(a.y - b.y) };
}

/** The shortest way on which a thing comes off a rectangle and stays within bounds: its face, or along its rail. What else stands there is not looked at. */
function wayOut({ outline: o, thing, rail, carrier }: Solid, from: Rect, bounds: Rect): Clash["move"] {
  if (thing === "face" || thing === "strip" || carrier !== null) return null;
  const onRail = rail !== null;
  const [along, across] = [!onRail || bounds.w >= bounds.h, !onRail || bounds.h > bounds.w];
  const ways: [NonNullable<Clash["move"]>["way"], number, boolean][] = [
    ["right", from.x + from.w - o.x, along && from.x + from.w + o.w <= bounds.x + bounds.w],
    ["left", o.x + o.w - from.x, along && from.x - o.w >= bounds.x],
    ["up", from.y + from.h - o.y, across && from.y + from.h + o.h <= bounds.y + bounds.h],
    ["down", o.y + o.h - from.y, across && from.y - o.h >= bounds.y],
  ];
  const free = ways.filter(([, mm, fits]) => fits && mm > 0).sort(([, m], [, n]) => m - n)[0];
  return free ? { way: free[0], mm: free[1] } : null;
}

/** Through the door, or into the wall, across from its face. */
function beyondOf(s: Solid, look: Lookup, isOpen: IsOpen): Clash[] {
  const e = look.enclosures.get(s.face.enclosure);
  if (!e || s.thing === "face") return [];
  const across = ACROSS[s.face.kind];
  const deep = roomAcross(e, s.face.kind);
  if (s.top <= deep + TOUCHING_MM || isOpen(e, across)) return [];
  const box = boxOf(s.face, s.outline, deep, s.top);
  return [
    {
      kind: "too deep",
      a: sideOf(s),
      b: { thing: "face", of: `${e.tag}/${across}`, face: `${e.tag}/${across}` },
      missingMm: s.top - deep,
      row: s.face.row,
      box,
      on: s.outline,
      move: null,
    },
  ];
}

/** From a face to what lies across from it, mm. */
function roomAcross(e: Enclosure, kind: FaceKind): number {
  if (kind === "plate") return e.plate?.setback ?? e.d;
  if (kind === "left" || kind === "right") return e.w;
  return kind === "roof" || kind === "base" ? e.h : e.d;
}

/** Says of the side of an enclosure that no wall is there: beside it stands one that shares its air. */
type IsOpen = (e: Enclosure, side: FaceKind) => boolean;

function openSides(look: Lookup): IsOpen {
  const through = new Set<string>();
  for (const e of look.enclosures.values()) {
    const other = e.neighbourRight === undefined ? undefined : look.enclosures.get(e.neighbourRight);
    if (e.zone === undefined || other?.zone !== e.zone) continue;
    through.add(`${e.tag}/right`).add(`${other.tag}/left`);
  }
  return (e, side) => through.has(`${e.tag}/${side}`);
}

type SideName = "top" | "bottom" | "left" | "right" | "front";

/** What a part asks for on each side, as it stands: its sides go round with it. */
export function sidesOf(part: Part, turn: Turn): [way: "up" | "down" | "left" | "right" | "front", mm: number][] {
  const round = ["up", "left", "down", "right"] as const;
  const unturned: [SideName, number][] = [
    ["top", 0],
    ["left", 1],
    ["bottom", 2],
    ["right", 3],
  ];
  const asked = part.clearances ?? {};
  return [
    ...unturned.flatMap(([side, n]): ["up" | "down" | "left" | "right", number][] =>
      (asked[side] ?? 0) > 0 ? [[round[(n + turn / 90) % 4]!, asked[side]!]] : [],
    ),
    ...((asked.front ?? 0) > 0 ? [["front", asked.front!] as ["front", number]] : []),
  ];
}

/** The room beside a body that it asks to be kept free, on its own face. */
function slabOf({ outline: o, z, top }: Solid, way: string, mm: number): { outline: Rect; z: number; top: number } {
  switch (way) {
    case "up":
      return { outline: { x: o.x, y: o.y + o.h, w: o.w, h: mm }, z, top };
    case "down":
      return { outline: { x: o.x, y: o.y - mm, w: o.w, h: mm }, z, top };
    case "left":
      return { outline: { x: o.x - mm, y: o.y, w: mm, h: o.h }, z, top };
    case "right":
      return { outline: { x: o.x + o.w, y: o.y, w: mm, h: o.h }, z, top };
    default:
      return { outline: o, z: top, top: top + mm };
  }
}

/** What stands nearer to a device than its part asks for. Rails and what hangs on strips let air through. */
function nearnessOf(
  here: readonly Solid[],
  index: Outlines,
  kin: (a: Solid, b: Solid) => boolean,
  look: Lookup,
  isOpen: IsOpen,
): Clash[] {
  return here.flatMap((s) => {
    const device = s.thing === "device" ? look.devices.get(s.of) : undefined;
    const part = device && look.parts.get(device.part);
    if (!part?.clearances) return [];
    return sidesOf(part, s.turn).flatMap(([way, mm]): Clash[] => {
      const slab = slabOf(s, way, mm);
      const box = boxOf(s.face, slab.outline, slab.z, slab.top);
      const rect = { x: box.min.x, y: box.min.y, w: box.max.x - box.min.x, h: box.max.y - box.min.y };
      const found: Clash[] = index.touching(rect, 0, MOST_NEAR).flatMap((i): Clash[] => {
        const b = here[i]!;
        if (b === s || b.thing === "rail" || b.thing === "strip" || kin(s, b)) return [];
        if (b.thing === "face" && b.face.id === s.face.id) return [];
        const shared = sharedBy(box, b.box, TOUCHING_MM);
        // What stands in the body itself is told as that.
        if (!shared || sharedBy(s.box, b.box, TOUCHING_MM)) return [];
        const missing = way === "front" ? depthOf(s.face, common(box, b.box)) : inWay(s.face, common(box, b.box), way);
        return [nearClash(s, sideOf(b), missing, common(box, b.box))];
      });
      const e = look.enclosures.get(s.face.enclosure);
      const deep = e ? roomAcross(e, s.face.kind) : Infinity;
      if (way === "front" && e && s.top <= deep + TOUCHING_MM && s.top + mm > deep + TOUCHING_MM) {
        const across = `${e.tag}/${ACROSS[s.face.kind]}`;
        const wall: ClashSide = { thing: "face", of: across, face: across };
        if (!isOpen(e, ACROSS[s.face.kind]))
          found.push(nearClash(s, wall, s.top + mm - deep, boxOf(s.face, s.outline, deep, s.top + mm)));
      }
      return found;
    });
  });
}

const nearClash = (s: Solid, b: ClashSide, missingMm: number, box: Box): Clash => ({
  kind: "too near",
  a: sideOf(s),
  b,
  missingMm,
  row: s.face.row,
  box,
  on: onFace(s.face, box),
  move: null,
});

/** How far a block reaches along the way a face looks. */
function depthOf(face: Face, { min, max }: Box): number {
  return Math.abs(toFace(face, min).z - toFace(face, max).z);
}

const inWay = (face: Face, box: Box, way: string): number => {
  const { w, h } = onFace(face, box);
  return way === "up" || way === "down" ? h : w;
};

/**
 * What hangs on a door turns about its hinge with it: its far corner, at the distance r of the axis, comes out furthest where
 * it leaves the cabinet, and all within r beyond it is swept. Seen from above; heights that do not meet are passed over.
 */
function swingsOf(here: readonly Solid[], index: Outlines, look: Lookup, rules: FitRules, isOpen: IsOpen): Clash[] {
  const hung = here.filter((s) => s.thing === "device" && s.face.kind === "door");
  return hung.flatMap((s): Clash[] => {
    const e = look.enclosures.get(s.face.enclosure);
    if (!e || e.hinge === undefined) return [];
    const left = s.face.origin.x;
    const axis = { x: left + (e.hingeAxis?.x ?? (e.hinge === "right" ? e.w : 0)), z: e.hingeAxis?.z ?? 0 };
    const sign = e.hinge === "right" ? -1 : 1;
    const from = (x: number): number => sign * (x - axis.x);
    const [far, deep] = [Math.max(from(s.box.min.x), from(s.box.max.x)), s.box.max.z - axis.z];
    if (far <= 0 || deep <= 0) return [];
    const [r, corner] = [Math.hypot(far, deep), Math.atan2(deep, far)];
    const opens = ((e.opensDeg ?? rules.doorOpenDeg) * Math.PI) / 180;
    // As far as it comes towards the other side: to where it passes the plane of the door, or the door is open.
    const leaves = corner + Math.asin(Math.min(1, Math.max(-1, axis.z / r)));
    const reach = r * Math.cos(corner - Math.min(Math.max(0, leaves), opens, corner));
    const edge = from(e.hinge === "right" ? left : left + e.w) - rules.frameMm;
    const side = `${e.tag}/${e.hinge === "right" ? "left" : "right"}`;
    const swept = (b: ClashSide, missingMm: number): Clash => ({
      kind: "meets as the door opens",
      a: sideOf(s),
      b,
      missingMm,
      row: s.face.row,
      box: s.box,
      on: s.outline,
      move: null,
    });
    const found: Clash[] = [];
    if (far <= edge + TOUCHING_MM && reach > edge + TOUCHING_MM && !isOpen(e, e.hinge === "right" ? "left" : "right"))
      found.push(swept({ thing: "face", of: side, face: side }, reach - edge));
    // From its far edge to where its corner comes: nothing else can be met.
    const [x, to] = [axis.x + sign * (far - TOUCHING_MM), axis.x + sign * r].sort((p, q) => p - q) as [number, number];
    const reached = { x, y: s.box.min.y, w: to - x, h: s.box.max.y - s.box.min.y };
    for (const k of index.touching(reached, 0, MOST_NEAR)) {
      const b = here[k]!;
      if (b.face.kind === "door" || b.face.enclosure !== e.tag) continue;
      if (b.box.min.y >= s.box.max.y - TOUCHING_MM || b.box.max.y <= s.box.min.y + TOUCHING_MM) continue;
      const near = Math.min(from(b.box.min.x), from(b.box.max.x));
      const low = Math.max(0, b.box.min.z - axis.z);
      if (near < far - TOUCHING_MM || low >= deep) continue;
      const distance = Math.hypot(near, low);
      // The corner comes out first: of what is within its reach it meets the deepest before the rest.
      const first = Math.min(b.box.max.z - axis.z, Math.sqrt(Math.max(0, r * r - near * near)));
      const met = Math.acos(Math.min(1, far / Math.hypot(near, first))) - Math.atan2(first, near);
      if (distance < r - TOUCHING_MM && met <= opens) found.push(swept(sideOf(b), r - distance));
    }
    return found;
  });
}
