import { byText } from "../design/order";

/**
 * What has been picked: a log of its own, append-only. A state is a function of the set of its events alone: sent twice, late, or in
 * another order they come to the same.
 */
export interface PickEvent {
  /** Given by whoever says it: sent twice it counts once. */
  id: string;
  kit: string;
  /** Of the kit: part or text, with its unit. */
  line: string;
  what: "picked" | "short" | "put back" | "undone";
  /** In the line's unit; of what is undone its event. */
  quantity?: number;
  of?: string;
  /** Of a short pick. */
  reason?: string;
  who: string;
  /** ISO date and time, by the clock of the device. */
  at: string;
}

export interface LineState {
  picked: number;
  /** What was said to be missing last, and why; null when nothing is. */
  short: { quantity: number; reason: string; who: string } | null;
  /** Who picked of it. */
  who: string[];
}

const TENTHS = 10_000;
const even = (v: number): number => Math.round(v * TENTHS) / TENTHS;

/** Events that stand: each once, without those that were undone. Of two with one id the first by content counts. */
export function standing(events: readonly PickEvent[]): PickEvent[] {
  const byId = new Map<string, PickEvent>();
  for (const e of events) {
    const known = byId.get(e.id);
    if (!known || byText(JSON.stringify(e), JSON.stringify(known)) < 0) byId.set(e.id, e);
  }
  const undone = new Set([...byId.values()].flatMap((e) => (e.what === "undone" && e.of !== undefined ? [e.of] : [])));
  return [...byId.values()]
    .filter((e) => e.what !== "undone" && !undone.has(e.id))
    .sort((a, b) => byText(a.at, b.at) || byText(a.id, b.id));
}

/** How each line of a kit stands. O(events log events) */
export function stateOf(kit: string, events: readonly PickEvent[]): Map<string, LineState> {
  const lines = new Map<string, LineState>();
  for (const e of standing(events)) {
    if (e.kit !== kit) continue;
    let line = lines.get(e.line);
    if (!line) lines.set(e.line, (line = { picked: 0, short: null, who: [] }));
    const quantity = e.quantity ?? 0;
    if (e.what === "picked") {
      line.picked = even(line.picked + quantity);
      line.short = null;
      if (!line.who.includes(e.who)) line.who.push(e.who);
    } else if (e.what === "put back") line.picked = even(line.picked - quantity);
    else line.short = { quantity, reason: e.reason ?? "", who: e.who };
  }
  for (const line of lines.values()) line.who.sort(byText);
  return lines;
}

/** What a kit has too much of, as when two picked one line, or a new revision wants less: it goes back. */
export function putBack(
  wanted: ReadonlyMap<string, number>,
  picked: ReadonlyMap<string, LineState>,
): { line: string; quantity: number }[] {
  return [...picked]
    .map(([line, { picked: is }]) => ({ line, quantity: even(is - (wanted.get(line) ?? 0)) }))
    .filter((b) => b.quantity > 0)
    .sort((a, b) => byText(a.line, b.line));
}
