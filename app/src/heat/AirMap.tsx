import type { AirField } from "@gray-bench/core/heat/trial";
import { contours } from "d3-contour";
import { useMemo } from "react";
import { View } from "react-native";
import Svg, { G, Path, Rect } from "react-native-svg";
import { useTokens } from "../kit/settings";
import { Small } from "../kit/Text";
import { Bodies, type DrawnBody } from "./Bodies";

/** Speeds that have a line, m/s: from the one that reaches a device. */
const FASTER = [1, 2, 5, 10];
const ARROW = { every: 90, size: 5 };
const SHADE = 0.16;

export interface Opening {
  unit: string;
  kind: "outlet" | "inlet";
  x: number;
  y: number;
  w: number;
  h: number;
}

type Stream = AirField["streams"][number];

const alongTo = (a: Stream[number], b: Stream[number]): number => Math.hypot(b.x - a.x, b.y - a.y);

/** Heads of arrows along a line, so many px apart. */
function heads(line: Stream, scale: number): { x: number; y: number; dx: number; dy: number }[] {
  const found: ReturnType<typeof heads> = [];
  let gone = ARROW.every / 2;
  for (let i = 1; i < line.length; i++) {
    const [a, b] = [line[i - 1]!, line[i]!];
    const d = alongTo(a, b);
    gone += d * scale;
    if (gone < ARROW.every || d === 0) continue;
    gone = 0;
    found.push({ x: b.x, y: b.y, dx: (b.x - a.x) / d, dy: (b.y - a.y) / d });
  }
  return found;
}

/** Where the air before a plate goes: lines with arrows, faster is darker; bodies in dead air are hatched. */
export function AirMap({
  field,
  face,
  bodies,
  openings,
  width,
}: {
  field: AirField;
  face: { id: string; w: number; h: number };
  bodies: readonly DrawnBody[];
  openings: readonly Opening[];
  width: number;
}) {
  const t = useTokens();
  const scale = width / face.w;
  const { way } = field;
  const height = face.h * scale;
  const bands = useMemo(() => {
    const { columns, rows } = way;
    const turned: number[] = [];
    for (let r = rows - 1; r >= 0; r--) for (let c = 0; c < columns; c++) turned.push(field.speed[r * columns + c]!);
    const levels = [1, ...FASTER.slice(1)].map((f) => f * way.speedMs);
    const [sx, sy] = [(face.w / columns) * scale, (face.h / rows) * scale];
    return contours()
      .size([columns, rows])
      .thresholds(levels)(turned)
      .map((band, i) => ({
        ms: levels[i]!,
        d: band.coordinates
          .flat()
          .map((ring) => `M${ring.map(([x, y]) => `${(x! * sx).toFixed(1)} ${(y! * sy).toFixed(1)}`).join("L")}Z`)
          .join(""),
      }));
  }, [field, way, face, scale]);
  const px = ({ x, y }: Stream[number]): string => `${(x * scale).toFixed(1)} ${((face.h - y) * scale).toFixed(1)}`;
  return (
    <View className="gap-1" style={{ width }} testID={`air-map-${face.id}`}>
      <Svg
        width={width}
        height={height}
        role="img"
        aria-label={`Air before ${face.id}: ${Math.round(way.reachedPercent)} % of the free plate sees ${way.speedMs} m/s or more`}
      >
        <Rect x={0.5} y={0.5} width={width - 1} height={height - 1} fill={t.paper} stroke={t.slate} />
        {bands.map((b) => (
          <Path key={b.ms} d={b.d} fill={t.harbour} fillOpacity={SHADE} fillRule="evenodd" />
        ))}
        <Bodies bodies={bodies} faceH={face.h} scale={scale} still={new Set(way.still)} fill={t.tray} />
        {field.streams.map((line, i) => (
          <G key={i}>
            <Path d={`M${line.map(px).join("L")}`} fill="none" stroke={t.harbour} strokeWidth={1.2} />
            {heads(line, scale).map((h, n) => {
              const [x, y] = [h.x * scale, (face.h - h.y) * scale];
              const [dx, dy] = [h.dx * ARROW.size, -h.dy * ARROW.size];
              return (
                <Path
                  key={n}
                  d={`M${x + dx} ${y + dy}L${x - dx - dy * 0.7} ${y - dy + dx * 0.7}L${x - dx + dy * 0.7} ${y - dy - dx * 0.7}Z`}
                  fill={t.harbour}
                />
              );
            })}
          </G>
        ))}
        {openings.map((o) => (
          <Rect
            key={`${o.unit} ${o.kind}`}
            x={Math.max(0, o.x * scale) + 1.5}
            y={(face.h - o.y - o.h) * scale}
            width={Math.max(4, o.w * scale) - 3}
            height={Math.max(4, o.h * scale)}
            fill="none"
            stroke={o.kind === "outlet" ? t.harbour : t.ochre}
            strokeWidth={3}
            {...(o.kind === "outlet" ? {} : { strokeDasharray: "6 4" })}
          />
        ))}
      </Svg>
      <View className="flex-row flex-wrap gap-x-3 gap-y-1" testID="air-legend">
        {bands.map((b, i) => (
          <View key={b.ms} className="flex-row items-center gap-1">
            <View style={{ width: 18, height: 14, borderWidth: 1, borderColor: t.slate }}>
              <View style={{ flex: 1, backgroundColor: t.harbour, opacity: 1 - (1 - SHADE) ** (i + 1) }} />
            </View>
            <Small>{Number(b.ms.toPrecision(2))} m/s</Small>
          </View>
        ))}
        <Small>— outlet</Small>
        <Small>- - inlet</Small>
        <Small>hatched: dead air</Small>
      </View>
    </View>
  );
}
