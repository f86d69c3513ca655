import type { Jumper, StripPlan } from "@gray-bench/core/lineups/result";
import type { RoutesResult } from "@gray-bench/core/routes/result";
import { useMemo } from "react";
import { View } from "react-native";
import { Acts } from "../edits/Acts";
import type { Outcome } from "../queries/useEdits";
import { formatTotal, keepTags } from "../kit/format";
import { useSettings } from "../kit/settings";
import { Empty } from "../kit/States";
import { Body, Head, Small } from "../kit/Text";
import { combText } from "@gray-bench/core/lineups/comb-text";
import { dropJumper, dropWires, takeJumper } from "@gray-bench/core/lineups/acts";

const line = (j: Jumper): string =>
  [
    `row ${j.row}: ${j.members[0]} to ${j.members[j.members.length - 1]}`,
    `${j.members.length} joined`,
    ...(j.over.length > 0 ? [`over ${j.over.join(", ")}`] : []),
    j.net ?? "no net",
    ...(j.currentA === null ? [] : [`${j.currentA} A`]),
    combText(j),
  ].join(", ");

/** Jumpers that are there and those that are proposed, each with what can be done. */
export function Jumpers({
  job,
  strip,
  routes,
  laid,
}: {
  job: string;
  strip: StripPlan;
  /** Tells how much wire is saved; undefined while it is computed. */
  routes: RoutesResult | undefined;
  laid: (o: Outcome) => void;
}) {
  const settings = useSettings();
  const lengths = useMemo(() => new Map(routes?.wires.map((w) => [w.id, w.lengthMm])), [routes]);
  const saved = (j: Jumper): string | null => {
    const mm = j.needless.map((w) => lengths.get(w) ?? null);
    return mm.length === 0 || mm.some((v) => v === null)
      ? null
      : formatTotal(
          mm.reduce<number>((sum, v) => sum + v!, 0),
          settings,
        );
  };
  if (strip.jumpers.length + strip.proposed.length === 0)
    return (
      <Empty
        title="No jumper"
        text="No two neighbours are on one net. Choose two members or more with Several, then Bridge, to set one."
      />
    );
  const one = (j: Jumper, proposed: boolean) => (
    <View key={`${j.row} ${j.members[0]}`} className="gap-1 border-b border-line pb-2">
      <Body>{keepTags(line(j))}</Body>
      {proposed && j.needless.length > 0 ? (
        <Small>
          {`makes ${j.needless.length === 1 ? "1 wire" : `${j.needless.length} wires`} needless${saved(j) ? `, ${saved(j)}` : ""}`}
        </Small>
      ) : null}
      <Acts
        job={job}
        acts={
          proposed
            ? [takeJumper(strip.tag, j)]
            : [dropJumper(strip.tag, j), ...(j.needless.length > 0 ? [dropWires(j, saved(j))] : [])]
        }
        label={line(j)}
        about={line(j)}
        laid={laid}
        testID="jumper"
      />
    </View>
  );
  return (
    <View className="gap-2 p-3" testID="jumpers">
      <Head>{strip.jumpers.length === 0 ? "No jumper yet" : "Jumpers"}</Head>
      {strip.jumpers.map((j) => one(j, false))}
      {strip.proposed.length > 0 ? <Head>Proposed: neighbours of one net that nothing joins yet</Head> : null}
      {strip.proposed.map((j) => one(j, true))}
    </View>
  );
}
