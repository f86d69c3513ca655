import type { DrawingLook } from "@gray-bench/core/drawings/look";
import { MEANINGS, type Meaning } from "@gray-bench/core/drawings/said";
import { View } from "react-native";
import { formatCount } from "../../kit/format";
import { Select } from "../../kit/Select";
import { Head, Small } from "../../kit/Text";

/** What is on which layer. */
export function Layers({ look, change }: { look: DrawingLook; change(layer: string, meaning: Meaning): void }) {
  return (
    <View className="gap-2" testID="layers">
      <Head>Layers</Head>
      <Small>
        By shape: long narrow frames are ducts and rails, others with a tag in them are devices. Texts count on every
        layer but one of nothing.
      </Small>
      <View className="flex-row flex-wrap gap-x-3 gap-y-2">
        {look.layers.map(({ name, count, meaning, hidden }) => (
          <View key={name} className="w-41">
            <Select
              label={`${name}, ${formatCount(count)}${hidden ? ", off in the file" : ""}`}
              value={meaning}
              choices={MEANINGS}
              none="by its name"
              choose={(v) => change(name, (v || "by shape") as Meaning)}
              testID={`layer-${name}`}
            />
          </View>
        ))}
      </View>
    </View>
  );
}
