import type { ReactNode } from "react";
import { View } from "react-native";
import { useSheetBeside } from "./useWide";

/** What is looked at, with the sheet that speaks of it: below it on a phone, beside it where there is room for both. */
export function WithSheet({ sheet, children }: { sheet: ReactNode; children: ReactNode }) {
  const isBeside = useSheetBeside();
  return (
    <View className={`min-h-0 flex-1 ${isBeside ? "flex-row" : ""}`}>
      <View className="min-h-0 min-w-0 flex-1">{children}</View>
      {sheet}
    </View>
  );
}
