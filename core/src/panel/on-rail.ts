import { addTurns, bodyAt, turnPoint, type Body, type Point } from "../design/geometry";
import { mountOf } from "../design/lookup";
import type { Part, Rail, Turn } from "../design/model";

/**
 * Where a body stands on a rail, x mm from its start. Its datum lies on the middle of the rail, or the middle of the body
 * where its part says none or it is turned across.
 */
export function bodyOnRail(part: Part, own: Turn, rail: Rail, railPart: Part, x: number): Body {
  const across = own === 90 || own === 270;
  const turn: Turn = rail.run === "up" ? 90 : 0;
  const start: Point =
    rail.run === "up" ? { x: rail.x + railPart.h / 2, y: rail.y } : { x: rail.x, y: rail.y + railPart.h / 2 };
  const datum = across ? undefined : mountOf(part, "rail")?.datumY;
  // From the datum to the middle of the body, turned with the body: the datum stays on the rail.
  const lift = datum === undefined ? 0 : part.h / 2 - datum;
  const along = turnPoint({ x: x + (across ? part.h : part.w) / 2, y: own === 180 ? -lift : lift }, turn);
  const centre = { x: start.x + along.x, y: start.y + along.y };
  return bodyAt(centre, part.w, part.h, addTurns(turn, own), railPart.d);
}
