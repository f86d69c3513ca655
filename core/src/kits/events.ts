import { byText, pushTo } from "../design/order";
import { standing, type Happened } from "../frame/events";
import { even, lineKey, type Kit } from "./result";

export const PICK_WHAT = ["picked", "short", "put back", "undone", "at the bench", "used up"] as const;

/** What has been picked into kits. */
export interface PickEvent extends Happened<(typeof PICK_WHAT)[number]> {
  kit: string;
  /** Of the kit: part or text, with its unit. Empty of what is said of the whole kit. */
  line: string;
  /** In the line's unit. */
  quantity?: number;
  /** Of a short pick. */
  reason?: string;
}

export interface LineState {
  picked: number;
  /** What was said to be missing last, and why; null when nothing is. */
  short: { quantity: number; reason: string; who: string } | null;
  /** Who picked of it. */
  who: string[];
}

/** What a log says of one kit. */
export interface KitLog {
  lines: Map<string, LineState>;
  /** What was said of the whole kit last. */
  carried: "at the bench" | "used up" | null;
  /** Its events that stand, in order of time. */
  events: PickEvent[];
}

/** How each kit stands, by its code. O(events log events) */
export function readPicks(events: readonly PickEvent[]): Map<string, KitLog> {
  const kits = new Map<string, PickEvent[]>();
  for (const e of standing(events)) pushTo(kits, e.kit, e);
  return new Map([...kits].map(([code, list]) => [code, kitLog(list)]));
}

function kitLog(events: PickEvent[]): KitLog {
  const log: KitLog = { lines: new Map(), carried: null, events };
  for (const e of events) {
    if (e.what === "at the bench" || e.what === "used up") {
      log.carried = e.what;
      continue;
    }
    let line = log.lines.get(e.line);
    if (!line) log.lines.set(e.line, (line = { picked: 0, short: null, who: [] }));
    const quantity = e.quantity ?? 0;
    if (e.what === "picked") {
      line.picked = even(line.picked + quantity);
      line.short = null;
      if (!line.who.includes(e.who)) line.who.push(e.who);
    } else if (e.what === "put back") line.picked = even(line.picked - quantity);
    else line.short = { quantity, reason: e.reason ?? "", who: e.who };
  }
  for (const line of log.lines.values()) {
    line.who.sort(byText);
    // More cannot go back than was taken, whoever says so and in whatever order it comes.
    line.picked = Math.max(0, line.picked);
  }
  return log;
}

/** How each line of a kit stands. O(events log events) */
export const stateOf = (kit: string, events: readonly PickEvent[]): Map<string, LineState> =>
  readPicks(events).get(kit)?.lines ?? new Map();

export const KIT_STATES = ["planned", "picking", "picked", "at the bench", "used up"] as const;
export type KitState = (typeof KIT_STATES)[number];

export interface KitStanding {
  state: KitState;
  lines: number;
  /** Lines of which all is picked. */
  done: number;
  /** Lines that were said to be short, and are. */
  short: number;
}

/** Where a kit stands. One that was carried to the bench stays there, whatever a new revision wants of it. */
export function kitStanding(kit: Pick<Kit, "lines">, log: KitLog | undefined): KitStanding {
  let [done, short, begun] = [0, 0, false];
  for (const line of kit.lines) {
    const is = log?.lines.get(lineKey(line));
    if (!is) continue;
    if (is.picked > 0 || is.short) begun = true;
    if (is.picked >= line.quantity) done++;
    else if (is.short) short++;
  }
  const lines = kit.lines.length;
  const state = log?.carried ?? (lines > 0 && done + short === lines ? "picked" : begun ? "picking" : "planned");
  return { state, lines, done, short };
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

/** Something that goes back to the store, or over to another kit that still lacks it. */
export interface PutBack {
  kit: string;
  line: string;
  quantity: number;
  part: string | null;
  text: string;
  place: string | null;
  /** Kits that still want of it, with how many. */
  over: { kit: string; quantity: number }[];
}

/**
 * What goes back after a change of the design: of every kit that was picked, also of those that are no more. What another kit still
 * lacks is carried over to it, in the order of the kits. O(lines + events log events)
 * @param before kits of an earlier revision, for the places of what no kit has any more
 */
export function putBacksOf(
  kits: readonly Pick<Kit, "code" | "lines">[],
  log: ReadonlyMap<string, KitLog>,
  before: readonly Pick<Kit, "lines">[] = [],
): PutBack[] {
  const known = new Map([...before, ...kits].flatMap((k) => k.lines.map((l) => [lineKey(l), l] as const)));
  const wanted = new Map(kits.map((k) => [k.code, new Map(k.lines.map((l) => [lineKey(l), l.quantity]))]));
  const lacking = new Map<string, { kit: string; quantity: number }[]>();
  for (const { code, lines } of kits)
    for (const line of lines) {
      const key = lineKey(line);
      const lacks = even(line.quantity - (log.get(code)?.lines.get(key)?.picked ?? 0));
      if (lacks > 0) pushTo(lacking, key, { kit: code, quantity: lacks });
    }
  return [...log]
    .sort(([a], [b]) => byText(a, b))
    .flatMap(([kit, { lines }]) =>
      putBack(wanted.get(kit) ?? new Map(), lines).map(({ line, quantity }): PutBack => {
        const over: PutBack["over"] = [];
        let left = quantity;
        for (const other of lacking.get(line) ?? []) {
          const takes = even(Math.min(left, other.quantity));
          if (takes <= 0) continue;
          over.push({ kit: other.kit, quantity: takes });
          other.quantity = even(other.quantity - takes);
          left = even(left - takes);
        }
        const of = known.get(line);
        return {
          kit,
          line,
          quantity,
          part: of?.part ?? null,
          text: of?.text ?? line,
          place: of?.place ?? null,
          over,
        };
      }),
    );
}
