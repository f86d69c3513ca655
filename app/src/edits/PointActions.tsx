import type { OpenPoint } from "@gray-bench/core/design/open-points";
import { useState } from "react";
import { View } from "react-native";
import { Button } from "../kit/Button";
import { keepTags } from "../kit/format";
import { Small } from "../kit/Text";
import { mendAct, type Act } from "./act";
import { EditSheet } from "./EditSheet";
import type { Outcome } from "./useEdits";

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

/** What can be done about an open point right where it is read: its mend, and letting it stand. */
export function PointActions({
  job,
  point,
  laid,
}: {
  job: string;
  point: OpenPoint;
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
  // An edit that does not fit is settled by taking it back, in the history.
  if (point.thing === "edit") return null;
  const mend = point.mend ? mendAct(point.mend, keepTags(point.text)) : null;
  return (
    <View className="flex-row flex-wrap gap-2">
      {mend ? <Button label={keepTags(mend.label)} onPress={() => setAct(mend)} testID={`mend-${point.id}`} /> : null}
      <Button label="Accept" onPress={() => setAct(acceptAct([point]))} testID={`accept-${point.id}`} />
      {act ? <EditSheet job={job} act={act} close={() => setAct(null)} laid={laid} /> : null}
    </View>
  );
}
