import type { Design } from "@gray-bench/core/design/model";
import { proposalFor, wanting } from "@gray-bench/core/heat/verdict";
import type { UnitFit, ZoneHeat } from "@gray-bench/core/heat/result";
import { whereText, type Counted } from "@gray-bench/core/heat/units";
import { Link } from "expo-router";
import { useMemo } from "react";
import { View } from "react-native";
import { Acts } from "../edits/Acts";
import type { Outcome } from "../queries/useEdits";
import { choose } from "../kit/choice";
import { formatWatts, keepTags } from "../kit/format";
import { jobHref } from "../kit/links";
import { Table } from "../kit/table/Table";
import type { TableColumn } from "../kit/table/column";
import { Body, Head, Mono, Small } from "../kit/Text";
import { useTextScale } from "../kit/textScale";
import { mountAct } from "@gray-bench/core/heat/acts";
import { unitKey, unitName } from "@gray-bench/core/heat/unit-name";
import { signed } from "./say";
import { UnitChart } from "./UnitChart";

interface Props {
  job: string;
  zone: ZoneHeat;
  design: Design;
  /** Key of the proposal whose curve is shown. */
  chosen: string | undefined;
  laid(outcome: Outcome): void;
  width: number;
}

/** What stands in a zone, as a proposal would be named; of one sort, as cooling and heating have no curve in common. */
const standing = (zone: ZoneHeat, heats: boolean): { number: string; count: number }[] => {
  const counts = new Map<string, number>();
  for (const u of zone.units) if ((u.kind === "heater") === heats) counts.set(u.part, (counts.get(u.part) ?? 0) + 1);
  return [...counts].map(([number, count]) => ({ number, count }));
};

const MOST_CARDS = 8;
/** Frame of a card, left and right. */
const CARD_PX = 18;

const dutyText = (f: UnitFit): string => (Number.isFinite(f.dutyPercent) ? `${Math.round(f.dutyPercent)} %` : "–");

/** The parts of a key such as 2xTT-CU600; of a fan with a heater the fan: the heater has a curve of its own. */
function unitsOf(key: string, design: Design): Counted[] {
  return key.split("+").flatMap((one) => {
    const [, count, number] = /^(\d+)x(.+)$/.exec(one) ?? [];
    const part = design.parts.find((p) => p.number === number);
    return part && count ? [{ part, count: Number(count) }] : [];
  });
}

const ofOneSort = (units: readonly Counted[]): Counted[] => {
  const heats = (u: Counted): boolean => u.part.climate?.kind === "heater";
  return units.filter((u) => heats(u) === heats(units[0]!));
};

/** Whose curve is shown: what was chosen, what stands there, the best of the library. */
export function shownUnit(zone: ZoneHeat, chosen: string | undefined): string | undefined {
  const cools = standing(zone, false);
  const there = cools.length > 0 ? cools : standing(zone, true);
  const [best] = zone.fits;
  return chosen ?? (there.length > 0 ? unitKey({ parts: there }) : best ? unitKey(best) : undefined);
}

/** What the chosen units do: the curve with its working point, and a year. */
export function Chosen({ zone, design, name, width }: { zone: ZoneHeat; design: Design; name: string; width: number }) {
  const units = useMemo(() => ofOneSort(unitsOf(name, design)), [name, design]);
  if (units.length === 0) return <Small>There is no unit {name} in the library of this job.</Small>;
  return (
    <View className="gap-1" testID="chosen-unit">
      <Head>{unitName({ parts: units.map((u) => ({ number: u.part.number, count: u.count })) })}</Head>
      <UnitChart zone={zone} units={units} width={width} />
    </View>
  );
}

/** Against what stands there: what a proposal of the same sort saves in a year. */
function saving(zone: ZoneHeat, f: UnitFit): string | null {
  const same = zone.units.some((u) => (u.kind === "heater") === (f.kind === "heater"));
  if (!same || zone.units.some((u) => u.kind === "heater") !== zone.units.every((u) => u.kind === "heater"))
    return null;
  const [kWh, money] = [zone.energyKWh - f.energyKWh, zone.money - f.money];
  if (Math.abs(kWh) < 1) return "as much as what stands there";
  return `${kWh > 0 ? "saves" : "takes"} ${Math.abs(Math.round(kWh)).toLocaleString("en-GB")} kWh and ${Math.abs(Math.round(money)).toLocaleString("en-GB")} a year ${kWh > 0 ? "against" : "more than"} what stands there`;
}

/** What stands there, what the library has for it, and what the rule of thumb would have bought. */
export function Units(props: Props & { wide: boolean }) {
  const { zone, design, chosen, width, wide } = props;
  const { fits, thumb, units } = zone;
  const shown = shownUnit(zone, chosen);
  const best = fits.find((f) => f.does !== "heats" && f.holds && f.mounts);
  return (
    <View className="gap-3" testID="units">
      <Head>Units</Head>
      {units.length > 0 ? (
        <Body testID="standing">
          There now: {units.map((u) => `${keepTags(u.device)} (${u.part})`).join(", ")};{" "}
          {[
            ...(zone.carriedW > 0 ? [`${formatWatts(zone.carriedW)} carried away`] : []),
            ...(zone.heatedW > 0 ? [`${formatWatts(zone.heatedW)} put in`] : []),
            `${Math.round(zone.energyKWh).toLocaleString("en-GB")} kWh a year, ${Math.round(zone.money).toLocaleString("en-GB")} at ${zone.values.tariffPerKWh} a kWh`,
          ].join("; ")}
          .
        </Body>
      ) : null}
      {!wide && shown && !fits.some((f) => unitKey(f) === shown) ? (
        <Chosen zone={zone} design={design} name={shown} width={width} />
      ) : null}
      {fits.length === 0 ? (
        <Small>
          {zone.coolingNeededW <= 0 && zone.heaterNeededW <= 0 && zone.dryNeededW <= 0
            ? "Nothing is needed: this zone keeps itself."
            : "Nothing fits: the library of this job has no unit for it."}
        </Small>
      ) : wide ? (
        <UnitTable {...props} shown={shown} />
      ) : (
        <Cards {...props} shown={shown} />
      )}
      {fits.length > 0 ? (
        <View testID="wanted">
          {(["cools", "heats"] as const).map((does) => (
            <Small key={does}>{wantedText(zone, does)}</Small>
          ))}
        </View>
      ) : null}
      {thumb ? (
        <View className="gap-1 border-l-4 border-ochre pl-3" testID="thumb">
          <Body className="font-medium">By the rule of thumb: {unitName(thumb)}</Body>
          <Small>
            Losses as rated and a fifth more are {formatWatts(thumb.wantedW)}. It would run{" "}
            {Math.round(thumb.dutyPercent)} % of the hottest hour
            {best && unitName(best) === unitName(thumb)
              ? ", which is the same"
              : best
                ? `, ${signed(thumb.capacityW - best.capacityW, "W")} of size and ${signed(thumb.energyKWh - best.energyKWh, "kWh")} a year against ${unitName(best)}`
                : ""}
            .
          </Small>
        </View>
      ) : null}
    </View>
  );
}

/** What the zone wants in the hottest hour, or in the coldest, and what of the library does it best. */
function wantedText(zone: ZoneHeat, does: "cools" | "heats"): string {
  const best = proposalFor(zone, does);
  const hour = does === "cools" ? "In the hottest hour" : "In the coldest hour";
  const needed = does === "cools" ? zone.coolingNeededW : Math.max(zone.heaterNeededW, zone.dryNeededW);
  if (best === "nothing needed") return `${hour}: nothing is needed.`;
  const there = wanting(zone)[does === "cools" ? "cooling" : "heat"] ? "" : ", which is there";
  const dry = does === "heats" && zone.dryNeededW >= zone.heaterNeededW ? " so that the walls keep dry" : "";
  return `${hour}: ${formatWatts(needed)}${dry}${there}; ${best === "nothing fits" ? "nothing of the library fits" : `best ${unitName(best)}`}.`;
}

const FOR: Record<UnitFit["does"], string> = { both: "summer and winter", cools: "summer", heats: "winter" };

/** Why it is not one to take; empty where it is. */
const againstText = (f: UnitFit): string => (f.but !== null ? f.but : f.holds ? "" : "too small");

function Cards({ job, zone, design, laid, shown, width }: Props & { shown: string | undefined }) {
  return (
    <View className="gap-2">
      {zone.fits.slice(0, MOST_CARDS).map((f) => {
        const key = unitKey(f);
        const act = f.holds ? mountAct(zone, f, design) : null;
        const saved = saving(zone, f);
        return (
          <View key={key} className="gap-1 rounded-edge border border-line p-2" testID={`unit-${key}`}>
            <Link
              href={jobHref(job, "heat", { zone: zone.zone, show: "units", unit: key })}
              replace
              aria-current={key === shown ? "true" : undefined}
              className="min-h-touch py-3"
            >
              <Body className={`font-medium underline ${f.holds ? "text-harbour" : "text-slate"}`}>
                {unitName(f)}: {dutyText(f)} duty{f.holds ? "" : `, ${againstText(f)}`}
              </Body>
            </Link>
            <Small>
              For {FOR[f.does]}; {f.kind}; {f.does === "heats" ? "puts in" : "carries"} {formatWatts(f.capacityW)}
              {f.beyond ? " (beyond its curve)" : ""} · {Math.round(f.energyKWh).toLocaleString("en-GB")} kWh a year
              {saved ? `, ${saved}` : ""}
              {f.noiseDb ? ` · ${Math.round(f.noiseDb)} dB` : ""}
              {f.priceClass ? ` · price class ${f.priceClass}` : ""}
              {f.supply ? ` · ${f.supply}` : ""} · {whereText(f)}
            </Small>
            {key === shown ? <Chosen zone={zone} design={design} name={key} width={width - CARD_PX} /> : null}
            {act ? <Acts job={job} acts={[act]} label={key} about={key} laid={laid} testID="unit" /> : null}
          </View>
        );
      })}
    </View>
  );
}

const COLUMNS: TableColumn<UnitFit>[] = [
  {
    id: "unit",
    label: "Unit",
    width: 150,
    value: unitName,
    cell: (f) => <Mono className={f.holds ? "" : "text-slate"}>{unitName(f)}</Mono>,
  },
  { id: "for", label: "For", width: 96, value: (f) => FOR[f.does] },
  { id: "holds", label: "Holds", width: 70, value: (f) => (f.holds ? "yes" : againstText(f)) },
  {
    id: "duty",
    label: "Duty, %",
    width: 70,
    value: (f) => (Number.isFinite(f.dutyPercent) ? Math.round(f.dutyPercent) : null),
  },
  { id: "capacity", label: "Carries, W", width: 84, value: (f) => Math.round(f.capacityW) },
  { id: "energy", label: "kWh a year", width: 84, value: (f) => Math.round(f.energyKWh) },
  { id: "money", label: "Cost a year", width: 84, value: (f) => Math.round(f.money) },
  { id: "noise", label: "dB", width: 52, value: (f) => (f.noiseDb ? Math.round(f.noiseDb) : null) },
  { id: "price", label: "Price class", width: 76, value: (f) => f.priceClass },
  { id: "where", label: "Where", width: 240, value: whereText },
  { id: "supply", label: "Supply", width: 120, value: (f) => f.supply, hidden: true },
  { id: "kind", label: "Kind", width: 110, value: (f) => f.kind, hidden: true },
];
const ROWS = { most: 9, px: 32, head: 110 };

function UnitTable({ job, zone, design, laid, shown }: Props & { shown: string | undefined }) {
  const scale = useTextScale();
  const fit = zone.fits.find((f) => unitKey(f) === shown);
  const act = fit?.holds ? mountAct(zone, fit, design) : null;
  const saved = fit ? saving(zone, fit) : null;
  return (
    <View className="gap-2">
      <View style={{ height: scale * (ROWS.head + ROWS.px * Math.min(ROWS.most, zone.fits.length)) }}>
        <Table
          id="units"
          label={`Units for zone ${zone.zone}`}
          testID="unit-table"
          rowTestID={(key) => `unit-${key}`}
          rows={zone.fits}
          columns={COLUMNS}
          keyOf={unitKey}
          chosen={shown}
          choose={(unit) => choose({ unit })}
        />
      </View>
      {fit ? (
        <View className="gap-1">
          <Small>
            {unitName(fit)}: {fit.kind}
            {saved ? `; ${saved}` : ""}
            {fit.but ? `; not proposed: ${fit.but}` : fit.beyond ? "; read beyond its curve" : ""}
            {fit.supply ? `; ${fit.supply}` : ""}; {whereText(fit)}
          </Small>
          {act ? (
            <Acts job={job} acts={[act]} label={unitName(fit)} about={shown ?? ""} laid={laid} testID="unit" />
          ) : null}
        </View>
      ) : null}
    </View>
  );
}
