import type { JobDetail } from "@gray-bench/contract/api";
import type { HeatResult } from "@gray-bench/core/heat/result";
import { useLocalSearchParams } from "expo-router";
import { HeatView, type HeatChoice } from "../../../heat/HeatView";
import { joined, JobPage, WithResult } from "../../../jobs/JobPage";
import { useDesign, useStage } from "../../../jobs/useJobs";

function Page({ job }: { job: JobDetail }) {
  const { zone, figure } = useLocalSearchParams() as HeatChoice;
  const all = joined({ heat: useStage<HeatResult>(job.code, "heat"), design: useDesign(job.code) });
  return (
    <WithResult result={all} what="Heat">
      {({ heat, design }) => (
        <HeatView job={job.code} result={heat} design={design} choice={{ zone, figure } as HeatChoice} />
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
