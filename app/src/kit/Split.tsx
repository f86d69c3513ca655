import { useRef, useState, type ReactNode } from "react";
import { View } from "react-native";
import { useTokens } from "./settings";
import { useTextScale } from "./textScale";

interface Pane {
  key: string;
  /** Start width, px beside text of the usual size; the pane without one takes the rest. */
  width?: number;
  node: ReactNode;
  label: string;
}

const LEAST = 220;
const STEP = 24;

/** Panes side by side; the bars between them are dragged, or moved with the arrow keys. */
export function Split({ panes }: { panes: readonly Pane[] }) {
  const [widths, setWidths] = useState<Record<string, number>>({});
  const t = useTokens();
  const scale = useTextScale();
  const drag = useRef<{ key: string; sign: number; from: number; start: number } | null>(null);
  const restAt = panes.findIndex((p) => p.width === undefined);
  const widthOf = (p: Pane): number => widths[p.key] ?? p.width! * scale;
  const set = (p: Pane, width: number): void =>
    setWidths((w) => ({ ...w, [p.key]: Math.min(900, Math.max(LEAST, width)) }));
  const bar = (p: Pane, sign: number) => (
    <div
      key={`${p.key}-bar`}
      role="separator"
      tabIndex={0}
      aria-label={`Width of ${p.label}`}
      aria-orientation="vertical"
      aria-valuenow={Math.round(widthOf(p))}
      aria-valuemin={LEAST}
      aria-valuemax={900}
      style={{
        width: 7,
        cursor: "col-resize",
        background: t.tray,
        borderLeft: `1px solid ${t.line}`,
        borderRight: `1px solid ${t.line}`,
        touchAction: "none",
      }}
      onPointerDown={(e) => {
        e.currentTarget.setPointerCapture(e.pointerId);
        drag.current = { key: p.key, sign, from: e.clientX, start: widthOf(p) };
      }}
      onPointerMove={(e) => {
        const d = drag.current;
        if (d) set(p, d.start + d.sign * (e.clientX - d.from));
      }}
      onPointerUp={() => (drag.current = null)}
      onKeyDown={(e) => {
        if (e.key !== "ArrowLeft" && e.key !== "ArrowRight") return;
        e.preventDefault();
        set(p, widthOf(p) + (e.key === "ArrowRight" ? STEP : -STEP) * sign);
      }}
    />
  );
  return (
    <View className="min-h-0 flex-1 flex-row">
      {panes.flatMap((p, i) => {
        const node = (
          <View
            key={p.key}
            className={p.width === undefined ? "min-h-0 min-w-0 flex-1" : "min-h-0"}
            style={p.width === undefined ? undefined : { width: widthOf(p) }}
          >
            {p.node}
          </View>
        );
        if (p.width === undefined) return [node];
        return i < restAt ? [node, bar(p, 1)] : [bar(p, -1), node];
      })}
    </View>
  );
}
