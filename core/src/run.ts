import type { FileOut } from "./design/file-out";
import type { Design } from "./design/model";
import { markAccepted, sortPoints, type OpenPoint } from "./design/open-points";
import { SHOP_RULES, type Rules } from "./design/rules";
import { openPointsFile } from "./formats/open-points";
import { STAGES, type StageResult } from "./stages";
import type { StageName } from "./stage-names";

export interface JobResults {
  stages: Partial<Record<StageName, StageResult>>;
  /** Of all stages, stops first. */
  open: OpenPoint[];
}

export type StageProgress = (stage: StageName, share: number) => void;

/** Runs every stage in order. Pure: the same design and rules give the same results. */
export function runStages(design: Design, rules: Rules = SHOP_RULES, progress?: StageProgress): JobResults {
  const stages: Partial<Record<StageName, StageResult>> = {};
  for (const stage of STAGES) {
    progress?.(stage.name, 0);
    stages[stage.name] = stage.compute({
      design,
      rules,
      results: stages,
      progress: (share) => progress?.(stage.name, share),
    });
    progress?.(stage.name, 1);
  }
  const open = sortPoints(STAGES.flatMap((s) => stages[s.name]!.open));
  return { stages, open: markAccepted(open, design.accepted) };
}

/** Names of all output files of a job. */
export const FILE_NAMES: readonly string[] = [...STAGES.flatMap((s) => s.fileNames), "open-points.csv"];

/** Every output file of a job, in order of name. */
export async function allFiles(results: JobResults): Promise<FileOut[]> {
  const files = [openPointsFile(results.open)];
  for (const stage of STAGES) {
    const result = results.stages[stage.name];
    if (result && stage.files) files.push(...(await stage.files(result)));
  }
  return files.sort((a, b) => (a.name < b.name ? -1 : 1));
}
