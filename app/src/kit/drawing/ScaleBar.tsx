import { View } from "react-native";
import { formatLength } from "../format";
import { useSettings } from "../settings";
import { Small } from "../Text";

const STEPS_MM = [1, 2, 5, 10, 20, 50, 100, 200, 500, 1000, 2000];
const STEPS_IN = [0.1, 0.25, 0.5, 1, 2, 5, 10, 20, 50, 100].map((n) => n * 25.4);
const MOST_PX = 120;

/** The longest round length that fits. */
export function barLength(k: number, steps: readonly number[]): number {
  return [...steps].reverse().find((mm) => mm * k <= MOST_PX) ?? steps[0]!;
}

export function ScaleBar({ k }: { k: number }) {
  const settings = useSettings();
  const mm = barLength(k, settings.length === "mm" ? STEPS_MM : STEPS_IN);
  return (
    <View testID="scale-bar" className="absolute bottom-2 left-2 bg-paper px-1" style={{ pointerEvents: "none" }}>
      <View className="h-1.5 border-x-2 border-b-2 border-graphite" style={{ width: mm * k }} />
      <Small className="text-graphite">{formatLength(mm, settings)}</Small>
    </View>
  );
}
