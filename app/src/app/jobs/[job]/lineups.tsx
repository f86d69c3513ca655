import type { JobDetail } from "@gray-bench/contract/api";
import type { LineupsResult } from "@gray-bench/core/lineups/result";
import { useLocalSearchParams } from "expo-router";
import { JobPage, WithResult } from "../../../jobs/JobPage";
import { useStage } from "../../../jobs/useJobs";
import { LineupsView } from "../../../lineups/LineupsView";

function Page({ job }: { job: JobDetail }) {
  const choice = useLocalSearchParams<{ strip?: string; member?: string }>();
  const lineups = useStage<LineupsResult>(job.code, "lineups");
  return (
    <WithResult result={lineups} what="Lineups">
      {(data) => <LineupsView job={job.code} result={data} {...choice} />}
    </WithResult>
  );
}

export default function Lineups() {
  return <JobPage view="Lineups">{(job) => <Page job={job} />}</JobPage>;
}
