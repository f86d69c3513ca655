import { useEffect, useMemo, useRef, useState, type KeyboardEvent } from "react";
import { View } from "react-native";
import Svg, { G } from "react-native-svg";
import Maximize from "lucide-react-native/icons/maximize";
import Minus from "lucide-react-native/icons/minus";
import Plus from "lucide-react-native/icons/plus";
import { Button } from "../Button";
import { useTokens } from "../settings";
import { useTextScale } from "../textScale";
import { useKeys } from "../useKeys";
import { controlBoxes, Controls, wantsMap } from "./controls";
import { cameBackTo, leaveAt } from "./place";
import type { DrawingProps } from "./props";
import { ScaleBar } from "./ScaleBar";
import { SmallMap } from "./SmallMap";
import { useGrip } from "./useGrip";
import { useZoom, type Box } from "./useZoom";

/** Drawn beyond the view on every side, as a share of it, so that panning shows no empty edge. */
const BEYOND = 0.5;
/** A drawing as high as this has room for its small map. */
const MAP_FROM_PX = 300;
/** How far an arrow moves the drawing, and with Shift. px */
const STEP_PX = { usual: 80, small: 10 };
const ARROWS: Readonly<Record<string, readonly [dx: number, dy: number]>> = {
  ArrowLeft: [1, 0],
  ArrowRight: [-1, 0],
  ArrowUp: [0, 1],
  ArrowDown: [0, -1],
};

/** Hears Escape before all that was there already. */
function OnEscape({ act }: { act(): void }) {
  useKeys({ Escape: act });
  return null;
}

/** What is panned and zoomed. Loaded when a drawing is first shown. */
export default function Surface({
  sheet,
  show,
  label,
  plain = false,
  children,
  overlay,
  tap,
  landmarks,
  drag,
  w,
  h,
}: DrawingProps & { w: number; h: number }) {
  const t = useTokens();
  const scale = useTextScale();
  const [back] = useState(() => cameBackTo(label, w, h));
  const { surface, layer, view, holding, showBox, scaleBy, moveBy, goTo } = useZoom(w, h, sheet, back);
  const grips = useGrip(drag, view, holding);
  // By its numbers: what is worked out anew and comes to the same moves nothing.
  const wanted = show === undefined ? "" : JSON.stringify(show);
  // Whoever comes back finds the drawing as it was left.
  const stays = useRef(back === null ? null : wanted);
  const latest = useRef(show);
  useEffect(() => {
    latest.current = show;
  });
  useEffect(() => {
    if (stays.current === wanted) return;
    stays.current = null;
    if (wanted !== "") showBox(latest.current ?? sheet);
  }, [wanted, sheet, showBox]);
  useEffect(() => leaveAt(label, { view, w, h }), [label, view, w, h]);
  const move = (e: KeyboardEvent): void => {
    const [dx, dy] = ARROWS[e.key] ?? [0, 0];
    if ((dx === 0 && dy === 0) || e.altKey || e.ctrlKey || e.metaKey) return;
    e.preventDefault();
    const px = e.shiftKey ? STEP_PX.small : STEP_PX.usual;
    moveBy(dx * px, dy * px);
  };
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
  // On a phone that lies there is no room for it below the buttons.
  const map = landmarks && landmarks.length > 0 && h >= MAP_FROM_PX && wantsMap(sheet, seen) ? landmarks : null;
  const controls = useMemo(
    () => controlBoxes(seen, view, scale, map ? sheet : undefined),
    [seen, view, scale, map, sheet],
  );
  return (
    <>
      <div
        ref={surface}
        role="group"
        aria-label={`${label}. Arrows move it, + and − draw it larger and smaller, 0 fits it in.`}
        tabIndex={0}
        onKeyDown={move}
        className="drawing-surface"
        data-testid="drawing"
        style={{ position: "absolute", inset: 0, overflow: "hidden" }}
        {...grips.handlers}
        onClick={(e) => {
          if (grips.wasDragged()) return;
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
            <G transform={`translate(${bx} ${by})`}>
              <Controls.Provider value={controls}>{overlay(view, visible, seen)}</Controls.Provider>
            </G>
          </Svg>
        </div>
      </div>
      {grips.isMoving ? <OnEscape act={grips.cancel} /> : null}
      {plain ? null : <ScaleBar k={view.k} />}
      {map ? <SmallMap sheet={sheet} landmarks={map} seen={seen} go={goTo} /> : null}
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
