import { overlaps } from "../design/geometry";
import type { Design } from "../design/model";
import { byText, mapBy } from "../design/order";
import type { PanelResult } from "./result";

/** What is left of a rail, mm. */
export interface RailUse {
  rail: string;
  face: string;
  lengthMm: number;
  /** Of its length, what nothing stands on. */
  freeMm: number;
  /** The longest stretch of that, and where it begins, from the start of the rail. */
  longestMm: number;
  longestAtMm: number;
}

/** What stands on a face. */
export interface FaceUse {
  face: string;
  areaM2: number;
  /** Under bodies and ducts; what lies twice counts twice, up to the whole. */
  takenM2: number;
  /** Of all devices that state a weight, and those that state none. */
  kg: number;
  unweighed: string[];
  /** What a door carries, as its enclosure, the job or the shop says; null of other faces: no rule says it. */
  carriesKg: number | null;
}

export interface Usage {
  rails: RailUse[];
  faces: FaceUse[];
}

/** Stretches that something stands on, joined where they meet. */
function joined(stretches: readonly [from: number, to: number][]): [number, number][] {
  const out: [number, number][] = [];
  for (const [from, to] of [...stretches].sort(([a], [b]) => a - b)) {
    const last = out[out.length - 1];
    if (last && from <= last[1]) last[1] = Math.max(last[1], to);
    else out.push([from, to]);
  }
  return out;
}

/**
 * Free length of each rail, taken area of each face, and the weight on it against what a door carries:
 * the enclosure says it, the job, or the shop. Devices in slots of others
 * weigh, and take no room of their own. O(n log n)
 */
export function usageOf(
  panel: Pick<PanelResult, "faces" | "devices" | "rails" | "ducts" | "hung">,
  design: Pick<Design, "parts" | "rules" | "enclosures">,
  { doorMostKg }: { doorMostKg: number },
): Usage {
  const parts = mapBy(design.parts, (p) => p.number);
  const own = new Map(design.enclosures.map((e) => [e.tag, e.heat?.doorMostKg]));
  const tags = new Set(panel.devices.map((d) => d.tag));
  const rails = panel.rails.map((rail): RailUse => {
    const up = rail.run === "up";
    const start = up ? rail.outline.y : rail.outline.x;
    const along = ({ x, y, w, h }: { x: number; y: number; w: number; h: number }): [number, number] => {
      const [from, length] = up ? [y, h] : [x, w];
      return [Math.max(0, from - start), Math.min(rail.length, from - start + length)];
    };
    // What hangs on a strip stands where its rail is.
    const on = [
      ...panel.devices.filter((d) => d.carrier === rail.tag).map((d) => along(d.outline)),
      ...panel.hung
        .filter((p) => p.face === rail.face && overlaps(p.outline, rail.outline))
        .map((p) => along(p.outline)),
    ].filter(([from, to]) => to > from);
    const free: [number, number][] = [];
    let at = 0;
    for (const [from, to] of [...joined(on), [rail.length, rail.length] as [number, number]]) {
      if (from > at) free.push([at, from]);
      at = to;
    }
    const longest = free.reduce<[number, number]>((best, f) => (f[1] - f[0] > best[1] - best[0] ? f : best), [0, 0]);
    return {
      rail: rail.tag,
      face: rail.face,
      lengthMm: rail.length,
      freeMm: free.reduce((sum, [from, to]) => sum + to - from, 0),
      longestMm: longest[1] - longest[0],
      longestAtMm: longest[0],
    };
  });
  const faces = panel.faces.flatMap((face): FaceUse[] => {
    const devices = panel.devices.filter((d) => d.face === face.id);
    const ducts = panel.ducts.filter((d) => d.face === face.id);
    if (devices.length + ducts.length === 0) return [];
    const ground = devices.filter((d) => d.carrier === null || !tags.has(d.carrier));
    const area = face.w * face.h;
    const taken = [...ground, ...ducts].reduce((sum, { outline: o }) => sum + o.w * o.h, 0);
    const weighed = devices.flatMap((d) => parts.get(d.part)?.weightKg ?? []);
    return [
      {
        face: face.id,
        areaM2: area / 1e6,
        takenM2: Math.min(area, taken) / 1e6,
        kg: Math.round(weighed.reduce((sum, kg) => sum + kg, 0) * 1e6) / 1e6,
        unweighed: devices.flatMap((d) => (parts.get(d.part)?.weightKg === undefined ? [d.tag] : [])).sort(byText),
        carriesKg:
          face.kind === "door" ? (own.get(face.enclosure) ?? design.rules.heat?.doorMostKg ?? doorMostKg) : null,
      },
    ];
  });
  return { rails, faces };
}
