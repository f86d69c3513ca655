import type { Face, Rect } from "../design/geometry";
import { overlaps, toFace, toSpace } from "../design/geometry";
import type { PlacedBar, PlacedDevice } from "../panel/result";
import { onFace, type Blower } from "./airways";
import { openingsOf } from "./openings";
import type { Intrusion } from "./result";

/** A body before a face: its outline there, and the stretch of heights it takes above it. */
export interface Before {
  thing: "device" | "duct";
  of: string;
  rect: Rect;
  fromMm: number;
  toMm: number;
}

type Body = { thing: "device" | "duct"; of: string; face: Face; outline: Rect; z: number; top: number };

/** Devices and ducts of an enclosure, with the heights they take. */
export const bodiesOf = (
  devices: readonly PlacedDevice[],
  ducts: readonly PlacedBar[],
  faces: ReadonlyMap<string, Face>,
): Body[] => [
  ...devices.flatMap((d): Body[] => {
    const face = faces.get(d.face);
    return face ? [{ thing: "device", of: d.tag, face, outline: d.outline, z: d.z, top: d.top }] : [];
  }),
  ...ducts.flatMap((d): Body[] => {
    const face = faces.get(d.face);
    return face ? [{ thing: "duct", of: d.tag, face, outline: d.outline, z: 0, top: d.height }] : [];
  }),
];

/** How bodies of the other faces, and the plate itself, lie before a face of the same enclosure. O(bodies) */
export const beforeFace = (face: Face, bodies: readonly Body[]): Before[] =>
  bodies.map(({ thing, of, face: own, outline: o, z, top }) => {
    const ends = [
      { x: o.x, y: o.y, z },
      { x: o.x + o.w, y: o.y + o.h, z: top },
    ].map((p) => toFace(face, toSpace(own, p)));
    const [a, b] = [ends[0]!, ends[1]!];
    return {
      thing,
      of,
      rect: { x: Math.min(a.x, b.x), y: Math.min(a.y, b.y), w: Math.abs(a.x - b.x), h: Math.abs(a.y - b.y) },
      fromMm: Math.min(a.z, b.z),
      toMm: Math.max(a.z, b.z),
    };
  });

/** What stands in the spaces that units want free before their openings, the deepest first. O(units · bodies) */
export function intrusions(blowers: readonly Blower[], bodies: readonly Body[]): Intrusion[] {
  const found: Intrusion[] = [];
  for (const { device, part, face } of blowers) {
    const freeMm = part.climate?.freeMm ?? 0;
    if (freeMm <= 0) continue;
    const { blows, draws } = openingsOf(part);
    const around = beforeFace(
      face,
      bodies.filter((b) => b.of !== device.tag),
    );
    for (const [opening, rect] of [
      ["outlet", onFace(device, blows)],
      ["inlet", onFace(device, draws)],
    ] as const)
      for (const b of around)
        if (overlaps(rect, b.rect) && b.toMm > device.top && b.fromMm < device.top + freeMm)
          found.push({
            unit: device.tag,
            opening,
            thing: b.thing,
            of: b.of,
            leftMm: Math.max(0, b.fromMm - device.top),
            freeMm,
          });
  }
  return found.sort((a, b) => a.leftMm - b.leftMm || (a.of < b.of ? -1 : a.of > b.of ? 1 : 0));
}
