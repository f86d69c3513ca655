import { useEffect, type RefObject } from "react";
import type { ScrollView } from "react-native";

/** Scrolls a row of links so that the one that is shown is in sight, whenever another is. */
export function useCurrentInSight(scroller: RefObject<ScrollView | null>, shown: string | undefined): void {
  useEffect(() => {
    const box = scroller.current as unknown as HTMLElement | null;
    box?.querySelector?.("[aria-current=true]")?.scrollIntoView?.({ block: "nearest", inline: "nearest" });
  }, [scroller, shown]);
}
