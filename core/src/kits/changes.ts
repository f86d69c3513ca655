import { even, lineKey, type BillLine, type Unit } from "./result";

/** One line that a change of the design made more, or less. */
export interface Changed {
  enclosure: string;
  step: string;
  line: string;
  part: string | null;
  text: string;
  unit: Unit;
  before: number;
  after: number;
}

/** What a new revision needs more, and what less, by enclosure and step; equal lines are left out. O(lines) */
export function billChanges(before: readonly BillLine[], after: readonly BillLine[]): Changed[] {
  const key = (l: BillLine): string => `${l.enclosure}\u0000${l.step}\u0000${lineKey(l)}`;
  const all = new Map<string, Changed>();
  const put = (l: BillLine, side: "before" | "after"): void => {
    const one = all.get(key(l)) ?? {
      enclosure: l.enclosure,
      step: l.step,
      line: lineKey(l),
      part: l.part,
      text: l.text,
      unit: l.unit,
      before: 0,
      after: 0,
    };
    one[side] = even(one[side] + l.quantity);
    all.set(key(l), one);
  };
  for (const l of before) put(l, "before");
  for (const l of after) put(l, "after");
  return [...all.values()].filter((c) => c.before !== c.after);
}
