import { useEffect, useMemo } from "react";
import { View } from "react-native";
import Svg, { G } from "react-native-svg";
import Maximize from "lucide-react-native/icons/maximize";
import Minus from "lucide-react-native/icons/minus";
import Plus from "lucide-react-native/icons/plus";
import { Button } from "../Button";
import { useTokens } from "../settings";
import { useKeys } from "../useKeys";
import type { DrawingProps } from "./props";
import { ScaleBar } from "./ScaleBar";
import { useZoom, type Box } from "./useZoom";

/** Drawn beyond the view on every side, as a share of it, so that panning shows no empty edge. */
const BEYOND = 0.5;

/** What is panned and zoomed. Loaded when a drawing is first shown. */
export default function Surface({
  sheet,
  show,
  label,
  plain = false,
  children,
  overlay,
  tap,
  w,
  h,
}: DrawingProps & { w: number; h: number }) {
  const t = useTokens();
  const { surface, layer, view, showBox, scaleBy } = useZoom(w, h, sheet);
  useEffect(() => {
    if (show !== undefined) showBox(show ?? sheet);
  }, [show, sheet, showBox]);
  useKeys({ "+": () => scaleBy(1.4), "-": () => scaleBy(1 / 1.4), "0": () => showBox(sheet) });
  const [bx, by] = [w * BEYOND, h * BEYOND];
  const visible = useMemo<Box>(
    () => ({
      x: (-bx - view.x) / view.k,
      y: (-by - view.y) / view.k,
      w: (w + 2 * bx) / view.k,
      h: (h + 2 * by) / view.k,
    }),
    [view, w, h, bx, by],
  );
  const seen = useMemo<Box>(
    () => ({ x: -view.x / view.k, y: -view.y / view.k, w: w / view.k, h: h / view.k }),
    [view, w, h],
  );
  return (
    <>
      <div
        ref={surface}
        className="drawing-surface"
        data-testid="drawing"
        style={{ position: "absolute", inset: 0, overflow: "hidden" }}
        onClick={(e) => {
          const box = e.currentTarget.getBoundingClientRect();
          tap((e.clientX - box.left - view.x) / view.k, (e.clientY - box.top - view.y) / view.k, view.k);
        }}
      >
        <div
          ref={layer}
          style={{
            position: "absolute",
            left: -bx,
            top: -by,
            width: w + 2 * bx,
            height: h + 2 * by,
            willChange: "transform",
            transformOrigin: `${bx}px ${by}px`,
          }}
        >
          <Svg width={w + 2 * bx} height={h + 2 * by} role="img" aria-label={label}>
            <G transform={`translate(${view.x + bx} ${view.y + by}) scale(${view.k})`}>{children}</G>
            <G transform={`translate(${bx} ${by})`}>{overlay(view, visible, seen)}</G>
          </Svg>
        </div>
      </div>
      {plain ? null : <ScaleBar k={view.k} />}
      <View className="absolute right-2 top-2 gap-2">
        <Button
          label="Draw larger"
          bare
          icon={<Plus size={20} color={t.graphite} />}
          onPress={() => scaleBy(1.6)}
          testID="zoom-in"
        />
        <Button
          label="Draw smaller"
          bare
          icon={<Minus size={20} color={t.graphite} />}
          onPress={() => scaleBy(1 / 1.6)}
          testID="zoom-out"
        />
        <Button
          label="Fit into view"
          bare
          icon={<Maximize size={20} color={t.graphite} />}
          onPress={() => showBox(sheet)}
          testID="fit"
        />
      </View>
    </>
  );
}
