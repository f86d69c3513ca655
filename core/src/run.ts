import type { FileOut } from "./frame/file-out";
import { contentHash } from "./design/hash";
import type { Design } from "./design/model";
import { markAccepted, sortPoints, type OpenPoint } from "./design/open-points";
import { hashFor, readFor } from "./frame/reads";
import { DEFAULT_SHOP, type Shop } from "./shop/shop";
import type { AnyStage, StageResult } from "./frame/stage";
import type { Stock } from "./design/stock";
import { openPointsFile } from "./formats/open-points";
import { STAGES } from "./stages";
import type { StageName } from "./stage-names";

export type Results = Partial<Record<StageName, StageResult>>;

export interface JobResults {
  design: Design;
  shop: Shop;
  stages: Results;
  /** Of all stages, stops first. */
  open: OpenPoint[];
}

export type StageProgress = (stage: StageName, share: number) => void;
export type StageKeys = Record<string, string>;

/**
 * The key of every stage's result: the hash of what the stage reads, of its version, and of the keys of the
 * results it needs. Equal keys, equal results: whatever else differs.
 */
export function stageKeys(design: Design, shop: Shop, stages: readonly AnyStage[] = STAGES): StageKeys {
  const keys: StageKeys = {};
  for (const { name, version, needs, reads } of stages)
    keys[name] = contentHash([name, version, hashFor(reads, design, shop), needs.map((n) => keys[n])]);
  return keys;
}

/** Runs one stage on what it reads and needs, and on nothing else. */
export function runStage(
  stage: AnyStage,
  design: Design,
  shop: Shop,
  results: Results,
  progress?: (share: number) => void,
): StageResult {
  const read = readFor(stage.reads, design, shop);
  const needed = Object.fromEntries(stage.needs.map((n) => [n, results[n]!]));
  return stage.compute({
    design: read.design,
    shop: read.shop,
    results: needed as never,
    ...(progress ? { progress } : {}),
  });
}

/** Runs every stage in order. Pure: the same design and shop give the same results. */
export function runStages(design: Design, shop: Shop = DEFAULT_SHOP, progress?: StageProgress): JobResults {
  const stages: Results = {};
  for (const stage of STAGES) {
    progress?.(stage.name, 0);
    stages[stage.name] = runStage(stage, design, shop, stages, (share) => progress?.(stage.name, share));
    progress?.(stage.name, 1);
  }
  return { design, shop, stages, open: openOf(design, stages) };
}

/** Open points of all stages, stops first, each with its mark when it is accepted; those come last. */
export const openOf = (
  design: Pick<Design, "accepted">,
  stages: Partial<Record<StageName, StageResult>>,
): OpenPoint[] => markAccepted(sortPoints(STAGES.flatMap((s) => stages[s.name]?.open ?? [])), design.accepted);

/**
 * Every output file of a job, stage after stage; against what the store says, where it is given. The files of a stage are made when
 * those before them were taken: whoever writes each as it comes holds no more than one stage of them.
 * @param begins hears of each stage whose files are made next
 */
export async function* eachFile(
  { design, shop, stages, open }: JobResults,
  stock: Stock | null = null,
  begins: (stage: StageName) => void = () => undefined,
): AsyncGenerator<FileOut, void, undefined> {
  yield openPointsFile(open);
  for (const stage of STAGES) {
    const result = stages[stage.name];
    if (!result || !stage.makeFiles) continue;
    begins(stage.name);
    yield* await stage.makeFiles({ design, shop, result: result as never, results: stages as never, stock });
  }
}

/** Every output file of a job at once, in order of name. */
export async function allFiles(results: JobResults, stock: Stock | null = null): Promise<FileOut[]> {
  const files: FileOut[] = [];
  for await (const file of eachFile(results, stock)) files.push(file);
  return files.sort((a, b) => (a.name < b.name ? -1 : 1));
}
