import type { JobSummary } from "@gray-bench/contract/jobs";
import { useState } from "react";
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
import { useWide } from "../kit/useWide";
import { useEffectLine } from "./useEffectLine";
import { nextTurns, useEditLog, useNextTurn, useWho } from "../queries/useEdits";

const capital = (s: string): string => s.charAt(0).toUpperCase() + s.slice(1);

/** What is undone and redone next, in words and by Ctrl+Z and Ctrl+Shift+Z; the way to the history. */
export function EditBar({ job: { code: job, key, run, figures, designHash } }: { job: JobSummary }) {
  const effect = useEffectLine({ code: job, key, run });
  const t = useTokens();
  const wide = useWide();
  const { data: log } = useEditLog(job);
  const turn = useNextTurn(job);
  const next = nextTurns(log, useWho());
  const { back, again } = next;
  const [asked, setAsked] = useState<"back" | "again" | null>(null);
  const go = (what: "back" | "again") => () => {
    // While one is on its way what comes next is not known yet: its turn decides.
    const asks = what === "back" ? next.backAsks && back : next.againAsks && again;
    if (asks && !turn.isPending) setAsked(what);
    else
      turn.mutate(
        { what, others: false },
        // Its turn came, and only what others did was left.
        { onSuccess: ({ sentences }) => sentences.length === 0 && setAsked(what) },
      );
  };
  useKeys({ "Ctrl+z": go("back"), "Ctrl+Shift+z": go("again") });
  if (!log || log.edits.length === 0) return null;
  const laid = log.edits.filter((e) => !e.back).length;
  const icon = { size: 18, color: t.graphite };
  const other = asked === "back" ? back : again;
  if (asked && other)
    return (
      <View
        testID="edit-asked"
        role="region"
        aria-label="Edits"
        className="flex-row flex-wrap items-center gap-2 border-b border-line bg-paper px-2 py-1"
      >
        <View role="alert" className="min-w-50 flex-1">
          <Small>
            {asked === "back"
              ? keepTags(`You have no edit left to undo. The last one is by ${other.who}: ${other.sentence}.`)
              : keepTags(`This was undone by ${other.back!.who}: ${other.sentence}.`)}
          </Small>
        </View>
        <Button
          label={asked === "back" ? "Undo it" : "Redo it"}
          onPress={() => {
            setAsked(null);
            turn.mutate({ what: asked, others: true });
          }}
          testID="turn-others"
        />
        <Button label="Cancel" onPress={() => setAsked(null)} testID="leave-others" />
      </View>
    );
  return (
    <View
      testID="edit-bar"
      role="region"
      aria-label="Edits"
      className="flex-row items-center gap-2 border-b border-line bg-paper px-2 py-1"
    >
      <Button
        bare={!wide}
        text="Undo"
        label={back ? `Undo: ${back.sentence}` : "Undo: nothing to undo"}
        disabled={!back && !turn.isPending}
        icon={<Undo2 {...icon} />}
        onPress={go("back")}
        testID="undo"
      />
      <Button
        bare={!wide}
        text="Redo"
        label={again ? `Redo: ${again.sentence}` : "Redo: nothing to redo"}
        disabled={!again && !turn.isPending}
        icon={<Redo2 {...icon} />}
        onPress={go("again")}
        testID="redo"
      />
      <View
        role="status"
        aria-busy={run !== "done" || log.designHash !== designHash}
        className="min-w-0 flex-1"
        testID="edit-said"
      >
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
            {back ? keepTags(`Last: ${back.sentence}.`) : "All edits are undone."}
            {effect && run === "done" && log.designHash === designHash ? keepTags(` ${capital(effect)}.`) : ""}
          </Small>
        )}
      </View>
      <Link href={jobHref(job, "history")} testID="to-history" className="min-h-touch py-2">
        <View className="flex-row items-center gap-2">
          <ScrollText {...icon} />
          <Small className="text-harbour underline">{laid === 1 ? "1 edit" : `${laid} edits`}</Small>
        </View>
      </Link>
    </View>
  );
}
