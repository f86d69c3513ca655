import { useState } from "react";
import { View } from "react-native";
import { Button } from "../kit/Button";
import { keepTags } from "../kit/format";
import type { Act } from "@gray-bench/core/frame/act";
import { EditSheet } from "./EditSheet";
import { Told } from "./Told";
import type { Outcome } from "../queries/useEdits";

/**
 * What can be done with a thing, a button each; what was done is told below.
 * @param about the thing: what was said of another is not told beside it
 * @param laid hears what was done, where that is told elsewhere
 */
export function Acts({
  job,
  acts,
  label,
  about,
  laid,
  testID = "edit",
}: {
  job: string;
  acts: readonly Act[];
  label: string;
  about: string;
  laid?: (outcome: Outcome) => void;
  testID?: string;
}) {
  // The act itself: what is asked stays on the screen until it is done, whatever is offered by then.
  const [open, setOpen] = useState<Act | null>(null);
  const [said, setSaid] = useState<{ about: string; outcome: Outcome } | null>(null);
  return (
    <View className="gap-2">
      <View className="flex-row flex-wrap gap-2" role="group" aria-label={label}>
        {acts.map((a) => (
          <Button key={a.id} label={keepTags(a.label)} onPress={() => setOpen(a)} testID={`${testID}-${a.id}`} />
        ))}
      </View>
      <Told outcome={said?.about === about ? said.outcome : null} testID={`${testID}-told`} />
      {open ? (
        <EditSheet
          job={job}
          act={open}
          close={() => setOpen(null)}
          laid={laid ?? ((outcome) => setSaid({ about, outcome }))}
        />
      ) : null}
    </View>
  );
}
