import { useWindowDimensions } from "react-native";
import { useTextScale } from "./textScale";
import { WIDE } from "./tokens";

/** Whether list, drawing and details stand side by side: large text needs a larger window for that. */
export function useWide(): boolean {
  const scale = useTextScale();
  return useWindowDimensions().width >= WIDE * scale;
}
