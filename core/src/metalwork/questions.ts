import type { FileOut } from "../frame/file-out";
import type { Question } from "../frame/question";
import type { MetalworkResult } from "./result";

/** Bars of several jobs, or of equal panels, cut together: a group for each result. */
export const CUTS: Question<
  { groups: readonly { job: string; panels: number }[]; as: "json" | "csv" | "pdf" | "labels" },
  MetalworkResult,
  FileOut
> = {
  stage: "metalwork",
  name: "cuts",
  long: true,
  async answer({ groups, as }, results, { metalwork }) {
    const { cutTogether, togetherFile } = await import("./together");
    const bars = cutTogether(
      groups.map((group, i) => ({ ...group, bars: results[i]!.bars })),
      metalwork,
    );
    return togetherFile(
      bars,
      groups.map((g) => g.job),
      as,
    );
  },
};
