import type { Part } from "@gray-bench/core/design/model";
import type { PanelResult } from "@gray-bench/core/panel/result";
import { memo } from "react";
import { G, Path } from "react-native-svg";
import { seenPart } from "../kit/drawing/textPlace";
import type { Box, View } from "../kit/drawing/useZoom";
import { useTokens } from "../kit/settings";
import { signOf } from "./signs";
import type { Layout } from "./useSheet";

/** Smaller than this a sign is a blot; and so are the slots of a duct. */
const LEAST_PX = 14;
const SLOT_STEP_PX = 7;
/** Many signs tell less than few, and take time to draw. */
const MOST_SIGNS = 500;
const MOST_SLOTS = 6000;

/**
 * What tells kinds of device, and ducts from rails, without colour: drawn where it is large enough to be read, and
 * only what is in sight, so that the panel as a whole stays quick to move.
 */
export const SignLayer = memo(function SignLayer({
  panel,
  layout,
  parts,
  view,
  visible,
}: {
  panel: PanelResult;
  layout: Layout;
  parts: ReadonlyMap<string, Part>;
  view: View;
  visible: Box;
}) {
  const t = useTokens();
  const px = (b: Box): Box => ({
    x: b.x * view.k + view.x,
    y: b.y * view.k + view.y,
    w: b.w * view.k,
    h: b.h * view.k,
  });
  let signs = "";
  let count = 0;
  for (const d of panel.devices) {
    const { x, y, w, h } = d.outline;
    if (Math.max(w, h) * view.k < LEAST_PX * 2 || Math.min(w, h) * view.k < LEAST_PX / 2) continue;
    const box = layout.boxOf(d.face, x, y, w, h);
    if (!seenPart(box, visible)) continue;
    if (++count > MOST_SIGNS) break;
    signs += signOf(d, parts.get(d.part), box);
  }
  let slots = "";
  let left = MOST_SLOTS;
  for (const { face, outline: o, run } of panel.ducts) {
    if (Math.min(o.w, o.h) * view.k < LEAST_PX) continue;
    const part = seenPart(layout.boxOf(face, o.x, o.y, o.w, o.h), visible);
    if (!part) continue;
    const b = px(part);
    const depth = Math.min(7, Math.min(b.w, b.h) / 4);
    const flat = run === "right";
    for (let at = SLOT_STEP_PX; at < (flat ? b.w : b.h) && left-- > 0; at += SLOT_STEP_PX)
      slots += flat
        ? `M${b.x + at} ${b.y}v${depth}M${b.x + at} ${b.y + b.h}v${-depth}`
        : `M${b.x} ${b.y + at}h${depth}M${b.x + b.w} ${b.y + at}h${-depth}`;
  }
  return (
    <>
      <Path d={slots} fill="none" stroke={t.slate} strokeWidth={1} opacity={0.6} />
      <G transform={`translate(${view.x} ${view.y}) scale(${view.k})`}>
        <Path d={signs} fill="none" stroke={t.slate} strokeWidth={1} vectorEffect="non-scaling-stroke" />
      </G>
    </>
  );
});
