import { TextInput, View } from "react-native";
import { useTokens } from "./settings";
import { Small } from "./Text";

interface Props {
  label: string;
  value: string;
  change(text: string): void;
  hint?: string;
  testID: string;
  hideLabel?: boolean;
  /** The field loses the focus. */
  leave?: () => void;
  /** What single keys do while the field has the focus; they are then not typed. */
  keys?: Record<string, () => void>;
  /** The list that is walked from this field, and the row in it that is chosen now, by their ids. */
  walks?: { list: string; row: string | undefined };
}

export function Field({ label, value, change, hint, testID, hideLabel = false, leave, keys, walks }: Props) {
  const t = useTokens();
  return (
    <View className="gap-1">
      {hideLabel ? null : <Small>{label}</Small>}
      <TextInput
        testID={testID}
        aria-label={label}
        value={value}
        onChangeText={change}
        onBlur={leave}
        placeholder={hint}
        placeholderTextColor={t.slate}
        autoCapitalize="none"
        autoCorrect={false}
        // Enter is one of the keys: it does not take the focus away.
        submitBehavior={keys ? "submit" : "blurAndSubmit"}
        onKeyPress={(e) => {
          const act = keys?.[e.nativeEvent.key];
          if (!act) return;
          e.preventDefault();
          act();
        }}
        {...(walks
          ? {
              role: "combobox" as const,
              "aria-autocomplete": "list",
              "aria-expanded": true,
              "aria-controls": walks.list,
              "aria-activedescendant": walks.row,
            }
          : {})}
        className="min-h-touch rounded-edge border border-line bg-paper px-3 font-mono text-body text-graphite"
      />
    </View>
  );
}
