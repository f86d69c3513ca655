import type { Design } from "@gray-bench/core/design/model";
import { lookUp } from "@gray-bench/core/design/lookup";
import { byText } from "@gray-bench/core/design/order";
import type { PanelResult } from "@gray-bench/core/panel/result";
import type { PieceEdge, RoutesResult } from "@gray-bench/core/routes/result";
import { useMemo, useState } from "react";
import { View } from "react-native";
import type { Act } from "@gray-bench/core/frame/act";
import { Acts } from "../edits/Acts";
import { ToldLine } from "../edits/Told";
import type { Outcome } from "../queries/useEdits";
import { formatLength, formatPercent } from "../kit/format";
import { useSettings } from "../kit/settings";
import { Empty } from "../kit/States";
import { ThingList } from "../kit/table/ThingList";
import type { TableColumn } from "../kit/table/column";
import { Mono, Small } from "../kit/Text";

interface DuctRow {
  tag: string;
  face: string;
  part: string;
  lengthMm: number;
  /** At the worst place; null when its inside size is not stated. */
  fillPercent: number | null;
  state: PieceEdge["state"];
  worst: string | null;
  /** In its fullest piece. */
  wires: number;
}

const STATES = { ok: "ok", watch: "watch", over: "over the limit" } as const;
const ROW_PX = 56;

function ductRows(panel: PanelResult, result: RoutesResult): DuctRow[] {
  const bars = new Map(panel.ducts.map((d) => [d.tag, d]));
  return result.ducts.map(({ tag, face, pieces, worst }) => {
    const bar = bars.get(tag);
    const piece = worst === null ? null : (result.edges[worst] as PieceEdge);
    return {
      tag,
      face,
      part: bar?.part ?? "",
      lengthMm: bar?.length ?? 0,
      fillPercent: piece && piece.insideMm2 > 0 ? piece.fillPercent : null,
      state: piece?.state ?? "ok",
      worst: piece && pieces.length > 1 ? piece.id : null,
      wires: piece?.wires ?? 0,
    };
  });
}

const exchange = (design: Design, ducts: readonly string[]): Act => ({
  id: "bar-part",
  label: "Exchange",
  title: "Exchange",
  about: `Another part for ${ducts.length === 1 ? `duct ${ducts[0]!}` : `${ducts.length} ducts`}.`,
  kind: "set bar",
  payloads: ducts.map((tag) => ({ thing: "duct", tag })),
  asks: [
    {
      field: "part",
      label: "Part",
      as: "choice",
      choices: [...lookUp(design).parts.values()]
        .filter((p) => p.category === "duct")
        .map((p) => p.number)
        .sort(byText),
    },
  ],
});

/** Every duct with how full it is: a table when wide, rows on a phone. */
export function DuctList({
  job,
  panel,
  result,
  design,
  chosen,
  choose,
}: {
  job: string;
  panel: PanelResult;
  result: RoutesResult;
  design: Design;
  chosen: string | undefined;
  choose(duct: string): void;
}) {
  const settings = useSettings();
  const [told, setTold] = useState<Outcome | null>(null);
  const rows = useMemo(() => ductRows(panel, result), [panel, result]);
  const columns = useMemo<TableColumn<DuctRow>[]>(
    () => [
      { id: "tag", label: "Duct", width: 70, value: (d) => d.tag },
      { id: "face", label: "Face", width: 96, value: (d) => d.face },
      {
        id: "fill",
        label: "Fill",
        width: 76,
        value: (d) => d.fillPercent,
        cell: (d) => (d.fillPercent === null ? "not known" : formatPercent(d.fillPercent)),
      },
      { id: "state", label: "State", width: 100, value: (d) => STATES[d.state] },
      { id: "worst", label: "Fullest piece", width: 96, value: (d) => d.worst },
      { id: "wires", label: "Wires", width: 64, value: (d) => d.wires },
      {
        id: "length",
        label: "Length",
        width: 92,
        value: (d) => d.lengthMm,
        cell: (d) => formatLength(d.lengthMm, settings),
      },
      { id: "part", label: "Part", width: 110, value: (d) => d.part },
    ],
    [settings],
  );
  const acts = (ducts: readonly string[]) => (
    <Acts
      job={job}
      acts={[exchange(design, ducts)]}
      label="Change the chosen ducts"
      about={ducts.join()}
      laid={setTold}
      testID="many"
    />
  );
  if (rows.length === 0) return <Empty title="No ducts" text="The design has no duct on any face." />;
  return (
    <View className="min-h-0 flex-1 bg-paper">
      <ToldLine outcome={told} testID="ducts-told" />
      <ThingList
        id="ducts"
        label="Ducts"
        one="duct"
        several="ducts"
        testID="duct-list"
        rowTestID={(key) => `duct-${key}`}
        rows={rows}
        columns={columns}
        keyOf={tagOf}
        chosen={chosen}
        choose={choose}
        acts={acts}
        rowPx={ROW_PX}
        row={(d) => (
          <>
            <View className="flex-row justify-between">
              <Mono>{d.tag}</Mono>
              <Mono className={d.state === "over" ? "text-brick" : d.state === "watch" ? "text-ochre" : ""}>
                {d.fillPercent === null ? "not known" : formatPercent(d.fillPercent)}
                {d.state === "ok" ? "" : ` ${STATES[d.state]}`}
              </Mono>
            </View>
            <Small numberOfLines={1}>
              {d.face}, {formatLength(d.lengthMm, settings)}, {d.wires} wires
            </Small>
          </>
        )}
      />
    </View>
  );
}

const tagOf = (d: DuctRow): string => d.tag;
