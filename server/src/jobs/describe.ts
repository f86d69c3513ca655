import { STAGES } from "@gray-bench/core/stages";
import { STAGE_NAMES, type StageName } from "@gray-bench/core/stage-names";
import { staleStages } from "@gray-bench/core/stale";
import type { JobSummary, StageSummary } from "@gray-bench/contract/jobs";
import type { PointCount } from "@gray-bench/core/design/open-points";
import type { Summary } from "../workers/tasks";
import type { Runner } from "../results/runner";
import { targetOf } from "../results/target";
import type { Store } from "../store/database";
import type { JobRow } from "../store/jobs";
import { currentLibrary } from "../store/libraries";
import { currentShop, findShops, shopOf } from "../store/shops";
import { fromJson } from "../store/json";

const nothing = { stop: 0, check: 0, note: 0 };
const computed = new Set<StageName>(STAGES.map((s) => s.name));
/** Of a job whose figures are not there yet. */
const notComputed: StageSummary[] = STAGE_NAMES.map((stage) => ({
  stage,
  state: computed.has(stage) ? "not computed" : "not started",
  open: nothing,
}));

/** Edits that do not fit are stops. */
const plus = (open: PointCount, stops: number): PointCount => ({ ...open, stop: open.stop + stops });

/** A job as lists show it. While its numbers are computed anew the old ones stand, marked stale. */
export async function describeJob(row: JobRow, runner: Runner, store: Store): Promise<JobSummary> {
  return (await describeJobs([row], runner, store))[0]!;
}

/** Several at once: what is looked up is looked up for all of them together. */
export async function describeJobs(rows: readonly JobRow[], runner: Runner, { db }: Store): Promise<JobSummary[]> {
  const shop = await currentShop(db);
  const library = (await currentLibrary(db))?.hash ?? "";
  const summaries = await runner.summaries(rows.flatMap((r) => [targetOf(r).key, r.shown]));
  const older = await findShops(
    db,
    rows.map((r) => r.shop).filter((hash) => hash !== shop.hash),
  );
  const staleWith = new Map([...older].map(([hash, own]) => [hash, staleStages(shopOf(own), shopOf(shop))]));
  return rows.map((row): JobSummary => {
    const target = targetOf(row);
    const summary = summaries.get(target.key) ?? null;
    const shown = summary ?? summaries.get(row.shown) ?? null;
    const stale = new Set<StageName>();
    if (!summary && shown) {
      const keys = runner.runningKeys(target);
      for (const { name } of STAGES) if (!keys || keys[name] !== shown.keys[name]) stale.add(name);
    } else {
      for (const name of staleWith.get(row.shop) ?? []) stale.add(name);
    }
    return {
      code: row.job,
      title: row.title,
      customer: row.customer,
      due: row.due,
      revision: row.revision,
      importedAt: row.imported_at,
      designHash: row.hash,
      run: runner.stateOf(target, summary !== null).run,
      stages: marked(shown, stale),
      open: plus(shown?.open ?? nothing, fromJson(row.unfitting).length),
      figures: shown?.figures ?? null,
      key: target.key,
      keys: summary?.keys ?? null,
      shopHash: row.shop,
      shopNewer: shop.hash !== row.shop,
      libraryHash: row.library,
      libraryNewer: library !== row.library,
    };
  });
}

const marked = (shown: Summary | null, stale: ReadonlySet<StageName>): StageSummary[] =>
  (shown?.stages ?? notComputed).map((s) => (stale.has(s.stage) ? { ...s, state: "stale" } : s));
