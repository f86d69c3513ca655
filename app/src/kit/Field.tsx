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
}

export function Field({ label, value, change, hint, testID, hideLabel = false }: Props) {
  const t = useTokens();
  return (
    <View className="gap-1">
      {hideLabel ? null : <Small>{label}</Small>}
      <TextInput
        testID={testID}
        aria-label={label}
        value={value}
        onChangeText={change}
        placeholder={hint}
        placeholderTextColor={t.slate}
        autoCapitalize="none"
        autoCorrect={false}
        className="min-h-[44px] rounded-[3px] border border-line bg-paper px-3 font-mono text-[15px] text-graphite"
      />
    </View>
  );
}
