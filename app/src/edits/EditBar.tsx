import type { EditLog, JobSummary } from "@gray-bench/contract/api";
import { View } from "react-native";
import ScrollText from "lucide-react-native/icons/scroll-text";
import Redo2 from "lucide-react-native/icons/redo-2";
import Undo2 from "lucide-react-native/icons/undo-2";
import { Link } from "expo-router";
import { ApiError } from "../kit/api";
import { Button } from "../kit/Button";
import { keepTags } from "../kit/format";
import { jobHref } from "../kit/links";
import { useTokens } from "../kit/settings";
import { Small } from "../kit/Text";
import { useKeys } from "../kit/useKeys";
import { useEffectLine } from "./useEffectLine";
import { nextTurns, useEditLog, useTurn } from "./useEdits";

const capital = (s: string): string => s.charAt(0).toUpperCase() + s.slice(1);

type Entry = EditLog["edits"][number];

/** What is taken back and laid again next, in words and by Ctrl+Z and Ctrl+Shift+Z; the way to the history. */
export function EditBar({ job: { code: job, key, run, figures, designHash } }: { job: JobSummary }) {
  const effect = useEffectLine({ code: job, key, run });
  const t = useTokens();
  const { data: log } = useEditLog(job);
  const turn = useTurn(job);
  const { back, again } = nextTurns(log);
  const go = (edit: Entry | null, what: "back" | "again") => () => {
    if (edit && !turn.isPending) turn.mutate({ id: edit.id, what });
  };
  useKeys({ "Ctrl+z": go(back, "back"), "Ctrl+Shift+z": go(again, "again") });
  if (!log || log.edits.length === 0) return null;
  const laid = log.edits.filter((e) => !e.back).length;
  const icon = { size: 18, color: t.graphite };
  return (
    <View
      testID="edit-bar"
      role="region"
      aria-label="Edits"
      className="flex-row items-center gap-2 border-b border-line bg-paper px-2 py-1"
    >
      <Button
        bare
        label={back ? `Take back: ${back.sentence}` : "Nothing to take back"}
        disabled={!back || turn.isPending}
        icon={<Undo2 {...icon} />}
        onPress={go(back, "back")}
        testID="undo"
      />
      <Button
        bare
        label={again ? `Lay again: ${again.sentence}` : "Nothing to lay again"}
        disabled={!again || turn.isPending}
        icon={<Redo2 {...icon} />}
        onPress={go(again, "again")}
        testID="redo"
      />
      <View role="status" className="min-w-0 flex-1" testID="edit-said">
        {turn.error ? (
          <Small className="text-brick">
            {turn.error.message}
            {turn.error instanceof ApiError && turn.error.body.standing
              ? ` ${turn.error.body.standing.join("; ")}`
              : ""}
          </Small>
        ) : (
          <Small numberOfLines={2}>
            {run === "running" && figures ? "Computing; what is shown is from before. " : ""}
            {back ? keepTags(`Last: ${back.sentence}.`) : "All edits are taken back."}
            {effect && run === "done" && log.designHash === designHash ? keepTags(` ${capital(effect)}.`) : ""}
          </Small>
        )}
      </View>
      <Link href={jobHref(job, "history")} testID="to-history" className="min-h-[44px] py-2">
        <View className="flex-row items-center gap-2">
          <ScrollText {...icon} />
          <Small className="text-harbour underline">{laid === 1 ? "1 edit" : `${laid} edits`}</Small>
        </View>
      </Link>
    </View>
  );
}
