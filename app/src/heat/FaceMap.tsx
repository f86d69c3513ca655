import { heatMap, hottest } from "@gray-bench/core/heat/map";
import type { ZoneHeat } from "@gray-bench/core/heat/result";
import { contours } from "d3-contour";
import { useMemo } from "react";
import { View } from "react-native";
import Svg, { G, Path, Rect } from "react-native-svg";
import { useTokens } from "../kit/settings";
import { Small } from "../kit/Text";

const CELL_MM = 10;
const STEPS = 6;

/** An even step that people read: 1, 2 or 5 times a power of ten. */
function evenStep(most: number): number {
  const raw = most / STEPS;
  const power = 10 ** Math.floor(Math.log10(raw));
  return power * (raw / power <= 1 ? 1 : raw / power <= 2 ? 2 : raw / power <= 5 ? 5 : 10);
}

/**
 * Losses over a face in W/dm², as contours: each is a shade darker and has a line of its own, so that it reads in black and
 * white too. Bodies lie over it thin.
 */
export function FaceMap({
  face,
  smoothingMm,
  width,
}: {
  face: ZoneHeat["faces"][number];
  smoothingMm: number;
  width: number;
}) {
  const t = useTokens();
  const { most, step, levels, paths } = useMemo(() => {
    const made = heatMap(face.w, face.h, face.sources, smoothingMm, CELL_MM);
    const most = hottest(made);
    const each = most > 0 ? evenStep(most) : 1;
    const all = Array.from({ length: Math.floor(most / each) }, (_, i) => (i + 1) * each);
    // Rows from the top down, as it is drawn.
    const turned = Array.from({ length: made.rows }, (_, r) =>
      Array.from(made.values.subarray((made.rows - 1 - r) * made.columns, (made.rows - r) * made.columns)),
    ).flat();
    const rings = contours().size([made.columns, made.rows]).thresholds(all)(turned);
    const [sx, sy] = [face.w / made.columns, face.h / made.rows];
    return {
      most,
      step: each,
      levels: all,
      paths: rings.map((r) =>
        r.coordinates
          .flat()
          .map((ring) => `M${ring.map(([x, y]) => `${(x! * sx).toFixed(1)} ${(y! * sy).toFixed(1)}`).join("L")}Z`)
          .join(""),
      ),
    };
  }, [face, smoothingMm]);
  const height = Math.round((width * face.h) / face.w);
  return (
    <View className="gap-1" style={{ width }} testID={`map-${face.face}`}>
      <Svg
        width={width}
        height={height}
        viewBox={`0 0 ${face.w} ${face.h}`}
        role="img"
        aria-label={`Losses over ${face.face}: up to ${most.toFixed(2)} W/dm²`}
      >
        <Rect x={0} y={0} width={face.w} height={face.h} fill={t.paper} stroke={t.slate} strokeWidth={4} />
        {paths.map((d, i) => (
          <Path
            key={i}
            d={d}
            fill={t.brick}
            fillOpacity={0.7 / Math.max(1, paths.length)}
            stroke={t.brick}
            strokeWidth={1}
            vectorEffect="non-scaling-stroke"
            fillRule="evenodd"
          />
        ))}
        <G>
          {face.sources.map((s, i) => (
            <Rect
              key={i}
              x={s.x}
              y={face.h - s.y - s.h}
              width={s.w}
              height={s.h}
              fill="none"
              stroke={t.graphite}
              strokeWidth={1}
              vectorEffect="non-scaling-stroke"
            />
          ))}
        </G>
      </Svg>
      <Small>
        {face.face}: lines at {levels.length > 0 ? levels.map((l) => Number(l.toPrecision(3))).join(", ") : "none"}{" "}
        W/dm², {Number(step.toPrecision(2))} apart; the hottest {most.toFixed(2)}
      </Small>
    </View>
  );
}
