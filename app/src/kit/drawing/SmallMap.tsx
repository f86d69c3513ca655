import Svg, { Rect } from "react-native-svg";
import { useTokens } from "../settings";
import { MAP_PX, mapSize } from "./controls";
import type { Box } from "./useZoom";

/** The whole sheet in small, with what is seen of it: tapped, the view goes there. Who goes by keys has the arrows. */
export function SmallMap({
  sheet,
  landmarks,
  seen,
  go,
}: {
  sheet: Box;
  landmarks: readonly Box[];
  seen: Box;
  go(x: number, y: number): void;
}) {
  const t = useTokens();
  const { w, h, k } = mapSize(sheet);
  const at = (b: Box) => ({ x: (b.x - sheet.x) * k, y: (b.y - sheet.y) * k, width: b.w * k, height: b.h * k });
  return (
    <div
      aria-hidden
      data-testid="small-map"
      className="absolute border border-line bg-paper"
      style={{ right: MAP_PX.pad, bottom: MAP_PX.pad, width: w, height: h, cursor: "pointer", touchAction: "none" }}
      onClick={(e) => {
        const box = e.currentTarget.getBoundingClientRect();
        go((e.clientX - box.left) / k + sheet.x, (e.clientY - box.top) / k + sheet.y);
      }}
    >
      <Svg width={w} height={h} style={{ pointerEvents: "none" }}>
        {landmarks.map((b, i) => (
          <Rect key={i} {...at(b)} fill={t.tray} stroke={t.slate} strokeWidth={1} />
        ))}
        <Rect {...at(seen)} fill={t.verdigris} fillOpacity={0.15} stroke={t.verdigris} strokeWidth={2} />
      </Svg>
    </div>
  );
}
