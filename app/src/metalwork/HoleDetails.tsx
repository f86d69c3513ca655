import type { MetalworkRules } from "@gray-bench/core/metalwork/rules";
import type { Design } from "@gray-bench/core/design/model";
import { explain } from "@gray-bench/core/metalwork/explain";
import type { FaceHole, FaceWork, MetalworkResult } from "@gray-bench/core/metalwork/result";
import { cutText, originText, seenText, toolText } from "@gray-bench/core/metalwork/say";
import type { Placed } from "@gray-bench/core/metalwork/sequence";
import { asSeen, middleOf } from "@gray-bench/core/metalwork/shapes";
import type { PanelResult } from "@gray-bench/core/panel/result";
import { Link } from "expo-router";
import { View } from "react-native";
import { Acts } from "../edits/Acts";
import type { Outcome } from "../queries/useEdits";
import { formatLength, keepTags } from "../kit/format";
import { jobHref, thingHref } from "../kit/links";
import { useSettings } from "../kit/settings";
import { Body, Head, Mono, Small } from "../kit/Text";
import { WorkingTable } from "../working/WorkingTable";
import { bodyActs, fixingActs, ownHoleActs } from "@gray-bench/core/metalwork/acts";
import { minutesText } from "./say";

interface Props {
  job: string;
  work: FaceWork;
  hole: FaceHole;
  design: Design;
  panel: PanelResult;
  rules: MetalworkRules;
  result: MetalworkResult;
  working: string | undefined;
  sequence: readonly Placed[];
  laid(outcome: Outcome): void;
}

/** One hole: what it is, what asks for it, why it is just there, with which tools and when; and what can be done. */
export function HoleDetails({ job, work, hole, design, panel, rules, result, working, sequence, laid }: Props) {
  const settings = useSettings();
  const cut = asSeen(work, hole.cut);
  const { x, y } = middleOf(cut);
  const axis = working === "y" ? "y" : "x";
  const shown = explain(result, { of: axis, face: work.face, hole: hole.number }, { design, rules, panel });
  const steps = sequence.filter((p) => p.hole === hole.number);
  const lack = work.lacks.find((l) => l.hole === hole.number);
  const own = design.faces.find((f) => `${f.enclosure}/${f.kind}` === work.face);
  const first = hole.from[0]!;
  const move = first.thing === "device" ? bodyActs(first.of, design) : [];
  const acts = [
    ...move,
    ...fixingActs(hole.from, design),
    ...(first.thing === "face" ? ownHoleActs(work.face, first.nth, own) : []),
  ];
  return (
    <View className="gap-2" testID="hole-details">
      <Head testID="hole-head">
        Hole {hole.number}: {cutText(hole.cut)}
      </Head>
      <Body>{keepTags(originText(hole.from))}</Body>
      <View className="flex-row flex-wrap gap-2">
        {(
          [
            ["x", x],
            ["y", y],
          ] as const
        ).map(([name, value]) => (
          <Link
            key={name}
            href={jobHref(job, "metalwork", {
              face: work.face,
              show: "holes",
              hole: String(hole.number),
              working: name,
            })}
            replace
            testID={`working-${name}`}
            aria-current={axis === name ? "true" : undefined}
            className={`min-h-touch rounded-edge border px-3 py-3 ${axis === name ? "border-verdigris bg-tray" : "border-line"}`}
          >
            <Small>{name} </Small>
            <Mono testID={`hole-${name}`}>{formatLength(value, settings)}</Mono>
          </Link>
        ))}
      </View>
      <Small>
        Its middle, from the lower left corner, seen from {seenText(work)}
        {work.thicknessMm === null ? "; how thick the sheet is is not stated" : ""}
      </Small>
      {lack ? (
        <Small className="font-medium text-brick" testID="hole-lack">
          In no program: {lack.why}
        </Small>
      ) : (
        steps.map((p) => (
          <Small key={p.n}>
            {p.n} of {sequence.length}: {toolText(p.tool, rules.tools)} in {p.tool}, done after {minutesText(p.seconds)}
            {work.setUps.length > 1 ? ` of set-up ${p.setUp}` : ""}
          </Small>
        ))
      )}
      <Acts
        job={job}
        acts={acts}
        label={`Hole ${hole.number}`}
        about={`${work.face} ${hole.number}`}
        laid={laid}
        testID="hole"
      />
      {shown ? <WorkingTable working={shown} job={job} /> : null}
      {first.thing === "face" ? null : (
        <Link
          href={thingHref(job, first.thing, first.of)}
          testID="hole-thing"
          className="min-h-touch py-3 text-body text-harbour underline"
        >
          {first.of} {first.thing === "duct" ? "in the routes" : "in the panel"}
        </Link>
      )}
    </View>
  );
}
