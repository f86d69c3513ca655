import { useWindowDimensions } from "react-native";
import { WIDE } from "./tokens";

/** Whether list, drawing and details stand side by side. */
export const useWide = (): boolean => useWindowDimensions().width >= WIDE;
