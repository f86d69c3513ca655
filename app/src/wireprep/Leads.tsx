import { explain } from "@gray-bench/core/wireprep/explain";
import type { Lead } from "@gray-bench/core/wireprep/result";
import { Link } from "expo-router";
import { useMemo } from "react";
import { View } from "react-native";
import { Beside } from "../kit/Beside";
import { BottomSheet } from "../kit/BottomSheet";
import { WithSheet } from "../kit/WithSheet";
import { Button } from "../kit/Button";
import { choose } from "../kit/choice";
import { FileLinks } from "../kit/FileLinks";
import { formatLength, formatSize, keepTags } from "../kit/format";
import { thingHref } from "../kit/links";
import { useSettings, type Settings } from "../kit/settings";
import { Empty } from "../kit/States";
import type { TableColumn } from "../kit/table/column";
import { Table } from "../kit/table/Table";
import { TapRow } from "../kit/TapRow";
import { Body, Mono, Small } from "../kit/Text";
import { useKeys } from "../kit/useKeys";
import { useWide } from "../kit/useWide";
import { VirtualList } from "../kit/VirtualList";
import { EndSign, WireSwatch } from "../kit/WireSign";
import { WorkingTable } from "../working/WorkingTable";
import type { Props } from "./choice";
import { EndText } from "./EndText";
import { LeadPicture } from "./LeadPicture";

const ROW_PX = 58;
const FILES = [
  ["leads.csv", "Leads CSV"],
  ["lead-labels.csv", "Labels CSV"],
] as const;

/** What goes on an end, in a word: what the bench puts on later is only stripped here. */
const endWord = ({ part, treatment, later }: Lead["from"]): string =>
  later ? `later ${later.part ?? "twin ferrule"}` : (part ?? treatment);

const columnsFor = (settings: Settings): readonly TableColumn<Lead>[] => [
  { id: "wire", label: "Wire", width: 76, value: (l) => l.wire },
  { id: "net", label: "Net", width: 84, value: (l) => l.net, hidden: true },
  {
    id: "colour",
    label: "Colour",
    width: 104,
    value: (l) => l.colour,
    cell: (l) => (
      <View className="h-8 flex-row items-center gap-2">
        <WireSwatch colour={l.colour} />
        <Small className="text-graphite">{l.colour ?? "open"}</Small>
      </View>
    ),
  },
  { id: "size", label: "Size", width: 84, value: (l) => l.sizeMm2, cell: (l) => formatSize(l.sizeMm2, settings) },
  {
    id: "length",
    label: "Length",
    width: 100,
    value: (l) => l.lengthMm,
    cell: (l) => `${formatLength(l.lengthMm, settings)}${l.fallback ? " *" : ""}`,
  },
  { id: "type", label: "Wire part", width: 110, value: (l) => l.type },
  { id: "from", label: "From", width: 120, value: (l) => `${l.from.device}:${l.from.pin}` },
  { id: "endFrom", label: "End", width: 120, value: (l) => endWord(l.from) },
  { id: "stripFrom", label: "Strip", width: 66, value: (l) => l.from.stripMm },
  { id: "labelFrom", label: "Label", width: 96, value: (l) => l.from.label },
  { id: "to", label: "To", width: 120, value: (l) => `${l.to.device}:${l.to.pin}` },
  { id: "endTo", label: "End ", width: 120, value: (l) => endWord(l.to) },
  { id: "stripTo", label: "Strip ", width: 66, value: (l) => l.to.stripMm },
  { id: "labelTo", label: "Label ", width: 96, value: (l) => l.to.label },
  { id: "bundle", label: "Bundle", width: 90, value: (l) => l.bundle },
  { id: "strand", label: "Strand", width: 80, value: (l) => l.strand, hidden: true },
];

/** Every lead with both ends; of the one that is chosen its picture, and where its strip lengths come from. */
export function Leads({ job, result, rules, choice }: Props) {
  const wide = useWide();
  const settings = useSettings();
  const columns = useMemo(() => columnsFor(settings), [settings]);
  const { leads, notMade } = result;
  useKeys({ Escape: () => choose({ lead: undefined, working: undefined }) });
  if (leads.length === 0)
    return <Empty title="No leads yet" text="A wire is a lead once it has a way, a size and a rule for its ends." />;
  const lead = leads.find((l) => l.wire === choice.lead);
  const unmade = lead ? undefined : notMade.find((n) => n.wire === choice.lead);
  const batch = result.batches.find((b) => b.chains.flat().includes(lead?.wire ?? ""));
  const bench = result.batches.flatMap((b) => b.bench).find((b) => b.wire === lead?.wire);
  const left = result.batches.flatMap((b) => b.left).find((b) => b.wire === lead?.wire);
  const end = choice.working === "from" || choice.working === "to" ? choice.working : null;
  const working = lead && end ? explain(result, { of: "strip", wire: lead.wire, end }, rules) : null;
  const details = lead ? (
    <View className="gap-3 p-3" testID="lead-details">
      <View className="flex-row flex-wrap items-baseline justify-between gap-2">
        <Mono className="font-monoStrong text-title">{lead.wire}</Mono>
        <Mono>{formatLength(lead.lengthMm, settings)}</Mono>
      </View>
      <LeadPicture lead={lead} height={72} />
      <View className="flex-row gap-3">
        <EndText end={lead.from} />
        <EndText end={lead.to} right />
      </View>
      <View className="flex-row gap-2">
        {(["from", "to"] as const).map((e) => (
          <Button
            key={e}
            label={`Strip ${e === "from" ? "left" : "right"}: ${lead[e].stripMm === null ? "open" : formatLength(lead[e].stripMm, settings)}`}
            pressed={end === e}
            onPress={() => choose({ working: end === e ? undefined : e }, true)}
            testID={`strip-${e}`}
          />
        ))}
      </View>
      {working ? <WorkingTable working={working} job={job.code} /> : null}
      <Small>
        {batch
          ? `planned for ${batch.name} on ${batch.machine}`
          : bench
            ? `at the bench: ${bench.why}`
            : left
              ? `left for later: ${left.why}`
              : ""}
        ; bundle {keepTags(lead.bundle)}
      </Small>
      {lead.fallback ? <Small className="text-ochre">its length rests on a fallback</Small> : null}
      <Link
        href={thingHref(job.code, "wire", lead.wire)}
        className="min-h-touch py-3 font-medium text-body text-harbour underline"
        testID="lead-route"
      >
        Its way, and how its length is made up
      </Link>
    </View>
  ) : unmade ? (
    <View className="gap-2 p-3" testID="lead-none">
      <Mono className="font-monoStrong text-title">{unmade.wire}</Mono>
      <Body>This wire is no lead yet: {unmade.why}.</Body>
      <Link
        href={thingHref(job.code, "wire", unmade.wire)}
        className="min-h-touch py-3 font-medium text-body text-harbour underline"
      >
        Settle it where the wire is led
      </Link>
    </View>
  ) : null;
  const head = (
    <View className={`flex-row flex-wrap items-center justify-between gap-2 ${wide ? "" : "border-b border-line p-2"}`}>
      <FileLinks job={job.code} files={FILES} label="Files of the leads" />
      <Small>
        {leads.length} leads
        {notMade.length > 0 ? `; ${notMade.length} wires are none yet: the open points say why` : ""}
      </Small>
    </View>
  );
  if (wide)
    return (
      <Beside head={null} details={details}>
        <Table
          id="leads"
          tools={head}
          label="Leads"
          rows={leads}
          columns={columns}
          keyOf={(l) => l.wire}
          chosen={choice.lead}
          choose={(wire) => choose({ lead: wire, working: undefined }, true)}
          rowTestID={(key) => `lead-${key}`}
          testID="leads"
        />
      </Beside>
    );
  return (
    <View className="min-h-0 flex-1">
      {head}
      <WithSheet
        sheet={
          details ? (
            <BottomSheet
              testID="lead-sheet"
              head={<Mono>{choice.lead}</Mono>}
              close={() => choose({ lead: undefined, working: undefined })}
            >
              {details}
            </BottomSheet>
          ) : null
        }
      >
        <VirtualList
          count={leads.length}
          rowPx={ROW_PX}
          label="Leads"
          testID="lead-list"
          keyOf={(i) => leads[i]!.wire}
          chosen={lead ? leads.indexOf(lead) : -1}
          row={(i) => {
            const l = leads[i]!;
            return (
              <TapRow
                press={() => choose({ lead: l.wire, working: undefined }, true)}
                px={ROW_PX}
                on={l === lead}
                testID={`lead-${l.wire}`}
              >
                <Mono className="w-15" numberOfLines={1}>
                  {l.wire}
                </Mono>
                <EndSign end={l.from.treatment} />
                <WireSwatch colour={l.colour} />
                <EndSign end={l.to.treatment} />
                <View className="min-w-0 flex-1 items-end">
                  <Body>{formatLength(l.lengthMm, settings)}</Body>
                  <Small>{formatSize(l.sizeMm2, settings)}</Small>
                </View>
              </TapRow>
            );
          }}
        />
      </WithSheet>
    </View>
  );
}
