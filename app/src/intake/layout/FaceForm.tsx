import { FACE_KINDS, type FaceKind } from "@gray-bench/core/design/model";
import type { DrawingLook } from "@gray-bench/core/drawings/look";
import type { DrawingSaid, ViewSaid } from "@gray-bench/core/drawings/said";
import { useState } from "react";
import { View } from "react-native";
import { Button } from "../../kit/Button";
import { Field } from "../../kit/Field";
import { formatCount, formatLength } from "../../kit/format";
import { MmField } from "../../kit/MmField";
import { Select } from "../../kit/Select";
import { useSettings } from "../../kit/settings";
import { Body, Head, Small } from "../../kit/Text";
import { nextFace } from "./layoutActs";

/** Says which face a frame of the drawing is, of which enclosure, and how large. */
export function FaceForm({
  look,
  said,
  frame,
  mm,
  take,
  leave,
}: {
  look: DrawingLook;
  said: DrawingSaid;
  frame: DrawingLook["frames"][number];
  /** Millimetres of a unit, as the file says or another face. */
  mm: number;
  take(view: ViewSaid): void;
  leave(): void;
}) {
  const settings = useSettings();
  const [enclosure, setEnclosure] = useState(said.views.at(-1)?.enclosure ?? look.enclosures[0] ?? "");
  const [face, setFace] = useState<FaceKind | null>(null);
  const [width, setWidth] = useState(frame.box.w * mm);
  const [mirrored, setMirrored] = useState(false);
  const kind = face ?? nextFace(said, enclosure);
  const factor = width / frame.box.w;
  const there = said.views.some((v) => v.enclosure === enclosure.trim() && v.face === kind);
  return (
    <View className="gap-2 border-l-4 border-verdigris pl-3" testID="face-form">
      <Head>This frame</Head>
      <Body>
        {formatLength(frame.box.w * factor, settings)} × {formatLength(frame.box.h * factor, settings)}
        {frame.tags > 0 ? `, ${formatCount(frame.tags)} ${frame.tags === 1 ? "tag" : "tags"} in it` : ", no tag in it"}
      </Body>
      <Small>Tap it again for the next larger one.</Small>
      <View className="flex-row flex-wrap gap-x-3 gap-y-2">
        <View className="w-32">
          <Field label="Enclosure" value={enclosure} change={setEnclosure} hint="+A1" testID="face-enclosure" />
        </View>
        <View className="w-32">
          <Select
            label="Face"
            value={kind}
            choices={FACE_KINDS}
            choose={(v) => setFace((v || null) as FaceKind | null)}
            testID="face-kind"
          />
        </View>
        <View className="w-38">
          <MmField
            label="It is so wide"
            mm={Math.round(width * 100) / 100}
            change={(v) => v !== undefined && setWidth(v)}
            least={1}
            testID="face-width"
          />
        </View>
      </View>
      {look.unitMm === null && said.views.length === 0 ? (
        <Small className="text-ochre" testID="unit-unknown">
          The file does not say its unit: a unit is taken for a millimetre. If the width is not right, write the one
          that is.
        </Small>
      ) : null}
      <View className="flex-row flex-wrap items-center gap-2">
        <Button
          label="Drawn from behind"
          pressed={mirrored}
          onPress={() => setMirrored(!mirrored)}
          testID="face-mirrored"
        />
      </View>
      {there ? (
        <Small className="text-brick">
          The {kind} of {enclosure} is another frame already: take that one out first.
        </Small>
      ) : null}
      <View className="flex-row flex-wrap items-center gap-2">
        <Button
          kind="solid"
          label={enclosure.trim() === "" ? "Take it" : `Take it as ${kind} of ${enclosure.trim()}`}
          disabled={enclosure.trim() === "" || there}
          onPress={() =>
            take({
              enclosure: enclosure.trim(),
              face: kind,
              frame: frame.box,
              mm: Math.round(factor * 1e9) / 1e9,
              ...(mirrored ? { mirrored } : {}),
            })
          }
          testID="face-take"
        />
        <Button label="Cancel" onPress={leave} testID="face-leave" />
      </View>
    </View>
  );
}
