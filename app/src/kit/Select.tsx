import { View } from "react-native";
import { useTokens } from "./settings";
import { rem } from "./textScale";
import { EDGE_PX, FONTS, TOUCH_PX, TYPE_PX } from "./tokens";
import { Small } from "./Text";

/** One of many, chosen from the list that the device itself offers. */
export function Select({
  label,
  value,
  choices,
  choose,
  none = "choose …",
  testID,
}: {
  label: string;
  value: string;
  choices: readonly string[];
  choose: (value: string) => void;
  /** What stands there when nothing is chosen. */
  none?: string;
  testID: string;
}) {
  const t = useTokens();
  return (
    <View className="max-w-full gap-1">
      <Small>{label}</Small>
      <select
        data-testid={testID}
        aria-label={label}
        value={value}
        onChange={(e) => choose(e.target.value)}
        style={{
          minHeight: TOUCH_PX,
          padding: "0 10px",
          borderRadius: EDGE_PX,
          border: `1px solid ${t.line}`,
          background: t.paper,
          color: t.graphite,
          fontFamily: FONTS.mono,
          maxWidth: "100%",
          fontSize: rem(TYPE_PX.body[0]),
        }}
      >
        <option value="">{none}</option>
        {choices.map((c) => (
          <option key={c} value={c}>
            {c}
          </option>
        ))}
      </select>
    </View>
  );
}
