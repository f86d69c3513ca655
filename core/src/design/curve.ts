import { pushTo } from "./order";

/** One point of the curve of a cooling unit. */
export interface CurvePoint {
  insideC: number;
  outsideC: number;
  capacityW: number;
}

/** Read off a curve; `beyond`: outside what it states, the nearest point counts. */
export interface Read {
  capacityW: number;
  beyond: boolean;
  /** Beyond it where the unit carries less than its nearest point: hotter outside, or cooler inside. */
  unsafe: boolean;
}

/** On a line of one point or more in order of x, straight between them; beyond its ends the nearest point. O(points) */
export function onLine(points: readonly { x: number; y: number }[], x: number): { y: number; beyond: boolean } {
  const [first, last] = [points[0]!, points[points.length - 1]!];
  if (x <= first.x) return { y: first.y, beyond: x < first.x };
  if (x >= last.x) return { y: last.y, beyond: x > last.x };
  const i = points.findIndex((p) => p.x >= x);
  const [a, b] = [points[i - 1]!, points[i]!];
  return { y: a.y + ((b.y - a.y) * (x - a.x)) / (b.x - a.x), beyond: false };
}

/**
 * Capacity at two temperatures: along each stated inside temperature straight between the stated outside temperatures, then
 * straight between the inside temperatures. O(points log points)
 */
export function capacityAt(curve: readonly CurvePoint[], insideC: number, outsideC: number): Read | null {
  const lines = new Map<number, { x: number; y: number }[]>();
  for (const p of curve) {
    pushTo(lines, p.insideC, { x: p.outsideC, y: p.capacityW });
  }
  if (lines.size === 0) return null;
  let beyond = false;
  let unsafe = false;
  const across = [...lines]
    .sort(([a], [b]) => a - b)
    .map(([inside, points]) => {
      const read = onLine(
        points.sort((a, b) => a.x - b.x),
        outsideC,
      );
      beyond ||= read.beyond;
      unsafe ||= outsideC > points[points.length - 1]!.x;
      return { x: inside, y: read.y };
    });
  const read = onLine(across, insideC);
  return { capacityW: read.y, beyond: beyond || read.beyond, unsafe: unsafe || insideC < across[0]!.x };
}

/** What of a curve cannot be: rises with the outside temperature, says two things of one point; null when it can. */
export function curveFault(curve: readonly CurvePoint[]): string | null {
  const sorted = [...curve].sort((a, b) => a.insideC - b.insideC || a.outsideC - b.outsideC);
  for (let i = 1; i < sorted.length; i++) {
    const [a, b] = [sorted[i - 1]!, sorted[i]!];
    if (a.insideC !== b.insideC) continue;
    if (a.outsideC === b.outsideC) return `two capacities at ${a.insideC} °C inside and ${a.outsideC} °C outside`;
    if (b.capacityW > a.capacityW)
      return `at ${a.insideC} °C inside it rises from ${a.capacityW} W at ${a.outsideC} °C outside to ${b.capacityW} W at ${b.outsideC} °C: a unit carries less the hotter it is outside`;
  }
  return null;
}

/** Flow of a fan against a pressure, m³/h, straight between the stated points; null where none is stated. */
export function flowAt(curve: readonly { m3h: number; pa: number }[], pa: number): number | null {
  if (curve.length === 0) return null;
  return onLine(
    curve.map((p) => ({ x: p.pa, y: p.m3h })).sort((a, b) => a.x - b.x),
    pa,
  ).y;
}
