import { explain } from "@gray-bench/core/kits/explain";
import { lineKey, type BillLine } from "@gray-bench/core/kits/result";
import { byCount } from "@gray-bench/core/design/order";
import { useMemo } from "react";
import { View } from "react-native";
import { Beside } from "../kit/Beside";
import { BottomSheet } from "../kit/BottomSheet";
import { WithSheet } from "../kit/WithSheet";
import { choose } from "../kit/choice";
import { Choice } from "../kit/Choice";
import { FileLinks } from "../kit/FileLinks";
import { keepTags } from "../kit/format";
import { Empty } from "../kit/States";
import type { TableColumn } from "../kit/table/column";
import { Table } from "../kit/table/Table";
import { TapRow } from "../kit/TapRow";
import { Body, Mono, Small } from "../kit/Text";
import { useKeys } from "../kit/useKeys";
import { useWide } from "../kit/useWide";
import { VirtualList } from "../kit/VirtualList";
import { WorkingTable } from "../working/WorkingTable";
import type { Props } from "./choice";
import { useAmounts, type Amounts } from "./useAmounts";

const GROUPS = [
  ["enclosure", "Enclosure"],
  ["step", "Step"],
  ["place", "Place"],
  ["maker", "Maker"],
  ["none", "None"],
] as const;
type Group = (typeof GROUPS)[number][0];

/** Of a place its hall or rack: what stands before the first dash. */
const rackOf = (place: string | null): string => (place ?? "no place").split("-")[0]!;

const groupOf: Record<Exclude<Group, "none">, (l: BillLine) => string> = {
  enclosure: (l) => l.enclosure || "no enclosure",
  step: (l) => l.step,
  place: (l) => rackOf(l.place),
  maker: (l) => l.maker ?? "no maker",
};

/** A line of the bill, as addresses name it. */
export const billKey = (l: BillLine): string => `${l.enclosure} ${l.step} ${lineKey(l)}`;
const isDoubted = (l: BillLine): boolean => l.terms.some((t) => t.fallback);

const columnsFor = ({ amount }: Amounts): readonly TableColumn<BillLine>[] => [
  { id: "enclosure", label: "Enclosure", width: 84, value: (l) => l.enclosure },
  { id: "step", label: "Step", width: 118, value: (l) => l.step },
  { id: "part", label: "Part", width: 104, value: (l) => l.part },
  { id: "text", label: "Text", width: 220, value: (l) => l.text },
  { id: "maker", label: "Maker", width: 100, value: (l) => l.maker },
  { id: "quantity", label: "Quantity", width: 84, value: (l) => l.quantity, cell: (l) => amount(l.quantity, l.unit) },
  { id: "unit", label: "Unit", width: 56, value: (l) => l.unit, hidden: true },
  { id: "place", label: "Place", width: 92, value: (l) => l.place },
  { id: "pack", label: "Pack", width: 60, value: (l) => l.pack, hidden: true },
  { id: "tags", label: "For", width: 260, value: (l) => l.tags.join(" ") },
  { id: "fallback", label: "Fallback", width: 80, value: (l) => (isDoubted(l) ? "fallback" : null) },
];

const FILES = [
  ["bom.csv", "Bill CSV"],
  ["kits.xlsx", "Bill and kits XLSX"],
] as const;
const ROW_PX = 62;

type Row = { head: string; count: number } | { line: BillLine };

/** The bill of material, grouped as wanted; of each line what made it. */
export function Bill({ job, result, design, choice }: Props) {
  const wide = useWide();
  const amounts = useAmounts();
  const columns = useMemo(() => columnsFor(amounts), [amounts]);
  const { bill } = result;
  const group: Group = GROUPS.find(([g]) => g === choice.group)?.[0] ?? "enclosure";
  const chosen = bill.find((l) => billKey(l) === choice.line);
  useKeys({ Escape: () => choose({ line: undefined }) });
  const rows = useMemo((): Row[] => {
    if (group === "none") return bill.map((line) => ({ line }));
    const groups = new Map<string, BillLine[]>();
    for (const l of bill) groups.set(groupOf[group](l), [...(groups.get(groupOf[group](l)) ?? []), l]);
    return [...groups]
      .sort(([a], [b]) => byCount(a, b))
      .flatMap(([head, lines]): Row[] => [{ head, count: lines.length }, ...lines.map((line) => ({ line }))]);
  }, [bill, group]);
  if (bill.length === 0)
    return <Empty title="Nothing is needed" text="The design has no devices, bars or wires yet." />;
  const working = chosen
    ? explain(result, { of: "quantity", enclosure: chosen.enclosure, step: chosen.step, line: lineKey(chosen) })
    : null;
  const details = chosen ? (
    <View className="gap-2 p-3" testID="bill-line">
      <Mono className="font-monoStrong">{keepTags(chosen.part ?? chosen.text)}</Mono>
      <Body>{chosen.text}</Body>
      <Small>
        {chosen.place === null ? "no place in the store" : `in ${chosen.place}`}
        {chosen.pack !== null && chosen.pack > 1 ? `, packs of ${chosen.pack}` : ""}
        {chosen.maker ? `, ${chosen.maker}` : ""}
      </Small>
      {working ? <WorkingTable working={working} job={job.code} /> : null}
    </View>
  ) : null;
  const head = (
    <View className={wide ? "flex-row flex-wrap items-end justify-between gap-2" : "gap-2 border-b border-line p-3"}>
      <Choice
        label="Grouped by"
        value={group}
        options={GROUPS}
        choose={(g) => choose({ group: g === "enclosure" ? undefined : g }, true)}
        testID="group"
      />
      <FileLinks job={job.code} files={FILES} label="Files of the bill" />
      {design.cables.length > 0 ? (
        <Small>{design.cables.length} cables are not in it: the design says no lengths of them.</Small>
      ) : null}
    </View>
  );
  if (wide)
    return (
      <Beside head={null} details={details}>
        <Table
          id="bill"
          tools={head}
          label="Bill of material"
          rows={bill}
          columns={columns}
          keyOf={billKey}
          chosen={choice.line}
          choose={(line) => choose({ line }, true)}
          rowTestID={(key) => `bill-${key}`}
          testID="bill"
          {...(group === "none" ? {} : { group: groupOf[group] })}
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
              testID="bill-sheet"
              head={<Mono>{keepTags(chosen!.part ?? chosen!.text)}</Mono>}
              close={() => choose({ line: undefined })}
            >
              {details}
            </BottomSheet>
          ) : null
        }
      >
        <VirtualList
          count={rows.length}
          rowPx={ROW_PX}
          label="Bill of material"
          testID="bill-list"
          keyOf={(i) => {
            const row = rows[i]!;
            return "head" in row ? `under ${row.head}` : billKey(row.line);
          }}
          chosen={chosen ? rows.findIndex((r) => "line" in r && r.line === chosen) : -1}
          row={(i) => {
            const row = rows[i]!;
            if ("head" in row)
              return (
                <View className="h-full justify-end bg-tray px-3 pb-2">
                  <Body className="font-strong">
                    {keepTags(row.head)} · {row.count}
                  </Body>
                </View>
              );
            const l = row.line;
            return (
              <TapRow
                press={() => choose({ line: billKey(l) }, true)}
                px={ROW_PX}
                on={l === chosen}
                testID={`bill-${billKey(l)}`}
              >
                <View className="min-w-0 flex-1">
                  <Body numberOfLines={1}>{l.part ? `${l.part}  ${l.text}` : l.text}</Body>
                  <Small numberOfLines={1}>
                    {keepTags(`${l.enclosure} ${l.step} · ${l.place ?? "no place"} · ${l.tags.slice(0, 8).join(" ")}`)}
                  </Small>
                </View>
                <View className="items-end">
                  <Mono className="font-monoStrong">{amounts.amount(l.quantity, l.unit)}</Mono>
                  {isDoubted(l) ? <Small className="text-ochre">fallback</Small> : null}
                </View>
              </TapRow>
            );
          }}
        />
      </WithSheet>
    </View>
  );
}
