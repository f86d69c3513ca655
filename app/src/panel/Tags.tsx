import type { PanelResult } from "@gray-bench/core/panel/result";
import { useMemo } from "react";
import { useControls } from "../kit/drawing/controls";
import type { Box, View } from "../kit/drawing/useZoom";
import { useTextScale } from "../kit/textScale";
import { crossingTags, type SeenCrossing } from "../sheet/CrossingLayer";
import { Labels } from "../sheet/Labels";
import type { Layout } from "../sheet/useSheet";
import { PinLayer, shownPins, type DevicePins } from "./PinLayer";

/** What is written on the faces: pins with their names, and tags, which keep off these and off those of crossings. */
export function Tags({
  panel,
  layout,
  pins,
  crossings,
  view,
  visible,
  seen,
  chosen,
}: {
  panel: PanelResult;
  layout: Layout;
  pins: readonly DevicePins[];
  crossings: readonly SeenCrossing[];
  view: View;
  visible: Box;
  seen: Box;
  chosen: { device: string; pin: string } | null;
}) {
  const scale = useTextScale();
  const controls = useControls();
  const shown = useMemo(
    () => shownPins(pins, layout, view, visible, scale, controls),
    [pins, layout, view, visible, scale, controls],
  );
  const written = useMemo(
    () => [...shown.flatMap((p) => (p.name ? [p.name.box] : [])), ...crossingTags(crossings, view, scale)],
    [shown, crossings, view, scale],
  );
  return (
    <>
      <Labels panel={panel} layout={layout} view={view} visible={visible} seen={seen} avoid={written} />
      <PinLayer shown={shown} chosen={chosen} />
    </>
  );
}
