import type { JobDetail } from "@gray-bench/contract/api";
import type { IntakeResult } from "@gray-bench/core/intake/result";
import { useLocalSearchParams } from "expo-router";
import { IntakeView } from "../../../intake/IntakeView";
import { JobPage, WithResult } from "../../../jobs/JobPage";
import { useDesign, useStage } from "../../../jobs/useJobs";

function Page({ job }: { job: JobDetail }) {
  const { cable, parts } = useLocalSearchParams<{ cable?: string; parts?: string }>();
  const intake = useStage<IntakeResult>(job.code, "intake");
  const design = useDesign(job.code, cable !== undefined);
  return (
    <WithResult result={intake} what="Intake">
      {(data) => (
        <IntakeView
          job={job}
          intake={data}
          cable={design.data?.cables.find((c) => c.tag === cable) ?? null}
          parts={parts !== undefined}
        />
      )}
    </WithResult>
  );
}

export default function Intake() {
  return <JobPage view="Intake">{(job) => <Page job={job} />}</JobPage>;
}
