import type { Term, Working } from "@gray-bench/core/frame/working";
import { Link } from "expo-router";
import { View } from "react-native";
import { formatLength, formatSize, formatTemperature } from "../kit/format";
import { thingHref } from "../kit/links";
import { useSettings, type Settings } from "../kit/settings";
import { Body, Head, Mono, Small } from "../kit/Text";

function shown(value: number | string, unit: Working["unit"], settings: Settings): string {
  if (typeof value === "string") return value;
  if (unit === "mm") return formatLength(value, settings);
  if (unit === "mm2") return formatSize(value, settings);
  if (unit === "°C") return formatTemperature(value, settings);
  return `${Math.round(value * 100) / 100}${unit ? ` ${unit}` : ""}`;
}

/** The terms of a number, one by one, with what is behind each, and the number they add up to. */
export function WorkingTable({ working, job }: { working: Working; job: string }) {
  const settings = useSettings();
  return (
    <View testID="working" role="region" aria-label={working.title}>
      <Head className="pb-1">{working.title}</Head>
      <View role="list">
        {working.terms.map((t, i) => (
          <View key={i} role="listitem" testID="term" className="border-t border-line py-1">
            <Line term={t} unit={working.unit} job={job} settings={settings} />
          </View>
        ))}
      </View>
      {working.total !== null ? (
        <View className="flex-row justify-between border-t-2 border-graphite py-2">
          <Body className="font-strong">
            {working.unit === "mm" || working.unit === "%" ? "together" : "counts as"}
          </Body>
          <Mono testID="working-total" className="font-monoStrong">
            {shown(working.total, working.unit, settings)}
          </Mono>
        </View>
      ) : null}
    </View>
  );
}

function Line({ term, unit, job, settings }: { term: Term; unit: Working["unit"]; job: string; settings: Settings }) {
  return (
    <>
      <View className="flex-row items-baseline justify-between gap-3">
        {term.link ? (
          <Link
            href={thingHref(job, term.link.thing, term.link.of)}
            className="min-h-touch flex-1 py-3 font-text text-body text-harbour underline"
          >
            {term.text}
          </Link>
        ) : (
          <Body className="flex-1 py-1">{term.text}</Body>
        )}
        {term.value === undefined ? null : <Mono>{shown(term.value, unit, settings)}</Mono>}
      </View>
      {term.detail ? <Small>{term.detail}</Small> : null}
      {term.source ? <Small>{term.source}</Small> : null}
      {term.fallback ? <Small className="font-medium text-ochre">rests on a fallback</Small> : null}
    </>
  );
}
