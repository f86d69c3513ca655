import type { ReactNode } from "react";
import { ScrollView, View } from "react-native";

/** A wide view: what is above, a table that takes the room, and beside it what is said of the chosen row, where one is chosen. */
export function Beside({ head, details, children }: { head: ReactNode; details: ReactNode; children: ReactNode }) {
  return (
    <View className="min-h-0 flex-1">
      {head}
      <View className="min-h-0 flex-1 flex-row">
        <View className="min-h-0 min-w-0 flex-1">{children}</View>
        {details ? (
          <ScrollView role="region" aria-label="Details" className="w-92 grow-0 border-l border-line">
            {details}
          </ScrollView>
        ) : null}
      </View>
    </View>
  );
}
