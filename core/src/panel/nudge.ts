import type { Lookup } from "../design/lookup";
import type { Design, Device, Place } from "../design/model";
import { even, laidStripOf } from "./stands";

export const WAYS = ["left", "right", "up", "down"] as const;
export type Way = (typeof WAYS)[number];

/**
 * The place of a device after a move on its face, mm to the right and up: along its rail alone for what stands on one. Null where it has no
 * place of its own: loose, in a slot, or nowhere that is known, and across its rail.
 */
export function movedPlace({ on }: Device, right: number, up: number, look: Lookup): Place | null {
  if (on?.x === undefined) return null;
  if (on.rail !== undefined) {
    const rail = look.rails.get(on.rail);
    if (!rail) return null;
    const [along, across] = rail.run === "up" ? [up, right] : [right, up];
    return across === 0 ? { rail: on.rail, x: even(on.x + along) } : null;
  }
  if (on.face === undefined || on.y === undefined) return null;
  return { face: on.face, x: even(on.x + right), y: even(on.y + up) };
}

/** Ways on which a device can be moved by itself; none for members of a strip that is laid. */
export function waysOf(device: Device, look: Lookup, design: Pick<Design, "strips">): Way[] {
  if (laidStripOf(design, device.tag)) return [];
  return WAYS.filter((way) => movedPlace(device, ...stepOf(way, 1), look) !== null);
}

/** A step on a way: to the right, and up. */
export const stepOf = (way: Way, mm: number): [right: number, up: number] =>
  way === "right" ? [mm, 0] : way === "left" ? [-mm, 0] : way === "up" ? [0, mm] : [0, -mm];
