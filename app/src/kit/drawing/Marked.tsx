import { Path } from "react-native-svg";
import { useTokens } from "../settings";
import type { Box } from "./useZoom";

/** A frame around what is chosen. */
export function Marked({ boxes, testID }: { boxes: readonly Box[]; testID?: string }) {
  const t = useTokens();
  const d = boxes.map((b) => `M${b.x} ${b.y}h${b.w}v${b.h}h${-b.w}z`).join("");
  return (
    <Path
      d={d}
      {...(testID ? { testID } : {})}
      fill={t.verdigris}
      fillOpacity={0.18}
      stroke={t.verdigris}
      strokeWidth={3}
      vectorEffect="non-scaling-stroke"
    />
  );
}
