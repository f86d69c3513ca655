import type { JobDetail } from "@gray-bench/contract/jobs";
import type { MetalworkResult } from "@gray-bench/core/metalwork/result";
import type { PanelResult } from "@gray-bench/core/panel/result";
import { useLocalSearchParams } from "expo-router";
import { joined, JobPage, WithResult } from "../../../jobs/JobPage";
import { useDesign, useJobShop, useStage } from "../../../queries/useJobs";
import type { MetalworkChoice } from "../../../metalwork/choice";
import { MetalworkView } from "../../../metalwork/MetalworkView";

function Page({ job }: { job: JobDetail }) {
  const choice = useLocalSearchParams() as MetalworkChoice;
  const all = joined({
    metalwork: useStage<MetalworkResult>(job.code, "metalwork"),
    panel: useStage<PanelResult>(job.code, "panel"),
    design: useDesign(job.code),
    shop: useJobShop(job.code),
  });
  return (
    <WithResult result={all} what="Metalwork">
      {({ metalwork, panel, design, shop }) => (
        <MetalworkView
          job={job.code}
          result={metalwork}
          panel={panel}
          design={design}
          rules={shop.shop.rules.metalwork}
          choice={choice}
        />
      )}
    </WithResult>
  );
}

export default function Metalwork() {
  return (
    <JobPage view="Metalwork" heading>
      {(job) => <Page job={job} />}
    </JobPage>
  );
}
