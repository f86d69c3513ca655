import type { Point } from "@gray-bench/core/design/geometry";
import type { PanelResult } from "@gray-bench/core/panel/result";

/** The rail or duct of a face under a point. O(rails + ducts). */
export function barAt(panel: PanelResult, face: string, p: Point): { thing: "rail" | "duct"; tag: string } | null {
  for (const [thing, bars] of [
    ["rail", panel.rails],
    ["duct", panel.ducts],
  ] as const)
    for (const { tag, face: on, outline: o } of bars)
      if (on === face && p.x >= o.x && p.y >= o.y && p.x <= o.x + o.w && p.y <= o.y + o.h) return { thing, tag };
  return null;
}
