import type { RunNow } from "@gray-bench/contract/wireprep";
import type { Lead } from "@gray-bench/core/wireprep/result";
import { Link } from "expo-router";
import { useMemo, useState } from "react";
import { ScrollView, View } from "react-native";
import { Button, LinkLine } from "../kit/Button";
import { FileLink } from "../kit/FileLink";
import { choose } from "../kit/choice";
import { formatLength, formatMoment, formatSize, keepTags } from "../kit/format";
import { jobHref } from "../kit/links";
import { askedBy } from "../kit/api";
import { useSettings, type Settings } from "../kit/settings";
import { useTextScale } from "../kit/textScale";
import { Empty, Failed, Loading } from "../kit/States";
import type { TableColumn } from "../kit/table/column";
import { Table } from "../kit/table/Table";
import { Body, Head, Mono, Small } from "../kit/Text";
import { useWide } from "../kit/useWide";
import { VirtualList } from "../kit/VirtualList";
import { WireSwatch } from "../kit/WireSign";
import { leftText } from "./Batches";
import { BatchNotes } from "./BatchNotes";
import { batchHref, type Props } from "./choice";
import { LeadPicture } from "./LeadPicture";
import { MachineState } from "./MachineState";
import { labelsOfBatch } from "@gray-bench/core/wireprep/printed";
import { leadsOfBatch, type BatchLead } from "./order";
import { useBatch, useWireMachines, wireMachineOf, type Batch } from "./useBatches";

const ROW_PX = 52;

/** A batch: where it stands, its machine, its files, and each of its leads. */
export function BatchPage({ job, batch: name, choice, rules }: Props & { batch: string }) {
  const wide = useWide();
  const settings = useSettings();
  const scale = useTextScale();
  const batch = useBatch(job.code, name);
  const machines = useWireMachines();
  const { data } = batch;
  const leads = useMemo(() => (data ? leadsOfBatch(data.batch) : []), [data]);
  if (batch.loading) return <Loading text={`Opening ${name}`} />;
  if (!data)
    return batch.error ? (
      <Failed error={batch.error} retry={batch.retry} />
    ) : (
      <Empty title="No such batch" text="Look at the list of batches." />
    );
  const machine = data.batch.plan.machine;
  const has: Record<(typeof FILES)[number][2], boolean> = {
    always: true,
    machine: machine !== null,
    bench: data.batch.plan.bench.length > 0,
    labels: labelsOfBatch(data.batch, rules).length > 0,
  };
  const head = (
    <View className="gap-3 p-3" testID="batch-head">
      <View className="flex-row flex-wrap items-baseline justify-between gap-2">
        <Head className="text-title">
          {job.code} {name}
        </Head>
        <LinkLine href={jobHref(job.code, "wireprep")} label="All batches" testID="to-batches" />
      </View>
      <Body className="font-strong text-lead" testID="batch-count">
        {data.summary.made} of {data.summary.leads} made
        {data.summary.again > 0 ? `, ${data.summary.again} being made again` : ""}
        {data.summary.endedAt ? "; ended" : ""}
      </Body>
      <Small>
        revision {data.revision}, {data.summary.who}, {formatMoment(data.summary.at)}
        {data.batch.panels > 1 ? `, ${data.batch.panels} equal panels` : ""}
        {data.batch.fallbacks
          ? `; fallback lengths taken on by ${data.batch.fallbacks.who}: ${data.batch.fallbacks.why}`
          : ""}
      </Small>
      {data.changed.length > 0 ? (
        <View role="alert" className="border-l-4 border-ochre p-3" testID="batch-changed">
          <Body>
            The design makes {data.changed.length} of its leads otherwise by now: {data.changed.slice(0, 12).join(" ")}
            {data.changed.length > 12 ? " …" : ""}. Scrap them, or end the batch and make a new one.
          </Body>
        </View>
      ) : null}
      <Acts
        batch={batch}
        name={name}
        printers={has.labels ? (machines.data ?? []).filter((m) => m.takes === "labels").map((m) => m.name) : []}
      />
      {machine ? <MachineState machine={wireMachineOf(machines.data, machine)} name={machine} /> : null}
      {(machines.data ?? [])
        .filter((m) => m.takes === "labels" && (m.state === "waiting" || data.runs.some((r) => r.machine === m.name)))
        .map((m) => (
          <MachineState key={m.name} machine={m} name={m.name} />
        ))}
      <Runs runs={data.runs} />
      <Link
        href={batchHref(job.code, name, { show: "card" })}
        testID="to-card"
        className="min-h-14 rounded-edge border border-graphite px-4 py-4 text-center font-strong text-lead text-graphite"
      >
        Lead by lead
      </Link>
      <BatchNotes batch={batch} />
      <View className="flex-row flex-wrap gap-2" role="group" aria-label={`Files of ${name}`}>
        {FILES.filter(([, , when]) => has[when]).map(([file, label]) => (
          <FileLink
            key={file}
            href={`/api/jobs/${encodeURIComponent(job.code)}/batches/${name}/files/${file}`}
            label={label}
            testID={`batch-file-${file}`}
          />
        ))}
      </View>
      {data.batch.plan.left.length > 0 ? (
        <Small className="text-ochre">left out: {leftText(data.batch.plan)}</Small>
      ) : null}
    </View>
  );
  if (wide) {
    const chosen = leads.find((l) => l.lead.wire === choice.lead);
    return (
      <View className="min-h-0 flex-1 flex-row">
        <ScrollView className="w-105 grow-0 border-r border-line">{head}</ScrollView>
        <View className="min-h-0 min-w-0 flex-1">
          <View className="min-h-0 flex-1">
            <Table
              id="batch-leads"
              label={`Leads of ${name}`}
              rows={leads}
              columns={columnsFor(settings, batch)}
              keyOf={(l) => l.lead.wire}
              chosen={choice.lead}
              choose={(lead) => choose({ lead }, true)}
              rowTestID={(key) => `lead-${key}`}
              testID="batch-leads"
            />
          </View>
          {chosen ? (
            <View className="gap-2 border-t border-line p-3" testID="batch-lead">
              <View className="flex-row flex-wrap items-center gap-4">
                <Mono className="font-monoStrong text-title">{chosen.lead.wire}</Mono>
                <Small>{batch.states.get(chosen.lead.wire)?.why ?? ""}</Small>
                <LinkLine
                  href={batchHref(job.code, name, { show: "card", lead: chosen.lead.wire, of: "all" })}
                  label="Its card"
                  testID="lead-to-card"
                />
              </View>
              <LeadPicture lead={chosen.lead} />
            </View>
          ) : null}
        </View>
      </View>
    );
  }
  return (
    <ScrollView className="flex-1" testID="batch-page">
      {head}
      <View style={{ height: scale * Math.min(leads.length * ROW_PX, 5 * ROW_PX + 20) }}>
        <VirtualList
          count={leads.length}
          rowPx={ROW_PX}
          label={`Leads of ${name}`}
          testID="batch-leads"
          keyOf={(i) => leads[i]!.lead.wire}
          chosen={leads.findIndex((l) => l.lead.wire === choice.lead)}
          row={(i) => <Row job={job.code} name={name} batch={batch} {...leads[i]!} />}
        />
      </View>
    </ScrollView>
  );
}

/** Where a lead is, in words. */
function stateText(batch: Batch, lead: string): string {
  const where = batch.whereIs(lead);
  const again = where !== "made" && (batch.states.get(lead)?.attempt ?? 1) > 1;
  return again ? `${where}, again` : where;
}

const columnsFor = (settings: Settings, batch: Batch): readonly TableColumn<BatchLead>[] => [
  { id: "wire", label: "Wire", width: 76, value: (l) => l.lead.wire },
  { id: "state", label: "Where", width: 150, value: (l) => stateText(batch, l.lead.wire) },
  {
    id: "colour",
    label: "Colour",
    width: 104,
    value: (l) => l.lead.colour,
    cell: ({ lead }) => (
      <View className="h-8 flex-row items-center gap-2">
        <WireSwatch colour={lead.colour} />
        <Small className="text-graphite">{lead.colour ?? "open"}</Small>
      </View>
    ),
  },
  {
    id: "size",
    label: "Size",
    width: 84,
    value: (l) => l.lead.sizeMm2,
    cell: (l) => formatSize(l.lead.sizeMm2, settings),
  },
  {
    id: "length",
    label: "Length",
    width: 96,
    value: (l) => l.lead.lengthMm,
    cell: (l) => formatLength(l.lead.lengthMm, settings),
  },
  { id: "from", label: "From", width: 110, value: ({ lead }) => `${lead.from.device}:${lead.from.pin}` },
  { id: "to", label: "To", width: 110, value: ({ lead }) => `${lead.to.device}:${lead.to.pin}` },
  { id: "bundle", label: "Bundle", width: 84, value: (l) => l.lead.bundle },
  { id: "bench", label: "At the bench because", width: 220, value: (l) => l.why },
  { id: "type", label: "Wire part", width: 110, value: (l) => l.lead.type, hidden: true },
];

const FILES = [
  ["machine", "File for the machine", "machine"],
  ["leads.csv", "Leads CSV", "always"],
  ["bench.pdf", "Bench list PDF", "bench"],
  ["labels.pdf", "Labels PDF", "labels"],
  ["labels.txt", "Labels for the printer", "labels"],
  ["bundles.pdf", "Bundle tickets PDF", "always"],
] as const;

function Row({
  job,
  name,
  batch,
  lead,
  why,
}: {
  job: string;
  name: string;
  batch: Batch;
  lead: Lead;
  why: string | null;
}) {
  const settings = useSettings();
  const state = batch.states.get(lead.wire);
  const where = batch.whereIs(lead.wire);
  return (
    <Link
      href={batchHref(job, name, { show: "card", lead: lead.wire, of: "all" })}
      testID={`lead-${lead.wire}`}
      className="block h-full"
    >
      <View className="h-full w-full flex-row items-center gap-3 border-b border-line px-3">
        <Mono className="w-16" numberOfLines={1}>
          {lead.wire}
        </Mono>
        <WireSwatch colour={lead.colour} />
        <View className="min-w-0 flex-1">
          <Body numberOfLines={1}>
            {keepTags(`${lead.from.device}:${lead.from.pin} – ${lead.to.device}:${lead.to.pin}`)}
          </Body>
          <Small numberOfLines={1}>
            {formatLength(lead.lengthMm, settings)}
            {why ? `; bench: ${why}` : ""}
            {state?.why && where !== "made" ? `; again: ${state.why}` : ""}
          </Small>
        </View>
        <Small
          className={where === "made" ? "font-medium text-verdigris" : state && state.attempt > 1 ? "text-brick" : ""}
        >
          {stateText(batch, lead.wire)}
        </Small>
      </View>
    </Link>
  );
}

/** Files of it at machines, the last first. */
function Runs({ runs }: { runs: readonly RunNow[] }) {
  if (runs.length === 0) return null;
  const text = (r: RunNow): string =>
    r.state === "sending"
      ? "on its way"
      : r.state === "sent"
        ? "at the machine"
        : r.state === "refused"
          ? `refused: ${r.why}`
          : (r.why ?? "done");
  return (
    <View testID="runs">
      {[...runs]
        .reverse()
        .slice(0, MOST_RUNS)
        .map((r) => (
          <Small key={r.name} className={r.state === "refused" ? "text-brick" : ""}>
            {r.name} to {r.machine}
            {r.who ? `, by ${r.who}` : ""}: {text(r)}
          </Small>
        ))}
    </View>
  );
}
const MOST_RUNS = 6;

function Acts({ batch, name, printers }: { batch: Batch; name: string; printers: readonly string[] }) {
  const { data, act, states } = batch;
  const [ending, setEnding] = useState(false);
  const plan = data!.batch.plan;
  const open = plan.chains
    .flat()
    .filter((lead) => states.get(lead)?.made === null && batch.whereIs(lead) === "to make").length;
  const running = data!.runs.some((r) => r.state === "sent" || r.state === "sending");
  const ended = data!.summary.endedAt !== null;
  return (
    <View className="gap-2">
      {plan.machine && open > 0 && !ended ? (
        <Button
          label={`Send ${open} ${open === 1 ? "lead" : "leads"} to ${plan.machine}`}
          kind="solid"
          disabled={act.isPending}
          onPress={() => act.mutate({ path: "/send", body: { who: batch.who } })}
          testID="send-batch"
        />
      ) : null}
      <View className="flex-row flex-wrap gap-2">
        {running ? (
          <Button
            label="Stop its files"
            disabled={act.isPending}
            onPress={() => act.mutate({ path: `/stop${askedBy(batch.who)}` })}
            testID="stop-batch"
          />
        ) : null}
        {printers.map((p) => (
          <Button
            key={p}
            label={`Print labels on ${p}`}
            disabled={act.isPending}
            onPress={() => act.mutate({ path: "/print", body: { who: batch.who, printer: p } })}
            testID="print-labels"
          />
        ))}
        {ended || running ? null : (
          <Button label="End the batch …" pressed={ending} onPress={() => setEnding(!ending)} testID="end-batch" />
        )}
      </View>
      {ending && !ended && !running ? (
        <View className="gap-2 border-l-4 border-ochre p-3">
          <Body>What is not made of {name} is free for another batch. This cannot be undone.</Body>
          <View className="flex-row">
            <Button
              label="End it"
              onPress={() => {
                setEnding(false);
                act.mutate({ path: "", method: "DELETE" });
              }}
              testID="end-batch-now"
            />
          </View>
        </View>
      ) : null}
      {act.error ? <Failed error={act.error} /> : null}
    </View>
  );
}
