import type { KitRules } from "../design/kit-rules";
import { byText, pushTo } from "../design/order";
import type { BillLine, Kit, KitLine } from "./result";

/** Whether a line is taken from an open bin at the bench, and not picked. */
export const isOpenBin = ({ part, text }: Pick<BillLine, "part" | "text">, { open }: Pick<KitRules, "open">): boolean =>
  open.some(({ begins }) => text.startsWith(begins) || (part?.startsWith(begins) ?? false));

/**
 * Tickets: what one enclosure needs for one step, long and heavy things apart; what comes from open bins is in none. Every other line
 * of the bill is in just one kit, with its whole quantity. O(lines log lines)
 * @param longMm of parts, by number
 */
export function kitsOf(
  job: string,
  bill: readonly BillLine[],
  rules: Pick<KitRules, "open" | "heavyKg" | "longMm">,
  longMm: ReadonlyMap<string, number>,
): Kit[] {
  const groups = new Map<string, BillLine[]>();
  for (const line of bill) {
    if (isOpenBin(line, rules)) continue;
    const heavy = (line.weightKg ?? 0) >= rules.heavyKg;
    const long = line.unit === "pcs" && line.part !== null && (longMm.get(line.part) ?? 0) >= rules.longMm;
    const apart = long ? "long" : heavy ? "heavy" : "";
    pushTo(groups, `${line.enclosure}\u0000${line.step}\u0000${apart}`, line);
  }
  return [...groups].map(([key, lines]): Kit => {
    const [enclosure, step, apart] = key.split("\u0000") as [string, string, "" | "long" | "heavy"];
    return {
      code: [job, enclosure, step, apart].filter((t) => t !== "").join(" "),
      enclosures: enclosure === "" ? [] : [enclosure],
      step,
      apart: apart === "" ? null : apart,
      lines: lines
        .map((l): KitLine => ({
          part: l.part,
          text: l.text,
          quantity: l.quantity,
          unit: l.unit,
          place: l.place,
          tags: l.tags,
        }))
        .sort((a, b) => byText(a.place ?? "\uffff", b.place ?? "\uffff") || byText(a.part ?? a.text, b.part ?? b.text)),
      weightKg: lines.reduce((sum, l) => sum + (l.weightKg ?? 0) * (l.unit === "pcs" ? l.quantity : 0), 0),
      unweighed: lines.filter((l) => l.weightKg === null).length,
    };
  });
}
