import type { OpenPoint, Severity } from "@gray-bench/core/design/open-points";
import { nextStep } from "@gray-bench/core/next-step";
import { Link } from "expo-router";
import { useState } from "react";
import { View } from "react-native";
import { PointActions } from "../edits/PointActions";
import { Told } from "../edits/Told";
import { keepTags } from "../kit/format";
import { pointHref } from "../kit/links";
import { SeveritySign } from "../kit/Severity";
import { Body, Head, Small } from "../kit/Text";
import type { Outcome } from "../queries/useEdits";

const EDGE: Record<Severity | "none", string> = {
  stop: "border-brick",
  check: "border-ochre",
  note: "border-harbour",
  none: "border-verdigris",
};

const counted = (n: number, one: string): string => `${n.toLocaleString("en-GB")} ${n === 1 ? one : `${one}s`}`;

/** How the job stands, in one sentence. */
function standing({ stop, check, note }: Record<Severity, number>): string {
  if (stop > 0) return `${counted(stop, "stop")} ${stop === 1 ? "keeps" : "keep"} this job from being made whole.`;
  if (check > 0)
    return `Nothing stops this job; ${counted(check, "check")} ${check === 1 ? "is" : "are"} to be looked at.`;
  if (note > 0)
    return `Nothing stops this job and nothing is to be checked; there ${note === 1 ? "is" : "are"} ${counted(note, "note")}.`;
  return "Nothing is open: the job can be made.";
}

/** What comes next: how the job stands, the point to settle first, and what settles it. */
export function NextStep({ job, points }: { job: string; points: readonly OpenPoint[] }) {
  const { open, first, others } = nextStep(points);
  const [done, laid] = useState<Outcome | null>(null);
  return (
    <View testID="next-step" className={`gap-2 border-l-4 bg-tray p-3 ${EDGE[first?.severity ?? "none"]}`}>
      <Head>{standing(open)}</Head>
      {first ? (
        <>
          <Link href={pointHref(job, first)} testID="next-point" className="block">
            <View className="min-h-touch w-full flex-row items-center gap-2">
              <SeveritySign severity={first.severity} />
              <Body className="flex-1 text-harbour underline">First: {keepTags(first.text)}.</Body>
            </View>
          </Link>
          {others > 0 ? (
            <Small>
              {keepTags(
                others === 1
                  ? `Another open point speaks of ${first.thing} ${first.of} too.`
                  : `${others} other open points speak of ${first.thing} ${first.of} too.`,
              )}
            </Small>
          ) : null}
          <PointActions job={job} point={first} laid={laid} />
        </>
      ) : null}
      <Told outcome={done} testID="next-told" />
    </View>
  );
}
