import { dutyOver, needOf, type Counted } from "@gray-bench/core/heat/units";
import type { ZoneHeat } from "@gray-bench/core/heat/result";
import { yearOf } from "@gray-bench/core/heat/year";
import { useMemo } from "react";
import { View } from "react-native";
import Svg, { Circle, Line, Path, Rect, Text as SvgText } from "react-native-svg";
import { formatTemperature, formatWatts, temperatureNumber } from "../kit/format";
import { useSettings, useTokens } from "../kit/settings";
import { Head, Small } from "../kit/Text";
import { FONTS } from "../kit/tokens";

const H = { curve: 190, year: 120, left: 52, right: 12, top: 20, foot: 26 };
const TICKS = 4;

/** Capacity of units over the temperature outside with what is needed, and how long they run in a year. */
export function UnitChart({ zone, units, width }: { zone: ZoneHeat; units: readonly Counted[]; width: number }) {
  const t = useTokens();
  const settings = useSettings();
  const { values } = zone;
  const points = useMemo(
    () => dutyOver(units, needOf(zone), yearOf(values.outsideMinC, values.outsideMaxC)),
    [zone, units, values],
  );
  const heats = units.every((u) => u.part.climate?.kind === "heater");
  const [first, last] = [points[0]!, points[points.length - 1]!];
  const work = heats ? first : last;
  const [low, high] = [first.outsideC, Math.max(first.outsideC + 1, last.outsideC)];
  const most = Math.max(1, ...points.map((p) => Math.max(p.capacityW, p.neededW))) * 1.08;
  const hours = Math.max(1, ...points.map((p) => p.hours));
  const x = (c: number): number => H.left + ((c - low) / (high - low)) * (width - H.left - H.right);
  const y = (w: number): number => H.curve - H.foot - (w / most) * (H.curve - H.foot - H.top);
  const yh = (h: number): number => H.year - H.foot - (h / hours) * (H.year - H.foot - 8);
  const bar = Math.max(1, (width - H.left - H.right) / points.length - 0.5);
  const line = (of: (p: (typeof points)[number]) => number): string =>
    points.map((p, i) => `${i === 0 ? "M" : "L"}${x(p.outsideC).toFixed(1)} ${y(of(p)).toFixed(1)}`).join("");
  const word = (text: string, at: number, atY: number, anchor: "start" | "middle" | "end", fill = t.graphite) => (
    <SvgText
      key={`${text} ${at} ${atY}`}
      x={at}
      y={atY}
      fontSize={12}
      fontFamily={FONTS.mono}
      fill={fill}
      textAnchor={anchor}
    >
      {text}
    </SvgText>
  );
  const ticks = Array.from({ length: TICKS + 1 }, (_, i) => low + ((high - low) * i) / TICKS);
  const degrees = (atY: number) =>
    ticks.map((c, i) =>
      word(
        `${Math.round(temperatureNumber(c, settings))}${i === TICKS ? ` °${settings.temperature}` : ""}`,
        x(c),
        atY,
        i === 0 ? "start" : i === TICKS ? "end" : "middle",
      ),
    );
  const duty = work.capacityW > 0 ? Math.round((100 * work.neededW) / work.capacityW) : null;
  const ran = points.reduce((sum, p) => sum + p.hours * p.share, 0);
  return (
    <View className="gap-1" testID="unit-chart">
      <Head>
        {heats ? "Coldest" : "Hottest"} hour: {formatWatts(work.neededW)} of {formatWatts(work.capacityW)}
        {duty === null ? "" : `, ${duty} %`}
      </Head>
      <Svg
        width={width}
        height={H.curve}
        role="img"
        aria-label={`Capacity over the temperature outside; at ${formatTemperature(work.outsideC, settings)} ${formatWatts(work.neededW)} of ${formatWatts(work.capacityW)}`}
      >
        {[0, 0.5, 1].map((f) => (
          <Line
            key={f}
            x1={H.left}
            x2={width - H.right}
            y1={y(f * (most / 1.08))}
            y2={y(f * (most / 1.08))}
            stroke={t.line}
          />
        ))}
        {[0, 0.5, 1].map((f) =>
          word(String(Math.round((f * most) / 1.08)), H.left - 5, y(f * (most / 1.08)) + 4, "end"),
        )}
        {word("W", H.left - 5, 11, "end")}
        <Path d={line((p) => p.capacityW)} fill="none" stroke={t.harbour} strokeWidth={2.5} />
        <Path d={line((p) => p.neededW)} fill="none" stroke={t.brick} strokeWidth={2.5} strokeDasharray="7 4" />
        <Line
          x1={x(work.outsideC)}
          x2={x(work.outsideC)}
          y1={y(work.capacityW)}
          y2={y(work.neededW)}
          stroke={t.graphite}
          strokeDasharray="2 3"
        />
        <Circle cx={x(work.outsideC)} cy={y(work.neededW)} r={6} fill={t.brick} stroke={t.paper} strokeWidth={2} />
        <Circle cx={x(work.outsideC)} cy={y(work.capacityW)} r={4} fill={t.harbour} />
        {degrees(H.curve - 8)}
      </Svg>
      <Small>
        Over the temperature outside: ━ what {units.length > 1 || units[0]!.count > 1 ? "they carry" : "it carries"}{" "}
        {heats ? "in" : "away"}, ╍ what is needed; ● the working point.
      </Small>
      <Svg
        width={width}
        height={H.year}
        role="img"
        aria-label={`Runs ${Math.round(ran)} of 8,760 hours of a year`}
        testID="year-chart"
      >
        {points.map((p) => (
          <Rect
            key={`h${p.outsideC}`}
            x={x(p.outsideC) - bar / 2}
            y={yh(p.hours)}
            width={bar}
            height={H.year - H.foot - yh(p.hours)}
            fill={t.tray}
            stroke={t.line}
            strokeWidth={0.5}
          />
        ))}
        {points.map((p) => (
          <Rect
            key={`r${p.outsideC}`}
            x={x(p.outsideC) - bar / 2}
            y={yh(p.hours * p.share)}
            width={bar}
            height={H.year - H.foot - yh(p.hours * p.share)}
            fill={heats ? t.brick : t.harbour}
          />
        ))}
        {word(`${hours} h`, H.left - 5, yh(hours) + 10, "end")}
        {degrees(H.year - 8)}
      </Svg>
      <Small>
        Hours of a year at each temperature outside; the dark part it runs: {Math.round(ran).toLocaleString("en-GB")} of
        8,760. The year is a model between its lowest and highest temperature, no record of weather.
      </Small>
    </View>
  );
}
