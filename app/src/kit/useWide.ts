import { useWindowDimensions } from "react-native";
import { useTextScale } from "./textScale";
import { SHEET_BESIDE, WIDE } from "./tokens";

/** Whether the window has this width at least, px beside text of the usual size: large text needs more. */
export function useWideFrom(px: number): boolean {
  const scale = useTextScale();
  return useWindowDimensions().width >= px * scale;
}

/** Whether list, drawing and details stand side by side. */
export const useWide = (): boolean => useWideFrom(WIDE);

/** Whether a sheet has room beside what it speaks of: on a tablet, on a phone that lies. */
export const useSheetBeside = (): boolean => useWideFrom(SHEET_BESIDE);
