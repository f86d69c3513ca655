import { View } from "react-native";
import { Button } from "./Button";
import { Head } from "./Text";

interface Props<T extends string> {
  label: string;
  value: T;
  options: readonly (readonly [T, string])[];
  choose(value: T): void;
  testID: string;
}

/** One of a few, all in sight. */
export function Choice<T extends string>({ label, value, options, choose, testID }: Props<T>) {
  return (
    <View role="group" aria-label={label} className="gap-1">
      <Head>{label}</Head>
      <View className="flex-row flex-wrap gap-2">
        {options.map(([v, text]) => (
          <Button key={v} label={text} pressed={v === value} onPress={() => choose(v)} testID={`${testID}-${v}`} />
        ))}
      </View>
    </View>
  );
}
