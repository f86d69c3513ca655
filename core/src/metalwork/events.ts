import { byText } from "../design/order";
import { standing, type Happened } from "../frame/events";

export const SHEET_WHAT = ["begun", "done", "scrapped", "sent", "undone"] as const;

/** What became of the sheets of a face. Each has a number, counted from one; a scrapped one is followed by the next. */
export interface SheetEvent extends Happened<(typeof SHEET_WHAT)[number]> {
  face: string;
  sheet: number;
  /** Why it was scrapped. */
  reason?: string;
  /** Of a program that was sent: its set-up, the machine, the name under which it went there. */
  setUp?: number;
  machine?: string;
  program?: string;
}

export type SheetState = "waiting" | "begun" | "done" | "scrapped";

export interface Sheet {
  n: number;
  state: SheetState;
  reason: string | null;
  who: string;
  /** Where its programs went, by set-up: the last one of each. A name is null where a program of before did not say it. */
  sent: { setUp: number; machine: string; program: string | null }[];
  /** Events that say its state: whoever takes it back undoes them. */
  said: string[];
}

const RANK = ["waiting", "begun", "done", "scrapped"] as const;

/** The sheets of a face by number; the last is the one to be made, or that is made. O(events log events) */
export function sheetsOf(face: string, events: readonly SheetEvent[]): Sheet[] {
  const sheets = new Map<number, Sheet>();
  const sheet = (n: number): Sheet => {
    let known = sheets.get(n);
    if (!known) sheets.set(n, (known = { n, state: "waiting", reason: null, who: "", sent: [], said: [] }));
    return known;
  };
  for (const e of standing(events)) {
    if (e.face !== face) continue;
    const one = sheet(e.sheet);
    if (e.what === "sent") {
      const { setUp = 1, machine = "", program = null } = e;
      one.sent = [...one.sent.filter((s) => s.setUp !== setUp), { setUp, machine, program }];
      continue;
    }
    const state = e.what as SheetState;
    const [more, before] = [RANK.indexOf(state), RANK.indexOf(one.state)];
    if (more === before) one.said.push(e.id);
    if (more <= before) continue;
    one.state = state;
    one.who = e.who;
    one.said = [e.id];
    one.reason = state === "scrapped" ? (e.reason ?? "") : null;
  }
  const all = [...sheets.values()].sort((a, b) => a.n - b.n);
  for (const { sent } of all) sent.sort((a, b) => a.setUp - b.setUp || byText(a.machine, b.machine));
  const last = all[all.length - 1];
  if (!last || last.state === "scrapped") all.push(sheet((last?.n ?? 0) + 1));
  return all;
}

const FORM = /^(.+)#(\d{1,6}) (begun|done|scrapped: .+|sent .+)$/s;
const SENT = /^sent (\d{1,6}) \d+ (.+)$/s;

/** What a tick of a list of sheets said, as programs before had it: `+A1/plate#2 scrapped: drill broke`. Null where it is none. */
export function sheetTicked(item: string): Omit<SheetEvent, "id" | "who" | "at"> | null {
  const [, face, number, said] = FORM.exec(item) ?? [];
  if (face === undefined || said === undefined) return null;
  const of = { face, sheet: Number(number) };
  if (said === "begun" || said === "done") return { ...of, what: said };
  if (said.startsWith("scrapped: ")) return { ...of, what: "scrapped", reason: said.slice("scrapped: ".length) };
  const [, setUp, machine] = SENT.exec(said) ?? [];
  return machine === undefined ? null : { ...of, what: "sent", setUp: Number(setUp), machine };
}

/** A tick of a list of sheets, as programs before had them. */
export interface SheetTick {
  id: string;
  item: string;
  done: boolean;
  who: string;
  at: string;
}

/**
 * What ticks of a list of sheets come to as events: what is ticked off undoes whatever said it before.
 * @param ticks in the order they were made
 * @param known events of before
 */
export function eventsOfTicks(ticks: readonly SheetTick[], known: readonly SheetEvent[] = []): SheetEvent[] {
  const events: SheetEvent[] = [];
  for (const { id, item, done, who, at } of ticks) {
    const said = sheetTicked(item);
    if (!said) continue;
    if (done) {
      events.push({ id, ...said, who, at });
      continue;
    }
    const { face, sheet } = said;
    const fields = Object.keys(said) as (keyof typeof said)[];
    const same = standing([...known, ...events]).filter((e) => fields.every((f) => e[f] === said[f]));
    same.forEach((e, i) =>
      events.push({ id: i === 0 ? id : `${id} ${i + 1}`, face, sheet, what: "undone", of: e.id, who, at }),
    );
  }
  return events;
}
