import type { OpenPoint, Severity } from "@gray-bench/core/design/open-points";
import type { PanelResult } from "@gray-bench/core/panel/result";
import type { Layout } from "../sheet/useSheet";

/** What is open in one place of the small drawing. */
export interface Mark {
  /** Its middle, px. */
  x: number;
  y: number;
  /** Of the worst there. */
  severity: Severity;
  points: OpenPoint[];
}

const WORST: readonly Severity[] = ["stop", "check", "note"];

/**
 * Open points that speak of something with a place (device, rail, duct, face), those near each other as one mark.
 * @param k pixels of a millimetre
 * @param cell side of the square that counts as one place, px
 * @returns worst first; O(points + places)
 */
export function marksOf(
  points: readonly OpenPoint[],
  panel: PanelResult,
  layout: Layout,
  k: number,
  cell: number,
): Mark[] {
  const places = new Map<string, { face: string; x: number; y: number; w: number; h: number }>();
  for (const f of panel.faces) places.set(`face ${f.id}`, { face: f.id, x: 0, y: 0, w: f.w, h: f.h });
  for (const [thing, list] of [
    ["device", panel.devices],
    ["rail", panel.rails],
    ["duct", panel.ducts],
  ] as const)
    for (const { tag, face, outline } of list) places.set(`${thing} ${tag}`, { face, ...outline });
  const marks = new Map<string, Mark>();
  for (const point of points) {
    if (point.accepted) continue;
    const place = places.get(`${point.thing} ${point.of}`);
    if (!place || !layout.faces.has(place.face)) continue;
    const box = layout.boxOf(place.face, place.x, place.y, place.w, place.h);
    const x = (box.x + box.w / 2 - layout.box.x) * k;
    const y = (box.y + box.h / 2 - layout.box.y) * k;
    const [column, row] = [Math.floor(x / cell), Math.floor(y / cell)];
    const key = `${column} ${row}`;
    const mark = marks.get(key);
    if (!mark) {
      // In the middle of its square, so that no two touch.
      marks.set(key, { x: (column + 0.5) * cell, y: (row + 0.5) * cell, severity: point.severity, points: [point] });
      continue;
    }
    mark.points.push(point);
    if (WORST.indexOf(point.severity) < WORST.indexOf(mark.severity)) mark.severity = point.severity;
  }
  return [...marks.values()].sort((a, b) => WORST.indexOf(a.severity) - WORST.indexOf(b.severity));
}
