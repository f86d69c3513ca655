import type { Stock } from "../design/stock";
import type { FileOut } from "../frame/file-out";
import type { Question } from "../frame/question";
import type { PickEvent } from "./events";
import type { KitsResult } from "./result";

/** What jobs need together, against the store: a group for each result. */
export const NEEDS: Question<
  {
    groups: readonly { job: string; wanted: string | null; picks: PickEvent[] }[];
    stock: Stock | null;
    as: "json" | "csv" | "purchase" | "xlsx";
  },
  KitsResult,
  FileOut
> = {
  stage: "kits",
  name: "needs",
  async answer({ groups, stock, as }, results) {
    const { needsFile } = await import("./together");
    return needsFile(
      groups.map((group, i) => ({ ...group, bill: results[i]!.bill })),
      stock,
      as,
    );
  },
};
