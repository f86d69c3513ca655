import type { OpenPoint } from "@gray-bench/core/design/open-points";
import { useState } from "react";
import { View } from "react-native";
import { Button } from "../kit/Button";
import type { Caused } from "../open/groups";
import { keepTags } from "../kit/format";
import { Small } from "../kit/Text";
import { mendAct, type Act } from "@gray-bench/core/frame/act";
import { EditSheet } from "./EditSheet";
import type { Outcome } from "../queries/useEdits";

/** Lets open points stand as they are, with one reason. */
export const acceptAct = (points: readonly OpenPoint[]): Act => ({
  id: "accept",
  label: "Accept",
  title: "Accept",
  about: keepTags(
    points.length === 1
      ? `${points[0]!.text}. It stays listed with your reason, and is open again when its cause changes.`
      : `${points.length} open points. They stay listed with your reason; each is open again when its cause changes.`,
  ),
  kind: "accept",
  payloads: points.map((p) => ({ point: p.id, text: p.text })),
  asks: [],
  whyNeeded: true,
});

/** Settles what points come from. */
export const causeActs = ({ cause, points }: Caused): Act[] =>
  cause.mends.map((mend, i) => ({
    ...mendAct(mend, keepTags(`${cause.text}. ${points.length} open points come from it.`)),
    id: `cause-${i}`,
    shown: mend.asks.length === 0,
  }));

/** What can be done about an open point right where it is read: its mend, and letting it stand. */
export function PointActions({
  job,
  point,
  common = false,
  laid,
}: {
  job: string;
  point: OpenPoint;
  /** What it comes from is settled beside it, with others. */
  common?: boolean;
  laid: (outcome: Outcome) => void;
}) {
  const [act, setAct] = useState<Act | null>(null);
  if (point.accepted) {
    return (
      <Small testID={`accepted-${point.id}`}>
        accepted by {point.accepted.who}: {point.accepted.why}
      </Small>
    );
  }
  // An edit that does not fit is settled by undoing it, in the history.
  if (point.thing === "edit") return null;
  const text = keepTags(point.text);
  const mends = [point.mend, ...(common ? [] : (point.cause?.mends ?? []))].flatMap((m) =>
    m ? [mendAct(m, text)] : [],
  );
  return (
    <View className="flex-row flex-wrap gap-2">
      {mends.map((mend, i) => (
        <Button
          key={mend.label}
          label={`${keepTags(mend.label)}: ${text}`}
          text={keepTags(mend.label)}
          onPress={() => setAct(mend)}
          testID={`mend-${point.id}${i > 0 ? `-${i + 1}` : ""}`}
        />
      ))}
      <Button
        label={`Accept: ${text}`}
        text="Accept"
        onPress={() => setAct(acceptAct([point]))}
        testID={`accept-${point.id}`}
      />
      {act ? <EditSheet job={job} act={act} close={() => setAct(null)} laid={laid} /> : null}
    </View>
  );
}
