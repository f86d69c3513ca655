import { billChanges, type Changed } from "@gray-bench/core/kits/changes";
import { even } from "@gray-bench/core/kits/result";
import { useMemo } from "react";
import { View } from "react-native";
import { choose } from "../kit/choice";
import { keepTags } from "../kit/format";
import { Select } from "../kit/Select";
import { Empty, Failed, Loading } from "../kit/States";
import type { TableColumn } from "../kit/table/column";
import { Table } from "../kit/table/Table";
import { Body, Mono, Small } from "../kit/Text";
import { useWide } from "../kit/useWide";
import { VirtualList } from "../kit/VirtualList";
import type { Props } from "./choice";
import { useAmounts, type Amounts } from "./useAmounts";
import { useBill } from "./useBill";

const keyOf = (c: Changed): string => `${c.enclosure} ${c.step} ${c.line}`;
const less = (c: Changed): number => even(c.after - c.before);
const signed = (c: Changed, { amount }: Amounts): string =>
  `${less(c) > 0 ? "+" : "−"}${amount(Math.abs(less(c)), c.unit)}`;

const columnsFor = (amounts: Amounts, one: string, two: string): readonly TableColumn<Changed>[] => [
  { id: "enclosure", label: "Enclosure", width: 90, value: (c) => c.enclosure },
  { id: "step", label: "Step", width: 130, value: (c) => c.step },
  { id: "part", label: "Part", width: 120, value: (c) => c.part },
  { id: "text", label: "Text", width: 260, value: (c) => c.text },
  {
    id: "before",
    label: `Revision ${one}`,
    width: 110,
    value: (c) => c.before,
    cell: (c) => amounts.amount(c.before, c.unit),
  },
  {
    id: "after",
    label: `Revision ${two}`,
    width: 110,
    value: (c) => c.after,
    cell: (c) => amounts.amount(c.after, c.unit),
  },
  { id: "change", label: "More or less", width: 110, value: less, cell: (c) => signed(c, amounts) },
];

/** The bill of an earlier revision beside that of now: what more, what less. */
export function Revisions({ job, result, choice }: Props) {
  const amounts = useAmounts();
  const others = job.revisions.filter((r) => r.revision !== job.revision).map((r) => r.revision);
  const revision = choice.revision !== undefined && others.includes(choice.revision) ? choice.revision : others[0];
  const other = useBill(job.code, revision);
  const changes = useMemo(
    () => (other.data ? billChanges(other.data.bill, result.bill) : []),
    [other.data, result.bill],
  );
  const columns = useMemo(() => columnsFor(amounts, revision ?? "", job.revision), [amounts, revision, job.revision]);
  if (revision === undefined)
    return (
      <Empty
        title="Only one revision"
        text="When a new revision of the design is imported, its bill stands here beside the one before."
      />
    );
  const lines = (n: number): string => `${n} ${n === 1 ? "line" : "lines"}`;
  return (
    <View className="min-h-0 flex-1" testID="revisions">
      <View className="flex-row flex-wrap items-end gap-4 border-b border-line p-3">
        <Select
          label={`Beside revision ${job.revision}`}
          value={revision}
          choices={others}
          choose={(r) => choose({ revision: r || undefined })}
          testID="revision"
        />
        {other.data ? (
          <View className="min-w-0 flex-1 gap-1">
            <Body testID="revision-sum">
              {changes.length === 0
                ? "Both need just the same."
                : `${lines(changes.filter((c) => less(c) > 0).length)} more, ${lines(changes.filter((c) => less(c) < 0).length)} less.`}
            </Body>
            {other.data.edits === "lost" ? (
              <Small className="text-ochre">
                The edits made to revision {revision} are not kept any more: it stands as it was received.
              </Small>
            ) : null}
          </View>
        ) : null}
      </View>
      {other.error ? (
        <Failed error={other.error} retry={() => void other.refetch()} />
      ) : other.data ? (
        <Changes rows={changes} columns={columns} chosen={choice.line} amounts={amounts} />
      ) : (
        <Loading text={`Working out revision ${revision}`} />
      )}
    </View>
  );
}

const ROW_PX = 64;

function Changes({
  rows,
  columns,
  chosen,
  amounts,
}: {
  rows: readonly Changed[];
  columns: readonly TableColumn<Changed>[];
  chosen: string | undefined;
  amounts: Amounts;
}) {
  const wide = useWide();
  if (wide)
    return (
      <Table
        id="bill-changes"
        label="What more, what less"
        rows={rows}
        columns={columns}
        keyOf={keyOf}
        chosen={chosen}
        choose={(line) => choose({ line }, true)}
        rowTestID={(key) => `change-${key}`}
        testID="bill-changes"
      />
    );
  return (
    <VirtualList
      count={rows.length}
      rowPx={ROW_PX}
      label="What more, what less"
      testID="bill-changes"
      keyOf={(i) => keyOf(rows[i]!)}
      chosen={-1}
      row={(i) => {
        const c = rows[i]!;
        const then = `${amounts.amount(c.before, c.unit)} then, ${amounts.amount(c.after, c.unit)} now`;
        return (
          <View className="h-full flex-row items-center gap-3 border-b border-line px-3" testID={`change-${keyOf(c)}`}>
            <View className="min-w-0 flex-1">
              <Body numberOfLines={1}>{c.part ? `${c.part}  ${c.text}` : c.text}</Body>
              <Small numberOfLines={1}>{keepTags(`${c.enclosure} ${c.step} · ${then}`)}</Small>
            </View>
            <Mono className="font-monoStrong">{signed(c, amounts)}</Mono>
          </View>
        );
      }}
    />
  );
}
