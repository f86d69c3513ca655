import type { JobDetail } from "@gray-bench/contract/jobs";
import type { WireprepResult } from "@gray-bench/core/wireprep/result";
import { useLocalSearchParams } from "expo-router";
import { joined, JobPage, WithResult } from "../../../jobs/JobPage";
import { useJobShop, useStage } from "../../../queries/useJobs";
import type { WireprepChoice } from "../../../wireprep/choice";
import { WireprepView } from "../../../wireprep/WireprepView";

function Page({ job }: { job: JobDetail }) {
  const choice = useLocalSearchParams() as WireprepChoice;
  const all = joined({ wireprep: useStage<WireprepResult>(job.code, "wireprep"), shop: useJobShop(job.code) });
  return (
    <WithResult result={all} what="Leads">
      {({ wireprep, shop }) => (
        <WireprepView job={job} result={wireprep} rules={shop.shop.rules.wireprep} choice={choice} />
      )}
    </WithResult>
  );
}

export default function Wireprep() {
  return (
    <JobPage view="Wire prep" heading>
      {(job) => <Page job={job} />}
    </JobPage>
  );
}
