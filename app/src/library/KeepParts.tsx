import type { LibraryPart } from "@gray-bench/core/library/library";
import { useState } from "react";
import { View } from "react-native";
import { Button } from "../kit/Button";
import { Field } from "../kit/Field";
import { useSettings } from "../kit/settings";
import { Small } from "../kit/Text";
import { Refused } from "./Refused";
import { useChangeParts } from "../queries/useLibrary";

/** What was changed becomes a version; jobs keep theirs until it is taken over. */
export function KeepParts({
  said,
  parts,
  gone = [],
  on,
  next,
  kept,
}: {
  said: string;
  parts: readonly LibraryPart[];
  /** Numbers of parts that are taken out. */
  gone?: readonly string[];
  on: string;
  next: number;
  kept?(): void;
}) {
  const settings = useSettings();
  const save = useChangeParts(kept);
  const [name, setName] = useState(settings.name);
  const [why, setWhy] = useState("");
  return (
    <View className="gap-2 border-l-4 border-harbour pl-3" testID="part-save-tray">
      <Small>{said}</Small>
      <View className="flex-row flex-wrap gap-x-3 gap-y-2">
        <View className="w-38">
          <Field label="Your name" value={name} change={setName} testID="part-who" />
        </View>
        <View className="min-w-38 flex-1">
          <Field label="Why (may be left empty)" value={why} change={setWhy} testID="part-why" />
        </View>
      </View>
      {save.error ? <Refused error={save.error} /> : null}
      <View className="flex-row">
        <Button
          kind="solid"
          label={save.isPending ? "Keeping it …" : `Keep it as version ${next}`}
          disabled={save.isPending || name.trim() === ""}
          onPress={() => {
            settings.change({ name: name.trim() });
            const asked = { on, who: name.trim(), ...(why.trim() ? { why: why.trim() } : {}) };
            save.mutate({ ...asked, parts: [...parts], ...(gone.length > 0 ? { gone: [...gone] } : {}) });
          }}
          testID="part-save"
        />
      </View>
    </View>
  );
}
