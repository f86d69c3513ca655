import { STAGE_NAMES } from "@gray-bench/core/stage-names";
import type { JobSummary, StageSummary } from "@gray-bench/contract/api";
import type { PointCount } from "@gray-bench/core/design/open-points";
import type { NotLaid } from "../workers/tasks";
import type { Runner } from "../results/runner";
import type { JobRow } from "../store/jobs";

const nothing = { stop: 0, check: 0, note: 0 };
const notStarted: StageSummary[] = STAGE_NAMES.map((stage) => ({
  stage,
  state: "not started",
  open: nothing,
}));

/** Edits that do not fit are stops. */
const plus = (open: PointCount, stops: number): PointCount => ({ ...open, stop: open.stop + stops });

/** A job as lists show it. */
export async function describeJob(row: JobRow, runner: Runner): Promise<JobSummary> {
  const [state, summary] = await Promise.all([runner.state(row.hash), runner.summary(row.hash)]);
  return {
    code: row.job,
    title: row.title,
    customer: row.customer,
    due: row.due,
    revision: row.revision,
    importedAt: row.imported_at,
    designHash: row.hash,
    run: state.run,
    stages: summary?.stages ?? notStarted,
    open: plus(summary?.open ?? nothing, (JSON.parse(row.unfitting) as NotLaid[]).length),
    figures: summary?.figures ?? null,
  };
}
