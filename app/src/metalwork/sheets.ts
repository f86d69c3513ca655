/**
 * What became of the sheets of a face, kept as ticks of the floor: append-only, with who and when, and made without a
 * network too. Each sheet of a face has a number; a scrapped one is followed by the next.
 */

export type SheetState = "waiting" | "begun" | "done" | "scrapped";

export interface Sheet {
  n: number;
  state: SheetState;
  reason: string | null;
  who: string;
  /** Where its programs went, by set-up. */
  sent: { setUp: number; machine: string; id: number }[];
  /** The last thing that was said of it, to be taken back. */
  last: string | null;
}

export const SHEETS = "sheets";

const FORM = /^(.+)#(\d+) (begun|done|scrapped: .+|sent .+)$/;
const SENT = /^sent (\d+) (\d+) (.+)$/;

export const begunItem = (face: string, n: number): string => `${face}#${n} begun`;
export const doneItem = (face: string, n: number): string => `${face}#${n} done`;
export const scrappedItem = (face: string, n: number, reason: string): string => `${face}#${n} scrapped: ${reason}`;
export const sentItem = (face: string, n: number, setUp: number, machine: string, id: number): string =>
  `${face}#${n} sent ${setUp} ${id} ${machine}`;

const RANK = ["waiting", "begun", "done", "scrapped"] as const;

/** The sheets of a face by number; the last is the one to be made, or that is made. */
export function sheetsOf(face: string, said: ReadonlyMap<string, { done: boolean; who: string }>): Sheet[] {
  const sheets = new Map<number, Sheet>();
  const sheet = (n: number): Sheet => {
    let known = sheets.get(n);
    if (!known) sheets.set(n, (known = { n, state: "waiting", reason: null, who: "", sent: [], last: null }));
    return known;
  };
  for (const [item, { done, who }] of said) {
    const [, of, number, what] = FORM.exec(item) ?? [];
    if (of !== face || !done || what === undefined) continue;
    const one = sheet(Number(number));
    const sent = SENT.exec(what);
    if (sent) {
      one.sent = [
        ...one.sent.filter((s) => s.setUp !== Number(sent[1])),
        { setUp: Number(sent[1]), id: Number(sent[2]), machine: sent[3]! },
      ];
      continue;
    }
    const state: SheetState = what === "begun" ? "begun" : what === "done" ? "done" : "scrapped";
    if (RANK.indexOf(state) <= RANK.indexOf(one.state)) continue;
    one.state = state;
    one.who = who;
    one.last = item;
    one.reason = state === "scrapped" ? what.slice("scrapped: ".length) : null;
  }
  const all = [...sheets.values()].sort((a, b) => a.n - b.n);
  const last = all[all.length - 1];
  if (!last || last.state === "scrapped") all.push(sheet((last?.n ?? 0) + 1));
  return all;
}
