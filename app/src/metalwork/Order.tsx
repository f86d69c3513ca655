import type { MetalworkRules } from "@gray-bench/core/metalwork/rules";
import type { Design } from "@gray-bench/core/design/model";
import { explain } from "@gray-bench/core/metalwork/explain";
import type { FaceWork, MetalworkResult } from "@gray-bench/core/metalwork/result";
import { cutText, toolText } from "@gray-bench/core/metalwork/say";
import type { Placed } from "@gray-bench/core/metalwork/sequence";
import { toolsOf } from "@gray-bench/core/metalwork/signs";
import type { PanelResult } from "@gray-bench/core/panel/result";
import { useState } from "react";
import { ScrollView, View } from "react-native";
import { Button } from "../kit/Button";
import { choose } from "../kit/choice";
import { Slider } from "../kit/Slider";
import { Empty } from "../kit/States";
import { Body, Head, Mono, Small } from "../kit/Text";
import { useKeys } from "../kit/useKeys";
import { WorkingTable } from "../working/WorkingTable";
import { minutesText } from "./say";
import { ToolSign } from "./ToolSign";

interface Props {
  job: string;
  work: FaceWork;
  sequence: readonly Placed[];
  at: number;
  result: MetalworkResult;
  rules: MetalworkRules;
  design: Design;
  panel: PanelResult;
  working: string | undefined;
}

/** The order of the machine, step by step, with the time so far; how good it is, by its bound and against the list. */
export function Order({ job, work, sequence, at, result, rules, design, panel, working }: Props) {
  const [slid, setSlid] = useState<number | null>(null);
  const now = slid ?? at;
  const step = (by: number): void => choose({ at: String(Math.min(sequence.length, Math.max(0, at + by))) }, true);
  useKeys({ ArrowRight: () => step(1), ArrowLeft: () => step(-1) });
  if (sequence.length === 0)
    return (
      <Empty
        title="No order"
        text={
          work.machine === null
            ? "The shop has no machine of the name that is asked for: name another on the sheet's page."
            : "No hole of this face can be made: the open points say why."
        }
      />
    );
  const last = sequence[now - 1];
  const order = toolsOf(work);
  const sum = (of: (s: FaceWork["setUps"][number]) => number): number => work.setUps.reduce((n, s) => n + of(s), 0);
  const [total, bound, list] = [sum((s) => s.minutes), sum((s) => s.boundMinutes), sum((s) => s.listMinutes)];
  const why =
    working === "minutes" ? explain(result, { of: "minutes", face: work.face }, { design, rules, panel }) : null;
  const hole = last && work.holes.find((h) => h.number === last.hole);
  return (
    <ScrollView className="flex-1" contentContainerClassName="gap-3 p-3" testID="order">
      <Slider
        label={
          last
            ? `${last.setUp > 1 || work.setUps.length > 1 ? `set-up ${last.setUp}, ` : ""}done so far`
            : "nothing done yet"
        }
        said={`${now} of ${sequence.length}${last ? `, ${minutesText(last.seconds)}` : ""}`}
        value={now}
        min={0}
        max={sequence.length}
        step={1}
        slide={(v) => {
          setSlid(v);
          choose({ at: String(v) }, true);
        }}
        let={() => setSlid(null)}
        testID="order-at"
      />
      <View className="flex-row flex-wrap items-center gap-2">
        <Button label="Back" onPress={() => step(-1)} disabled={now === 0} testID="order-back" />
        <Button
          label="Next"
          kind="solid"
          onPress={() => step(1)}
          disabled={now === sequence.length}
          testID="order-next"
        />
        <Body className="min-w-0 flex-1" testID="order-now">
          {last && hole
            ? `${last.changed ? `change to ${last.tool}: ` : `${last.tool}: `}${toolText(last.tool, rules.tools)}, hole ${last.hole}, ${cutText(hole.cut)}`
            : "Step through with the buttons, the slider, or the arrow keys."}
        </Body>
      </View>
      <View className="gap-1" testID="order-sum">
        <Head>
          {minutesText(total * 60)} on {work.machine}
        </Head>
        <Small>
          No order takes less than {minutesText(bound * 60)}: this one is {gapText(total, bound)} above. In the order of
          the list it would take {minutesText(list * 60)}.
        </Small>
        <View className="flex-row">
          <Button
            label={why ? "Hide the working" : "How the minutes come"}
            onPress={() => choose({ working: why ? undefined : "minutes" })}
            testID="order-working"
          />
        </View>
        {why ? <WorkingTable working={why} job={job} /> : null}
      </View>
      {work.setUps.map((setUp, i) => (
        <View key={i} className="gap-1">
          {work.setUps.length > 1 ? (
            <Head>
              Set-up {i + 1}: datum moved by {setUp.shift.x}, {setUp.shift.y} mm
            </Head>
          ) : null}
          {setUp.steps.map((s, k) => (
            <View key={k} className="min-h-8 flex-row items-center gap-2 border-b border-line">
              <ToolSign nth={order.indexOf(s.tool)} />
              <Mono className="w-touch">{s.tool}</Mono>
              <Body className="flex-1">{toolText(s.tool, rules.tools)}</Body>
              <Small>
                {s.operations.length} {s.operations.length === 1 ? "place" : "places"}, {(s.moveMm / 1000).toFixed(1)} m
              </Small>
            </View>
          ))}
        </View>
      ))}
    </ScrollView>
  );
}

const gapText = (is: number, bound: number): string =>
  bound <= 0 ? "0 %" : `${(Math.max(0, is / bound - 1) * 100).toFixed(1)} %`;
