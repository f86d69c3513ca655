import type { PanelResult, PlacedBar } from "@gray-bench/core/panel/result";
import { memo, useMemo } from "react";
import { G, Path } from "react-native-svg";
import { useTokens } from "../kit/settings";
import type { Layout } from "./useSheet";

const rect = (x: number, y: number, w: number, h: number): string => `M${x} ${y}h${w}v${h}h${-w}z`;

/** Outlines of bodies. */
function bodies(layout: Layout, panel: PanelResult, pick: (category: string) => boolean): string {
  return panel.devices
    .filter((d) => pick(d.category))
    .map((d) => {
      const b = layout.boxOf(d.face, d.outline.x, d.outline.y, d.outline.w, d.outline.h);
      return rect(b.x, b.y, b.w, b.h);
    })
    .join("");
}

function bars(layout: Layout, list: readonly Pick<PlacedBar, "face" | "outline">[]): string {
  return list
    .map(({ face, outline: o }) => {
      const b = layout.boxOf(face, o.x, o.y, o.w, o.h);
      return rect(b.x, b.y, b.w, b.h);
    })
    .join("");
}

/** The two long edges of the rails' hat profile. */
function railEdges(layout: Layout, list: readonly PlacedBar[]): string {
  return list
    .map(({ face, outline: o, run }) => {
      const b = layout.boxOf(face, o.x, o.y, o.w, o.h);
      const inset = 5;
      return run === "right"
        ? `M${b.x} ${b.y + inset}h${b.w}M${b.x} ${b.y + b.h - inset}h${b.w}`
        : `M${b.x + inset} ${b.y}v${b.h}M${b.x + b.w - inset} ${b.y}v${b.h}`;
    })
    .join("");
}

/** Round heads of what is operated on a door. */
function heads(layout: Layout, panel: PanelResult): string {
  return panel.devices
    .filter((d) => ROUND.has(d.category) && d.outline.w === d.outline.h)
    .map((d) => {
      const b = layout.boxOf(d.face, d.outline.x, d.outline.y, d.outline.w, d.outline.h);
      const r = b.w * 0.4;
      return `M${b.x + b.w / 2 - r} ${b.y + b.h / 2}a${r} ${r} 0 1 0 ${2 * r} 0a${r} ${r} 0 1 0 ${-2 * r} 0z`;
    })
    .join("");
}

const ROUND: ReadonlySet<string> = new Set(["operator", "lamp"]);

const TERMINALS = (c: string): boolean => c === "terminal" || c === "earth";

/** What stands on the faces that are laid out. */
export function onSheet(panel: PanelResult, { faces }: Layout): PanelResult {
  const there = (t: { face: string }): boolean => faces.has(t.face);
  const all = [...panel.devices, ...panel.rails, ...panel.ducts, ...panel.hung].every(there);
  if (all) return panel;
  return {
    ...panel,
    devices: panel.devices.filter(there),
    rails: panel.rails.filter(there),
    ducts: panel.ducts.filter(there),
    hung: panel.hung.filter(there),
  };
}

/** Faces, rails, ducts and bodies: a handful of long paths, whatever the size of the panel. */
export const PanelLayer = memo(function PanelLayer({ panel: whole, layout }: { panel: PanelResult; layout: Layout }) {
  const t = useTokens();
  const panel = useMemo(() => onSheet(whole, layout), [whole, layout]);
  const paths = useMemo(
    () => ({
      faces: [...layout.faces.values()]
        .map((f) => layout.boxOf(f.id, 0, 0, f.w, f.h))
        .map((b) => rect(b.x, b.y, b.w, b.h))
        .join(""),
      rails: bars(layout, panel.rails),
      edges: railEdges(layout, panel.rails),
      ducts: bars(layout, panel.ducts),
      heads: heads(layout, panel),
      hung: bars(layout, panel.hung),
      terminals: bodies(layout, panel, TERMINALS),
      devices: bodies(layout, panel, (c) => !TERMINALS(c)),
    }),
    [panel, layout],
  );
  const thin = { strokeWidth: 1, vectorEffect: "non-scaling-stroke" as const };
  return (
    <G>
      <Path d={paths.faces} fill="none" stroke={t.slate} {...thin} strokeWidth={1.5} />
      <Path d={paths.ducts} fill={t.tray} stroke={t.line} {...thin} />
      <Path d={paths.rails} fill={t.line} stroke={t.slate} {...thin} />
      <Path d={paths.edges} fill="none" stroke={t.slate} {...thin} />
      <Path d={paths.devices} fill={t.paper} stroke={t.graphite} {...thin} />
      <Path d={paths.heads} fill={t.tray} stroke={t.graphite} {...thin} />
      <Path d={paths.hung} fill={t.slate} stroke={t.graphite} {...thin} />
      <Path d={paths.terminals} fill={t.tray} stroke={t.graphite} {...thin} />
    </G>
  );
});
