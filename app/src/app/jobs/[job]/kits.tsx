import type { JobDetail } from "@gray-bench/contract/jobs";
import type { KitsResult } from "@gray-bench/core/kits/result";
import { useLocalSearchParams } from "expo-router";
import { joined, JobPage, WithResult } from "../../../jobs/JobPage";
import { useDesign, useJobShop, useStage } from "../../../queries/useJobs";
import type { KitsChoice } from "../../../kits/choice";
import { KitsView } from "../../../kits/KitsView";

function Page({ job }: { job: JobDetail }) {
  const choice = useLocalSearchParams() as KitsChoice;
  const all = joined({
    kits: useStage<KitsResult>(job.code, "kits"),
    design: useDesign(job.code),
    shop: useJobShop(job.code),
  });
  return (
    <WithResult result={all} what="Kits">
      {({ kits, design, shop }) => (
        <KitsView job={job} result={kits} design={design} rules={shop.shop.rules.kits} choice={choice} />
      )}
    </WithResult>
  );
}

export default function Kits() {
  return (
    <JobPage view="Kits" heading>
      {(job) => <Page job={job} />}
    </JobPage>
  );
}
