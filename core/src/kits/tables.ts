import type { Stock } from "../design/stock";
import type { Cell } from "../formats/csv";
import type { Table } from "../formats/table";
import { isShort, needsOf, needsOver, NO_STOCK, type JobNeeds, type Need, type Wanted } from "./needs";
import { issued } from "./packs";
import type { BillLine, Kit } from "./result";

const yes = (is: boolean | undefined): string => (is ? "yes" : "");

export const bomTable = (bill: readonly BillLine[]): Table => ({
  head: "enclosure,step,part,maker,text,quantity,unit,place,tags,pack,fallback".split(","),
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
    l.pack,
    yes(l.terms.some((t) => t.fallback)),
  ]),
});

export const picksTable = (kits: readonly Kit[]): Table => ({
  head: "kit,order,place,part,text,quantity,unit,tags,packs,pack,back,cut,fallback".split(","),
  rows: kits.flatMap((kit) =>
    kit.lines.map((line, i): Cell[] => [
      kit.code,
      i + 1,
      line.place ?? "",
      line.part ?? "",
      line.text,
      line.quantity,
      line.unit,
      line.tags.join(" "),
      line.pack?.packs ?? null,
      line.pack?.size ?? null,
      line.pack?.back ?? null,
      (line.pieces ?? []).map((p) => `${p.of} ${p.mm}`).join("; "),
      yes(line.fallback),
    ]),
  ),
});

export const kitsTable = (kits: readonly Kit[]): Table => ({
  head: "kit,enclosures,step,apart,lines,weight_kg,lines_without_weight,walk_m,list_order_m,walk_at_least_m".split(","),
  rows: kits.map((k): Cell[] => [
    k.code,
    k.enclosures.join(" "),
    k.step,
    k.apart ?? "",
    k.lines.length,
    k.weightKg,
    k.unweighed,
    k.walk.metres,
    k.walk.listMetres,
    k.walk.boundMetres,
  ]),
});

/** What jobs lack. A part the store says nothing of has no level and nothing missing: it is not judged. */
export const shortagesTable = (needs: readonly Need[], at: string | null): Table => ({
  head: "part,text,unit,needed,there,on_its_way,missing,job,wanted,job_needs,in_stock,comes_in_time,comes_late,late_until,job_lacks,levels_of".split(
    ",",
  ),
  rows: needs
    .filter((n) => n.there === null || isShort(n))
    .flatMap((n) =>
      n.jobs.map((j): Cell[] => [
        n.part,
        n.text,
        n.unit,
        n.needed,
        n.there,
        n.there === null ? null : n.onItsWay,
        n.missing,
        j.job,
        j.wanted ?? "",
        j.needed,
        ...(n.there === null
          ? [null, null, null, "", null]
          : [j.fromStock, j.fromDeliveries, j.late, j.lateUntil ?? "", j.missing]),
        n.there === null ? "" : (at ?? ""),
      ]),
    ),
});

/** What is to be bought, in whole packs: all that is missing; of what the store says nothing, all that is needed. */
export const purchaseTable = (needs: readonly Need[]): Table => ({
  head: "part,maker,text,missing,packs,quantity,unit,pack,level_known,first_wanted,jobs".split(","),
  rows: needs
    .filter((n) => n.missing === null || n.missing > 0)
    .map((n): Cell[] => {
      const missing = n.missing ?? n.needed;
      const { packs, quantity } = issued(missing, n.pack);
      const lacking = n.jobs.filter((j) => n.missing === null || j.missing > 0);
      return [
        n.part,
        n.maker ?? "",
        n.text,
        missing,
        packs,
        quantity,
        n.unit,
        n.pack,
        n.there === null ? "no" : "yes",
        lacking[0]?.wanted ?? "",
        lacking.map((j) => j.job).join(" "),
      ];
    }),
});

/** What one job needs against a stock, or against none. */
export function needsOfJob(
  job: string,
  wanted: string | null,
  bill: readonly BillLine[],
  stock: Stock | null,
): { parts: Wanted[]; needs: Need[] } {
  const one: JobNeeds = { job, wanted, parts: needsOf(bill) };
  return { parts: one.parts, needs: needsOver([one], stock ?? NO_STOCK) };
}
