import type { OpenPoint } from "@gray-bench/core/design/open-points";
import { STAGE_TITLES, type StageName } from "@gray-bench/core/stage-names";
import { useMemo, useState } from "react";
import { ScrollView, View } from "react-native";
import { Acts } from "../edits/Acts";
import { mendTogether } from "@gray-bench/core/frame/act";
import { acceptAct, PointActions } from "../edits/PointActions";
import { ToldLine } from "../edits/Told";
import type { Outcome } from "../queries/useEdits";
import { LinkLine } from "../kit/Button";
import { choose } from "../kit/choice";
import { keepTags } from "../kit/format";
import { pointHref } from "../kit/links";
import { SeverityWord } from "../kit/Severity";
import { Split } from "../kit/Split";
import { Table } from "../kit/table/Table";
import type { TableColumn } from "../kit/table/column";
import { Body, Small } from "../kit/Text";

const keyOf = (p: OpenPoint): string => p.id;
const stageOf = (p: OpenPoint): string => STAGE_TITLES[p.stage as StageName];

const COLUMNS: readonly TableColumn<OpenPoint>[] = [
  { id: "severity", label: "Severity", width: 84, value: (p) => (p.accepted ? "accepted" : p.severity) },
  { id: "kind", label: "Kind", width: 170, value: (p) => p.kind },
  { id: "thing", label: "Thing", width: 80, value: (p) => p.thing },
  { id: "of", label: "Name", width: 110, value: (p) => p.of },
  { id: "text", label: "What is open", width: 400, value: (p) => p.text },
  { id: "stage", label: "Found by", width: 90, value: stageOf },
  { id: "remedy", label: "Remedy", width: 300, value: (p) => p.remedy, hidden: true },
  {
    id: "accepted",
    label: "Accepted",
    width: 160,
    value: (p) => (p.accepted ? `${p.accepted.who}: ${p.accepted.why}` : null),
  },
];

/** Open points in a table: many are accepted with one reason. */
export function PointTable({
  job,
  points,
  chosen,
}: {
  job: string;
  points: readonly OpenPoint[];
  chosen: string | undefined;
}) {
  const [told, setTold] = useState<Outcome | null>(null);
  const byId = useMemo(() => new Map(points.map((p) => [p.id, p])), [points]);
  const point = chosen === undefined ? undefined : byId.get(chosen);
  const open = (ids: readonly string[]): OpenPoint[] =>
    ids.flatMap((id) => {
      const p = byId.get(id);
      return p && !p.accepted && p.thing !== "edit" ? [p] : [];
    });
  const table = (
    <View className="min-h-0 flex-1">
      <ToldLine outcome={told} testID="points-told" />
      <Table
        id="points"
        label="Open points"
        testID="point-list"
        rowTestID={(key) => `row-${key}`}
        rows={points}
        columns={COLUMNS}
        keyOf={keyOf}
        chosen={chosen}
        choose={(id) => choose({ point: id })}
        bar={(ids) => {
          const some = open(ids);
          const together = mendTogether(some);
          return some.length === 0 ? null : (
            <Acts
              job={job}
              acts={[...(together ? [together] : []), acceptAct(some)]}
              label="Chosen open points"
              about={ids.join()}
              laid={setTold}
              testID="many"
            />
          );
        }}
      />
    </View>
  );
  const details = point ? (
    <ScrollView>
      <View className="gap-2 p-3" testID="point-details">
        <SeverityWord severity={point.severity} />
        <Body>{keepTags(point.text)}</Body>
        <Small>{point.remedy}</Small>
        <LinkLine href={pointHref(job, point)} label={`${point.thing} ${point.of}`} />
        <PointActions key={point.id} job={job} point={point} laid={setTold} />
      </View>
    </ScrollView>
  ) : null;
  return (
    <Split
      panes={[
        { key: "table", label: "table", node: table },
        ...(details ? [{ key: "details", width: 340, label: "details", node: details }] : []),
      ]}
    />
  );
}
