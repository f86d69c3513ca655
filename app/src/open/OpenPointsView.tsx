import type { OpenPoint } from "@gray-bench/core/design/open-points";
import { STAGE_TITLES, type StageName } from "@gray-bench/core/stage-names";
import { Link } from "expo-router";
import { useState } from "react";
import { ScrollView, View } from "react-native";
import { PointActions } from "../edits/PointActions";
import { Told } from "../edits/Told";
import type { Outcome } from "../edits/useEdits";
import { keepTags } from "../kit/format";
import { thingHref } from "../kit/links";
import { SeverityWord } from "../kit/Severity";
import { Empty } from "../kit/States";
import { Body, Head, Mono, Small, Title } from "../kit/Text";
import { Tray } from "../kit/Tray";
import { groupPoints, type Group } from "./groups";

const MOST_IN_GROUP = 50;

/** What is open, grouped; every line leads to its place. */
export function OpenPointsView({ job, points }: { job: string; points: readonly OpenPoint[] }) {
  const [done, laid] = useState<Outcome | null>(null);
  const groups = groupPoints(points.filter((p) => !p.accepted));
  const accepted = groupPoints(points.filter((p) => p.accepted));
  const group = (g: Group) => (
    <Tray key={g.key} testID={`group-${g.kind}`}>
      <View className="flex-row flex-wrap items-baseline gap-3 p-3">
        <SeverityWord severity={g.severity} />
        <Head className="flex-1">
          {g.kind} ({g.points.length})
        </Head>
        <Small>found by {STAGE_TITLES[g.stage as StageName]}</Small>
      </View>
      <View role="list">
        {g.points.slice(0, MOST_IN_GROUP).map((p) => (
          <View key={p.id} role="listitem">
            <Link
              href={thingHref(job, p.thing, p.of)}
              testID={`point-${p.thing}-${p.of}`}
              className="block border-t border-line bg-paper"
            >
              <View className="min-h-[48px] w-full px-3 py-2">
                <Body>{keepTags(p.text)}</Body>
                <View className="flex-row flex-wrap items-baseline gap-2">
                  <Mono className="text-harbour underline">
                    {p.thing} {p.of}
                  </Mono>
                  <Small className="shrink">{p.remedy}</Small>
                </View>
              </View>
            </Link>
            <View className="bg-paper px-3 pb-2">
              <PointActions job={job} point={p} laid={laid} />
            </View>
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
  return (
    <ScrollView contentContainerClassName="mx-auto w-full max-w-[1000px] gap-3 p-3 md:p-6">
      <Title>Open points</Title>
      <Small>
        stop: no output possible for this thing. check: there is output, but doubtful. note: for later stages.
      </Small>
      {groups.length === 0 ? (
        <Empty title="Nothing open" text="The design is complete as far as the stages built today can tell." />
      ) : null}
      <Told outcome={done} testID="done" />
      {groups.map(group)}
      {accepted.length > 0 ? <Head>Accepted as they stand</Head> : null}
      {accepted.map(group)}
    </ScrollView>
  );
}
