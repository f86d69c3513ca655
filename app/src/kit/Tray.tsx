import type { ReactNode } from "react";
import { View } from "react-native";

/** A shallow tray with a hairline edge. */
export function Tray({
  children,
  className = "",
  testID,
}: {
  children: ReactNode;
  className?: string;
  testID?: string;
}) {
  return (
    <View testID={testID} className={`rounded-edge border border-line bg-tray ${className}`}>
      {children}
    </View>
  );
}
