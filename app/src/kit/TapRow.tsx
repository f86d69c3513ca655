import type { ReactNode } from "react";
import { View } from "react-native";
import { rem } from "./textScale";
import { GLOVE_PX } from "./tokens";

/** A row of a list that is tapped as a whole. */
export function TapRow({
  press,
  px,
  on = false,
  testID,
  children,
}: {
  press(): void;
  /** Its height, px beside text of the usual size; as high as what stands in it, but never too low for a thumb, where none is given. */
  px?: number;
  on?: boolean;
  testID: string;
  children: ReactNode;
}) {
  return (
    <button
      type="button"
      data-testid={testID}
      aria-current={on ? "true" : undefined}
      onClick={press}
      className="w-full border-0 bg-transparent p-0 text-left font-text"
      style={{
        height: px === undefined ? undefined : rem(px),
        minHeight: GLOVE_PX,
        display: "block",
        cursor: "pointer",
      }}
    >
      <View className={`h-full flex-row items-center gap-3 border-b border-line px-3 py-1 ${on ? "bg-tray" : ""}`}>
        {children}
      </View>
    </button>
  );
}
