import { bodyAt, onBody, turnExit, type Body, type Point, type Point3 } from "../design/geometry";
import type { Lookup } from "../design/lookup";
import type { Exit, Pin, PinRef } from "../design/model";
import type { RouteRules } from "./rules";
import { toMm, toNm } from "../design/tolerance";
import type { PlacedDevice } from "../panel/result";
import type { Ground } from "./ground";
import { footOn, pointOn, toOutline, type Bar, type Foot } from "./bars";
import { pieceAt, type Network } from "./network";
import type { PinPlacer } from "./pin-places";
import type { Mark, WireEnd } from "./result";
import { roundBody } from "./round";
import { openEnd, type Around, type OpenEnd, type Space } from "./space";
import { outsideBody } from "../design/outside";

/** A way from a pin into one duct. */
export interface Entry extends Foot {
  /** Square distance in the plane, round the body where it goes round it, nm. */
  planeNm: number;
  /** Step in height, nm. */
  riseNm: number;
  /** Corners on the way round the body; null when it goes straight. */
  round: Point[] | null;
  /** The way round other bodies that stand before the duct; null when none does. */
  others: Around | null;
}

/** How a pin gets into the ducts: several entries only where ducts are equally near. */
export interface Entries {
  list: Entry[];
  marks: Mark[];
}

/** A pin with its ways into the network. Nanometres. */
export interface Attached {
  x: number;
  y: number;
  z: number;
  directLeads: boolean;
  open: OpenEnd;
  first: Entries;
  /** Taken instead when no way leads on from `first`: the same among the ducts of larger parts of the network. */
  instead: Entries | null;
  /** What is to be said of the pin itself. */
  marks: Mark[];
  end: Omit<WireEnd, "entry" | "marks">;
  /** Ends made so far, by the entry taken. */
  ends: Map<Entry | null, WireEnd>;
}

/** Bodies by tag, rebuilt from their placements. */
export function bodyOf(d: PlacedDevice): Body {
  return bodyAt(d.centre, d.w, d.h, d.turn, d.z);
}

/**
 * Leads a pin to the first duct it meets in its exit direction, square onto the centre line; otherwise
 * to the nearest duct by square distance. Null when device or pin is unknown or loose.
 * O(log ducts of the face + ducts within reach).
 */
export function attach(
  look: Lookup,
  net: Network,
  placed: ReadonlyMap<string, PlacedDevice>,
  space: Space,
  ref: PinRef,
  rules: RouteRules,
  byTable: PinPlacer,
): Attached | null {
  const at = placed.get(ref.device);
  const part = at && look.parts.get(at.part);
  if (!at || !part) return null;
  const drawn = look.pin(part, ref.pin);
  const known = drawn?.x !== undefined && drawn.y !== undefined && drawn.z !== undefined;
  const ruled = known ? null : byTable(part, ref.pin);
  // A part that has pins has no others; one without any has those to which wires lead, where the table knows their places.
  if (!drawn && (!ruled || part.pins?.length)) return null;
  const atEdge = ruled?.exit ? ruled : null;
  const pin: Pick<Pin, "name" | "x" | "y" | "z" | "exit" | "tail"> = atEdge
    ? { ...atEdge, exit: atEdge.exit!, name: ref.pin, tail: drawn?.tail }
    : (drawn ?? { name: ref.pin });
  const body = bodyOf(at);
  const marks: Mark[] = [];
  if (atEdge) marks.push("pin-by-table");
  else if (!known) marks.push("no-pin-geometry");
  if (!known && drawn?.exit && drawn.exit !== atEdge?.exit) marks.push("exit-unused");
  if (known && !pin.exit) marks.push("no-exit");
  if (pin.tail === undefined) marks.push("no-tail");
  if (outsideBody(pin, part) !== null) marks.push("pin-off-body");
  if (at.fallbacks.length > 0) marks.push("place-unsure");
  const stands = known || atEdge !== null;
  const p = onBody(
    body,
    stands ? { x: pin.x!, y: pin.y!, z: pin.z! } : { x: body.w / 2, y: body.h / 2, z: part.d / 2 },
  );
  const exit = stands && pin.exit ? turnExit(pin.exit, body.turn) : null;
  const open = openEnd({ x: toNm(p.x), y: toNm(p.y), z: toNm(p.z), exit }, at);
  const pinAt: PinAt = { ...open, around: (goal) => space.toDuct(at.face, open, goal) };
  const ground = net.byFace.get(at.face);
  const first = ground ? enter(ground, EVERY, pinAt, rules) : { list: [], marks: [] };
  const bars = first.list.map((e) => e.bar);
  const length = bars.every((b) => net.partBars[b] === 1) ? 0 : Math.max(...bars.map((b) => net.partLength[b]!));
  const reach = toNm(rules.reachMm);
  const others: Accept = ({ index, outline }) =>
    net.partBars[index]! > 1 &&
    net.partLength[index]! > ISLAND * length &&
    toOutline(outline, pinAt.x, pinAt.y) <= reach;
  const any = first.list.length > 0 && ground!.around(pinAt.x, pinAt.y, reach).some(others);
  const instead = any ? enter(ground!, others, pinAt, rules) : null;
  instead?.marks.push("stump-passed");
  return {
    x: pinAt.x,
    y: pinAt.y,
    z: pinAt.z,
    directLeads: part.directLeads ?? false,
    open,
    first,
    instead,
    marks,
    end: {
      device: ref.device,
      pin: ref.pin,
      face: at.face,
      x: toMm(pinAt.x),
      y: toMm(pinAt.y),
      z: toMm(pinAt.z),
      exit,
      onDoor: at.face.endsWith("/door"),
      tailMm: toMm(toNm(pin.tail ?? 0)),
      ...(atEdge ? { row: atEdge.row } : {}),
    },
    ends: new Map(),
  };
}

interface PinAt extends OpenEnd {
  /** The way to a place in a duct round what stands before it. */
  around(goal: Point3): Around | null;
}

/**
 * Ducts that are joined to each other alone are an island, passed over like a single one, beside a network of more than
 * so many times their length. Two halves of a plate that are not joined are none: there the gap is what is to be told.
 */
const ISLAND = 3;

/** Of more ducts that are equally near the first by number are tried, and the wire says so. */
const MOST_ENTRIES = 8;

type Accept = (bar: Bar) => boolean;
const EVERY: Accept = () => true;

function enter(ground: Ground, accept: Accept, pin: PinAt, rules: RouteRules): Entries {
  const { x, y, exit } = pin;
  const distance = (bar: Bar): number => toOutline(bar.outline, x, y);
  if (exit && exit !== "out") {
    const met = firstMet(ground, accept, x, y, exit, rules);
    if (met.length > 0) {
      const far = Math.min(...met.map(distance));
      const doubt = ground
        .around(x, y, Math.max(0, far - toNm(rules.nearerMm)))
        .some((b) => accept(b) && distance(b) + toNm(rules.nearerMm) < far);
      const marks: Mark[] = doubt ? ["nearer-duct"] : [];
      if (met.length > MOST_ENTRIES) marks.push("crowded-ducts");
      return lookAhead({ list: met.slice(0, MOST_ENTRIES).map((bar) => entry(bar, pin)), marks }, met, pin);
    }
  }
  const all = ground.nearest(x, y, accept);
  const nearest = all.slice(0, MOST_ENTRIES);
  const marks: Mark[] = [];
  if (nearest.length > 0) {
    if (exit && exit !== "out") marks.push("exit-met-nothing");
    if (Math.min(...nearest.map(distance)) > toNm(rules.reachMm)) marks.push("far-from-duct");
  }
  if (all.length > MOST_ENTRIES) marks.push("crowded-ducts");
  const list = nearest.map((bar) => (exit && exit !== "out" ? turningBack(bar, pin, exit) : null) ?? entry(bar, pin));
  if (list.some((e, i) => e.round && e.planeNm > footOn(nearest[i]!, x, y).distance)) marks.push("round-body");
  return lookAhead({ list, marks }, nearest, pin);
}

/** Leads entries round bodies of others that stand before them; one that goes round its own body does so in the plane. */
function lookAhead({ list, marks }: Entries, bars: readonly Bar[], pin: PinAt): Entries {
  const led = list.map((e, i): Entry => {
    if (e.round) return e;
    const bar = bars[i]!;
    const others = pin.around({ ...pointOn(bar, e.t), z: bar.height });
    if (!others) return e;
    const planeNm = others.points.slice(1).reduce((sum, p, k) => sum + flat(p, others.points[k]!), 0);
    return { ...e, planeNm, riseNm: others.nm - planeNm, others };
  });
  const others = led.flatMap((e) => e.others ?? []);
  const said: Mark[] = others.length > 0 ? ["round-others"] : [];
  if (others.some((o) => o.cut)) said.push("crowded-bodies");
  return { list: led, marks: [...marks, ...said] };
}

const flat = (a: Point, b: Point): number => Math.abs(a.x - b.x) + Math.abs(a.y - b.y);

function entry(bar: Bar, { x, y, z }: PinAt): Entry {
  const { t, distance } = footOn(bar, x, y);
  return { bar: bar.index, t, planeNm: distance, riseNm: Math.abs(z - bar.height), round: null, others: null };
}

/** The way of a pin that looks away from its duct: out in its direction, then round the body. */
function turningBack(bar: Bar, pin: PinAt, exit: Exclude<Exit, "out">): Entry | null {
  const straight = entry(bar, pin);
  const round = roundBody(pin, pointOn(bar, straight.t), exit, pin.outline);
  return round && { ...straight, planeNm: round.nm, round: round.corners };
}

/**
 * The bars whose outline comes first in the corridor before the pin, within reach; a bar the pin lies in
 * is met at once. A bar to the side of the pin's own line counts only when it begins ahead of the pin:
 * one that runs past beside it is not ahead. Several when they begin at the same distance.
 */
function firstMet(ground: Ground, accept: Accept, x: number, y: number, exit: Exit, rules: RouteRules): Bar[] {
  const upright = exit === "up" || exit === "down";
  const forward = exit === "up" || exit === "right";
  const [side, ahead] = upright ? [x, y] : [y, x];
  const corridor = toNm(rules.corridorMm);
  let least = toNm(rules.reachMm);
  let met: Bar[] = [];
  const [back, front] = forward ? [0, least] : [least, 0];
  const before = upright
    ? ground.touching(x - corridor, y - back, x + corridor, y + front)
    : ground.touching(x - back, y - corridor, x + front, y + corridor);
  for (const bar of before) {
    if (!accept(bar)) continue;
    const o = bar.outline;
    const [sideLo, sideHi] = upright ? [o.x, o.x + o.w] : [o.y, o.y + o.h];
    const [lo, hi] = upright ? [o.y, o.y + o.h] : [o.x, o.x + o.w];
    if (side < sideLo - corridor || side > sideHi + corridor) continue;
    const straight = side >= sideLo && side <= sideHi;
    const gap = forward ? lo - ahead : ahead - hi;
    if (straight ? (forward ? hi < ahead : lo > ahead) : gap <= 0) continue;
    const distance = Math.max(0, gap);
    if (distance > least) continue;
    if (distance < least) met = [];
    least = distance;
    met.push(bar);
  }
  return met;
}

/**
 * One end of a wire as the result shows it, with the entry it took; null for a direct lead or no duct.
 * All wires that leave a pin by one entry share it: it must not be changed.
 */
export function wireEnd(net: Network, at: Attached, entries: Entries, taken: Entry | null): WireEnd {
  let end = at.ends.get(taken);
  if (!end) at.ends.set(taken, (end = makeEnd(net, at, entries, taken)));
  return end;
}

export const inMm = (p: Point3): Point3 => ({ x: toMm(p.x), y: toMm(p.y), z: toMm(p.z) });

/** What is said of a pin that only matters where it enters a duct. */
const ENTRY_MARKS: ReadonlySet<Mark> = new Set(["exit-unused"]);

function makeEnd(net: Network, at: Attached, entries: Entries, taken: Entry | null): WireEnd {
  const { device, pin, face, x, y, z, exit, onDoor, tailMm, row } = at.end;
  const bar = taken && net.bars[taken.bar]!;
  const on = bar && pointOn(bar, taken.t);
  const marks = bar ? [...at.marks, ...entries.marks] : at.marks.filter((m) => !ENTRY_MARKS.has(m));
  if (bar?.insideMm2 === 0) marks.push("no-duct-size");
  let entry: WireEnd["entry"] = null;
  if (taken) {
    entry = {
      edge: pieceAt(bar!, taken.t),
      x: toMm(on!.x),
      y: toMm(on!.y),
      planeMm: toMm(taken.planeNm),
      heightMm: toMm(taken.riseNm),
    };
    if (taken.round) entry.round = taken.round.map((p) => ({ x: toMm(p.x), y: toMm(p.y) }));
    if (taken.others) {
      const { points, devices } = taken.others;
      entry.others = { points: points.slice(1, -1).map(inMm), devices };
    }
  }
  return { device, pin, face, x, y, z, exit, onDoor, entry, tailMm, ...(row === undefined ? {} : { row }), marks };
}
