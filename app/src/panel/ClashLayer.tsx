import type { Clash } from "@gray-bench/core/panel/result";
import { memo, useMemo } from "react";
import { G, Path } from "react-native-svg";
import { useTokens } from "../kit/settings";
import type { Layout } from "../sheet/useSheet";

/** No mark is smaller than this, mm: half a millimetre is to be seen as well. */
const LEAST_MM = 8;

/** Where two things want the same room: a crossed frame, on the face of what is asked to move. */
export const ClashLayer = memo(function ClashLayer({ clashes, layout }: { clashes: readonly Clash[]; layout: Layout }) {
  const t = useTokens();
  const d = useMemo(
    () =>
      clashes
        .filter((c) => layout.faces.has(c.a.face))
        .map(({ a, on }) => {
          const [w, h] = [Math.max(LEAST_MM, on.w), Math.max(LEAST_MM, on.h)];
          const b = layout.boxOf(a.face, on.x - (w - on.w) / 2, on.y - (h - on.h) / 2, w, h);
          return `M${b.x} ${b.y}h${b.w}v${b.h}h${-b.w}zM${b.x} ${b.y}l${b.w} ${b.h}M${b.x + b.w} ${b.y}l${-b.w} ${b.h}`;
        })
        .join(""),
    [clashes, layout],
  );
  if (d === "") return null;
  return (
    <G testID="clash-marks">
      <Path d={d} fill={t.brick} fillOpacity={0.2} stroke={t.brick} strokeWidth={2} vectorEffect="non-scaling-stroke" />
    </G>
  );
});
