import type { FileOut } from "../frame/file-out";
import type { KitRules } from "./rules";
import type { Design } from "../design/model";
import type { Stock } from "../design/stock";
import { toPdf } from "../formats/pdf";
import { bookOf, csvFile, type Widths } from "../formats/table";
import { daysBefore } from "./needs";
import type { KitsResult } from "./result";
import { bomTable, kitsTable, needsOfJob, picksTable, purchaseTable, shortagesTable } from "./tables";
import { binLabels, pickSheets } from "./tickets";

const PDF = "application/pdf";

/** Of spreadsheets of kits and needs. */
export const WIDTHS: Widths = {
  by: { kit: 28, text: 36, tags: 50, cut: 40, maker: 18, jobs: 24 },
  other: 14,
};

/**
 * All files of this stage.
 * @param stock what the store says; without it nothing is judged as missing, and what is to be bought is all of it
 */
export async function files(
  design: Pick<Design, "job">,
  rules: Pick<KitRules, "daysBefore">,
  { bill, kits }: KitsResult,
  stock: Stock | null,
): Promise<FileOut[]> {
  const { code: job, title, revision, due } = design.job;
  const heading = { job, title, revision };
  const { needs } = needsOfJob(job, daysBefore(due, rules.daysBefore), bill, stock);
  const tables = { bill: bomTable(bill), kits: kitsTable(kits), picks: picksTable(kits) };
  const wants = { shortages: shortagesTable(needs, stock?.at ?? null), purchase: purchaseTable(needs) };
  return [
    csvFile("bom.csv", tables.bill),
    csvFile("picks.csv", tables.picks),
    csvFile("shortages.csv", wants.shortages),
    csvFile("purchase.csv", wants.purchase),
    await bookOf("kits.xlsx", tables, WIDTHS),
    await bookOf("shortages.xlsx", wants, WIDTHS),
    { name: "kits.pdf", type: PDF, bytes: await toPdf(`${job}, pick lists`, pickSheets(kits, heading)) },
    { name: "bin-labels.pdf", type: PDF, bytes: await toPdf(`${job}, labels of bins`, binLabels(kits, heading)) },
  ];
}
