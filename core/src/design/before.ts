import { toFace, toSpace, type Face, type Rect } from "./geometry";

/** A body before a face: its outline there, and the stretch of heights it takes above it. */
export interface Before {
  thing: "device" | "duct";
  of: string;
  rect: Rect;
  fromMm: number;
  toMm: number;
}

/** A body on its own face, with the heights it takes above it. */
export type Standing = { thing: "device" | "duct"; of: string; face: Face; outline: Rect; z: number; top: number };

/** Devices and ducts of an enclosure, with the heights they take. */
export const bodiesOf = (
  devices: readonly { tag: string; face: string; outline: Rect; z: number; top: number }[],
  ducts: readonly { tag: string; face: string; outline: Rect; height: number }[],
  faces: ReadonlyMap<string, Face>,
): Standing[] => [
  ...devices.flatMap((d): Standing[] => {
    const face = faces.get(d.face);
    return face ? [{ thing: "device", of: d.tag, face, outline: d.outline, z: d.z, top: d.top }] : [];
  }),
  ...ducts.flatMap((d): Standing[] => {
    const face = faces.get(d.face);
    return face ? [{ thing: "duct", of: d.tag, face, outline: d.outline, z: 0, top: d.height }] : [];
  }),
];

/** How bodies of the other faces, and the plate itself, lie before a face of the same enclosure. O(bodies) */
export const beforeFace = (face: Face, bodies: readonly Standing[]): Before[] =>
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
