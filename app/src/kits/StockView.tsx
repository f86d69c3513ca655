import type { NeedingJob } from "@gray-bench/contract/kits";
import { isShort, type Need } from "@gray-bench/core/kits/needs";
import { Link } from "expo-router";
import { useMemo } from "react";
import { View } from "react-native";
import { Beside } from "../kit/Beside";
import { BottomSheet } from "../kit/BottomSheet";
import { WithSheet } from "../kit/WithSheet";
import { choose } from "../kit/choice";
import { FileLink } from "../kit/FileLink";
import { formatDate, keepTags } from "../kit/format";
import { jobHref } from "../kit/links";
import { Empty, Failed, Loading } from "../kit/States";
import type { TableColumn } from "../kit/table/column";
import { Table } from "../kit/table/Table";
import { TapRow } from "../kit/TapRow";
import { Body, Head, Mono, Small, Title } from "../kit/Text";
import { useWide } from "../kit/useWide";
import { VirtualList } from "../kit/VirtualList";
import { shareText } from "./shareText";
import { StockLine } from "./StockLine";
import { useAmounts, type Amounts } from "./useAmounts";
import { useAllNeeds } from "./useNeeds";

const keyOf = (n: Need): string => `${n.part} ${n.unit}`;
const ROW_PX = 64;

const lateOf = (n: Need): number => n.jobs.reduce((sum, j) => sum + j.late, 0);
const stateOf = (n: Need): string =>
  n.missing === null ? "not known" : n.missing > 0 ? "missing" : lateOf(n) > 0 ? "late" : "there";

const columnsFor = ({ amount }: Amounts): readonly TableColumn<Need>[] => [
  { id: "state", label: "State", width: 90, value: stateOf },
  { id: "part", label: "Part", width: 110, value: (n) => n.part },
  { id: "text", label: "Text", width: 240, value: (n) => n.text },
  { id: "needed", label: "Needed", width: 90, value: (n) => n.needed, cell: (n) => amount(n.needed, n.unit) },
  {
    id: "there",
    label: "There",
    width: 90,
    value: (n) => n.there,
    cell: (n) => (n.there === null ? "" : amount(n.there, n.unit)),
  },
  {
    id: "coming",
    label: "On its way",
    width: 96,
    value: (n) => n.onItsWay,
    cell: (n) => (n.onItsWay > 0 ? amount(n.onItsWay, n.unit) : ""),
  },
  {
    id: "late",
    label: "Late",
    width: 80,
    value: lateOf,
    cell: (n) => (lateOf(n) > 0 ? amount(lateOf(n), n.unit) : ""),
  },
  {
    id: "missing",
    label: "Missing",
    width: 90,
    value: (n) => n.missing,
    cell: (n) => (n.missing ? amount(n.missing, n.unit) : ""),
  },
  { id: "jobs", label: "Jobs", width: 200, value: (n) => n.jobs.map((j) => j.job).join(" ") },
];

const FILES = [
  ["csv", "Shortages CSV"],
  ["purchase", "Purchases CSV"],
  ["xlsx", "Both XLSX"],
] as const;

/** What all jobs need together, by date, against what is in the store and what comes. */
export function StockView({ part }: { part?: string | undefined }) {
  const wide = useWide();
  const amounts = useAmounts();
  const columns = useMemo(() => columnsFor(amounts), [amounts]);
  const { data, error, refetch } = useAllNeeds();
  if (!data)
    return error ? (
      <Failed error={error} retry={() => void refetch()} />
    ) : (
      <Loading text="Adding up what all jobs need" />
    );
  const { stock, jobs, needs, left } = data;
  const chosen = needs.find((n) => keyOf(n) === part);
  const head = (
    <View className="gap-2 border-b border-line p-3">
      <Title>Stock and needs</Title>
      <StockLine stock={stock} />
      <Body testID="stock-sum">
        {needs.filter(isShort).length} of {needs.length} parts are short over {jobs.length}{" "}
        {jobs.length === 1 ? "job" : "jobs"}
        {left > 0 ? `; ${left} jobs that are due later are not counted` : ""}.
      </Body>
      <View className="flex-row flex-wrap gap-2" role="group" aria-label="Files of what all jobs need">
        {FILES.map(([as, label]) => (
          <FileLink key={as} href={`/api/needs?as=${as}`} label={label} testID={`file-${as}`} />
        ))}
      </View>
    </View>
  );
  if (needs.length === 0)
    return (
      <View className="flex-1">
        {head}
        <Empty title="Nothing is needed" text="No job is open, or all of them have what they need." />
      </View>
    );
  const details = chosen ? <Shares need={chosen} jobs={jobs} amounts={amounts} /> : null;
  if (wide)
    return (
      <Beside head={head} details={details}>
        <Table
          id="needs"
          label="Parts over all jobs"
          rows={needs}
          columns={columns}
          keyOf={keyOf}
          chosen={part}
          choose={(p) => choose({ part: p }, true)}
          rowTestID={(key) => `need-${key}`}
          testID="needs"
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
              testID="need-sheet"
              head={<Mono>{chosen!.part}</Mono>}
              close={() => choose({ part: undefined })}
            >
              {details}
            </BottomSheet>
          ) : null
        }
      >
        <VirtualList
          count={needs.length}
          rowPx={ROW_PX}
          label="Parts over all jobs"
          testID="needs"
          keyOf={(i) => keyOf(needs[i]!)}
          chosen={needs.findIndex((n) => n === chosen)}
          row={(i) => {
            const n = needs[i]!;
            return (
              <TapRow press={() => choose({ part: keyOf(n) }, true)} px={ROW_PX} testID={`need-${keyOf(n)}`}>
                <View className="min-w-0 flex-1">
                  <Body numberOfLines={1}>
                    {n.part} {n.part === n.text ? "" : n.text}
                  </Body>
                  <Small numberOfLines={1}>{n.jobs.map((j) => j.job).join(", ")}</Small>
                </View>
                <View className="items-end">
                  <Mono className={isShort(n) ? "font-monoStrong text-brick" : ""}>
                    {amounts.amount(n.needed, n.unit)}
                  </Mono>
                  <Small>{stateOf(n)}</Small>
                </View>
              </TapRow>
            );
          }}
        />
      </WithSheet>
    </View>
  );
}

/** Who gets what of a part, the job that wants it first at the top. */
function Shares({ need, jobs, amounts }: { need: Need; jobs: readonly NeedingJob[]; amounts: Amounts }) {
  const titles = new Map(jobs.map((j) => [j.job, j.title]));
  return (
    <View className="gap-3 p-3" testID="shares">
      <Mono className="font-monoStrong">{need.part}</Mono>
      <Body>{need.text}</Body>
      {need.there === null ? (
        <Small className="text-ochre">The store knows nothing of it: it is not judged.</Small>
      ) : null}
      {need.jobs.map((j) => (
        <View key={j.job} className="gap-1 border-t border-line pt-2">
          <Link
            href={jobHref(j.job, "kits", { show: "missing", part: need.part })}
            testID={`share-${j.job}`}
            className="min-h-touch py-3 font-medium text-body text-harbour underline"
          >
            {j.job}
          </Link>
          <Body>{titles.get(j.job)}</Body>
          <Head>
            {amounts.amount(j.needed, need.unit)}{" "}
            {j.wanted === null ? "without a date" : `wanted on ${formatDate(j.wanted)}`}
          </Head>
          {need.there === null ? null : <Body>{keepTags(shareText(j, need.unit, amounts))}</Body>}
        </View>
      ))}
    </View>
  );
}
