import { byText } from "../design/order";
import type { Happened } from "./events";

/** Something of a list is done, or is not done after all: a piece hung on a rail, a bar cut. */
export interface TickEvent extends Happened<"ticked" | "unticked"> {
  /** `strip -X2` */
  list: string;
  item: string;
}

export interface Ticked {
  done: boolean;
  who: string;
  at: string;
}

/**
 * What counts of a list, by item: what was said of it last, whenever it came; of two said at one moment that of the greater id.
 * O(events)
 */
export function ticksOf(list: string, events: readonly TickEvent[]): Map<string, Ticked> {
  const last = new Map<string, TickEvent>();
  for (const e of events) {
    if (e.list !== list || (e.what !== "ticked" && e.what !== "unticked")) continue;
    const known = last.get(e.item);
    if (!known || (byText(e.at, known.at) || byText(e.id, known.id)) > 0) last.set(e.item, e);
  }
  return new Map([...last].map(([item, { what, who, at }]) => [item, { done: what === "ticked", who, at }]));
}
