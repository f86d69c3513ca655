import type { Design } from "@gray-bench/core/design/model";
import { lookUp } from "@gray-bench/core/design/lookup";
import { movedPlace, stepOf, waysOf, type Way } from "@gray-bench/core/panel/nudge";
import ArrowDown from "lucide-react-native/icons/arrow-down";
import ArrowLeft from "lucide-react-native/icons/arrow-left";
import ArrowRight from "lucide-react-native/icons/arrow-right";
import ArrowUp from "lucide-react-native/icons/arrow-up";
import { useMemo, useState } from "react";
import { View } from "react-native";
import { Told } from "../edits/Told";
import { Button } from "../kit/Button";
import { Choice } from "../kit/Choice";
import { formatLength, keepTags } from "../kit/format";
import { useSettings, useTokens } from "../kit/settings";
import { Failed } from "../kit/States";
import { Small } from "../kit/Text";
import { useEdit, type Outcome } from "../queries/useEdits";

/** Steps, mm, as rules have them in each unit. */
const STEPS: Record<"mm" | "in", readonly (readonly [mm: string, text: string])[]> = {
  mm: [
    ["1", "1 mm"],
    ["5", "5 mm"],
    ["10", "10 mm"],
  ],
  in: [
    ["1.5875", "1/16 in"],
    ["3.175", "1/8 in"],
    ["6.35", "1/4 in"],
  ],
};
const ICONS = { left: ArrowLeft, right: ArrowRight, up: ArrowUp, down: ArrowDown } as const;
const WORDS: Record<Way, string> = { left: "to the left", right: "to the right", up: "up", down: "down" };

/** How far it has been moved, not yet laid. */
export interface Moved {
  right: number;
  up: number;
}

/** Moves a device by small steps: the drawing shows where it comes to, and one edit puts it there. */
export function Nudge({
  job,
  tag,
  design,
  moved,
  move,
}: {
  job: string;
  tag: string;
  design: Design;
  moved: Moved;
  move(moved: Moved): void;
}) {
  const settings = useSettings();
  const t = useTokens();
  const lay = useEdit(job);
  const steps = STEPS[settings.length === "mm" ? "mm" : "in"];
  const [chosen, setStep] = useState("");
  const [step, stepText] = steps.find(([mm]) => mm === chosen) ?? steps[1]!;
  const [told, setTold] = useState<Outcome | null>(null);
  const look = useMemo(() => lookUp(design), [design]);
  const device = look.devices.get(tag);
  const ways = useMemo(() => (device ? waysOf(device, look, design) : []), [device, look, design]);
  if (!device || ways.length === 0) return null;
  const on = movedPlace(device, moved.right, moved.up, look);
  const words = [
    moved.right === 0
      ? ""
      : `${formatLength(Math.abs(moved.right), settings)} to the ${moved.right > 0 ? "right" : "left"}`,
    moved.up === 0 ? "" : `${formatLength(Math.abs(moved.up), settings)} ${moved.up > 0 ? "up" : "down"}`,
  ].filter((w) => w !== "");
  return (
    <View className="gap-2" role="group" aria-label={`Move ${tag} by steps`} testID="nudge">
      <Small>Drag it on the drawing, or move it by steps.</Small>
      <Choice label="Move by steps" value={step} options={steps} choose={setStep} testID="nudge-step" />
      <View className="flex-row flex-wrap gap-2">
        {ways.map((way) => {
          const Icon = ICONS[way];
          const [right, up] = stepOf(way, Number(step));
          return (
            <Button
              key={way}
              bare
              label={`${keepTags(tag)} ${stepText} ${WORDS[way]}`}
              icon={<Icon size={22} color={t.graphite} />}
              onPress={() => move({ right: moved.right + right, up: moved.up + up })}
              testID={`nudge-${way}`}
            />
          );
        })}
      </View>
      {words.length > 0 && on ? (
        <View className="gap-2">
          <Small testID="nudge-said">{words.join(", ")}: not put there yet</Small>
          <View className="flex-row flex-wrap gap-2">
            <Button
              kind="solid"
              label="Put it there"
              onPress={() =>
                lay.mutate([{ kind: "place", payload: { device: tag, on } }], {
                  onSuccess(outcome) {
                    setTold(outcome);
                    move({ right: 0, up: 0 });
                  },
                })
              }
              testID="nudge-put"
            />
            <Button label="Cancel" onPress={() => move({ right: 0, up: 0 })} testID="nudge-cancel" />
          </View>
        </View>
      ) : null}
      {lay.error ? <Failed error={lay.error} /> : null}
      <Told outcome={told} testID="nudge-told" />
    </View>
  );
}
