import { WAYS, type Way } from "@gray-bench/core/wireprep/result";
import { MOST_PANELS, type BatchAsked } from "@gray-bench/core/wireprep/batch";
import { byText } from "@gray-bench/core/design/order";
import { router } from "expo-router";
import { useMemo, useState } from "react";
import { ScrollView, View } from "react-native";
import { Button, LinkLine } from "../kit/Button";
import { Choice } from "../kit/Choice";
import { Field } from "../kit/Field";
import { formatTotal, keepTags } from "../kit/format";
import { jobHref } from "../kit/links";
import { Select } from "../kit/Select";
import { useSettings } from "../kit/settings";
import { Failed, Loading } from "../kit/States";
import { Body, Head, Small } from "../kit/Text";
import { leftText } from "./Batches";
import { batchHref, type Props } from "./choice";
import { minutesText, WAY_TEXTS } from "./say";
import { useMakeBatch, useOutlook } from "./useBatches";

const BENCH = "the bench";

/** Which leads are made now, on which machine, in which order; what that comes to is seen before it is made. */
export function NewBatch({ job, result, rules }: Props) {
  const settings = useSettings();
  const faces = useMemo(() => [...new Set(result.leads.map((l) => l.face))].sort(byText), [result]);
  const machines = rules.machines.map((m) => m.name);
  const [chosen, setChosen] = useState<readonly string[]>([]);
  const [machine, setMachine] = useState(result.batches.find((b) => b.machine)?.machine ?? BENCH);
  const [way, setWay] = useState<Way>(result.batches[0]?.way ?? "least");
  const [panels, setPanels] = useState("1");
  const [takes, setTakes] = useState(false);
  const [why, setWhy] = useState("");
  const [name, setName] = useState(settings.name);
  const doubted = result.leads.filter((l) => l.fallback && (chosen.length === 0 || chosen.includes(l.face)));
  const n = Number(panels);
  const right = Number.isInteger(n) && n >= 1 && n <= MOST_PANELS;
  const asked: Omit<BatchAsked, "name"> | null = right
    ? {
        faces: [...chosen],
        panels: n,
        machine: machine === BENCH ? null : machine,
        way,
        fallbacks: takes ? { who: name.trim() || "not named yet", why: why.trim() || "not said yet" } : null,
      }
    : null;
  // What is typed as name and reason changes nothing of the order.
  const looked = useMemo(
    () => asked && { ...asked, fallbacks: asked.fallbacks && { who: "outlook", why: "outlook" } },
    // eslint-disable-next-line react-hooks/exhaustive-deps
    [JSON.stringify([chosen, n, machine, way, takes])],
  );
  const outlook = useOutlook(job.code, looked);
  const make = useMakeBatch(job.code);
  const plan = outlook.data?.plan;
  const lacking =
    name.trim() === ""
      ? "Say your name."
      : takes && why.trim() === ""
        ? "Say why leads on fallback lengths are made."
        : null;
  const done = (): void => {
    if (!asked || lacking) return;
    settings.change({ name: name.trim() });
    make.mutate(
      { ...asked, who: name.trim() },
      { onSuccess: (reply) => router.replace(batchHref(job.code, reply.summary.name)) },
    );
  };
  return (
    <ScrollView className="flex-1" contentContainerClassName="mx-auto w-full max-w-190 gap-4 p-3" testID="making-batch">
      <View className="flex-row flex-wrap items-center justify-between">
        <Head>Make a batch</Head>
        <LinkLine href={jobHref(job.code, "wireprep")} label="All batches" />
      </View>
      <View className="gap-2">
        <Small>Of which faces; all where none is chosen</Small>
        <View className="flex-row flex-wrap gap-2" role="group" aria-label="Faces">
          {faces.map((f) => (
            <Button
              key={f}
              label={keepTags(f === "" ? "not placed" : f)}
              pressed={chosen.includes(f)}
              onPress={() => setChosen(chosen.includes(f) ? chosen.filter((c) => c !== f) : [...chosen, f])}
              testID={`face-${f}`}
            />
          ))}
        </View>
      </View>
      <View className="flex-row flex-wrap gap-3">
        <View className="w-45">
          <Select
            label="Made on"
            value={machine}
            choices={[...machines, BENCH]}
            choose={(v) => setMachine(v || BENCH)}
            testID="batch-machine"
          />
        </View>
        <View className="w-30">
          <Field label="Equal panels" value={panels} change={setPanels} testID="batch-panels" />
        </View>
      </View>
      {right ? null : (
        <Small role="alert" className="text-brick">
          A whole number from 1 to {MOST_PANELS}.
        </Small>
      )}
      <Choice<Way>
        label="In which order"
        value={way}
        options={WAYS.map((w) => [w, WAY_TEXTS[w]] as const)}
        choose={setWay}
        testID="batch-way"
      />
      {doubted.length > 0 ? (
        <View className="gap-2 border-l-4 border-ochre p-3">
          <Body>
            {doubted.length === 1 ? "1 lead rests" : `${doubted.length} leads rest`} on a fallback length and{" "}
            {doubted.length === 1 ? "is" : "are"} left out:{" "}
            {doubted
              .slice(0, 12)
              .map((l) => l.wire)
              .join(" ")}
            {doubted.length > 12 ? " …" : ""}
          </Body>
          <Button label="I take them on" pressed={takes} onPress={() => setTakes(!takes)} testID="take-fallbacks" />
          {takes ? <Field label="Why" value={why} change={setWhy} testID="fallback-why" /> : null}
        </View>
      ) : null}
      {outlook.error ? <Failed error={outlook.error} /> : null}
      {outlook.isPending && looked ? <Loading text="Ordering the leads" /> : null}
      {plan && !outlook.error ? (
        <View className="gap-1 border border-line p-3" testID="outlook">
          <Body className="font-strong text-name">
            {plan.chains.flat().length} on {plan.machine ?? "no machine"}, {plan.bench.length} at the bench;{" "}
            {formatTotal(plan.metres * 1000, settings)}
          </Body>
          <Body>
            {minutesText(plan.minutes.machine)} with the machine, {minutesText(plan.minutes.bench)} all at the bench,{" "}
            {minutesText(plan.minutes.hand)} all by hand
          </Body>
          {plan.chains.length > 0 ? (
            <Small>
              on the machine {WAYS.map((w) => `${WAY_TEXTS[w]} ${minutesText(plan.ways[w])}`).join(", ")}; bound{" "}
              {minutesText(plan.boundMinutes)}
            </Small>
          ) : null}
          {plan.left.length > 0 ? <Small className="text-ochre">left out: {leftText(plan)}</Small> : null}
        </View>
      ) : null}
      <View className="w-60">
        <Field label="Your name" value={name} change={setName} testID="batch-who" />
      </View>
      {make.error ? <Failed error={make.error} /> : null}
      {lacking && (name.trim() !== "" || takes) ? <Small className="text-brick">{lacking}</Small> : null}
      <View className="flex-row">
        <Button
          label={make.isPending ? "Making it …" : "Make this batch"}
          kind="solid"
          disabled={!plan || outlook.error !== null || lacking !== null || make.isPending}
          onPress={done}
          testID="make-batch"
        />
      </View>
    </ScrollView>
  );
}
