import { beforeFace, type Standing } from "../design/before";
import { overlaps } from "../design/geometry";
import { onFace, type Blower } from "./airways";
import { openingsOf } from "./openings";
import type { Intrusion } from "./result";

/** What stands in the spaces that units want free before their openings, the deepest first. O(units · bodies) */
export function intrusions(blowers: readonly Blower[], bodies: readonly Standing[]): Intrusion[] {
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
