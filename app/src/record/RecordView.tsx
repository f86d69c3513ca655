import type { AuditEntry } from "@gray-bench/contract/record";
import { router } from "expo-router";
import { View } from "react-native";
import { Button, LinkLine } from "../kit/Button";
import { FileLink } from "../kit/FileLink";
import { formatCount, formatMoment } from "../kit/format";
import { Empty, Failed, Loading } from "../kit/States";
import type { TableColumn } from "../kit/table/column";
import { Table } from "../kit/table/Table";
import { TapRow } from "../kit/TapRow";
import { Body, Mono, Small, Title } from "../kit/Text";
import { useWide } from "../kit/useWide";
import { VirtualList } from "../kit/VirtualList";
import { useRecord } from "./useRecord";

const ROW_PX = 84;

const WORDS: Record<AuditEntry["what"], string> = {
  import: "imported",
  delete: "deleted",
  matching: "matching",
  library: "library changed",
  shop: "shop changed",
  stop: "stopped at a machine",
  send: "sent to a wire machine",
  print: "labels printed",
  program: "program sent",
  backup: "data copied",
};

/** Who did it, as far as a name was given, and from where. */
const byText = (e: AuditEntry): string => `${e.who ?? "no name given"}, from ${e.address}`;

const COLUMNS: readonly TableColumn<AuditEntry>[] = [
  { id: "at", label: "Time", width: 150, value: (e) => e.at, cell: (e) => formatMoment(e.at) },
  { id: "what", label: "What", width: 170, value: (e) => WORDS[e.what] },
  { id: "job", label: "Job", width: 120, value: (e) => e.job },
  { id: "detail", label: "More", width: 330, value: (e) => e.detail },
  { id: "who", label: "Who", width: 150, value: (e) => e.who },
  { id: "address", label: "From", width: 140, value: (e) => e.address },
];

const keyOf = (e: AuditEntry): string => String(e.seq);
const show = (job: string | null): void => router.setParams({ job: job ?? undefined });

/** What was done to the whole, the last first: it stays when a job goes. */
export function RecordView({ job }: { job?: string | undefined }) {
  const wide = useWide();
  const { entries, error, refetch, hasNextPage, isFetchingNextPage, fetchNextPage } = useRecord(job);
  const choose = (key: string): void => show(entries?.find((e) => keyOf(e) === key)?.job ?? null);
  const head = (
    <View className="gap-1 border-b border-line p-3">
      <Title>{job ? `Record of ${job}` : "Record"}</Title>
      <Small>
        Imports, deletions, versions of the shop, what went to machines, stops and copies of the data, with the name as
        it was given. It stays when a job goes. Edits stand in the history of their job.
      </Small>
      <View className="flex-row flex-wrap items-center gap-3">
        <FileLink
          href={`/api/audit?as=csv${job ? `&job=${encodeURIComponent(job)}` : ""}`}
          label="Download CSV"
          testID="record-csv"
        />
        {job ? <LinkLine href="/record" label="Of all jobs" testID="record-all" /> : null}
        {entries ? <Small testID="record-count">{countText(entries.length, hasNextPage)}</Small> : null}
        {hasNextPage ? (
          <Button
            label={isFetchingNextPage ? "Reading …" : "Show earlier ones"}
            disabled={isFetchingNextPage}
            onPress={() => void fetchNextPage()}
            testID="record-more"
          />
        ) : null}
      </View>
      {error && entries ? <Failed error={error} retry={() => void refetch()} /> : null}
    </View>
  );
  if (!entries)
    return error ? <Failed error={error} retry={() => void refetch()} /> : <Loading text="Reading the record" />;
  if (entries.length === 0)
    return (
      <View className="flex-1">
        {head}
        <Empty
          title="Nothing yet"
          text={job ? `Nothing was done to ${job} that is written down here.` : "Nothing was imported or deleted yet."}
        />
      </View>
    );
  return (
    <View className="min-h-0 flex-1">
      {head}
      {wide ? (
        <Table
          id="record"
          label="What was done"
          rows={entries}
          columns={COLUMNS}
          keyOf={keyOf}
          chosen={undefined}
          choose={choose}
          rowTestID={(key) => `entry-${key}`}
          testID="record"
        />
      ) : (
        <VirtualList
          count={entries.length}
          rowPx={ROW_PX}
          label="What was done"
          testID="record"
          keyOf={(i) => keyOf(entries[i]!)}
          chosen={-1}
          row={(i) => {
            const e = entries[i]!;
            return (
              <TapRow press={() => show(e.job)} px={ROW_PX} testID={`entry-${e.seq}`}>
                <View className="min-w-0 flex-1">
                  <Body numberOfLines={1}>
                    {WORDS[e.what]}
                    {e.job ? ", " : ""}
                    {e.job ? <Mono>{e.job}</Mono> : null}
                  </Body>
                  <Small numberOfLines={1}>{e.detail}</Small>
                  <Small numberOfLines={1}>
                    {formatMoment(e.at)}, {byText(e)}
                  </Small>
                </View>
              </TapRow>
            );
          }}
        />
      )}
    </View>
  );
}

const countText = (n: number, more: boolean): string =>
  `${more ? "the last " : ""}${formatCount(n)} ${n === 1 ? "entry" : "entries"}`;
