import type { Beside } from "@gray-bench/contract/events";
import type { Picker as SomebodyPicking } from "@gray-bench/contract/kits";
import { readPicks, type KitLog, type PickEvent } from "@gray-bench/core/kits/events";
import { useMemo } from "react";
import { useEvents } from "../events/useEvents";

/** What is said of an event, without what every event has. */
export type Said = Pick<PickEvent, "kit" | "line" | "what"> & Partial<Pick<PickEvent, "quantity" | "of" | "reason">>;

/** Somebody else with a kit in the hand, and whether they were at it before whoever asks came to theirs. */
export type Picker = SomebodyPicking & Pick<Beside, "before">;

/** What of a job is picked, by everybody; and saying so, which never fails for want of a network. */
export function usePicks(job: string, mine: Pick<Picker, "kit" | "line"> | null = null) {
  const { events, here, ...rest } = useEvents(job, "pick", undefined, mine && { thing: mine.kit, part: mine.line });
  const log = useMemo<ReadonlyMap<string, KitLog>>(() => readPicks(events), [events]);
  const pickers = useMemo(
    () => here.map(({ device, who, thing, part, before }): Picker => ({ device, who, kit: thing, line: part, before })),
    [here],
  );
  return { ...rest, log, pickers };
}

export type Picks = ReturnType<typeof usePicks>;
