import type { OpenPoint } from "@gray-bench/core/design/open-points";
import { STAGE_TITLES, type StageName } from "@gray-bench/core/stage-names";
import { Link } from "expo-router";
import { useState } from "react";
import { Pressable, ScrollView, View } from "react-native";
import { Acts } from "../edits/Acts";
import { mendTogether } from "@gray-bench/core/frame/act";
import { acceptAct, causeActs, PointActions } from "../edits/PointActions";
import { Told } from "../edits/Told";
import type { Outcome } from "../queries/useEdits";
import { Button } from "../kit/Button";
import { choose } from "../kit/choice";
import { keepTags } from "../kit/format";
import { Hold } from "../kit/Hold";
import { pointHref } from "../kit/links";
import { ManyBar, useMany } from "../kit/many";
import { SeverityWord } from "../kit/Severity";
import { Empty } from "../kit/States";
import { Body, Head, Mono, Small, Title } from "../kit/Text";
import { Tray } from "../kit/Tray";
import { useWide } from "../kit/useWide";
import { commonCauses, groupPoints, type Group } from "./groups";
import { PointTable } from "./PointTable";

const MOST_IN_GROUP = 50;

interface Props {
  job: string;
  points: readonly OpenPoint[];
  /** `table`, when wide. */
  as?: string | undefined;
  chosen?: string | undefined;
}

/** What is open, grouped; every line leads to its place. When wide, a table too. */
export function OpenPointsView({ job, points, as, chosen }: Props) {
  const wide = useWide();
  const table = wide && as === "table";
  const ways = wide ? (
    <View className="flex-row gap-2" role="group" aria-label="Groups or table">
      <Button label="In groups" pressed={!table} onPress={() => choose({ as: undefined })} testID="as-groups" />
      <Button label="In a table" pressed={table} onPress={() => choose({ as: "table" })} testID="as-table" />
    </View>
  ) : null;
  if (!table) return <Groups job={job} points={points} ways={ways} />;
  return (
    <View className="min-h-0 flex-1">
      <View className="flex-row items-center gap-4 border-b border-line p-2">
        <Title>Open points</Title>
        {ways}
      </View>
      <PointTable job={job} points={points} chosen={chosen} />
    </View>
  );
}

function Groups({ job, points, ways }: { job: string; points: readonly OpenPoint[]; ways: React.ReactNode }) {
  const [done, laid] = useState<Outcome | null>(null);
  const { many, toggle, letGo } = useMany();
  // What was settled meanwhile is not chosen any more.
  const picked = points.filter((p) => many?.has(p.id) && !p.accepted);
  const groups = groupPoints(points.filter((p) => !p.accepted));
  const accepted = groupPoints(points.filter((p) => p.accepted));
  const together = mendTogether(picked);
  const group = (g: Group) => {
    const causes = commonCauses(g.points);
    const shared = new Set(causes.map((c) => c.cause.text));
    return (
      <Tray key={g.key} testID={`group-${g.kind}`}>
        <View className="flex-row flex-wrap items-baseline gap-3 p-3">
          <SeverityWord severity={g.severity} />
          <Head className="flex-1">
            {g.kind} ({g.points.length})
          </Head>
          <Small>found by {STAGE_TITLES[g.stage as StageName]}</Small>
        </View>
        {causes.map((c) => (
          <View key={c.cause.text} className="gap-1 border-t border-line px-3 py-2" testID={`cause-${c.cause.text}`}>
            <Body>
              {c.points.length} of them come from one cause: {keepTags(c.cause.text)}.
            </Body>
            <Acts job={job} acts={causeActs(c)} label={c.cause.text} about={c.cause.text} laid={laid} testID="cause" />
          </View>
        ))}
        <View role="list">
          {g.points.slice(0, MOST_IN_GROUP).map((p) => (
            <View key={p.id} role="listitem">
              <Hold held={many || p.accepted || p.thing === "edit" ? undefined : () => toggle(p.id)}>
                <Line job={job} point={p} on={many?.has(p.id) ?? false} many={many !== null} toggle={toggle} />
              </Hold>
              {many ? null : (
                <View className="bg-paper px-3 pb-2">
                  <PointActions job={job} point={p} common={shared.has(p.cause?.text ?? "")} laid={laid} />
                </View>
              )}
            </View>
          ))}
        </View>
        {g.points.length > MOST_IN_GROUP ? (
          <Small className="p-3">
            and {g.points.length - MOST_IN_GROUP} more; all of them are in open-points.csv on the job desk
          </Small>
        ) : null}
      </Tray>
    );
  };
  return (
    <View className="min-h-0 flex-1">
      <ScrollView contentContainerClassName="mx-auto w-full max-w-250 gap-3 p-3 md:p-6">
        <View className="flex-row flex-wrap items-center justify-between gap-2">
          <Title>Open points</Title>
          {ways}
        </View>
        <Small>
          stop: no output possible for this thing. check: there is output, but doubtful. note: for later stages. Hold
          one to choose several.
        </Small>
        {groups.length === 0 ? (
          <Empty title="Nothing open" text="The design is complete as far as the stages built today can tell." />
        ) : null}
        <Told outcome={done} testID="done" />
        {groups.map(group)}
        {accepted.length > 0 ? <Head>Accepted as they stand</Head> : null}
        {accepted.map(group)}
      </ScrollView>
      {many && picked.length > 0 ? (
        <ManyBar many={new Set(picked.map((p) => p.id))} one="open point" several="open points" letGo={letGo}>
          <Acts
            job={job}
            acts={[...(together ? [together] : []), acceptAct(picked)]}
            label="Chosen open points"
            about={picked.map((p) => p.id).join()}
            laid={(outcome) => {
              laid(outcome);
              letGo();
            }}
            testID="many"
          />
        </ManyBar>
      ) : null}
    </View>
  );
}

/** A point as a line that leads to its place; held, or while several are chosen, it is chosen instead. */
function Line({
  job,
  point: p,
  on,
  many,
  toggle,
}: {
  job: string;
  point: OpenPoint;
  on: boolean;
  many: boolean;
  toggle(id: string): void;
}) {
  const testID = `point-${p.thing}-${p.of}`;
  const words = (
    <View className="min-h-glove w-full px-3 py-2">
      <Body>{keepTags(p.text)}</Body>
      <View className="flex-row flex-wrap items-baseline gap-2">
        <Mono className="text-harbour underline">
          {p.thing} {p.of}
        </Mono>
        <Small className="shrink">{p.remedy}</Small>
      </View>
    </View>
  );
  const hold = p.accepted || p.thing === "edit" ? undefined : () => toggle(p.id);
  if (many)
    return (
      <Pressable
        role="button"
        aria-pressed={on}
        testID={testID}
        disabled={!hold}
        onPress={hold}
        className={`border-t border-line ${on ? "border-l-4 border-l-verdigris bg-tray" : "bg-paper"}`}
      >
        {words}
      </Pressable>
    );
  return (
    <Link href={pointHref(job, p)} testID={testID} className="block border-t border-line bg-paper">
      {words}
    </Link>
  );
}
