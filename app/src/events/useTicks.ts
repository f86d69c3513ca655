import { ticksOf } from "@gray-bench/core/frame/ticks";
import { useMemo } from "react";
import { useEvents } from "./useEvents";

/** What is ticked of a list, with what still waits to be sent; and ticking, which never fails for want of a network. */
export function useTicks(job: string, list: string) {
  const { events, say, waiting, error, loading } = useEvents(job, "tick", list);
  const done = useMemo(() => ticksOf(list, events), [list, events]);
  const tick = (items: readonly string[], is: boolean): void =>
    say(items.map((item) => ({ list, item, what: is ? ("ticked" as const) : ("unticked" as const) })));
  return { done, tick, waiting, error, loading };
}
