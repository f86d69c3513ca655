import { useEffect, useMemo, useState, type ReactNode } from "react";
import { View } from "react-native";
import Svg, { G } from "react-native-svg";
import Maximize from "lucide-react-native/icons/maximize";
import Minus from "lucide-react-native/icons/minus";
import Plus from "lucide-react-native/icons/plus";
import { Button } from "../Button";
import { Empty } from "../States";
import { useTokens } from "../settings";
import { useKeys } from "../useKeys";
import { ScaleBar } from "./ScaleBar";
import { useZoom, type Box, type View as Place } from "./useZoom";

interface Props {
  /** What is drawn, sheet millimetres, y down. */
  sheet: Box;
  /** Brought into view whenever it changes. */
  show: Box | null;
  label: string;
  /** In sheet millimetres, lines with a constant weight on the screen. */
  children: ReactNode;
  /** In pixels: text and what keeps its size. `visible` is the drawn part of the sheet, `seen` what the view shows. */
  overlay(view: Place, visible: Box, seen: Box): ReactNode;
  tap(x: number, y: number): void;
}

/** Drawn beyond the view on every side, as a share of it, so that panning shows no empty edge. */
const BEYOND = 0.5;

export function Drawing(props: Props) {
  if (props.sheet.w === 0) {
    return (
      <Empty
        title="Nothing to draw"
        text="No enclosure of the design has a plate, and nothing stands on any other face."
      />
    );
  }
  return <Sized {...props} />;
}

function Sized(props: Props) {
  const [size, setSize] = useState<{ w: number; h: number } | null>(null);
  return (
    <View
      className="min-h-0 flex-1 overflow-hidden bg-paper"
      onLayout={(e) => {
        const { width, height } = e.nativeEvent.layout;
        if (width > 0 && height > 0) setSize({ w: width, h: height });
      }}
    >
      {size ? <Surface {...props} w={size.w} h={size.h} /> : null}
    </View>
  );
}

function Surface({ sheet, show, label, children, overlay, tap, w, h }: Props & { w: number; h: number }) {
  const t = useTokens();
  const { surface, layer, view, showBox, scaleBy } = useZoom(w, h, sheet);
  useEffect(() => showBox(show ?? sheet), [show, sheet, showBox]);
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
          tap((e.clientX - box.left - view.x) / view.k, (e.clientY - box.top - view.y) / view.k);
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
      <ScaleBar k={view.k} />
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
