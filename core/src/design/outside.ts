import type { Part, Pin } from "./model";
import { PIN_OUTSIDE_MM } from "./tolerance";

/** How far a pin lies outside its body along the worst axis, mm, when that is too far to be meant; else null. */
export function outsideBody(pin: Pin, part: Part): number | null {
  const beyond = (v: number | undefined, size: number): number => (v === undefined ? 0 : Math.max(-v, v - size, 0));
  const far = Math.max(beyond(pin.x, part.w), beyond(pin.y, part.h), beyond(pin.z, part.d));
  return far > PIN_OUTSIDE_MM ? Math.round(far * 10) / 10 : null;
}
