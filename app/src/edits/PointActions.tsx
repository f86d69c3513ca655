import type { OpenPoint } from "@gray-bench/core/design/open-points";
import { useState } from "react";
import { View } from "react-native";
import { Button } from "../kit/Button";
import { keepTags } from "../kit/format";
import { Small } from "../kit/Text";
import { EditSheet } from "./EditSheet";
import type { Outcome } from "./useEdits";

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
  const [open, setOpen] = useState<"mend" | "accept" | null>(null);
  if (point.accepted) {
    return (
      <Small testID={`accepted-${point.id}`}>
        accepted by {point.accepted.who}: {point.accepted.why}
      </Small>
    );
  }
  // An edit that does not fit is settled by taking it back, in the history.
  if (point.thing === "edit") return null;
  const close = (): void => setOpen(null);
  return (
    <View className="flex-row flex-wrap gap-2">
      {point.mend ? (
        <Button label={keepTags(point.mend.label)} onPress={() => setOpen("mend")} testID={`mend-${point.id}`} />
      ) : null}
      <Button label="Accept" onPress={() => setOpen("accept")} testID={`accept-${point.id}`} />
      {open === "mend" && point.mend ? (
        <EditSheet
          job={job}
          title={point.mend.label}
          about={keepTags(point.text)}
          edit={point.mend}
          close={close}
          laid={laid}
        />
      ) : null}
      {open === "accept" ? (
        <EditSheet
          job={job}
          title="Accept"
          about={keepTags(`${point.text}. It stays listed with your reason, and is open again when its cause changes.`)}
          edit={{ kind: "accept", payload: { point: point.id, text: point.text }, asks: [] }}
          whyNeeded
          close={close}
          laid={laid}
        />
      ) : null}
    </View>
  );
}
