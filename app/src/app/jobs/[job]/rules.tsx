import type { JobDetail } from "@gray-bench/contract/jobs";
import { JobPage, WithResult } from "../../../jobs/JobPage";
import { useJobShop } from "../../../queries/useJobs";
import { JobRules } from "../../../routes/JobRules";

function Page({ job }: { job: JobDetail }) {
  return (
    <WithResult result={useJobShop(job.code)} what="the rules of the shop">
      {({ shop }) => <JobRules job={job} shop={shop.rules} />}
    </WithResult>
  );
}

export default function RulesOfJob() {
  return <JobPage view="Rules">{(job) => <Page job={job} />}</JobPage>;
}
