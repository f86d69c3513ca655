import { toSpace, type Box, type Face, type Point3, type Rect } from "../design/geometry";
import type { Lookup } from "../design/lookup";
import type { Turn } from "../design/model";
import type { ClashSide, PlacedBar, PlacedDevice, PlacedPiece } from "./result";

/** What takes room in a cabinet, and where. */
export interface Solid {
  thing: ClashSide["thing"];
  /** Its tag; of a plate the face. */
  of: string;
  face: Face;
  box: Box;
  /** On its own face: its outline there, underside and top above it. */
  outline: Rect;
  z: number;
  top: number;
  /** The device that carries it, where one does. */
  carrier: string | null;
  /** The rail on which it stands, where it does. */
  rail: string | null;
  turn: Turn;
}

/** A plate without a thickness is this thick, mm: what passes through it meets it all the same. */
const LEAST_PLATE_MM = 1;

/** From an outline on a face and two heights above it to the space of the face's row. */
export function boxOf(face: Face, { x, y, w, h }: Rect, z: number, top: number): Box {
  const a = toSpace(face, { x, y, z });
  const b = toSpace(face, { x: x + w, y: y + h, z: top });
  return {
    min: { x: Math.min(a.x, b.x), y: Math.min(a.y, b.y), z: Math.min(a.z, b.z) },
    max: { x: Math.max(a.x, b.x), y: Math.max(a.y, b.y), z: Math.max(a.z, b.z) },
  };
}

/** What a device takes of its face: on a door or wall what stands behind it, where its part says that this is larger. */
function roomOf(device: PlacedDevice, face: Face, look: Lookup): { outline: Rect; top: number } {
  const back = face.kind === "plate" ? undefined : look.parts.get(device.part)?.back;
  if (!back) return { outline: device.outline, top: device.top };
  const across = device.turn === 90 || device.turn === 270;
  const [w, h] = across ? [back.h, back.w] : [back.w, back.h];
  return {
    outline: { x: device.centre.x - w / 2, y: device.centre.y - h / 2, w, h },
    top: Math.max(device.top, back.d),
  };
}

/** Everything that stands in the enclosures: devices, rails, ducts with their covers, what hangs on strips, plates. O(things) */
export function solidsOf(
  devices: readonly PlacedDevice[],
  rails: readonly PlacedBar[],
  ducts: readonly PlacedBar[],
  hung: readonly PlacedPiece[],
  look: Lookup,
): Solid[] {
  const solids: Solid[] = [];
  const bar = { carrier: null, rail: null, turn: 0 as Turn };
  const add = (id: string, one: Omit<Solid, "face" | "box">): void => {
    const face = look.faces.get(id);
    if (face) solids.push({ ...one, face, box: boxOf(face, one.outline, one.z, one.top) });
  };
  for (const d of devices) {
    const face = look.faces.get(d.face);
    if (!face) continue;
    const onRail = d.carrier !== null && look.devices.get(d.tag)?.on?.slot === undefined;
    add(d.face, {
      thing: "device",
      of: d.tag,
      ...roomOf(d, face, look),
      z: d.z,
      carrier: onRail ? null : d.carrier,
      rail: onRail ? d.carrier : null,
      turn: d.turn,
    });
  }
  for (const r of rails) add(r.face, { ...bar, thing: "rail", of: r.tag, outline: r.outline, z: 0, top: r.height });
  for (const d of ducts) add(d.face, { ...bar, thing: "duct", of: d.tag, outline: d.outline, z: 0, top: d.height });
  for (const p of hung) add(p.face, { ...bar, thing: "strip", of: p.strip, outline: p.outline, z: p.z, top: p.top });
  for (const face of look.faces.values()) {
    if (face.kind !== "plate") continue;
    const thick = Math.max(LEAST_PLATE_MM, look.enclosures.get(face.enclosure)?.plate?.thickness ?? 0);
    add(face.id, {
      ...bar,
      thing: "face",
      of: face.id,
      outline: { x: 0, y: 0, w: face.w, h: face.h },
      z: -thick,
      top: 0,
    });
  }
  return solids;
}

/** How far two blocks reach into each other along each axis, mm; null where they do not, by more than `slack`. */
export function sharedBy(a: Box, b: Box, slack: number): Point3 | null {
  const along = (axis: "x" | "y" | "z"): number =>
    Math.min(a.max[axis], b.max[axis]) - Math.max(a.min[axis], b.min[axis]);
  const shared = { x: along("x"), y: along("y"), z: along("z") };
  return shared.x > slack && shared.y > slack && shared.z > slack ? shared : null;
}

/** The block that two blocks share. */
export const common = (a: Box, b: Box): Box => ({
  min: { x: Math.max(a.min.x, b.min.x), y: Math.max(a.min.y, b.min.y), z: Math.max(a.min.z, b.min.z) },
  max: { x: Math.min(a.max.x, b.max.x), y: Math.min(a.max.y, b.max.y), z: Math.min(a.max.z, b.max.z) },
});
