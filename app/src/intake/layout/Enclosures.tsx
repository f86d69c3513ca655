import { MATERIALS, type Material } from "@gray-bench/core/design/model";
import type { DrawingSaid, EnclosureSaid } from "@gray-bench/core/drawings/said";
import { View } from "react-native";
import { Choice } from "../../kit/Choice";
import { Field } from "../../kit/Field";
import { formatLength } from "../../kit/format";
import { MmField } from "../../kit/MmField";
import { readLength } from "../../kit/quantity";
import { Select } from "../../kit/Select";
import { useSettings } from "../../kit/settings";
import { SeveritySign } from "../../kit/Severity";
import { Head, Small } from "../../kit/Text";
import { useTyped } from "../../kit/useTyped";

/** What drawings of faces do not say of their enclosures. */
export function Enclosures({
  said,
  change,
}: {
  said: DrawingSaid;
  change(tag: string, change: Partial<EnclosureSaid>): void;
}) {
  return (
    <View className="gap-4">
      {said.enclosures.map((e) => (
        <One key={e.tag} said={said} e={e} change={(c) => change(e.tag, c)} />
      ))}
    </View>
  );
}

function One({
  said,
  e,
  change,
}: {
  said: DrawingSaid;
  e: EnclosureSaid;
  change(change: Partial<EnclosureSaid>): void;
}) {
  const settings = useSettings();
  const views = said.views.filter((v) => v.enclosure === e.tag);
  const plate = views.some((v) => v.face === "plate");
  const front = views.find((v) => v.face === "door" || v.face === "rear");
  const asDrawn = (size: "w" | "h"): string | undefined =>
    front && formatLength(Math.round(front.frame[size] * front.mm * 10) / 10, settings);
  const lacks = [
    ...(e.w === undefined && !front ? ["its width"] : []),
    ...(e.h === undefined && !front ? ["its height"] : []),
    ...(e.d === undefined ? ["its depth"] : []),
    ...(plate && e.setback === undefined ? ["how far its plate stands behind the door"] : []),
    ...(plate && e.thickness === undefined ? ["how thick its plate is"] : []),
    ...(plate && e.material === undefined ? ["what its plate is made of"] : []),
  ];
  const field = (id: "w" | "h" | "d" | "setback" | "thickness", label: string, hint?: string) => (
    <View className="w-38">
      <MmField
        label={label}
        mm={e[id]}
        change={(v) => change({ [id]: v })}
        least={0.1}
        {...(hint ? { hint } : {})}
        testID={`enclosure-${id}`}
      />
    </View>
  );
  return (
    <View className="gap-2" testID={`enclosure-${e.tag}`}>
      <Head>Enclosure {e.tag}</Head>
      {lacks.length > 0 ? (
        <View className="flex-row items-start gap-2" testID="enclosure-lacks">
          <View className="pt-0.5">
            <SeveritySign severity="stop" />
          </View>
          <Small className="min-w-0 flex-1">Its faces cannot be taken yet: say {lacks.join(", ")}.</Small>
        </View>
      ) : null}
      <View className="flex-row flex-wrap gap-x-3 gap-y-2">
        {field("w", "Width", asDrawn("w"))}
        {field("h", "Height", asDrawn("h"))}
        {field("d", "Depth")}
        {plate ? field("setback", "Door to plate") : null}
        {plate ? field("thickness", "Plate, thick") : null}
        {plate ? (
          <View className="w-50">
            <Select
              label="Plate of"
              value={e.material ?? ""}
              choices={MATERIALS}
              choose={(v) => change({ material: (v || undefined) as Material | undefined })}
              testID="enclosure-material"
            />
          </View>
        ) : null}
      </View>
      {front && (e.w === undefined || e.h === undefined) ? (
        <Small>As wide and high as its {front.face} is drawn, where nothing else is written.</Small>
      ) : null}
      <Choice<"left" | "right">
        label="Hinge, seen from the front"
        value={e.hinge ?? "left"}
        options={[
          ["left", "left"],
          ["right", "right"],
        ]}
        choose={(hinge) => change({ hinge })}
        testID="enclosure-hinge"
      />
      {plate ? <Crossings e={e} change={change} /> : null}
    </View>
  );
}

/** Heights at which wires cross to the door; several are parted by semicolons. */
function Crossings({ e, change }: { e: EnclosureSaid; change(change: Partial<EnclosureSaid>): void }) {
  const settings = useSettings();
  const shown = (e.crossings ?? []).map((v) => formatLength(v, settings)).join("; ");
  const readAll = (written: string) =>
    written
      .split(";")
      .filter((t) => t.trim() !== "")
      .map((t) => readLength(t, settings));
  const wrongIn = (written: string) => readAll(written).find((r) => !r.ok || r.value < 0);
  const { text, typed, type, leave } = useTyped(shown, (written) => {
    if (wrongIn(written)) return false;
    const crossings = readAll(written).flatMap((r) => (r.ok ? [r.value] : []));
    change({ crossings: crossings.length > 0 ? crossings : undefined });
    return true;
  });
  const wrong = typed === null ? undefined : wrongIn(typed);
  return (
    <View className="gap-1">
      <Field
        label="Wires cross to the door at height"
        value={text}
        change={type}
        leave={leave}
        hint="none: no wire reaches the door"
        testID="enclosure-crossings"
      />
      <Small>
        Above the foot of the enclosure, beside the hinge; several with semicolons. Their loop follows from the swing of
        the door.
      </Small>
      {wrong ? (
        <Small role="alert" className="text-brick">
          {wrong.ok ? "Not below the foot." : wrong.reason}
        </Small>
      ) : null}
    </View>
  );
}
