import { alternatesFor } from "@gray-bench/core/kits/alternates";
import { lookUp } from "@gray-bench/core/design/lookup";
import type { Design } from "@gray-bench/core/design/model";
import { isShort, type Need, type StepStart } from "@gray-bench/core/kits/needs";
import { Link, type Href } from "expo-router";
import { useMemo, useState } from "react";
import { ScrollView, View } from "react-native";
import type { Act } from "@gray-bench/core/frame/act";
import { Acts } from "../edits/Acts";
import { Told } from "../edits/Told";
import type { Outcome } from "../queries/useEdits";
import { Button, LinkLine } from "../kit/Button";
import { choose } from "../kit/choice";
import { FileLinks } from "../kit/FileLinks";
import { formatDate, formatMoment, keepTags } from "../kit/format";
import { thingHref } from "../kit/links";
import { Empty, Failed, Loading } from "../kit/States";
import { Body, Head, Mono, Small } from "../kit/Text";
import type { Props } from "./choice";
import { shareText } from "./shareText";
import { StockLine } from "./StockLine";
import { useAmounts } from "./useAmounts";
import { useJobNeeds, useReservation } from "./useNeeds";

const FILES = [
  ["shortages.csv", "Shortages CSV"],
  ["purchase.csv", "Purchases CSV"],
  ["shortages.xlsx", "Both XLSX"],
] as const;

/** What the store lacks for this job before anybody starts: for which devices, which steps, and what would do instead. */
export function Missing({ job, design, choice }: Props) {
  const amounts = useAmounts();
  const needs = useJobNeeds(job.code, job.key);
  const { reserve, release } = useReservation(job.code);
  const [told, setTold] = useState<Outcome | null>(null);
  if (!needs.data)
    return needs.error ? (
      <Failed error={needs.error} retry={() => void needs.refetch()} />
    ) : (
      <Loading text="Asking the store" />
    );
  const { stock, starts, reservation, job: asking } = needs.data;
  const short = needs.data.needs.filter(isShort);
  const unknown = needs.data.needs.filter((n) => n.there === null);
  const busy = reserve.isPending || release.isPending;
  const error = reserve.error ?? release.error;
  return (
    <ScrollView className="flex-1" contentContainerClassName="mx-auto w-full max-w-245 gap-4 p-3" testID="missing">
      <StockLine stock={stock} />
      <Told outcome={told} testID="missing-told" />
      <View className="gap-2">
        <Body testID="wanted">
          {asking.wanted === null
            ? "The job has no due date: every delivery counts as in time."
            : `Kits are wanted on ${formatDate(asking.wanted)}; the job is due ${formatDate(asking.due!)}.`}
        </Body>
        {reservation ? (
          <Body testID="reservation">
            {reservation.releasing
              ? "What was reserved is given back as soon as the store answers."
              : `Reserved ${formatMoment(reservation.at)} by ${reservation.who}: ${reservation.lines.length} parts.`}
          </Body>
        ) : null}
        {stock.state === "none" ? null : (
          <View className="flex-row flex-wrap gap-2">
            <Button
              label={reservation ? "Reserve anew" : "Reserve all"}
              disabled={busy}
              onPress={() => reserve.mutate(false)}
              testID="reserve"
            />
            <Button
              label="Reserve what is there"
              disabled={busy}
              onPress={() => reserve.mutate(true)}
              testID="reserve-partly"
            />
            {reservation && !reservation.releasing ? (
              <Button label="Give back" disabled={busy} onPress={() => release.mutate()} testID="release" />
            ) : null}
          </View>
        )}
        {error ? <Failed error={error} /> : null}
      </View>
      <Steps starts={starts} judged={stock.at !== null} />
      <View className="gap-3" testID="shortages">
        <Head>
          {short.length === 0
            ? "Nothing is short"
            : `${short.length} ${short.length === 1 ? "part is" : "parts are"} short`}
        </Head>
        {short.length === 0 ? (
          <Empty
            title={stock.at === null ? "No levels are known" : "All that the store knows is there"}
            text={
              unknown.length > 0
                ? `${unknown.length} articles are not known to the store; they are not judged.`
                : "Every part is there in time."
            }
          />
        ) : null}
        {short.map((n) => (
          <Short
            key={`${n.part} ${n.unit}`}
            job={job.code}
            need={n}
            design={design}
            open={choice.part === n.part}
            laid={setTold}
          />
        ))}
      </View>
      {unknown.length > 0 ? (
        <View className="gap-1" testID="unknown">
          <Head>Not known to the store, and not judged</Head>
          <Small>{keepTags(unknown.map((n) => `${n.part} (${amounts.amount(n.needed, n.unit)})`).join(", "))}</Small>
        </View>
      ) : null}
      <FileLinks job={job.code} files={FILES} label="Files of what is missing" />
      <LinkLine href="/stock" testID="to-stock" label="What all jobs need together" />
    </ScrollView>
  );
}

/** Which steps can start with what is there. */
function Steps({ starts, judged }: { starts: readonly StepStart[]; judged: boolean }) {
  const amounts = useAmounts();
  if (!judged || starts.length === 0) return null;
  return (
    <View className="gap-1" testID="steps">
      <Head>
        {starts.filter((s) => s.lacks.length === 0).length} of {starts.length} steps can start
      </Head>
      <View className="flex-row flex-wrap gap-2">
        {starts.map((s) => (
          <View
            key={`${s.enclosure} ${s.step}`}
            className={`border px-2 py-1 ${s.lacks.length === 0 ? "border-line bg-tray" : "border-ochre"}`}
          >
            <Body>{keepTags(`${s.enclosure} ${s.step}`.trim())}</Body>
            <Small className={s.lacks.length === 0 ? "" : "text-ochre"}>
              {s.lacks.length === 0
                ? "can start"
                : keepTags(`lacks ${s.lacks.map((l) => `${amounts.amount(l.quantity, l.unit)} ${l.part}`).join(", ")}`)}
            </Small>
          </View>
        ))}
      </View>
    </View>
  );
}

function Short({
  job,
  need,
  design,
  open,
  laid,
}: {
  job: string;
  need: Need;
  design: Design;
  open: boolean;
  laid(outcome: Outcome): void;
}) {
  const share = need.jobs[0]!;
  const amounts = useAmounts();
  const tags = useMemo(
    () => [...lookUp(design).devices.values()].filter((d) => d.part === need.part).map((d) => d.tag),
    [design, need.part],
  );
  return (
    <View className="gap-2 border border-line bg-tray p-3" testID={`short-${need.part}`}>
      <View className="flex-row flex-wrap items-baseline justify-between gap-2">
        <Mono className="font-monoStrong text-name">{need.part}</Mono>
        <Mono className={`font-monoStrong ${share.missing > 0 ? "text-brick" : "text-ochre"}`}>
          {share.missing > 0
            ? `${amounts.amount(share.missing, need.unit)} missing`
            : `${amounts.amount(share.late, need.unit)} late`}
        </Mono>
      </View>
      <Body>{need.text}</Body>
      <Body testID={`share-${need.part}`}>
        {amounts.amount(need.needed, need.unit)} needed: {shareText(share, need.unit, amounts)}.
      </Body>
      {tags.length > 0 ? (
        <View className="flex-row flex-wrap gap-x-3">
          <Small className="py-3">for</Small>
          {tags.slice(0, MOST_TAGS).map((tag) => (
            <Link
              key={tag}
              href={thingHref(job, "device", tag)}
              className="min-h-touch min-w-touch py-3 font-mono text-cell text-harbour underline"
            >
              {keepTags(tag)}
            </Link>
          ))}
          {tags.length > MOST_TAGS ? <Small className="py-3">and {tags.length - MOST_TAGS} more</Small> : null}
        </View>
      ) : null}
      {tags.length > 0 ? (
        <View className="flex-row flex-wrap">
          <Button
            label={open ? "Close the alternatives" : "Alternatives"}
            pressed={open}
            onPress={() => choose({ part: open ? undefined : need.part }, true)}
            testID={`alternates-${need.part}`}
          />
          <LinkLine
            href={`/stock?${new URLSearchParams({ part: `${need.part} ${need.unit}` }).toString()}` as Href}
            testID={`others-${need.part}`}
            label="What other jobs want of it"
          />
        </View>
      ) : null}
      {open ? (
        <Alternates
          job={job}
          need={need}
          tags={tags}
          lacking={share.missing + share.late}
          design={design}
          laid={laid}
        />
      ) : null}
    </View>
  );
}

/** Parts that would do, with what differs; taken for what is missing or for all. */
function Alternates({
  job,
  need,
  tags,
  lacking,
  design,
  laid,
}: {
  job: string;
  need: Need;
  tags: readonly string[];
  lacking: number;
  design: Design;
  laid(outcome: Outcome): void;
}) {
  const found = useMemo(() => {
    const look = lookUp(design);
    const own = new Set(tags);
    const used = new Set(
      look.wires.flatMap(({ wire }) => [wire.from, wire.to]).flatMap((r) => (r && own.has(r.device) ? [r.pin] : [])),
    );
    return alternatesFor(look, need.part, used);
  }, [design, need.part, tags]);
  const some = Math.min(tags.length, Math.ceil(lacking));
  if (found.length === 0)
    return <Body testID="no-alternate">No part of the library has every pin that is in use.</Body>;
  return (
    <View role="list" className="gap-2">
      {found.map((a) => (
        <View
          key={a.part}
          role="listitem"
          testID={`alternate-${a.part}`}
          className="gap-1 border-l-4 border-verdigris pl-3"
        >
          <Mono className="font-monoStrong">{a.part}</Mono>
          <Body>{a.text}</Body>
          <Small className={a.named ? "" : "text-ochre"}>
            {a.named
              ? "named by the library as an alternate"
              : "of the same kind; the library does not name it as an alternate: look at it twice"}
          </Small>
          <Small>
            {a.differs.length === 0 ? "the same size, pins, loss and opening" : keepTags(a.differs.join("; "))}
          </Small>
          <Acts
            job={job}
            acts={[
              ...(some < tags.length ? [swapAct(need.part, a.part, tags.slice(tags.length - some), a.differs)] : []),
              swapAct(need.part, a.part, tags, a.differs),
            ]}
            label={`Take ${a.part}`}
            about={a.part}
            laid={laid}
            testID={`swap-${a.part}`}
          />
        </View>
      ))}
    </View>
  );
}

const MOST_TAGS = 12;

export const swapAct = (from: string, part: string, tags: readonly string[], differs: readonly string[]): Act => ({
  id: `swap-${tags.length}`,
  label: tags.length === 1 ? `Take it for ${tags[0]!}` : `Take it for ${tags.length}`,
  title: `${part} instead of ${from}`,
  about: `For ${tags.join(", ")}. ${differs.length === 0 ? "Nothing that is compared differs." : `It differs: ${differs.join("; ")}.`}`,
  kind: "swap part",
  payloads: tags.map((device) => ({ device, part })),
  asks: [],
  asIs: true,
});
