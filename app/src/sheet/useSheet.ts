import type { JobDetail } from "@gray-bench/contract/jobs";
import { ARRANGEMENTS, layOut, type Sheet, type SheetFace } from "@gray-bench/core/panel/sheet";
import type { PanelResult } from "@gray-bench/core/panel/result";
import { useMemo } from "react";
import { useWindowDimensions } from "react-native";
import type { Box } from "../kit/drawing/useZoom";
import { useWide } from "../kit/useWide";

/** The sheet with y turned down, as screens have it. */
export interface Layout {
  box: Box;
  faces: Map<string, SheetFace>;
  /** A point of a face on the sheet. */
  at(face: string, x: number, y: number): { x: number; y: number };
  /** The face under a point of the sheet, with the point in its coordinates. */
  under(x: number, y: number): { face: string; x: number; y: number } | null;
  /** Where a rectangle of a face lies on the sheet. */
  boxOf(face: string, x: number, y: number, w: number, h: number): Box;
}

export function layoutOf(sheet: Sheet): Layout {
  const faces = new Map(sheet.faces.map((f) => [f.id, f]));
  const at = (face: string, x: number, y: number) => {
    const f = faces.get(face)!;
    return { x: f.x + x, y: sheet.h - (f.y + y) };
  };
  return {
    box: { x: 0, y: -60, w: sheet.w, h: sheet.h + 60 },
    faces,
    at,
    under(x, y) {
      for (const f of faces.values()) {
        const [fx, fy] = [x - f.x, sheet.h - y - f.y];
        if (fx >= 0 && fy >= 0 && fx <= f.w && fy <= f.h) return { face: f.id, x: fx, y: fy };
      }
      return null;
    },
    boxOf(face, x, y, w, h) {
      const p = at(face, x, y + h);
      return { x: p.x, y: p.y, w, h };
    },
  };
}

/** How the faces are laid out, as the address says it. */
export interface LayChoice {
  lay?: string;
  /** Faces that are shown alone, with commas between them. */
  faces?: string;
}

/** Beside the drawing when wide, and above it: what the window does not give to it, px. */
const BESIDE_PX = { wide: 640, phone: 0 };
const ABOVE_PX = { wide: 170, phone: 260 };

/** Width to height of the room a drawing has, in tenths, so that a small change of the window moves nothing. */
function useAspect(): number {
  const { width, height } = useWindowDimensions();
  const size = useWide() ? "wide" : "phone";
  const aspect = Math.max(200, width - BESIDE_PX[size]) / Math.max(200, height - ABOVE_PX[size]);
  return Math.round(aspect * 10) / 10;
}

export function useSheet(panel: PanelResult, hinges: JobDetail["hinges"], { lay, faces }: LayChoice): Layout {
  const aspect = useAspect();
  return useMemo(() => {
    const known = new Set(panel.faces.map((f) => f.id));
    const only = new Set((faces ?? "").split(",").filter((id) => known.has(id)));
    return layoutOf(
      layOut(panel, new Map(Object.entries(hinges)), {
        arrangement: ARRANGEMENTS.find((a) => a === lay) ?? "unfolded",
        aspect,
        ...(only.size > 0 ? { only } : {}),
      }),
    );
  }, [panel, hinges, lay, faces, aspect]);
}

/** The faces as they lie on the sheet, for its small map. */
export const useLandmarks = ({ faces, boxOf }: Layout): Box[] =>
  useMemo(() => [...faces.values()].map((f) => boxOf(f.id, 0, 0, f.w, f.h)), [faces, boxOf]);

/** What a phone shows first: all faces at once would be too small to touch. */
export const firstPlate = (layout: Layout): string | undefined =>
  [...layout.faces.values()].find((f) => f.kind === "plate")?.id;

/** The box around boxes, with room at its sides. mm */
export function around(boxes: readonly Box[], pad: number): Box {
  const x = Math.min(...boxes.map((b) => b.x)) - pad;
  const y = Math.min(...boxes.map((b) => b.y)) - pad;
  const right = Math.max(...boxes.map((b) => b.x + b.w)) + pad;
  const low = Math.max(...boxes.map((b) => b.y + b.h)) + pad;
  return { x, y, w: right - x, h: low - y };
}
