import type { JobDetail } from "@gray-bench/contract/jobs";
import type { IntakeResult } from "@gray-bench/core/intake/result";
import { useLocalSearchParams } from "expo-router";
import { IntakeView } from "../../../intake/IntakeView";
import { JobPage, WithResult } from "../../../jobs/JobPage";
import { useStage } from "../../../queries/useJobs";

function Page({ job }: { job: JobDetail }) {
  const { cable, net, parts } = useLocalSearchParams<{ cable?: string; net?: string; parts?: string }>();
  const intake = useStage<IntakeResult>(job.code, "intake");
  return (
    <WithResult result={intake} what="Intake">
      {(data) => <IntakeView job={job} intake={data} opened={{ cable, net }} parts={parts !== undefined} />}
    </WithResult>
  );
}

export default function Intake() {
  return <JobPage view="Intake">{(job) => <Page job={job} />}</JobPage>;
}
