import { onBody, turnExit, bodyAt, type Body } from "../design/geometry";
import type { Lookup } from "../design/lookup";
import type { Exit, PinRef } from "../design/model";
import { toMm, toUm } from "../design/tolerance";
import type { PlacedDevice } from "../panel/result";
import { footOn, nearestBar, pieceAt, pointOn, type Bar, type Foot, type Network } from "./network";
import type { Mark, WireEnd } from "./result";

/** A pin with its way into the network. Micrometres. */
export interface Attached {
  foot: Foot | null;
  /** Square distance in the plane plus the step in height. */
  entryUm: number;
  x: number;
  y: number;
  z: number;
  directLeads: boolean;
  end: WireEnd;
  marks: Mark[];
}

/** Bodies by tag, rebuilt from their placements. */
export function bodyOf(d: PlacedDevice): Body {
  return bodyAt(d.centre, d.w, d.h, d.turn, d.z);
}

/**
 * Leads a pin to the first duct in its exit direction within reach, square onto the centre line;
 * otherwise to the nearest duct by square distance. Null when device or pin is unknown or loose.
 */
export function attach(
  look: Lookup,
  net: Network,
  placed: ReadonlyMap<string, PlacedDevice>,
  ref: PinRef,
  reachMm: number,
): Attached | null {
  const at = placed.get(ref.device);
  const part = at && look.parts.get(at.part);
  const pin = part && look.pin(part, ref.pin);
  if (!at || !part || !pin) return null;
  const body = bodyOf(at);
  const marks: Mark[] = [];
  const known = pin.x !== undefined && pin.y !== undefined && pin.z !== undefined;
  if (!known) marks.push("no-pin-geometry");
  const p = onBody(body, known ? { x: pin.x!, y: pin.y!, z: pin.z! } : { x: body.w / 2, y: body.h / 2, z: part.d / 2 });
  const exit = known && pin.exit ? turnExit(pin.exit, body.turn) : null;
  if (known && !pin.exit) marks.push("no-exit");
  if (pin.tail === undefined) marks.push("no-tail");
  const [x, y, z] = [toUm(p.x), toUm(p.y), toUm(p.z)];
  const found = enter(net.byFace.get(at.face) ?? [], x, y, exit, toUm(reachMm), marks);
  const end: WireEnd = {
    device: ref.device,
    pin: ref.pin,
    face: at.face,
    x: toMm(x),
    y: toMm(y),
    z: toMm(z),
    exit,
    onDoor: at.face.endsWith("/door"),
    entry: null,
    tailMm: toMm(toUm(pin.tail ?? 0)),
    fallbacks: marks,
  };
  if (!found) return { foot: null, entryUm: 0, x, y, z, directLeads: part.directLeads ?? false, end, marks };
  const { bar, t, distance } = found;
  const rise = Math.abs(z - bar.height);
  const on = pointOn(bar, t);
  end.entry = {
    edge: pieceAt(bar, t),
    x: toMm(on.x),
    y: toMm(on.y),
    planeMm: toMm(distance),
    heightMm: toMm(rise),
  };
  return {
    foot: { bar: bar.index, t },
    entryUm: distance + rise,
    x,
    y,
    z,
    directLeads: part.directLeads ?? false,
    end,
    marks,
  };
}

type Entry = { bar: Bar; t: number; distance: number };

function enter(
  bars: readonly Bar[],
  x: number,
  y: number,
  exit: Exit | null,
  reach: number,
  marks: Mark[],
): Entry | null {
  if (exit && exit !== "out") {
    const met = firstMet(bars, x, y, exit, reach);
    if (met) return { bar: met, ...footOn(met, x, y) };
  }
  const nearest = nearestBar(bars, x, y);
  if (!nearest) return null;
  if (exit && exit !== "out") marks.push("exit-met-nothing");
  if (nearest.distance > reach) marks.push("far-from-duct");
  return nearest;
}

/** The bar whose outline a straight line from the point meets first; a bar the point lies in is met at once. */
function firstMet(bars: readonly Bar[], x: number, y: number, exit: Exit, reach: number): Bar | null {
  const upright = exit === "up" || exit === "down";
  const forward = exit === "up" || exit === "right";
  const [side, ahead] = upright ? [x, y] : [y, x];
  let best: { bar: Bar; gap: number } | null = null;
  for (const bar of bars) {
    const o = bar.outline;
    const [sideLo, sideHi] = upright ? [o.x, o.x + o.w] : [o.y, o.y + o.h];
    const [lo, hi] = upright ? [o.y, o.y + o.h] : [o.x, o.x + o.w];
    if (side < sideLo || side > sideHi) continue;
    if (forward ? hi < ahead : lo > ahead) continue;
    const gap = Math.max(0, forward ? lo - ahead : ahead - hi);
    if (gap <= reach && gap < (best?.gap ?? Infinity)) best = { bar, gap };
  }
  return best?.bar ?? null;
}
