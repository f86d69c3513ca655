import type { BatchSummary } from "@gray-bench/contract/wireprep";
import { explain } from "@gray-bench/core/wireprep/explain";
import { listed } from "@gray-bench/core/design/open-points";
import type { BatchPlan, Minutes } from "@gray-bench/core/wireprep/result";
import { partedCrimps } from "@gray-bench/core/wireprep/tables";
import { Link } from "expo-router";
import { ScrollView, View } from "react-native";
import { Button, LinkLine } from "../kit/Button";
import { choose } from "../kit/choice";
import { FileLinks } from "../kit/FileLinks";
import { formatMoment, formatTotal, keepTags } from "../kit/format";
import { jobHref, shopHref } from "../kit/links";
import { useSettings } from "../kit/settings";
import { Empty, Failed, Loading } from "../kit/States";
import { Body, Head, Mono, Small } from "../kit/Text";
import { WorkingTable } from "../working/WorkingTable";
import { batchHref, type Props } from "./choice";
import { minutesText, WAY_TEXTS } from "./say";
import { useBatches } from "./useBatches";

const FILES = [
  ["leads.csv", "Leads CSV"],
  ["wireprep.xlsx", "All tables XLSX"],
  ["bench.pdf", "Bench list PDF"],
  ["lead-labels.pdf", "Labels PDF"],
  ["bundles.pdf", "Bundle tickets PDF"],
] as const;

/** Batches that were made, what they would be enclosure by enclosure, and what the machine saves. */
export function Batches(props: Props) {
  const { job, result } = props;
  const batches = useBatches(job.code);
  if (result.leads.length === 0)
    return (
      <Empty
        title="No leads yet"
        text={
          result.notMade.length > 0
            ? `${result.notMade.length === 1 ? "1 wire is" : `${result.notMade.length} wires are`} not led yet: the open points say why.`
            : "The design has no wires."
        }
      />
    );
  const { data } = batches;
  return (
    <ScrollView className="flex-1" contentContainerClassName="mx-auto w-full max-w-280 gap-4 p-3" testID="batches">
      <View className="flex-row flex-wrap items-center justify-between gap-2">
        <View>
          <Head>Batches</Head>
          {data ? (
            <Small testID="batches-free">
              {data.free === 0 ? "every lead is in a batch" : `${data.free} of ${data.leads} leads are in no batch yet`}
            </Small>
          ) : null}
        </View>
        <Link
          href={jobHref(job.code, "wireprep", { show: "new" })}
          testID="new-batch"
          className="min-h-glove rounded-edge bg-verdigris px-4 py-3 font-medium text-name text-onVerdigris"
        >
          Make a batch
        </Link>
      </View>
      {batches.error && !data ? <Failed error={batches.error} retry={() => void batches.refetch()} /> : null}
      {batches.isPending ? <Loading text="Looking for batches" /> : null}
      {data && data.batches.length > 0 ? (
        <View role="list" className="border-t border-line">
          {[...data.batches].reverse().map((b) => (
            <MadeRow key={b.name} job={job.code} batch={b} />
          ))}
        </View>
      ) : null}
      <Savings {...props} />
      <View className="gap-2">
        <Head>As planned, enclosure by enclosure</Head>
        {result.batches.map((b) => (
          <PlanRow key={b.name} plan={b} {...props} />
        ))}
      </View>
      <PartedCrimps {...props} />
      <FileLinks job={job.code} files={FILES} label="Files of the leads" />
      <LinkLine href={shopHref("wireprep")} testID="prep-rules" label="Rules for ends, labels, machines and times" />
    </ScrollView>
  );
}

/** Clamps at which the bench puts one ferrule on two leads that are made apart. */
function PartedCrimps({ result, rules }: Props) {
  const parted = partedCrimps(result.leads);
  if (parted.length === 0) return null;
  return (
    <View className="gap-1" testID="parted">
      <Head>
        {parted.length} {parted.length === 1 ? "clamp" : "clamps"} for the bench
      </Head>
      <Small>
        No more than {rules.chainMost} leads are crimped together: here both are only stripped, and the bench crimps
        them. A bridge, or a second pin, would save each: {keepTags(listed(parted.map((p) => p.at)))}.
      </Small>
    </View>
  );
}

function MadeRow({ job, batch: b }: { job: string; batch: BatchSummary }) {
  const share = b.leads === 0 ? 0 : b.made / b.leads;
  const state =
    b.made === b.leads
      ? "ready"
      : b.endedAt !== null
        ? "ended"
        : `${b.leads - b.made} to go${b.again > 0 ? `, ${b.again} again` : ""}`;
  return (
    <View role="listitem">
      <Link
        href={batchHref(job, b.name)}
        testID={`batch-${b.name}`}
        className="block min-h-14 border-b border-line py-2"
      >
        <View className="w-full flex-row items-center gap-3">
          <Mono className="w-touch font-monoStrong text-name">{b.name}</Mono>
          <View className="min-w-0 flex-1 gap-1">
            <Body numberOfLines={1}>
              {b.machine ?? "bench"}
              {b.machine && b.bench > 0 ? `, ${b.bench} at the bench` : ""}
              {b.panels > 1 ? `, ${b.panels} panels` : ""}
            </Body>
            <View className="h-2 w-full border border-graphite" aria-hidden>
              <View className="h-full bg-verdigris" style={{ width: `${share * 100}%` }} />
            </View>
            <Small numberOfLines={1}>
              {b.who}, {formatMoment(b.at)}
            </Small>
          </View>
          <View className="items-end">
            <Mono>
              {b.made} of {b.leads}
            </Mono>
            <Small>{state}</Small>
          </View>
        </View>
      </Link>
    </View>
  );
}

const BY: readonly (readonly [keyof Minutes, string])[] = [
  ["machine", "with the machine"],
  ["bench", "all at the bench"],
  ["hand", "all by hand"],
];

const SHORT: Record<keyof Minutes, string> = { machine: "machine", bench: "bench", hand: "by hand" };

/** What the job takes each way, and what that saves; each tapped for what it is made of. */
function Savings({ job, result, rules, choice }: Props) {
  const { saved } = result;
  const most = Math.max(saved.machine, saved.bench, saved.hand, 1);
  const asked = choice.working === "bench" || choice.working === "hand" ? choice.working : null;
  const working = asked ? explain(result, { of: "saved", than: asked }, rules) : null;
  return (
    <View className="gap-2" testID="savings">
      <Head>Minutes for this job</Head>
      {BY.map(([by, text]) => (
        <View key={by} className="flex-row items-center gap-2">
          <Small className="w-30 text-cell">{text}</Small>
          <View className="h-5 min-w-0 flex-1">
            <View
              className={`h-full border border-graphite ${by === "machine" ? "bg-verdigris" : "bg-line"}`}
              style={{ width: `${(saved[by] / most) * 100}%` }}
            />
          </View>
          <Mono className="w-26 text-right" testID={`minutes-${by}`}>
            {minutesText(saved[by])}
          </Mono>
        </View>
      ))}
      <View className="flex-row flex-wrap gap-2">
        {(["bench", "hand"] as const).map((than) => {
          const { hours, money } = saved[than === "bench" ? "thanBench" : "thanHand"];
          return (
            <Button
              key={than}
              label={`${hours >= 0 ? "saves" : "costs"} ${Math.abs(Math.round(hours * 10) / 10)} h against ${than === "bench" ? "the bench" : "hands"}: ${Math.abs(Math.round(money))} at ${rules.hourPrice} an hour`}
              pressed={asked === than}
              onPress={() => choose({ working: asked === than ? undefined : than })}
              testID={`saved-${than}`}
            />
          );
        })}
      </View>
      {working ? <WorkingTable working={working} job={job.code} /> : null}
    </View>
  );
}

/** One enclosure as it would be made: the machine, the order, minutes each way against the bound. */
function PlanRow({ plan, job, result, rules, choice }: Props & { plan: BatchPlan }) {
  const settings = useSettings();
  const n = plan.chains.flat().length;
  const asked = BY.find(([by]) => choice.working === `${plan.name} ${by}`)?.[0];
  const working = asked ? explain(result, { of: "minutes", batch: plan.name, by: asked }, rules) : null;
  return (
    <View className="gap-2 border border-line p-3" testID={`plan-${plan.enclosure}`}>
      <View className="flex-row flex-wrap items-baseline justify-between gap-2">
        <Mono className="font-monoStrong text-name">{plan.enclosure || "no enclosure"}</Mono>
        <Body>
          {n > 0 ? `${n} on ${plan.machine}` : "none on a machine"}, {plan.bench.length} at the bench
          {plan.left.length > 0 ? `, ${plan.left.length} left` : ""}; {formatTotal(plan.metres * 1000, settings)}
        </Body>
      </View>
      <View className="flex-row flex-wrap gap-2">
        {BY.map(([by]) => (
          <Button
            key={by}
            label={`${SHORT[by]} ${minutesText(plan.minutes[by])}`}
            pressed={asked === by}
            onPress={() => choose({ working: asked === by ? undefined : `${plan.name} ${by}` })}
            testID={`plan-${plan.enclosure}-${by}`}
          />
        ))}
      </View>
      {n > 0 ? (
        <Small>
          order on the machine: {WAY_TEXTS[plan.way]} {minutesText(plan.ways[plan.way])}; least{" "}
          {minutesText(plan.ways.least)}, as listed {minutesText(plan.ways.list)}; no order takes less than{" "}
          {minutesText(plan.boundMinutes)}
        </Small>
      ) : null}
      {plan.left.length > 0 ? <Small className="text-ochre">left for later: {leftText(plan)}</Small> : null}
      {working ? <WorkingTable working={working} job={job.code} /> : null}
    </View>
  );
}

/** Why leads are left, each reason with its wires. */
export function leftText({ left }: Pick<BatchPlan, "left">): string {
  const byWhy = new Map<string, string[]>();
  for (const { wire, why } of left) byWhy.set(why, [...(byWhy.get(why) ?? []), wire]);
  return [...byWhy]
    .map(([why, wires]) => `${wires.slice(0, MOST_NAMED).join(" ")}${wires.length > MOST_NAMED ? " …" : ""}: ${why}`)
    .join("; ");
}

const MOST_NAMED = 12;
