import type { Face, Point, Rect } from "../design/geometry";
import type { PanelResult, PlacedDevice } from "./result";

/** A face laid out on the drawing sheet. Millimetres, y up. */
export interface SheetFace extends Rect {
  id: string;
  enclosure: string;
  kind: Face["kind"];
}

/** All faces of a job that carry anything, laid out side by side as if the enclosures were unfolded. */
export interface Sheet {
  w: number;
  h: number;
  faces: SheetFace[];
}

const GAP_MM = 90;
/** Room for a title between a face and the one below it. */
const BELOW_GAP_MM = 200;
const BLOCK_GAP_MM = 220;

/**
 * Lays the faces out: per enclosure the plate with its door beside it and the other faces below,
 * enclosures from left to right. The door stands on the side it is hinged to, so that a wire over the
 * hinge has a short way on the sheet.
 */
export function layOut(panel: PanelResult, hinges: ReadonlyMap<string, "left" | "right">): Sheet {
  const used = new Set<string>();
  for (const t of [...panel.devices, ...panel.rails, ...panel.ducts]) used.add(t.face);
  const faces: SheetFace[] = [];
  let x = 0;
  const enclosures = [...new Set(panel.faces.map((f) => f.enclosure))];
  for (const enclosure of enclosures) {
    const here = panel.faces.filter((f) => f.enclosure === enclosure && (used.has(f.id) || f.kind === "plate"));
    const main = here.filter((f) => f.kind === "plate" || f.kind === "door");
    if (hinges.get(enclosure) === "left") main.reverse();
    const others = here.filter((f) => f.kind !== "plate" && f.kind !== "door");
    let right = x;
    for (const f of main) {
      faces.push({ id: f.id, enclosure, kind: f.kind, x: right, y: 0, w: f.w, h: f.h });
      right += f.w + GAP_MM;
    }
    let below = x;
    for (const f of others) {
      faces.push({ id: f.id, enclosure, kind: f.kind, x: below, y: -f.h - BELOW_GAP_MM, w: f.w, h: f.h });
      below += f.w + GAP_MM;
    }
    x = Math.max(right, below) + BLOCK_GAP_MM - GAP_MM;
  }
  // Lowest edge to zero.
  const low = Math.min(0, ...faces.map((f) => f.y));
  for (const f of faces) f.y -= low;
  return {
    w: Math.max(0, ...faces.map((f) => f.x + f.w)),
    h: Math.max(0, ...faces.map((f) => f.y + f.h)),
    faces,
  };
}

/** The topmost device of a face at a point; of two the smaller one. O(n). */
export function deviceAt(devices: readonly PlacedDevice[], face: string, p: Point): PlacedDevice | null {
  let best: PlacedDevice | null = null;
  for (const d of devices) {
    const o = d.outline;
    if (d.face !== face || p.x < o.x || p.x > o.x + o.w || p.y < o.y || p.y > o.y + o.h) continue;
    if (!best || o.w * o.h < best.outline.w * best.outline.h) best = d;
  }
  return best;
}
