import type { Cell } from "../formats/csv";
import { byText } from "../design/order";
import type { KitRules } from "../design/kit-rules";
import { issued } from "./packs";
import type { BillLine, Kit, KitLine } from "./result";
import type { Shortage } from "./shortage";
import { walkOf } from "./walk";

interface Table {
  head: string[];
  rows: Cell[][];
}

/** A line's place among others: by part, or by its text where the library does not hold it. */
export const lineKey = ({ part, text, unit }: Pick<KitLine, "part" | "text" | "unit">): string =>
  `${part ?? text} (${unit})`;

export const bomTable = (bill: readonly BillLine[]): Table => ({
  head: "enclosure,step,part,maker,text,quantity,unit,place,tags".split(","),
  rows: bill.map((l): Cell[] => [
    l.enclosure,
    l.step,
    l.part ?? "",
    l.maker ?? "",
    l.text,
    l.quantity,
    l.unit,
    l.place ?? "",
    l.tags.join(" "),
  ]),
});

/** Lines of a kit in the order of its walk; what has no place, or one that nothing leads to, comes last. O(places² · steps) */
export function pickOrder(kit: Pick<Kit, "lines">, rules: KitRules): { order: number; line: KitLine }[] {
  const walk = walkOf(
    kit.lines.flatMap((l) => l.place ?? []),
    rules,
  );
  const at = new Map(walk.stops.map((p, i) => [p, i]));
  return [...kit.lines]
    .sort(
      (a, b) =>
        (at.get(a.place ?? "") ?? Infinity) - (at.get(b.place ?? "") ?? Infinity) || byText(lineKey(a), lineKey(b)),
    )
    .map((line, i) => ({ order: i + 1, line }));
}

export const picksTable = (kits: readonly Kit[], rules: KitRules): Table => ({
  head: "kit,order,place,part,text,quantity,unit,tags".split(","),
  rows: kits.flatMap((kit) =>
    pickOrder(kit, rules).map(({ order, line }): Cell[] => [
      kit.code,
      order,
      line.place ?? "",
      line.part ?? "",
      line.text,
      line.quantity,
      line.unit,
      line.tags.join(" "),
    ]),
  ),
});

export const shortagesTable = (shortages: readonly Shortage[]): Table => ({
  head: "part,text,needed,free,missing,steps,tags".split(","),
  rows: shortages.map((s): Cell[] => [
    s.part,
    s.text,
    s.needed,
    s.free,
    s.missing,
    s.steps.map((x) => `${x.enclosure} ${x.step}`.trim()).join("; "),
    s.tags.join(" "),
  ]),
});

/** What is to be bought: all that is missing, in whole packs. */
export const purchaseTable = (shortages: readonly Shortage[], bill: readonly BillLine[]): Table => {
  const known = new Map(bill.flatMap((l) => (l.part === null ? [] : [[l.part, l] as const])));
  return {
    head: "part,maker,text,missing,packs,quantity,unit".split(","),
    rows: shortages.map((s): Cell[] => {
      const line = known.get(s.part);
      const { packs, quantity } = issued(s.missing, line?.pack ?? null);
      return [s.part, line?.maker ?? "", s.text, s.missing, packs, quantity, line?.unit ?? "pcs"];
    }),
  };
};

/** One line that a change of the design made more, or less. */
export interface Changed {
  enclosure: string;
  step: string;
  line: string;
  before: number;
  after: number;
}

/** What a new revision needs more, and what less, by enclosure and step; equal lines are left out. O(lines) */
export function billChanges(before: readonly BillLine[], after: readonly BillLine[]): Changed[] {
  const key = (l: BillLine): string => `${l.enclosure}\u0000${l.step}\u0000${lineKey(l)}`;
  const all = new Map<string, Changed>();
  const put = (l: BillLine, side: "before" | "after"): void => {
    const one = all.get(key(l)) ?? { enclosure: l.enclosure, step: l.step, line: lineKey(l), before: 0, after: 0 };
    one[side] = Math.round((one[side] + l.quantity) * 10_000) / 10_000;
    all.set(key(l), one);
  };
  for (const l of before) put(l, "before");
  for (const l of after) put(l, "after");
  return [...all.values()].filter((c) => c.before !== c.after);
}
