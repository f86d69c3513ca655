import type { Arrival, ArrivalJob, ArrivalOutlook } from "@gray-bench/contract/intake";
import { router } from "expo-router";
import { useEffect, useState } from "react";
import { View } from "react-native";
import { Changes, Unfitting } from "../edits/Outlook";
import { Button } from "../kit/Button";
import { Field } from "../kit/Field";
import { FileLink } from "../kit/FileLink";
import { formatCount, keepTags } from "../kit/format";
import { jobHref } from "../kit/links";
import { SeveritySign } from "../kit/Severity";
import { Failed, Loading } from "../kit/States";
import { Body, Head, Mono, Small } from "../kit/Text";
import { KeepMatching } from "./KeepMatching";
import { isKnown, useArrivalOutlook, useTake, type useArrival } from "../queries/useArrival";

/** What the files become: the job they are for, what is not read, what is missing, what changes. */
export function Outcome({ arrival, act }: { arrival: Arrival; act: ReturnType<typeof useArrival> }) {
  const { data, error, refetch } = useArrivalOutlook(arrival);
  const take = useTake(arrival.id);
  const known = isKnown(arrival);
  const named = (["code", "title", "revision"] as const).every((f) => arrival.job[f] !== "");
  const o = data?.outlook;
  const blocked = !known || !named || act.change.isPending || take.isPending || !o || o.taken || o.already;
  return (
    <View className="gap-4 p-3" testID="outcome">
      <JobFields arrival={arrival} act={act} />
      {!known ? <Small>Nothing is known of the files yet: say of one at least what it tells.</Small> : null}
      {known && !data && !error ? <Loading text="Putting the files together" /> : null}
      {known && error ? <Failed error={error} retry={() => void refetch()} /> : null}
      {known && data ? <Holds data={data} /> : null}
      {take.error ? <Failed error={take.error} /> : null}
      <View className="gap-2">
        <Button
          kind="solid"
          label={take.isPending ? "Taking it over …" : takeText(arrival)}
          disabled={blocked}
          onPress={() =>
            take.mutate(arrival.version, { onSuccess: (reply) => router.replace(jobHref(reply.job.code)) })
          }
          testID="arrival-take"
        />
        {known && !named ? <Small>It needs a code, a title and a revision first.</Small> : null}
        {o?.taken ? (
          <Small className="text-brick">
            {o.code} already has another design at revision {o.revision}. Write another revision.
          </Small>
        ) : null}
        {o?.already ? (
          <Small>This is the same design that {o.code} already has: there is nothing to take over.</Small>
        ) : null}
      </View>
      {known && data ? <Told arrival={arrival} data={data} /> : null}
      {known ? <KeepMatching arrival={arrival} /> : null}
    </View>
  );
}

const takeText = ({ of, job }: Arrival): string =>
  of === null
    ? job.code === ""
      ? "Make the job"
      : `Make job ${job.code}`
    : `Take revision ${job.revision || "…"} over`;

/** Our words for what no table says, and how wide each is written. */
const FIELDS: readonly (readonly [keyof ArrivalJob, string, string])[] = [
  ["code", "Job code", "w-[58%]"],
  ["revision", "Revision", "w-[38%]"],
  ["title", "Title", "w-full"],
  ["customer", "Customer", "w-[54%]"],
  ["due", "Due, as 2027-02-19", "w-[42%]"],
];

/** Written as soon as somebody stops typing. */
const PAUSE_MS = 500;

function JobFields({ arrival, act }: { arrival: Arrival; act: ReturnType<typeof useArrival> }) {
  const [job, setJob] = useState(arrival.job);
  const [typed, setTyped] = useState(false);
  const { mutate } = act.change;
  useEffect(() => {
    if (!typed) return;
    const later = setTimeout(() => {
      setTyped(false);
      mutate({ to: (said) => ({ ...said, job: trimmed(job) }) });
    }, PAUSE_MS);
    return () => clearTimeout(later);
  }, [job, typed, mutate]);
  // What was undone, or written in another window, is shown.
  const [seen, setSeen] = useState(arrival.job);
  if (seen !== arrival.job && !typed) {
    setSeen(arrival.job);
    setJob(arrival.job);
  }
  return (
    <View className="flex-row flex-wrap justify-between gap-y-2">
      {FIELDS.map(([id, label, width]) => (
        <View key={id} className={width}>
          <Field
            label={label}
            value={job[id]}
            change={(text) => {
              setJob({ ...job, [id]: text });
              setTyped(true);
            }}
            testID={`job-${id}`}
          />
        </View>
      ))}
    </View>
  );
}

const trimmed = (job: ArrivalJob): ArrivalJob =>
  Object.fromEntries(Object.entries(job).map(([k, v]) => [k, (v as string).trim()])) as unknown as ArrivalJob;

const COUNTS: readonly (readonly [keyof ArrivalOutlook["counts"], string, string])[] = [
  ["devices", "device", "devices"],
  ["wires", "wire", "wires"],
  ["strips", "strip", "strips"],
  ["cables", "cable", "cables"],
  ["nets", "net", "nets"],
  ["parts", "part", "parts"],
];

/** What the tables hold together, and why they cannot be taken where that is so. */
function Holds({ data }: { data: ArrivalOutlook }) {
  const { counts, refused } = data;
  const some = COUNTS.filter(([id]) => counts[id] > 0);
  return (
    <View className="gap-4">
      {some.length > 0 ? (
        <View testID="counts">
          <Head>What it holds</Head>
          <Body>
            {some.map(([id, one, many]) => `${formatCount(counts[id])} ${counts[id] === 1 ? one : many}`).join(", ")}
          </Body>
        </View>
      ) : null}
      {refused && refused.faults.length > 0 ? (
        <View role="alert" className="gap-1 border-l-4 border-brick pl-3" testID="arrival-faults">
          <Head>It cannot be taken like this</Head>
          {refused.faults.map((f, i) => (
            <View key={i}>
              <Mono className="break-all text-small">{FAULT_WORDS[f.path] ?? f.path}</Mono>
              <Small>
                found {f.found}; expected {f.expected}
              </Small>
            </View>
          ))}
        </View>
      ) : null}
    </View>
  );
}

const FAULT_WORDS: Readonly<Record<string, string>> = Object.fromEntries(
  FIELDS.map(([id, label]) => [`job.${id}`, label]),
);

function Told({ arrival, data }: { arrival: Arrival; data: ArrivalOutlook }) {
  const { notRead, notReadCount, lacks, outlook } = data;
  return (
    <View className="gap-4">
      {notReadCount > 0 ? (
        <View className="gap-1" testID="not-read">
          <View className="flex-row items-center gap-1">
            <SeveritySign severity="check" />
            <Head>{formatCount(notReadCount)} not read</Head>
          </View>
          <FileLink
            href={`/api/arrivals/${arrival.id}/not-read.csv`}
            label="Download all as CSV"
            testID="not-read-csv"
          />
          <View role="list">
            {notRead.slice(0, MOST_SHOWN).map((n, i) => (
              <View key={i} role="listitem" className="border-t border-line py-1">
                <Small>
                  {[n.table, n.line === null ? [] : `line ${n.line}`, n.heading ?? []].flat().join(", ")}
                  {n.line !== null && n.row ? ": the row is left out" : ""}
                </Small>
                <Mono className="break-words text-small">{keepTags(n.found)}</Mono>
                <Small>wanted: {n.wanted}</Small>
              </View>
            ))}
          </View>
          {notReadCount > MOST_SHOWN ? <Small>and {formatCount(notReadCount - MOST_SHOWN)} more</Small> : null}
        </View>
      ) : null}
      {outlook && outlook.replaces !== null ? (
        <View className="gap-1" testID="revision">
          <Head>
            What revision {outlook.revision} changes against {outlook.replaces}
          </Head>
          <Changes things={outlook.things} />
          <Unfitting edits={outlook.unfitting} />
        </View>
      ) : null}
      {lacks.length > 0 ? (
        <View className="gap-1" testID="lacks">
          <Head>What the design lacks</Head>
          <Small>Nothing of it keeps the job from being made; it can be mended there.</Small>
          <View role="list">
            {lacks.map((l) => (
              <View
                key={`${l.severity} ${l.kind}`}
                role="listitem"
                className="flex-row gap-2 border-t border-line py-1"
              >
                <View className="pt-1">
                  <SeveritySign severity={l.severity} />
                </View>
                <View className="min-w-0 flex-1">
                  <Body>
                    {l.kind}, {formatCount(l.count)} {l.count === 1 ? "place" : "places"}
                  </Body>
                  <Small>{keepTags(`${l.count > 1 ? "such as: " : ""}${l.text}`)}</Small>
                </View>
              </View>
            ))}
          </View>
        </View>
      ) : null}
    </View>
  );
}

const MOST_SHOWN = 30;
