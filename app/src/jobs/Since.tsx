import type { JobDetail } from "@gray-bench/contract/jobs";
import { View } from "react-native";
import { LinkLine } from "../kit/Button";
import { formatMoment } from "../kit/format";
import { jobHref } from "../kit/links";
import { Small } from "../kit/Text";
import { useEditLog } from "../queries/useEdits";
import type { Seen } from "./visits";

/** What has become of the job since somebody looked at it on this device; nothing where nothing has. */
export function Since({ job, before, figures }: { job: JobDetail; before: Seen | null; figures: number }) {
  const { data } = useEditLog(job.code);
  if (before === null) return null;
  const edits = (data?.edits ?? []).filter((e) => e.when > before.at);
  const who = [...new Set(edits.map((e) => e.who))];
  const said = [
    before.revision === job.revision ? "" : `revision ${job.revision} has come after ${before.revision}`,
    edits.length === 0
      ? ""
      : `${edits.length} ${edits.length === 1 ? "edit" : "edits"} by ${who.slice(0, 3).join(", ")}${who.length > 3 ? " and others" : ""}`,
    figures === 0 ? "" : `${figures} ${figures === 1 ? "figure has" : "figures have"} changed, marked below`,
  ].filter((s) => s !== "");
  if (said.length === 0) return null;
  return (
    <View className="border-l-4 border-harbour bg-tray px-3 py-1" role="status" testID="since">
      <Small className="text-graphite">
        Since you were here on {formatMoment(before.at)}: {said.join("; ")}.
      </Small>
      {edits.length > 0 ? (
        <LinkLine href={jobHref(job.code, "history")} label="What was done" testID="since-history" />
      ) : null}
    </View>
  );
}
