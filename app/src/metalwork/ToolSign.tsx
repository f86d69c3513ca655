import { signLines } from "@gray-bench/core/metalwork/signs";
import Svg, { Polyline } from "react-native-svg";
import { useTokens } from "../kit/settings";

/** The sign of a tool, as it stands in the drawing. */
export function ToolSign({ nth, size = 20 }: { nth: number; size?: number }) {
  const t = useTokens();
  if (nth < 0) return null;
  return (
    <Svg width={size} height={size} aria-hidden>
      {signLines(nth, { x: size / 2, y: size / 2 }, size * 0.32, -1).map((points, i) => (
        <Polyline
          key={i}
          points={points.map((p) => `${p.x},${p.y}`).join(" ")}
          fill="none"
          stroke={t.graphite}
          strokeWidth={1.5}
        />
      ))}
    </Svg>
  );
}
