import { View } from "react-native";
import { Mono, Small } from "./Text";

/** A value between two, set by the thumb, the arrow keys, or a tap; what it stands at is said beside it. */
export function Slider({
  label,
  said,
  value,
  min,
  max,
  step,
  slide,
  let: letGo,
  testID,
}: {
  label: string;
  /** The value in words, with its unit. */
  said: string;
  value: number;
  min: number;
  max: number;
  step: number;
  /** While it moves. */
  slide(value: number): void;
  /** When it is let go. */
  let(): void;
  testID: string;
}) {
  return (
    <View>
      <View className="flex-row items-baseline justify-between gap-3">
        <Small>{label}</Small>
        <Mono testID={`${testID}-said`}>{said}</Mono>
      </View>
      <input
        type="range"
        className="slider"
        data-testid={testID}
        aria-label={label}
        aria-valuetext={said}
        min={min}
        max={max}
        step={step}
        value={value}
        onChange={(e) => slide(Number(e.target.value))}
        onPointerUp={letGo}
        onKeyUp={letGo}
        onBlur={letGo}
      />
    </View>
  );
}
