import type { FileOut } from "../frame/file-out";
import type { Stock } from "../design/stock";
import { bookOf, csvFile } from "../formats/table";
import { WIDTHS } from "./files";
import { needsOf, needsOver, NO_STOCK, startsOf, type Need, type StepStart } from "./needs";
import { readPicks, type PickEvent } from "./events";
import type { BillLine } from "./result";
import { purchaseTable, shortagesTable } from "./tables";

/** A job among others that want parts. */
export interface Needing {
  job: string;
  /** ISO date its kits are wanted on. */
  wanted: string | null;
  bill: readonly BillLine[];
  picks: readonly PickEvent[];
}

/** What jobs need together, and which steps of each can start. */
export interface TogetherNeeds {
  needs: Need[];
  starts: Record<string, StepStart[]>;
}

/** Jobs together against a stock, less what has been picked. O(lines + picks + deliveries) and sorting */
export function needTogether(jobs: readonly Needing[], stock: Stock | null): TogetherNeeds {
  const wanting = jobs.map(({ job, wanted, bill, picks }) => ({
    job,
    wanted,
    parts: needsOf(bill, readPicks(picks)),
  }));
  const needs = needsOver(wanting, stock ?? NO_STOCK);
  return { needs, starts: Object.fromEntries(wanting.map((w) => [w.job, startsOf(w.job, w.parts, needs)])) };
}

/** The same for programs, or as tables. */
export async function needsFile(
  jobs: readonly Needing[],
  stock: Stock | null,
  as: "json" | "csv" | "purchase" | "xlsx",
): Promise<FileOut> {
  const together = needTogether(jobs, stock);
  if (as === "json")
    return {
      name: "needs.json",
      type: "application/json",
      bytes: new TextEncoder().encode(JSON.stringify(together)),
    };
  const [short, buy] = [shortagesTable(together.needs, stock?.at ?? null), purchaseTable(together.needs)];
  if (as === "csv") return csvFile("shortages.csv", short);
  if (as === "purchase") return csvFile("purchase.csv", buy);
  return bookOf("shortages.xlsx", { shortages: short, purchase: buy }, WIDTHS);
}
