import { heatMap, hottest } from "@gray-bench/core/heat/map";
import type { ZoneHeat } from "@gray-bench/core/heat/result";
import { contours } from "d3-contour";
import { useMemo } from "react";
import { View } from "react-native";
import Svg, { G, Line, Path, Rect, Text as SvgText } from "react-native-svg";
import { formatTemperature, temperatureNumber } from "../kit/format";
import { useSettings, useTokens } from "../kit/settings";
import { Small } from "../kit/Text";
import { FONTS } from "../kit/tokens";
import { Bodies } from "./Bodies";

const CELL_MM = 10;
const STEPS = 6;
/** Of the air by height beside a map. */
export const AIR_PX = 120;
const AIR = { w: AIR_PX, gap: 14, pad: 22 };

/** An even step that people read: 1, 2 or 5 times a power of ten. */
function evenStep(most: number): number {
  const raw = most / STEPS;
  const power = 10 ** Math.floor(Math.log10(raw));
  return power * (raw / power <= 1 ? 1 : raw / power <= 2 ? 2 : raw / power <= 5 ? 5 : 10);
}

/** The air of a zone by height, and where the face lies in it. */
export interface AirBeside {
  column: ZoneHeat["column"];
  values: ZoneHeat["values"];
  /** Of the enclosure, and of the lower edge of the face above its floor. */
  heightMm: number;
  fromMm: number;
}

/**
 * Losses over a face in W/dm², as contours: each is a shade darker and has a line of its own, so that it reads in black and
 * white too. Beside it, on the same height, the air.
 */
export function FaceMap({
  face,
  smoothingMm,
  width,
  air,
}: {
  face: ZoneHeat["faces"][number];
  smoothingMm: number;
  width: number;
  air?: AirBeside | undefined;
}) {
  const t = useTokens();
  const mapWidth = air ? width - AIR.w : width;
  const scale = mapWidth / face.w;
  const { most, levels, paths } = useMemo(() => {
    const made = heatMap(face.w, face.h, face.sources, smoothingMm, CELL_MM);
    const most = hottest(made);
    const each = most > 0 ? evenStep(most) : 1;
    const levels = Array.from({ length: Math.floor(most / each) }, (_, i) => Number(((i + 1) * each).toPrecision(3)));
    // Rows from the top down, as it is drawn.
    const turned = Array.from({ length: made.rows }, (_, r) =>
      Array.from(made.values.subarray((made.rows - 1 - r) * made.columns, (made.rows - r) * made.columns)),
    ).flat();
    const [sx, sy] = [(face.w / made.columns) * scale, (face.h / made.rows) * scale];
    const paths = contours()
      .size([made.columns, made.rows])
      .thresholds(levels)(turned)
      .map((r) =>
        r.coordinates
          .flat()
          .map((ring) => `M${ring.map(([x, y]) => `${(x! * sx).toFixed(1)} ${(y! * sy).toFixed(1)}`).join("L")}Z`)
          .join(""),
      );
    return { most, levels, paths };
  }, [face, smoothingMm, scale]);
  const pad = air ? AIR.pad : 0;
  const top = pad + (air ? (air.heightMm - air.fromMm - face.h) * scale : 0);
  const height = (air ? air.heightMm : face.h) * scale + 2 * pad;
  // Even steps of lightness, not of opacity: each line is as much darker as the one before.
  const shades = shadesOf(paths.length, t.paper, t.brick);
  return (
    <View className="gap-1" style={{ width }} testID={`map-${face.face}`}>
      <Svg
        width={width}
        height={height}
        role="img"
        aria-label={`Losses over ${face.face}: up to ${most.toFixed(2)} W/dm²`}
      >
        <G y={top}>
          <Rect
            x={0.5}
            y={0.5}
            width={mapWidth - 1}
            height={face.h * scale - 1}
            fill={t.paper}
            stroke={t.slate}
            strokeWidth={1}
          />
          {paths.map((d, i) => (
            <Path key={i} d={d} fill={shades[i]!} stroke={t.brick} strokeWidth={1} fillRule="evenodd" />
          ))}
          <Bodies
            bodies={face.sources.map((s) => ({ tag: s.device, ...s }))}
            faceH={face.h}
            scale={scale}
            still={NONE}
          />
        </G>
        {air ? <Air air={air} x={mapWidth + AIR.gap} height={height} /> : null}
      </Svg>
      <Legend levels={levels} shades={shades} />
      <Small>
        {face.face}, lines in W/dm²; the hottest {most.toFixed(2)}
        {air ? ". Beside it the air by height in the hottest hour: an estimate" : ""}
      </Small>
    </View>
  );
}

const NONE: ReadonlySet<string> = new Set();

/** Of the way from paper to brick, for the highest line: tags stay readable on it. */
const DARKEST = 0.85;

const shadesOf = (n: number, from: string, to: string): string[] =>
  Array.from(
    { length: n },
    (_, i) => `color-mix(in lab, ${to} ${((100 * DARKEST * (i + 1)) / n).toFixed(1)}%, ${from})`,
  );

/** What the lines of a map stand for. */
function Legend({ levels, shades }: { levels: readonly number[]; shades: readonly string[] }) {
  const t = useTokens();
  return (
    <View className="flex-row flex-wrap gap-x-3 gap-y-1" testID="map-legend">
      {levels.map((l, i) => (
        <View key={l} className="flex-row items-center gap-1">
          <Svg width={18} height={14}>
            <Rect x={0.5} y={0.5} width={17} height={13} fill={shades[i]!} stroke={t.brick} />
          </Svg>
          <Small>{l}</Small>
        </View>
      ))}
    </View>
  );
}

/** Air by height, on the height of the enclosure. */
function Air({ air, x: left, height }: { air: AirBeside; x: number; height: number }) {
  const t = useTokens();
  const settings = useSettings();
  const { column, values, heightMm } = air;
  const low = Math.floor(Math.min(values.outsideMaxC, ...column.map((s) => s.airC)));
  const high = Math.ceil(Math.max(values.insideMaxC, ...column.map((s) => s.airC)) + 1);
  const width = AIR.w - AIR.gap;
  const x = (c: number): number => left + 4 + ((c - low) / (high - low)) * (width - 8);
  const y = (mm: number): number => AIR.pad + (1 - mm / heightMm) * (height - 2 * AIR.pad);
  const word = (c: number, anchor: "start" | "middle" | "end", at: number, atY: number, fill: string) => (
    <SvgText x={at} y={atY} fontSize={12} fontFamily={FONTS.mono} fill={fill} textAnchor={anchor}>
      {Math.round(temperatureNumber(c, settings))}
    </SvgText>
  );
  const [first, last] = [column[0]!, column[column.length - 1]!];
  return (
    <G
      testID="column"
      aria-label={`Air by height: ${formatTemperature(first.airC, settings)} below, ${formatTemperature(last.airC, settings)} above`}
    >
      <Rect x={left} y={AIR.pad} width={width} height={height - 2 * AIR.pad} fill="none" stroke={t.line} />
      <Line
        x1={x(values.insideMaxC)}
        x2={x(values.insideMaxC)}
        y1={AIR.pad}
        y2={height - AIR.pad}
        stroke={t.verdigris}
        strokeDasharray="4 3"
      />
      <Path
        d={column.map((s, i) => `${i === 0 ? "M" : "L"}${x(s.airC).toFixed(1)} ${y(s.atMm).toFixed(1)}`).join("")}
        stroke={t.brick}
        strokeWidth={2.5}
        fill="none"
      />
      {word(values.insideMaxC, "middle", x(values.insideMaxC), AIR.pad - 6, t.verdigris)}
      {word(low, "start", left, height - AIR.pad + 15, t.graphite)}
      {word(high, "end", left + width, height - AIR.pad + 15, t.graphite)}
      <SvgText
        x={left + width / 2}
        y={height - AIR.pad + 15}
        fontSize={12}
        fontFamily={FONTS.mono}
        fill={t.graphite}
        textAnchor="middle"
      >
        {`°${settings.temperature}`}
      </SvgText>
    </G>
  );
}
