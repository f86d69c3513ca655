import type { Arrangement } from "@gray-bench/core/panel/sheet";
import type { PanelResult } from "@gray-bench/core/panel/result";
import LayoutGrid from "lucide-react-native/icons/layout-grid";
import { useState } from "react";
import { View } from "react-native";
import { Button } from "../kit/Button";
import { choose } from "../kit/choice";
import { Choice } from "../kit/Choice";
import { Overlay } from "../kit/Overlay";
import { useTokens } from "../kit/settings";
import { Head, Small } from "../kit/Text";
import type { LayChoice } from "./useSheet";

const WORDS: readonly (readonly [Arrangement, string])[] = [
  ["unfolded", "Door beside its plate"],
  ["standing", "As the cabinets stand"],
];

/** Which faces are drawn, and how they are laid out. */
export function Arrange({ panel, lay, faces }: { panel: PanelResult } & LayChoice) {
  const t = useTokens();
  const [open, setOpen] = useState(false);
  const only = (faces ?? "").split(",").filter((f) => f !== "");
  const toggle = (id: string): void => {
    const next = only.includes(id) ? only.filter((f) => f !== id) : [...only, id];
    choose({ faces: next.length > 0 ? next.join(",") : undefined });
  };
  return (
    <>
      <Button
        label="Lay out the faces"
        bare
        pressed={only.length > 0 || lay === "standing"}
        icon={<LayoutGrid size={20} color={t.graphite} />}
        onPress={() => setOpen(true)}
        testID="arrange"
      />
      {open ? (
        <Overlay title="Lay out the faces" close={() => setOpen(false)} testID="arrange-sheet">
          <View className="gap-3 p-3">
            <Choice
              label="All faces"
              value={only.length > 0 ? "" : lay === "standing" ? "standing" : "unfolded"}
              options={WORDS as readonly (readonly [string, string])[]}
              choose={(way) => choose({ lay: way === "standing" ? way : undefined, faces: undefined })}
              testID="lay"
            />
            <View role="group" aria-label="These faces alone, side by side" className="gap-1">
              <Head>These faces alone, side by side</Head>
              <View className="flex-row flex-wrap gap-2">
                {panel.faces.map((f) => (
                  <Button
                    key={f.id}
                    label={`${f.enclosure} ${f.kind}`}
                    pressed={only.includes(f.id)}
                    onPress={() => toggle(f.id)}
                    testID={`only-${f.id}`}
                  />
                ))}
              </View>
              {only.length === 0 ? <Small>None chosen: every face that carries anything is drawn.</Small> : null}
            </View>
            <View className="flex-row">
              <Button kind="solid" label="Done" onPress={() => setOpen(false)} testID="arrange-done" />
            </View>
          </View>
        </Overlay>
      ) : null}
    </>
  );
}
