import { lookUp } from "@gray-bench/core/design/lookup";
import type { Design } from "@gray-bench/core/design/model";
import type { Colours } from "@gray-bench/core/wiring/landings";
import { explain, type Context, type Subject } from "@gray-bench/core/routes/explain";
import { MARKS, marksOf, type RoutesResult, type WireEnd, type WireRoute } from "@gray-bench/core/routes/result";
import { wayInWords } from "@gray-bench/core/routes/way";
import { Link } from "expo-router";
import { useMemo, useState } from "react";
import { View } from "react-native";
import type { EndTreatment } from "@gray-bench/core/design/model";
import { OnPages } from "../attachments/OnPages";
import { Acts } from "../edits/Acts";
import { choose } from "../kit/choice";
import { Button } from "../kit/Button";
import { formatSize, keepTags } from "../kit/format";
import { thingHref } from "../kit/links";
import { useSettings } from "../kit/settings";
import { Body, Mono, Small } from "../kit/Text";
import { EndSign, WireSwatch } from "../kit/WireSign";
import { Sources } from "../library/Sources";
import { netActs, wireActs } from "@gray-bench/core/routes/wire-acts";
import { WorkingTable } from "../working/WorkingTable";

interface Props {
  job: string;
  result: RoutesResult;
  wire: WireRoute;
  context: Context;
  colours: Colours;
  /** Whether the other wires of its net are drawn too. */
  others: boolean;
}

const SUBJECTS: { of: "length" | "colour" | "size"; label: string }[] = [
  { of: "length", label: "length" },
  { of: "colour", label: "colour" },
  { of: "size", label: "size" },
];

/** One wire: ends, way in words, and the working of whichever number is asked for. */
export function WireDetails({ job, result, wire, context, colours, others }: Props) {
  const settings = useSettings();
  const [of, setOf] = useState<Subject["of"]>("length");
  const working = useMemo(
    () => explain(result, { of, wire: wire.id } as Subject, context),
    [result, of, wire.id, context],
  );
  const colour = colours.get(wire.id)?.value ?? null;
  const acts = useMemo(() => wireActs(context.design, wire), [context.design, wire]);
  const ofNet = useMemo(() => (wire.net === null ? [] : netActs(context.design, wire.net)), [context.design, wire.net]);
  const words = useMemo(() => wayInWords(result, wire), [result, wire]);
  return (
    <View testID="wire-details" className="gap-3 p-3">
      {words ? <Body testID="way">{keepTags(words)}</Body> : null}
      {wire.noWay ? (
        <View role="alert" className="border-l-4 border-brick pl-3">
          <Body>No length: {keepTags(wire.noWay)}.</Body>
        </View>
      ) : null}
      {marksOf(wire, colour).map((m) => (
        <Small key={m} className="font-medium text-ochre">
          {MARKS[m]}
        </Small>
      ))}
      <View className="flex-row flex-wrap items-center gap-2" role="group" aria-label="Why this length, colour or size">
        <Body className="font-medium">Why this</Body>
        {SUBJECTS.map((s) => (
          <Button key={s.of} label={s.label} pressed={of === s.of} onPress={() => setOf(s.of)} testID={`why-${s.of}`} />
        ))}
      </View>
      {working ? <WorkingTable working={working} job={job} /> : null}
      <View className="flex-row flex-wrap items-center gap-3">
        <WireSwatch colour={colour} />
        <Body>
          {colour ?? "no colour"} · {wire.sizeMm2 ? formatSize(wire.sizeMm2.value, settings) : "no size"} ·{" "}
          {wire.class ?? "no class"}
          {wire.net ? ` · net ${wire.net}` : ""}
        </Body>
      </View>
      <Acts job={job} acts={acts} label="Change this wire" about={wire.id} />
      <OnPages job={job} kind="wire" of={wire.id} />
      {wire.net === null ? null : (
        <View className="gap-2">
          <View className="flex-row flex-wrap items-center gap-2">
            <Body className="font-medium">Net {wire.net}</Body>
            <Button
              label={others ? "Hide its other wires" : "Show its other wires"}
              pressed={others}
              onPress={() => choose({ others: others ? undefined : "net" })}
              testID="others"
            />
          </View>
          <Acts job={job} acts={ofNet} label="Change its net" about={wire.net} testID="net" />
        </View>
      )}
      <View>
        <End job={job} word="from" at={wire.fromRef} end={wire.from} treatment={wire.endFrom} />
        <PinSource job={job} design={context.design} at={wire.fromRef} />
        <End job={job} word="to" at={wire.toRef} end={wire.to} treatment={wire.endTo} />
        <PinSource job={job} design={context.design} at={wire.toRef} />
      </View>
    </View>
  );
}

/** Where the pins of the part at an end are told. */
function PinSource({ job, design, at }: { job: string; design: Design; at: WireRoute["fromRef"] }) {
  const look = lookUp(design);
  const part = look.parts.get(look.devices.get(at?.device ?? "")?.part ?? "");
  return <Sources job={job} part={part} fields={["pins"]} testID="pin-source" />;
}

function End({
  job,
  word,
  at,
  end,
  treatment,
}: {
  job: string;
  word: string;
  at: WireRoute["fromRef"];
  end: WireEnd | null;
  treatment: EndTreatment | null;
}) {
  if (!at) {
    return <Small className="py-2">{word}: this end is missing</Small>;
  }
  return (
    <Link href={thingHref(job, "device", at.device)} className="block border-t border-line">
      <View className="min-h-touch w-full flex-row items-center gap-2">
        <Small className="w-9">{word}</Small>
        <Mono className="text-harbour underline">
          {at.device}:{at.pin}
        </Mono>
        <Small className="flex-1">{end ? end.face : "no place"}</Small>
        <EndSign end={treatment} />
        <Small>{treatment ?? "no rule"}</Small>
      </View>
    </Link>
  );
}
