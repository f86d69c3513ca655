import { useState } from "react";
import { View } from "react-native";
import { Button } from "../kit/Button";
import { Link } from "expo-router";
import { keepTags } from "../kit/format";
import { jobHref } from "../kit/links";
import { Small } from "../kit/Text";
import type { Act } from "@gray-bench/core/frame/act";
import { EditSheet } from "./EditSheet";
import { Told } from "./Told";
import { useEditsOf, type Outcome } from "../queries/useEdits";

/**
 * What can be done with a thing, a button each, and the way to what was done to it before; what is done now is told below.
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
  const done = useEditsOf(job, about);
  return (
    <View className="gap-2">
      <View className="flex-row flex-wrap items-center gap-2" role="group" aria-label={label}>
        {acts.map((a) => (
          <Button key={a.id} label={keepTags(a.label)} onPress={() => setOpen(a)} testID={`${testID}-${a.id}`} />
        ))}
        {done > 0 ? (
          <Link
            href={jobHref(job, "history", { of: about })}
            aria-label={`${done === 1 ? "1 edit" : `${done} edits`} of ${about}`}
            testID={`${testID}-done`}
            className="min-h-touch px-1 py-3"
          >
            <Small className="text-harbour underline">{done === 1 ? "1 edit" : `${done} edits`}</Small>
          </Link>
        ) : null}
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
