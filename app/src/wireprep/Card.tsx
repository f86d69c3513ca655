import { useMemo, useRef, useState } from "react";
import { ScrollView, Text, View } from "react-native";
import { BigButton, Button, LinkLine } from "../kit/Button";
import { choose } from "../kit/choice";
import { Field } from "../kit/Field";
import { formatLength, formatSize, keepTags } from "../kit/format";
import { useSettings } from "../kit/settings";
import { Empty, Failed, Loading } from "../kit/States";
import { Tabs } from "../kit/Tabs";
import { Body, Head, Mono, Small } from "../kit/Text";
import { useKeys } from "../kit/useKeys";
import { BatchNotes } from "./BatchNotes";
import { batchHref, type Props } from "./choice";
import { EndText } from "./EndText";
import { LeadPicture } from "./LeadPicture";
import { MachineState } from "./MachineState";
import { leadsOfBatch } from "./order";
import { useBatch, useWireMachines, wireMachineOf, type Where } from "./useBatches";

const SHOWS = [
  ["todo", "To do"],
  ["machine", "At the machine"],
  ["made", "Made"],
  ["all", "All"],
] as const;

const REASONS = ["cut short", "strip bad", "crimp bad", "wrong label", "lost", "design changed"] as const;
/** A finger that moves further than this turns the card over, px. */
const SWIPE_PX = 60;

/** For whoever makes leads: the one at hand, large; done, scrapped, again; the next by a swipe or one button. */
export function Card({ job, choice, batch: name }: Props & { batch: string }) {
  const settings = useSettings();
  const batch = useBatch(job.code, name);
  const machines = useWireMachines();
  const [asking, setAsking] = useState<string | null>(null);
  const from = useRef<{ x: number; y: number } | null>(null);
  const { data } = batch;
  const all = useMemo(() => (data ? leadsOfBatch(data.batch) : []), [data]);
  const some = (where: Where): boolean => all.some((l) => batch.whereIs(l.lead.wire) === where);
  // Where nothing is left for hands, what the machine is at.
  const first = !some("to make") && some("at the machine") ? "machine" : "todo";
  const show = SHOWS.find(([s]) => s === choice.of)?.[0] ?? first;
  const wanted = all.filter(({ lead }) => {
    const where = batch.whereIs(lead.wire);
    return (
      show === "all" ||
      (show === "made" ? where === "made" : show === "machine" ? where === "at the machine" : where === "to make")
    );
  });
  const at = Math.max(
    0,
    wanted.findIndex((l) => l.lead.wire === choice.lead),
  );
  // One that was just done is still the one at hand, until somebody goes on.
  const now = all.find((l) => l.lead.wire === choice.lead) ?? wanted[0];
  const go = (to: (typeof all)[number] | undefined): void => {
    setAsking(null);
    if (to) choose({ lead: to.lead.wire }, true);
  };
  const inList = wanted.some((l) => l === now);
  const next = inList
    ? wanted[at + 1]
    : (wanted.find((l) => all.indexOf(l) > (now ? all.indexOf(now) : -1)) ?? wanted[0]);
  const before = inList ? wanted[at - 1] : undefined;
  useKeys({ ArrowRight: () => go(next), ArrowLeft: () => go(before) });
  if (batch.loading) return <Loading text={`Opening ${name}`} />;
  if (!data)
    return batch.error ? (
      <Failed error={batch.error} retry={batch.retry} />
    ) : (
      <Empty title="No such batch" text="Look at the list of batches." />
    );
  const { machine } = data.batch.plan;
  const state = now && batch.states.get(now.lead.wire);
  const where = now && batch.whereIs(now.lead.wire);
  const mates = now
    ? all.filter(
        (l) =>
          l !== now &&
          [l.lead.from.shared, l.lead.to.shared].some(
            (s) => s !== null && (s === now.lead.from.shared || s === now.lead.to.shared),
          ),
      )
    : [];
  // With what waits on the device: who ticks sees it count at once.
  const made = all.filter((l) => batch.whereIs(l.lead.wire) === "made").length;
  const last = [...batch.events]
    .filter((e) => e.run === undefined && e.who === batch.who && e.what !== "undone")
    .filter((e) => !batch.events.some((u) => u.what === "undone" && u.of === e.id))
    .sort((a, b) => (a.at < b.at ? -1 : 1))
    .at(-1);
  return (
    <View className="min-h-0 flex-1">
      <Tabs
        label="Which leads"
        now={show}
        tabs={SHOWS.map(([id, title]) => ({ id, title, href: batchHref(job.code, name, { show: "card", of: id }) }))}
      />
      <ScrollView
        className="flex-1"
        contentContainerClassName="mx-auto w-full max-w-160 gap-3 p-3"
        testID="lead-card-page"
      >
        <View className="flex-row flex-wrap items-center justify-between gap-2">
          <Head testID="card-count">
            {name}: {made} of {all.length} made
          </Head>
          <LinkLine href={batchHref(job.code, name)} label="The whole batch" testID="to-batch" />
        </View>
        {machine ? <MachineState machine={wireMachineOf(machines.data, machine)} name={machine} /> : null}
        {now && state ? (
          <View
            className="gap-2 border-2 border-graphite bg-tray p-3"
            testID="lead-card"
            onTouchStart={(e) => (from.current = { x: e.nativeEvent.pageX, y: e.nativeEvent.pageY })}
            onTouchEnd={(e) => {
              const begun = from.current;
              from.current = null;
              if (!begun) return;
              const [dx, dy] = [e.nativeEvent.pageX - begun.x, e.nativeEvent.pageY - begun.y];
              if (Math.abs(dx) < SWIPE_PX || Math.abs(dx) < 2 * Math.abs(dy)) return;
              go(dx < 0 ? next : before);
            }}
          >
            <View className="flex-row items-baseline justify-between gap-2">
              <Mono className="font-monoStrong text-figure" testID="card-wire">
                {now.lead.wire}
              </Mono>
              <Body className="font-medium" testID="card-state">
                {where === "made" ? `made by ${state.made!.who}` : where}
                {state.attempt > 1 && where !== "made" ? ", again" : ""}
              </Body>
            </View>
            {state.why && where !== "made" ? (
              <Small className="font-medium text-brick" testID="card-why">
                {state.why}
              </Small>
            ) : null}
            <View className="flex-row flex-wrap items-baseline gap-x-4">
              <Text className="font-strong text-great text-graphite" testID="card-length">
                {formatLength(now.lead.lengthMm, settings)}
              </Text>
              <Text className="font-strong text-figure text-graphite" testID="card-size">
                {formatSize(now.lead.sizeMm2, settings)} {now.lead.colour ?? "colour open"}
              </Text>
            </View>
            <LeadPicture lead={now.lead} height={84} />
            <View className="flex-row gap-3">
              <EndText end={now.lead.from} />
              <EndText end={now.lead.to} right />
            </View>
            <Small>
              {now.lead.type ? `off ${now.lead.type}, ` : ""}
              {now.lead.strand}; bundle {keepTags(now.lead.bundle)}
              {now.why ? `; at the bench: ${now.why}` : ""}
            </Small>
            {mates.length > 0 ? (
              <Body className="font-medium">crimped together with {mates.map((m) => m.lead.wire).join(", ")}</Body>
            ) : null}
            {now.lead.fallback ? <Small className="text-ochre">its length rests on a fallback</Small> : null}
            <View className="flex-row flex-wrap gap-2 pt-1">
              {where === "to make" ? (
                <>
                  <BigButton
                    label="Done"
                    kind="solid"
                    grows
                    onPress={() => {
                      batch.say([{ lead: now.lead.wire, attempt: state.attempt, what: "made" }]);
                      go(next);
                    }}
                    testID="lead-done"
                  />
                  <BigButton
                    label="Scrapped"
                    text="Scrapped …"
                    expanded={asking === "scrapped"}
                    onPress={() => setAsking(asking === "scrapped" ? null : "scrapped")}
                    testID="lead-scrap"
                  />
                </>
              ) : null}
              {where === "made" ? (
                <BigButton
                  label="Make it again"
                  text="Scrapped, again …"
                  grows
                  expanded={asking === "again"}
                  onPress={() => setAsking(asking === "again" ? null : "again")}
                  testID="lead-again"
                />
              ) : null}
            </View>
            {asking ? (
              <Why
                key={`${asking} ${now.lead.wire}`}
                say={(why) => {
                  setAsking(null);
                  batch.say([
                    {
                      lead: now.lead.wire,
                      attempt: state.attempt,
                      what: asking === "again" ? "again" : "scrapped",
                      why,
                    },
                  ]);
                  choose({ lead: now.lead.wire, of: "todo" }, true);
                }}
              />
            ) : null}
          </View>
        ) : (
          <View className="gap-2" testID="card-empty">
            <Body className="font-strong text-lead">
              {data.summary.made === data.summary.leads ? "All leads are made." : EMPTY[show]}
            </Body>
            <Body>Tie the bundles with their tickets, in the order they are wired.</Body>
          </View>
        )}
        <View className="flex-row gap-2">
          <Button label="Back" disabled={!before} onPress={() => go(before)} testID="lead-before" />
          <View className="flex-1">
            <Button
              label={inList ? `Next (${at + 1} of ${wanted.length})` : `Next of ${wanted.length}`}
              disabled={!next}
              onPress={() => go(next)}
              testID="lead-next"
            />
          </View>
          {last ? (
            <Button
              label={`Undo ${last.lead}`}
              onPress={() => {
                batch.say([{ lead: last.lead, attempt: last.attempt, what: "undone", of: last.id }]);
                choose({ lead: last.lead }, true);
              }}
              testID="lead-undo"
            />
          ) : null}
        </View>
        <BatchNotes batch={batch} />
      </ScrollView>
    </View>
  );
}

const EMPTY: Record<(typeof SHOWS)[number][0], string> = {
  todo: "Nothing is left to do here: what is not made is at the machine.",
  machine: "Nothing is at the machine.",
  made: "Nothing is made yet.",
  all: "There are no leads.",
};

/** Why a lead is made again. */
function Why({ say }: { say(why: string): void }) {
  const [words, setWords] = useState("");
  return (
    <View className="gap-2 border-t border-line pt-2" testID="lead-why">
      <Small>Why? It is made again, with whatever is crimped to it.</Small>
      <View className="flex-row flex-wrap gap-2" role="group" aria-label="Why">
        {REASONS.map((r) => (
          <Button key={r} label={r} onPress={() => say(r)} testID={`why-${r}`} />
        ))}
      </View>
      <View className="flex-row items-end gap-2">
        <View className="min-w-0 flex-1">
          <Field label="Or in other words" value={words} change={setWords} testID="why-words" />
        </View>
        <Button
          label="Save"
          disabled={words.trim() === ""}
          onPress={() => say(words.trim().slice(0, 200))}
          testID="why-say"
        />
      </View>
    </View>
  );
}
