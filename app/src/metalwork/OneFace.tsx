import type { FaceWork } from "@gray-bench/core/metalwork/result";
import { seenText } from "@gray-bench/core/metalwork/say";
import { sequenceOf } from "@gray-bench/core/metalwork/sequence";
import { useMemo, useState } from "react";
import { ScrollView, View } from "react-native";
import { Told } from "../edits/Told";
import type { Outcome } from "../queries/useEdits";
import { BottomSheet } from "../kit/BottomSheet";
import { WithSheet } from "../kit/WithSheet";
import { choose } from "../kit/choice";
import { Tabs } from "../kit/Tabs";
import { Mono } from "../kit/Text";
import { useKeys } from "../kit/useKeys";
import { useWide } from "../kit/useWide";
import { FaceDrawing } from "./FaceDrawing";
import { FaceSheet } from "./FaceSheet";
import { HoleDetails } from "./HoleDetails";
import { HoleList } from "./HoleList";
import type { Props } from "./choice";
import { OperatorCard } from "./OperatorCard";
import { Order } from "./Order";
import { aspectTabs, ASPECTS, pageTabs, type Aspect } from "./tabs";

/** One face: what is made in it, why and in which order, and the card of who makes it. */
export function OneFace(props: Props & { work: FaceWork }) {
  const { job, work, design, panel, rules, choice, result } = props;
  const wide = useWide();
  const [told, setTold] = useState<Outcome | null>(null);
  const sequence = useMemo(() => sequenceOf(work, rules), [work, rules]);
  const asked: Aspect = ASPECTS.find(([t]) => t === choice.show)?.[0] ?? "drawing";
  const tab: Aspect = wide && asked === "drawing" ? "holes" : asked;
  const hole = work.holes.find((h) => h.number === Number(choice.hole));
  const at = Math.min(sequence.length, Math.max(0, Number(choice.at ?? (tab === "order" ? 0 : sequence.length)) || 0));
  useKeys({ Escape: () => choose({ hole: undefined, working: undefined }) });
  const drawing = (
    <View className="min-h-0 flex-1">
      <FaceDrawing
        work={work}
        design={design}
        panel={panel}
        chosen={hole?.number}
        sequence={sequence}
        upTo={tab === "order" ? at : null}
        tap={(n) => choose({ hole: n === undefined ? undefined : String(n), working: undefined })}
      />
    </View>
  );
  const details = hole ? (
    <HoleDetails
      job={job}
      work={work}
      hole={hole}
      design={design}
      panel={panel}
      rules={rules}
      result={result}
      working={choice.working}
      sequence={sequence}
      laid={setTold}
    />
  ) : null;
  const tabs = (
    <Tabs
      label={wide ? "What is shown of the face" : "What is shown"}
      now={tab}
      tabs={[...aspectTabs(job, work.face, choice.hole, wide), ...(wide ? [] : pageTabs(job))]}
    />
  );
  const pane =
    tab === "holes" ? (
      <HoleList work={work} chosen={hole?.number} wide={wide} />
    ) : tab === "order" ? (
      <Order
        work={work}
        sequence={sequence}
        at={at}
        job={job}
        result={result}
        rules={rules}
        design={design}
        panel={panel}
        working={choice.working}
      />
    ) : tab === "machine" ? (
      <ScrollView className="flex-1">
        <OperatorCard job={job} work={work} rules={rules} wide={wide} />
      </ScrollView>
    ) : tab === "sheet" ? (
      <ScrollView className="flex-1">
        <FaceSheet job={job} work={work} design={design} rules={rules} laid={setTold} />
      </ScrollView>
    ) : null;
  if (wide)
    return (
      <View className="min-h-0 flex-1 flex-row">
        <View className="min-h-0 min-w-0 flex-1">
          <Told outcome={told} testID="metalwork-told" />
          {drawing}
        </View>
        <View className="min-h-0 w-115 border-l border-line">
          {tabs}
          {details && tab === "holes" ? (
            <ScrollView className="max-h-[60%] grow-0 border-b border-line" contentContainerClassName="p-3">
              {details}
            </ScrollView>
          ) : null}
          {pane}
        </View>
      </View>
    );
  return (
    <View className="min-h-0 flex-1">
      {tabs}
      <Told outcome={told} testID="metalwork-told" />
      <WithSheet
        sheet={
          details && (tab === "drawing" || tab === "holes") ? (
            <BottomSheet
              testID="hole-sheet"
              head={
                <Mono>
                  hole {hole!.number}, seen from {seenText(work)}
                </Mono>
              }
              close={() => choose({ hole: undefined, working: undefined })}
            >
              <View className="p-3">{details}</View>
            </BottomSheet>
          ) : null
        }
      >
        {tab === "drawing" || tab === "order" ? drawing : null}
        {tab === "order" ? <View style={{ height: "44%" }}>{pane}</View> : pane}
      </WithSheet>
    </View>
  );
}
