import type { MetalworkRules } from "./rules";
import type { FileOut } from "../frame/file-out";
import { byText } from "../design/order";
import { toCsv } from "../formats/csv";
import { toPdf } from "../formats/pdf";
import { barSheets, pieceLabels } from "./bar-drawing";
import { barLists } from "./bars";
import type { Piece } from "../solve/cuts";
import { cutsTable } from "./files";
import type { BarList, MetalworkResult } from "./result";

/** A job whose pieces are cut with others, and how many equal panels of it. */
export interface Together {
  job: string;
  panels: number;
  bars: MetalworkResult["bars"];
}

/** More than this is cut in lots. */
export const MOST_PANELS = 100;

/**
 * Pieces of several jobs, or of equal panels of one, from bars of the same part and stock length: each piece once for each
 * panel, named with its job, and with its panel where there are several. Cost as of `cutList`.
 */
export function cutTogether(groups: readonly Together[], rules: MetalworkRules): BarList[] {
  const lists = new Map<string, { kind: BarList["kind"]; part: string; stockMm: number; pieces: Piece[] }>();
  for (const { job, panels, bars } of groups)
    for (const { kind, part, stockMm, list } of bars) {
      const key = `${kind}\u0000${part}\u0000${stockMm}`;
      let all = lists.get(key);
      if (!all) lists.set(key, (all = { kind, part, stockMm, pieces: [] }));
      for (const piece of [...list.bars.flatMap((b) => b.pieces), ...list.tooLong])
        for (let n = 1; n <= panels; n++)
          all.pieces.push({ ...piece, of: `${job} ${piece.of}${panels > 1 ? ` (${n})` : ""}` });
    }
  const order = ["rail", "duct", "cover"];
  return [...lists.values()]
    .sort((a, b) => order.indexOf(a.kind) - order.indexOf(b.kind) || byText(a.part, b.part) || a.stockMm - b.stockMm)
    .flatMap((one) => barLists([one], () => one.stockMm, rules));
}

/** The same as a table, as bars to scale, or as labels. */
export async function togetherFile(
  bars: BarList[],
  jobs: readonly string[],
  as: "json" | "csv" | "pdf" | "labels",
): Promise<FileOut> {
  const title = jobs.join(", ");
  const heading = { job: title, title: "cut together", revision: "as of now" };
  if (as === "json")
    return { name: "cuts.json", type: "application/json", bytes: new TextEncoder().encode(JSON.stringify({ bars })) };
  if (as === "csv") {
    const { head, rows } = cutsTable({ bars });
    return { name: "cuts.csv", type: "text/csv", bytes: toCsv(head, rows) };
  }
  const sheets = as === "pdf" ? barSheets(bars, heading) : pieceLabels(bars, heading);
  return {
    name: as === "pdf" ? "cuts.pdf" : "cut-labels.pdf",
    type: "application/pdf",
    bytes: await toPdf(`${title}, cut together`, sheets),
  };
}
