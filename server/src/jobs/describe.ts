import { STAGES } from "@gray-bench/core/stages";
import { STAGE_NAMES, type StageName } from "@gray-bench/core/stage-names";
import { staleStages } from "@gray-bench/core/stale";
import type { JobSummary, StageSummary } from "@gray-bench/contract/api";
import type { PointCount } from "@gray-bench/core/design/open-points";
import type { NotLaid, Summary } from "../workers/tasks";
import type { Runner } from "../results/runner";
import { targetOf } from "../results/target";
import type { Store } from "../store/database";
import type { JobRow } from "../store/jobs";
import { currentShop, findShop, shopOf } from "../store/shops";

const nothing = { stop: 0, check: 0, note: 0 };
const notStarted: StageSummary[] = STAGE_NAMES.map((stage) => ({
  stage,
  state: "not started",
  open: nothing,
}));

/** Edits that do not fit are stops. */
const plus = (open: PointCount, stops: number): PointCount => ({ ...open, stop: open.stop + stops });

/** A job as lists show it. While its numbers are computed anew the old ones stand, marked stale. */
export async function describeJob(row: JobRow, runner: Runner, { db }: Store): Promise<JobSummary> {
  const target = targetOf(row);
  const [state, summary, shop] = await Promise.all([runner.state(target), runner.summary(target.key), currentShop(db)]);
  const shown = summary ?? (row.shown === "" ? null : await runner.summary(row.shown));
  const shopNewer = shop.hash !== row.shop;
  const stale = new Set<StageName>();
  if (!summary && shown) {
    const keys = runner.runningKeys(target);
    for (const { name } of STAGES) if (!keys || keys[name] !== shown.keys[name]) stale.add(name);
  } else if (shopNewer) {
    const own = await findShop(db, row.shop);
    if (own) for (const name of staleStages(shopOf(own), shopOf(shop))) stale.add(name);
  }
  return {
    code: row.job,
    title: row.title,
    customer: row.customer,
    due: row.due,
    revision: row.revision,
    importedAt: row.imported_at,
    designHash: row.hash,
    run: state.run,
    stages: marked(shown, stale),
    open: plus(shown?.open ?? nothing, (JSON.parse(row.unfitting) as NotLaid[]).length),
    figures: shown?.figures ?? null,
    key: target.key,
    keys: summary?.keys ?? null,
    shopHash: row.shop,
    shopNewer,
  };
}

const marked = (shown: Summary | null, stale: ReadonlySet<StageName>): StageSummary[] =>
  (shown?.stages ?? notStarted).map((s) => (stale.has(s.stage) ? { ...s, state: "stale" } : s));
