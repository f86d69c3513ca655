import type { Design } from "@gray-bench/core/design/model";
import { explain, type HeatFigure } from "@gray-bench/core/heat/explain";
import type { HeatResult, UnitFit, ZoneHeat } from "@gray-bench/core/heat/result";
import { keeps, verdict } from "@gray-bench/core/heat/verdict";
import { Link } from "expo-router";
import { useState } from "react";
import { ScrollView, useWindowDimensions, View } from "react-native";
import Svg, { Line, Path, Rect, Text as SvgText } from "react-native-svg";
import { Acts } from "../edits/Acts";
import { Told } from "../edits/Told";
import type { Outcome } from "../edits/useEdits";
import { Chips } from "../kit/Chips";
import { jobHref, thingHref } from "../kit/links";
import { useTokens } from "../kit/settings";
import { Empty } from "../kit/States";
import { Body, Head, Mono, Small } from "../kit/Text";
import { FONTS } from "../kit/tokens";
import { useWide } from "../kit/useWide";
import { WorkingTable } from "../routes/WorkingTable";
import { FaceMap } from "./FaceMap";
import { mountAct, valueActs } from "./heatActs";

export interface HeatChoice {
  zone?: string;
  figure?: string;
}

const watts = (w: number): string => `${Math.round(w).toLocaleString("en-GB")} W`;
const celsius = (c: number): string => `${(Math.round(c * 10) / 10).toLocaleString("en-GB")} °C`;

/** The balance of each zone: one figure on top, gains and losses, where it gets hot, and the units that do it. */
export function HeatView({
  job,
  result,
  design,
  choice,
}: {
  job: string;
  result: HeatResult;
  design: Design;
  choice: HeatChoice;
}) {
  const { zones } = result;
  const shown =
    choice.zone === undefined
      ? zones[0]
      : zones.find((z) => z.zone === choice.zone || z.enclosures.includes(choice.zone!));
  if (zones.length === 0) return <Empty title="No zone" text="The design has no enclosure." />;
  return (
    <View className="min-h-0 flex-1">
      <Chips
        label="Zones"
        shown={shown?.zone}
        chips={zones.map((z) => ({
          name: z.zone,
          href: jobHref(job, "heat", { zone: z.zone }),
          testID: `zone-${z.zone}`,
        }))}
      />
      {shown ? (
        <OneZone key={shown.zone} job={job} zone={shown} result={result} design={design} figure={choice.figure} />
      ) : (
        <Empty
          title={`${choice.zone} is not here`}
          text="There is no zone of that name in this revision. Choose one above."
        />
      )}
    </View>
  );
}

/** `fits: 38 % duty`, `short by 240 W` */
export function verdictText(z: ZoneHeat): string {
  const v = verdict(z);
  switch (v.kind) {
    case "too hot":
      return `short by ${watts(v.byW)}`;
    case "too cold":
      return `too cold by ${watts(v.byW)}`;
    case "wet":
      return "water settles in the cold";
    case "fits":
      return `fits: ${Math.round(v.dutyPercent)} % duty`;
    case "keeps itself":
      return v.kind;
  }
}

const FIGURES: readonly [HeatFigure, string, (z: ZoneHeat) => string][] = [
  ["loss", "losses", (z) => watts(z.lossW)],
  ["coefficient", "walls pass", (z) => `${z.wPerK.toFixed(1)} W/K`],
  ["surface", "effective surface", (z) => `${z.effectiveM2.toFixed(2)} m²`],
  [
    "inside_without_cooling",
    "inside without cooling",
    (z) => (z.insideWithoutC === null ? "no end" : celsius(z.insideWithoutC)),
  ],
  ["cooling_needed", "to carry away", (z) => watts(Math.max(0, z.coolingNeededW))],
  ["fan_flow", "filter fan", (z) => (z.fanFlowM3h === null ? "no flow does it" : `${Math.round(z.fanFlowM3h)} m³/h`)],
  ["heater_needed", "heater", (z) => watts(Math.max(0, z.heaterNeededW))],
  ["dew_point", "dew point", (z) => celsius(z.dewPointC)],
  ["duty", "duty of units", (z) => (z.dutyPercent === null ? "no unit" : `${Math.round(z.dutyPercent)} %`)],
];

function OneZone({
  job,
  zone,
  result,
  design,
  figure,
}: {
  job: string;
  zone: ZoneHeat;
  result: HeatResult;
  design: Design;
  figure: string | undefined;
}) {
  const wide = useWide();
  const { width } = useWindowDimensions();
  const [told, setTold] = useState<Outcome | null>(null);
  const of = FIGURES.find(([id]) => id === figure)?.[0];
  const working = of ? explain(result, { zone: zone.zone, of }) : null;
  const head = (
    <View className="gap-2" testID="heat-head">
      <Body
        className={`font-strong text-[24px] leading-[30px] ${keeps(zone) ? "text-verdigris" : "text-brick"}`}
        testID="verdict"
      >
        {verdictText(zone)}
      </Body>
      <Small>
        {celsius(zone.values.insideMaxC)} wanted at most inside, {celsius(zone.values.outsideMaxC)} outside in the
        hottest hour; {celsius(zone.values.insideMinC)} at least, {celsius(zone.values.outsideMinC)} in the coldest
        {zone.missing.length > 0
          ? `; ${zone.missing.length} losses missing: ${watts(zone.lossW - zone.fallbackW)} without them, ${watts(zone.worstW)} at worst`
          : ""}
      </Small>
      <Told outcome={told} testID="heat-told" />
      <Bar zone={zone} width={Math.min(wide ? 500 : width - 24, 500)} />
    </View>
  );
  const figures = (
    <View className="gap-2">
      <View className="flex-row flex-wrap gap-2" role="list" testID="heat-figures">
        {FIGURES.map(([id, label, value]) => (
          <View key={id} role="listitem">
            <Link
              href={jobHref(job, "heat", { zone: zone.zone, figure: id })}
              replace
              testID={`figure-${id}`}
              aria-current={id === of ? "true" : undefined}
              className={`min-h-[44px] rounded-[3px] border px-3 py-2 ${id === of ? "border-verdigris bg-tray" : "border-line"}`}
            >
              <Mono>{value(zone)}</Mono>
              <Small> {label}</Small>
            </Link>
          </View>
        ))}
      </View>
      {working ? <WorkingTable working={working} job={job} /> : <Small>Tap a figure for how it came to be.</Small>}
      <Acts
        job={job}
        acts={valueActs(zone)}
        label={`Zone ${zone.zone}`}
        about={zone.zone}
        laid={setTold}
        testID="heat"
      />
    </View>
  );
  const maps = (
    <View className="gap-3">
      <Head>Where it gets hot</Head>
      <Small>
        Losses spread over {zone.values.smoothingMm} mm. The column beside is the air by height in the hottest hour: a
        model of slabs that mix, an estimate, no measurement.
      </Small>
      <View className="flex-row flex-wrap gap-4">
        {zone.faces.map((f) => (
          <FaceMap key={f.face} face={f} smoothingMm={zone.values.smoothingMm} width={f.kind === "plate" ? 220 : 160} />
        ))}
        <Column zone={zone} />
      </View>
      {zone.airWays.map((a) => (
        <Small key={a.face} testID={`air-${a.face}`}>
          Air of {a.units.join(", ")} reaches {Math.round(a.reachedPercent)} % of the free {a.face} with {a.speedMs} m/s
          or more (potential flow, an estimate)
          {a.dead.length > 0
            ? `; in dead air: ${a.dead
                .slice(0, 8)
                .map((d) => `${d.device} ${watts(d.countedW)}`)
                .join(", ")}`
            : ""}
          .
        </Small>
      ))}
      {zone.faces.length === 0 ? <Small>Nothing in this zone loses heat.</Small> : null}
    </View>
  );
  const units = <Units job={job} zone={zone} design={design} laid={setTold} />;
  if (wide)
    return (
      <View className="min-h-0 flex-1 flex-row">
        <ScrollView className="flex-1" contentContainerClassName="gap-4 p-4">
          {head}
          {figures}
          {units}
        </ScrollView>
        <ScrollView className="w-[560px] grow-0 border-l border-line" contentContainerClassName="gap-4 p-4">
          {maps}
          <Devices job={job} zone={zone} />
        </ScrollView>
      </View>
    );
  return (
    <ScrollView className="flex-1" contentContainerClassName="gap-4 p-3">
      {head}
      {figures}
      {maps}
      {units}
      <Devices job={job} zone={zone} />
    </ScrollView>
  );
}

const BAR = { h: 62, row: 22 };

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
      height={BAR.h + 30}
      role="img"
      aria-label={`In: losses ${watts(zone.lossW)}${walls < 0 ? `, through the walls ${watts(-walls)}` : ""}. Out: ${walls > 0 ? `walls ${watts(walls)}, ` : ""}units ${watts(zone.carriedW)}`}
    >
      <Rect x={1} y={16} width={Math.max(1, gains * scale)} height={BAR.row} fill={t.brick} fillOpacity={0.75} />
      {label(1, 12, `in ${watts(gains)}`)}
      {walls > 0 ? <Rect x={1} y={56} width={walls * scale} height={BAR.row} fill={t.slate} /> : null}
      <Rect x={1 + Math.max(0, walls) * scale} y={56} width={zone.carriedW * scale} height={BAR.row} fill={t.harbour} />
      {label(1, 52, `out ${walls > 0 ? `walls ${watts(walls)}, ` : ""}units ${watts(zone.carriedW)}`)}
      <Line x1={gains * scale} x2={gains * scale} y1={16} y2={80} stroke={t.graphite} strokeDasharray="3 3" />
    </Svg>
  );
}

const COLUMN = { w: 150, h: 300, pad: 26 };

/** Air by height, on the height of the enclosure. */
function Column({ zone }: { zone: ZoneHeat }) {
  const t = useTokens();
  const { column, values } = zone;
  const low = Math.floor(Math.min(values.outsideMaxC, ...column.map((s) => s.airC)));
  const high = Math.ceil(Math.max(values.insideMaxC, ...column.map((s) => s.airC)) + 1);
  const top = column[column.length - 1]!.atMm + column[0]!.atMm;
  const x = (c: number): number => COLUMN.pad + ((c - low) / (high - low)) * (COLUMN.w - COLUMN.pad - 8);
  const y = (mm: number): number => COLUMN.h - 20 - (mm / top) * (COLUMN.h - 36);
  return (
    <View className="gap-1" testID="column">
      <Svg
        width={COLUMN.w}
        height={COLUMN.h}
        role="img"
        aria-label={`Air by height: ${celsius(column[0]!.airC)} below, ${celsius(column[column.length - 1]!.airC)} above`}
      >
        <Rect
          x={COLUMN.pad}
          y={16}
          width={COLUMN.w - COLUMN.pad - 8}
          height={COLUMN.h - 36}
          fill="none"
          stroke={t.line}
        />
        <Line
          x1={x(values.insideMaxC)}
          x2={x(values.insideMaxC)}
          y1={16}
          y2={COLUMN.h - 20}
          stroke={t.verdigris}
          strokeDasharray="4 3"
        />
        <Path
          d={column.map((s, i) => `${i === 0 ? "M" : "L"}${x(s.airC).toFixed(1)} ${y(s.atMm).toFixed(1)}`).join("")}
          stroke={t.brick}
          strokeWidth={2}
          fill="none"
        />
        <SvgText
          x={x(values.insideMaxC)}
          y={12}
          fontSize={11}
          fontFamily={FONTS.mono}
          fill={t.verdigris}
          textAnchor="middle"
        >
          {values.insideMaxC}
        </SvgText>
        <SvgText x={COLUMN.pad} y={COLUMN.h - 5} fontSize={11} fontFamily={FONTS.mono} fill={t.graphite}>
          {low}
        </SvgText>
        <SvgText
          x={COLUMN.w - 8}
          y={COLUMN.h - 5}
          fontSize={11}
          fontFamily={FONTS.mono}
          fill={t.graphite}
          textAnchor="end"
        >
          {high} °C
        </SvgText>
      </Svg>
      <Small>
        {celsius(column[0]!.airC)} below, {celsius(column[column.length - 1]!.airC)} above
      </Small>
    </View>
  );
}

const MOST_UNITS = 8;

/** Units of the library that do it, the best first, with the rule of thumb beside them. */
function Units({ job, zone, design, laid }: { job: string; zone: ZoneHeat; design: Design; laid(o: Outcome): void }) {
  const { thumb, fits } = zone;
  const best = fits[0];
  return (
    <View className="gap-2" testID="units">
      <Head>Units that would do it</Head>
      {zone.units.map((u) => (
        <Small key={u.device}>
          {u.device}, {u.part} on {u.face}:{" "}
          {u.capacityW === null
            ? u.kind === "heater"
              ? "heats"
              : "carries nothing away"
            : `carries ${watts(u.capacityW)}${u.beyond ? ", beyond its curve" : ""}`}
        </Small>
      ))}
      {fits.length === 0 ? <Body>Nothing is needed, or no unit of the library is of use.</Body> : null}
      {fits.slice(0, MOST_UNITS).map((f) => {
        const act = mountAct(zone, f, design);
        const name = nameOf(f);
        return (
          <View
            key={name}
            className="gap-1 border-l-4 border-line pl-3"
            testID={`unit-${f.parts.map((p) => p.number).join("-")}-${f.parts[0]!.count}`}
          >
            <Body className="font-medium">
              {name}: {f.holds ? `${Math.round(f.dutyPercent)} % duty` : `short, ${Math.round(f.dutyPercent)} %`}
            </Body>
            <Small>
              {f.kind === "heater" ? "puts in" : "carries"} {watts(f.capacityW)}
              {f.beyond ? " (beyond its curve)" : ""} · {Math.round(f.energyKWh)} kWh a year, {Math.round(f.money)} at{" "}
              {zone.values.tariffPerKWh} a kWh
              {f.noiseDb ? ` · ${Math.round(f.noiseDb)} dB` : ""}
              {f.priceClass ? ` · price class ${f.priceClass}` : ""} · {f.mount ? `on ${f.mount.face}` : f.why}
            </Small>
            {act && f.holds ? (
              <Acts job={job} acts={[act]} label={name} about={name} laid={laid} testID="unit" />
            ) : null}
          </View>
        );
      })}
      {thumb ? (
        <View className="gap-1 border-l-4 border-ochre pl-3" testID="thumb">
          <Body className="font-medium">By the rule of thumb: {nameOf(thumb)}</Body>
          <Small>
            Losses as rated and a fifth more are {watts(thumb.wantedW)}. It would run {Math.round(thumb.dutyPercent)} %
            of the hottest hour
            {best?.holds && best.kind !== "heater"
              ? `, ${signed(thumb.capacityW - best.capacityW, "W")} of size and ${signed(thumb.energyKWh - best.energyKWh, "kWh")} a year against ${nameOf(best)}`
              : ""}
            .
          </Small>
        </View>
      ) : null}
    </View>
  );
}

const nameOf = (f: Pick<UnitFit, "parts">): string =>
  f.parts.map((p) => (p.count > 1 ? `${p.count} × ${p.number}` : p.number)).join(" with ");
const signed = (v: number, unit: string): string =>
  `${v < 0 ? "−" : "+"}${Math.abs(Math.round(v)).toLocaleString("en-GB")} ${unit}`;

const MOST_DEVICES = 30;

/** Who puts in how much, the most first, with the air around. */
function Devices({ job, zone }: { job: string; zone: ZoneHeat }) {
  if (zone.devices.length === 0) return null;
  return (
    <View className="gap-1" testID="heat-devices">
      <Head>Who puts it in</Head>
      <View role="list">
        {zone.devices.slice(0, MOST_DEVICES).map((d) => {
          const hot = d.limitC !== null && d.aroundC !== null && d.aroundC > d.limitC;
          return (
            <View
              key={d.device}
              role="listitem"
              className="min-h-[44px] flex-row items-center gap-3 border-b border-line"
            >
              <Link href={thingHref(job, "device", d.device)} className="w-[80px] py-3">
                <Mono className="text-harbour underline">{d.device}</Mono>
              </Link>
              <Mono className="w-[80px]">{d.lossW === null && !d.fallback ? "?" : watts(d.countedW)}</Mono>
              <Small className={`flex-1 ${hot ? "font-medium text-brick" : ""}`}>
                {d.lossW === null ? (d.fallback ? "median of like parts · " : "loss not stated · ") : ""}
                {d.aroundC === null ? "no place" : `${celsius(d.aroundC)} around it`}
                {d.limitC === null ? "" : `, bears ${celsius(d.limitC)}`}
                {d.derated === null ? "" : `, may carry ${Math.round(d.derated * 100)} %`}
              </Small>
            </View>
          );
        })}
      </View>
      {zone.devices.length > MOST_DEVICES ? (
        <Small>and {zone.devices.length - MOST_DEVICES} more, in heat-devices.csv</Small>
      ) : null}
    </View>
  );
}
