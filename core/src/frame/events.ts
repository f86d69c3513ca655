import { byText } from "../design/order";

/**
 * What happened: the third value beside the design and the shop. Each thing that happens is said once, by whoever it happened to, and is
 * never changed; what was said wrongly is undone by saying so. A state is a function of the **set** of events: sent twice, late, or in
 * another order they come to the same.
 */
export interface Happened<What extends string = string> {
  /** Given by whoever says it: sent twice it counts once. */
  id: string;
  what: What | "undone";
  /** Of what is undone: the id of its event. */
  of?: string;
  who: string;
  /** ISO date and time, by the clock of the device. */
  at: string;
}

/**
 * Events that stand: each once, without those that were undone, by time. Of two with one id the first by content counts.
 * O(events log events)
 */
export function standing<E extends Happened>(events: readonly E[]): E[] {
  const byId = new Map<string, E>();
  for (const e of events) {
    const known = byId.get(e.id);
    if (!known || byText(JSON.stringify(e), JSON.stringify(known)) < 0) byId.set(e.id, e);
  }
  const undone = new Set([...byId.values()].flatMap((e) => (e.what === "undone" && e.of !== undefined ? [e.of] : [])));
  return [...byId.values()]
    .filter((e) => e.what !== "undone" && !undone.has(e.id))
    .sort((a, b) => byText(a.at, b.at) || byText(a.id, b.id));
}
