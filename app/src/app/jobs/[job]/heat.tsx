import type { JobDetail } from "@gray-bench/contract/jobs";
import type { HeatResult } from "@gray-bench/core/heat/result";
import type { PanelResult } from "@gray-bench/core/panel/result";
import { useLocalSearchParams } from "expo-router";
import { HeatView, type HeatChoice } from "../../../heat/HeatView";
import { joined, JobPage, WithResult } from "../../../jobs/JobPage";
import { useDesign, useStage } from "../../../queries/useJobs";

function Page({ job }: { job: JobDetail }) {
  const choice = useLocalSearchParams() as HeatChoice;
  const all = joined({
    heat: useStage<HeatResult>(job.code, "heat"),
    panel: useStage<PanelResult>(job.code, "panel"),
    design: useDesign(job.code),
  });
  return (
    <WithResult result={all} what="Heat">
      {({ heat, panel, design }) => (
        <HeatView job={job.code} result={heat} panel={panel} design={design} choice={choice} />
      )}
    </WithResult>
  );
}

export default function Heat() {
  return (
    <JobPage view="Heat" heading>
      {(job) => <Page job={job} />}
    </JobPage>
  );
}
