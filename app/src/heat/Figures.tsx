import type { Design } from "@gray-bench/core/design/model";
import { explain } from "@gray-bench/core/heat/explain";
import type { HeatFigure, HeatResult, ZoneHeat } from "@gray-bench/core/heat/result";
import { saidValues } from "@gray-bench/core/heat/values";
import { Link } from "expo-router";
import { View } from "react-native";
import Svg, { Line, Rect, Text as SvgText } from "react-native-svg";
import { Acts } from "../edits/Acts";
import type { Outcome } from "../queries/useEdits";
import { jobPath } from "../kit/api";
import { FileLink } from "../kit/FileLink";
import { formatTemperature, formatWatts, restsText } from "../kit/format";
import { jobHref } from "../kit/links";
import { useSettings, useTokens, type Settings } from "../kit/settings";
import { Body, Head, Mono, Small } from "../kit/Text";
import { FONTS } from "../kit/tokens";
import { WorkingTable } from "../working/WorkingTable";
import { surfacesAct, valueActs } from "@gray-bench/core/heat/acts";
import { grade, TONES, verdictText } from "./say";

/** The verdict; and unless it is short, what it is worked out for, with gains and losses. */
export function Top({ zone, width, short }: { zone: ZoneHeat; width: number; short: boolean }) {
  const settings = useSettings();
  const { values: v } = zone;
  const { tone, more } = grade(zone);
  const c = (celsius: number): string => formatTemperature(celsius, settings);
  return (
    <View className="gap-2" testID="heat-head">
      <Body className={`font-strong text-figure ${TONES[tone]}`} testID="verdict">
        {verdictText(zone)}
      </Body>
      {more ? <Small testID="verdict-more">{more}</Small> : null}
      {short ? null : (
        <>
          <Small>
            {c(v.insideMaxC)} wanted at most inside, {c(v.outsideMaxC)} outside in the hottest hour; {c(v.insideMinC)}{" "}
            at least, {c(v.outsideMinC)} in the coldest
            {zone.missing.length > 0
              ? `; ${zone.missing.length === 1 ? "1 loss is" : `${zone.missing.length} losses are`} missing: ${formatWatts(zone.lossW - zone.fallbackW)} without them, ${formatWatts(zone.worstW)} at worst${zone.fallbackW > 0 ? `, ${formatWatts(zone.fallbackW)} counted by fallback` : ""}`
              : ""}
          </Small>
          <Bar zone={zone} width={width} />
        </>
      )}
    </View>
  );
}

const FIGURES: readonly [HeatFigure, string, (z: ZoneHeat, settings: Settings) => string][] = [
  ["loss", "losses", (z) => formatWatts(z.lossW)],
  ["coefficient", "walls pass", (z) => `${z.wPerK.toFixed(1)} W/K`],
  ["surface", "effective surface", (z) => `${z.effectiveM2.toFixed(2)} m²`],
  ["inside_without_cooling", "inside without cooling", (z, s) => restsText(z.insideWithoutC, s)],
  ["cooling_needed", "to carry away", (z) => formatWatts(Math.max(0, z.coolingNeededW))],
  ["fan_flow", "filter fan", (z) => (z.fanFlowM3h === null ? "no flow does it" : `${Math.round(z.fanFlowM3h)} m³/h`)],
  ["heater_needed", "heater", (z) => formatWatts(Math.max(0, z.heaterNeededW))],
  ["dew_point", "dew point", (z, s) => formatTemperature(z.dewPointC, s)],
  ["duty", "duty of units", (z) => (z.dutyPercent === null ? "no unit" : `${Math.round(z.dutyPercent)} %`)],
];

/** The figures of a zone, how each came to be, and what may be typed. */
export function Figures({
  job,
  zone,
  result,
  design,
  figure,
  laid,
}: {
  job: string;
  zone: ZoneHeat;
  result: HeatResult;
  design: Design;
  figure: string | undefined;
  laid(outcome: Outcome): void;
}) {
  const settings = useSettings();
  const of = FIGURES.find(([id]) => id === figure)?.[0];
  const working = of ? explain(result, { zone: zone.zone, of }) : null;
  const acts = [...valueActs(zone), ...zone.enclosures.flatMap((e) => surfacesAct(design, e) ?? [])];
  return (
    <View className="gap-2">
      <View className="flex-row flex-wrap gap-2" role="list" testID="heat-figures">
        {FIGURES.map(([id, label, value]) => (
          <View key={id} role="listitem">
            <Link
              href={jobHref(job, "heat", { zone: zone.zone, figure: id })}
              replace
              testID={`figure-${id}`}
              aria-current={id === of ? "true" : undefined}
              className={`min-h-touch rounded-edge border px-3 py-2 ${id === of ? "border-verdigris bg-tray" : "border-line"}`}
            >
              <Mono>{value(zone, settings)}</Mono>
              <Small> {label}</Small>
            </Link>
          </View>
        ))}
      </View>
      {working ? <WorkingTable working={working} job={job} /> : <Small>Tap a figure for how it came to be.</Small>}
      <Acts job={job} acts={acts} label={`Zone ${zone.zone}`} about={zone.zone} laid={laid} testID="heat" />
      <Values design={design} zone={zone} />
      <View className="flex-row flex-wrap gap-2" role="group" aria-label="Files of all zones">
        {FILES.map(([name, label]) => (
          <FileLink key={name} href={`/api${jobPath(job)}/files/${name}`} label={label} testID={`file-${name}`} />
        ))}
      </View>
    </View>
  );
}

/** What the zone is worked out with, and who says it. */
function Values({ design, zone }: { design: Design; zone: ZoneHeat }) {
  const settings = useSettings();
  return (
    <View testID="heat-values">
      <Head className="pb-1 pt-2">Worked out with</Head>
      <View role="list">
        {saidValues(design, zone).map((v) => (
          <View key={v.key} role="listitem" className="border-t border-line py-1">
            <View className="flex-row items-baseline justify-between gap-3">
              <Small className="flex-1">{v.text}</Small>
              <Mono>{v.unit === "°C" ? formatTemperature(v.value, settings) : `${v.value} ${v.unit}`.trim()}</Mono>
            </View>
            <Small className="text-slate">{v.source}</Small>
          </View>
        ))}
      </View>
    </View>
  );
}

const FILES = [
  ["heat.pdf", "Report of all zones"],
  ["heat.xlsx", "Tables"],
] as const;

const BAR = { h: 92, row: 22 };

/** Gains above, what takes them away below, to one scale. */
function Bar({ zone, width }: { zone: ZoneHeat; width: number }) {
  const t = useTokens();
  const walls = zone.lossW - zone.coolingNeededW;
  const gains = zone.lossW + Math.max(0, -walls);
  const out = Math.max(0, walls) + zone.carriedW;
  const scale = (width - 2) / Math.max(1, gains, out);
  const label = (x: number, y: number, text: string) => (
    <SvgText x={x} y={y} fontSize={12} fontFamily={FONTS.mono} fill={t.graphite}>
      {text}
    </SvgText>
  );
  return (
    <Svg
      width={width}
      height={BAR.h}
      role="img"
      aria-label={`In: losses ${formatWatts(zone.lossW)}${walls < 0 ? `, through the walls ${formatWatts(-walls)}` : ""}. Out: ${walls > 0 ? `walls ${formatWatts(walls)}, ` : ""}units ${formatWatts(zone.carriedW)}`}
    >
      <Rect x={1} y={16} width={Math.max(1, gains * scale)} height={BAR.row} fill={t.brick} fillOpacity={0.75} />
      {label(1, 12, `in ${formatWatts(gains)}`)}
      {walls > 0 ? <Rect x={1} y={56} width={walls * scale} height={BAR.row} fill={t.slate} /> : null}
      <Rect x={1 + Math.max(0, walls) * scale} y={56} width={zone.carriedW * scale} height={BAR.row} fill={t.harbour} />
      {label(1, 52, `out ${walls > 0 ? `walls ${formatWatts(walls)}, ` : ""}units ${formatWatts(zone.carriedW)}`)}
      <Line x1={gains * scale} x2={gains * scale} y1={16} y2={80} stroke={t.graphite} strokeDasharray="3 3" />
    </Svg>
  );
}
