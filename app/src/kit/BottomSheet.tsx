import { useState, type ReactNode } from "react";
import { ScrollView, View } from "react-native";
import ChevronDown from "lucide-react-native/icons/chevron-down";
import ChevronUp from "lucide-react-native/icons/chevron-up";
import X from "lucide-react-native/icons/x";
import { Button } from "./Button";
import { useTokens } from "./settings";
import { useSheetBeside } from "./useWide";

interface Props {
  /** Always in sight, also when the sheet is low. */
  head: ReactNode;
  children: ReactNode;
  close?: () => void;
  testID: string;
}

/** Details over a drawing on a phone: low at first, high on demand. */
export function BottomSheet({ head, children, close, testID }: Props) {
  const [high, setHigh] = useState(false);
  const t = useTokens();
  const isBeside = useSheetBeside();
  return (
    <View
      testID={testID}
      role="region"
      aria-label="Details"
      className={isBeside ? "w-85 border-l border-line bg-paper" : "border-t border-line bg-paper"}
      style={isBeside ? undefined : { height: high ? "88%" : "52%" }}
    >
      <View className="flex-row items-center gap-2 border-b border-line bg-tray px-2 py-1">
        {isBeside ? null : (
          <Button
            label={high ? "Lower the sheet" : "Raise the sheet"}
            bare
            icon={high ? <ChevronDown size={20} color={t.graphite} /> : <ChevronUp size={20} color={t.graphite} />}
            onPress={() => setHigh(!high)}
            testID="sheet-toggle"
          />
        )}
        <View className="min-w-0 flex-1">{head}</View>
        {close ? (
          <Button label="Let go" bare icon={<X size={20} color={t.graphite} />} onPress={close} testID="sheet-close" />
        ) : null}
      </View>
      {/* Reached and scrolled by keys, also where nothing in it is. */}
      <ScrollView tabIndex={0} className="flex-1">
        {children}
      </ScrollView>
    </View>
  );
}
