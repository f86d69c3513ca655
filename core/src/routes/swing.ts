import type { Point3 } from "../design/geometry";

/** What a door asks of the bundle over its hinge. Lengths in the unit of the points. */
export interface Swing {
  /** Farthest that the two places come apart while the door swings. */
  need: number;
  /** Opening angle at which they are that far apart, degrees. */
  atDeg: number;
}

/**
 * How far a place on a door and one on the body come apart while the door opens about an upright axis.
 *
 *         body (z to the rear)              seen from above
 *           · b
 *           │                               b stays, a goes round the axis with the door.
 *      axis o──── a  door, shut             Their distance grows until they look away from
 *            ╲                              each other: half a turn between them.
 *             ╲ a  open
 *
 * The distance d with d² = rₐ² + r_b² − 2 rₐ r_b cos φ + Δy² is largest where the angle φ between the two, seen from
 * the axis, is nearest to 180°; φ runs from its value with the door shut to that plus the opening angle.
 * @param axis x and z of the hinge
 * @param a the place on the door, shut
 * @param b the place on the body
 * @param side of the hinge as seen from the front: a door hung on the left opens the other way round
 */
export function swing(
  axis: { x: number; z: number },
  a: Point3,
  b: Point3,
  side: "left" | "right",
  openDeg: number,
): Swing {
  const way = side === "left" ? 1 : -1;
  // Angles as the door opens: a shut door lies at 0, the rear of the body at a quarter turn behind it.
  const angle = (p: Point3): number => (Math.atan2(p.z - axis.z, way * (p.x - axis.x)) * 180) / Math.PI;
  const radius = (p: Point3): number => Math.hypot(p.x - axis.x, p.z - axis.z);
  const [ra, rb] = [radius(a), radius(b)];
  // The door turns towards the front, away from the body: the angle between the two grows.
  const shut = angle(b) - angle(a);
  const apart = (openedDeg: number): number => {
    const cos = Math.cos(((shut + openedDeg) * Math.PI) / 180);
    return Math.sqrt(Math.max(0, ra * ra + rb * rb - 2 * ra * rb * cos + (a.y - b.y) ** 2));
  };
  const half = (((180 - shut) % 360) + 360) % 360;
  const stops = [0, openDeg, ...(half <= openDeg ? [half] : [])];
  return stops.map((atDeg) => ({ need: apart(atDeg), atDeg })).reduce((most, s) => (s.need > most.need ? s : most));
}
