import { through } from "@gray-bench/core/heat/balance";
import type { Design } from "@gray-bench/core/design/model";
import { byText } from "@gray-bench/core/design/order";
import type { ZoneHeat } from "@gray-bench/core/heat/result";
import { ARRANGEMENTS, type Tried } from "@gray-bench/core/heat/trial";
import { kindOf } from "@gray-bench/core/heat/kinds";
import { useState } from "react";
import { View } from "react-native";
import { Acts } from "../edits/Acts";
import type { Outcome } from "../queries/useEdits";
import { Button } from "../kit/Button";
import { choose } from "../kit/choice";
import { Choice } from "../kit/Choice";
import { formatTemperature, formatWatts, restsText } from "../kit/format";
import { Select } from "../kit/Select";
import { useSettings, type Settings } from "../kit/settings";
import { Slider } from "../kit/Slider";
import { Body, Head, Mono, Small } from "../kit/Text";
import { takeOverAct } from "@gray-bench/core/heat/acts";
import { grade, TONES, verdictText } from "./say";
import { listOf, slideAt, slideNow, SLIDES, TRY_KEYS, triesAnything, type Slide, type TryParams } from "./tryParams";
import type { Reply } from "./trials";

interface Props {
  job: string;
  /** As it is. */
  zone: ZoneHeat;
  design: Design;
  params: TryParams;
  /** While the thumb moves: nothing of it stands in the address yet. */
  slide(part: TryParams): void;
  reply: Reply<Tried>;
  laid(outcome: Outcome): void;
}

const said = (key: Slide, value: number, settings: Settings): string =>
  key === "out" || key === "in" ? formatTemperature(value, settings) : key === "load" ? `${value} %` : value.toFixed(2);

const LABELS: Record<Slide, string> = {
  out: "Outside in the hottest hour",
  in: "Wanted inside at most",
  load: "Load, of what is stated",
  div: "Diversity, where none is stated",
};

const AS_IT_STANDS = "as it stands";

const joined = (list: readonly string[]): string | undefined => (list.length > 0 ? list.join(",") : undefined);

/** Sliders and choices that nothing is kept of until it is taken over; beside what is, what would be. */
export function WhatIf({ job, zone, design, params, slide, reply, laid }: Props) {
  const settings = useSettings();
  // A unit that is chosen, and not added yet.
  const [one, setOne] = useState("");
  const { got, failed } = reply;
  const tried = triesAnything(params) ? got : null;
  const now = tried?.zone ?? zone;
  const without = listOf(params.without);
  const more = listOf(params.with);
  const parts = design.parts
    .filter((p) => kindOf(p) !== null)
    .map((p) => p.number)
    .sort(byText);
  const act = tried ? takeOverAct(tried.trial, zone) : null;
  const letGo = (): void => choose(Object.fromEntries(TRY_KEYS.map((k) => [k, params[k]])), true);
  return (
    <View className="gap-3" testID="try">
      <Head>What if</Head>
      <View
        className="gap-1 border-l-4 border-verdigris pl-3"
        testID="tried"
        aria-busy={reply.waiting && tried !== null}
        // For whoever waits for an answer to something.
        {...({ dataSet: { for: reply.waiting ? "" : JSON.stringify(params) } } as object)}
      >
        <Body className={`font-strong text-title ${TONES[grade(now).tone]}`} testID="tried-verdict">
          {verdictText(now)}
        </Body>
        <Small>
          {tried ? `It is ${verdictText(zone)}.` : "As it is. Move something: nothing is kept until it is taken over."}
        </Small>
      </View>
      {failed ? (
        <Small testID="try-failed" className="text-brick">
          This was not worked out: {failed}
        </Small>
      ) : null}
      <View className="flex-row flex-wrap justify-between">
        {(Object.keys(SLIDES) as Slide[]).map((key) => {
          const value = slideAt(key, params, zone);
          return (
            <View key={key} className="w-full md:w-[48%]">
              <Slider
                label={LABELS[key]}
                said={said(key, value, settings)}
                value={value}
                {...SLIDES[key]}
                slide={(v) => slide({ [key]: v === slideNow(key, zone) ? undefined : String(v) })}
                let={letGo}
                testID={`slide-${key}`}
              />
            </View>
          );
        })}
      </View>
      <View className="flex-row flex-wrap justify-between gap-y-3">
        <View className="w-full md:w-[48%] justify-end">
          <Select
            label={zone.enclosures.length > 1 ? "Each enclosure stands" : `${zone.enclosures[0]!} stands`}
            value={params.stands ?? AS_IT_STANDS}
            choices={[AS_IT_STANDS, ...ARRANGEMENTS]}
            choose={(v) => choose({ stands: v === AS_IT_STANDS ? undefined : v })}
            testID="try-stands"
          />
        </View>
        <View className="w-full md:w-[48%] justify-end">
          <Choice<"shut" | "open">
            label={zone.enclosures.length > 1 ? "Doors" : "Door"}
            value={params.door === "open" ? "open" : "shut"}
            options={[
              ["shut", "shut"],
              ["open", "open"],
            ]}
            choose={(v) => choose({ door: v === "open" ? "open" : undefined })}
            testID="try-door"
          />
        </View>
        <View className="w-full md:w-[48%] justify-end">
          {zone.units.length > 0 || more.length > 0 ? (
            <View role="group" aria-label="Units" className="gap-1">
              <Head>Units</Head>
              <View className="flex-row flex-wrap gap-2">
                {zone.units.map((u) => {
                  const away = without.includes(u.device);
                  return (
                    <Button
                      key={u.device}
                      label={`${u.device} ${away ? "away" : "there"}`}
                      pressed={!away}
                      onPress={() =>
                        choose({
                          without: joined(away ? without.filter((t) => t !== u.device) : [...without, u.device]),
                        })
                      }
                      testID={`try-unit-${u.device}`}
                    />
                  );
                })}
                {more.map((number, i) => (
                  <Button
                    key={`${number} ${i}`}
                    label={`${number} more: take it off`}
                    onPress={() => choose({ with: joined(more.filter((_, n) => n !== i)) })}
                    testID={`try-less-${i}`}
                  />
                ))}
              </View>
            </View>
          ) : null}
        </View>
        <View className="w-full md:w-[48%] justify-end">
          <View className="flex-row items-end gap-2">
            <View className="flex-1">
              <Select
                label="A unit more"
                value={one}
                choices={parts}
                choose={setOne}
                none="choose …"
                testID="try-more"
              />
            </View>
            <Button
              label="Add it"
              disabled={one === ""}
              onPress={() => {
                choose({ with: joined([...more, one]) });
                setOne("");
              }}
              testID="try-add"
            />
          </View>
        </View>
      </View>
      {now.open.length > 0 ? (
        <Small>
          An open door lets air in below and out above, by the difference of densities: an estimate.{" "}
          {doorText(now, settings)}
        </Small>
      ) : null}
      {(tried?.refused ?? []).map((r) => (
        <Small key={r.part} className="text-brick" testID="try-refused">
          {r.part} has no place: {r.why}.
        </Small>
      ))}
      <Figures was={zone} is={now} settings={settings} />
      <View className="flex-row flex-wrap gap-2">
        {act ? <Acts job={job} acts={[act]} label="What was tried" about="tried" laid={laid} testID="try" /> : null}
        {triesAnything(params) ? (
          <Button
            label="Back to what is"
            onPress={() => choose(Object.fromEntries(TRY_KEYS.map((k) => [k, undefined])))}
            testID="try-back"
          />
        ) : null}
      </View>
      {tried && !act ? <Small>An open door alone is nothing to be kept.</Small> : null}
    </View>
  );
}

function doorText({ open, values }: ZoneHeat, settings: Settings): string {
  const w = through({ wPerK: 0, open }, values.insideMaxC, values.outsideMaxC);
  const at = `at ${formatTemperature(values.insideMaxC, settings)} inside and ${formatTemperature(values.outsideMaxC, settings)} outside`;
  return w >= 0 ? `${formatWatts(w)} leave ${at}.` : `${formatWatts(-w)} come in ${at}.`;
}

/** What is beside what would be. */
function Figures({ was, is, settings }: { was: ZoneHeat; is: ZoneHeat; settings: Settings }) {
  const hottest = (z: ZoneHeat): number => Math.max(...z.column.map((s) => s.airC));
  const dead = (z: ZoneHeat): number => z.airWays.reduce((sum, a) => sum + a.dead.length, 0);
  const rows: [string, (z: ZoneHeat) => string][] = [
    ["losses", (z) => formatWatts(z.lossW)],
    ["walls pass", (z) => `${z.wPerK.toFixed(1)} W/K`],
    ["to carry away", (z) => formatWatts(Math.max(0, z.coolingNeededW))],
    ["units carry", (z) => formatWatts(z.carriedW)],
    ["inside without cooling", (z) => restsText(z.insideWithoutC, settings)],
    ["hottest air, with units", (z) => formatTemperature(hottest(z), settings)],
    ["in dead air", (z) => (z.airWays.length === 0 ? "no unit blows" : `${dead(z)} devices`)],
    ["heater", (z) => formatWatts(Math.max(0, z.heaterNeededW, z.dryNeededW))],
    ["energy a year", (z) => `${Math.round(z.energyKWh).toLocaleString("en-GB")} kWh`],
  ];
  return (
    <View role="table" aria-label="What is, and what would be" testID="try-figures">
      <View role="row" className="flex-row gap-2 border-b border-line py-1">
        <View role="columnheader" className="flex-1">
          <Small>figure</Small>
        </View>
        <View role="columnheader" className="w-26 items-end">
          <Small>now</Small>
        </View>
        <View role="columnheader" className="w-26 items-end">
          <Small>tried</Small>
        </View>
      </View>
      {rows.map(([label, of]) => {
        const [a, b] = [of(was), of(is)];
        return (
          <View key={label} role="row" className="flex-row gap-2 border-b border-line py-1">
            <View role="cell" className="flex-1">
              <Small>{label}</Small>
            </View>
            <View role="cell" className="w-26 items-end">
              <Mono>{a}</Mono>
            </View>
            <View role="cell" className="w-26 items-end">
              <Mono className={a === b ? "" : "font-monoStrong text-verdigris"}>{b}</Mono>
            </View>
          </View>
        );
      })}
    </View>
  );
}
