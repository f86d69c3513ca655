import type { JobDetail } from "@gray-bench/contract/jobs";
import type { LineupsResult } from "@gray-bench/core/lineups/result";
import type { RoutesResult } from "@gray-bench/core/routes/result";
import { useLocalSearchParams } from "expo-router";
import { joined, JobPage, WithResult } from "../../../jobs/JobPage";
import { useDesign, useJobShop, useStage } from "../../../queries/useJobs";
import { LineupsView, type LineupsChoice } from "../../../lineups/LineupsView";

function Page({ job }: { job: JobDetail }) {
  const { strip, member, show, cable } = useLocalSearchParams() as LineupsChoice;
  const all = joined({
    lineups: useStage<LineupsResult>(job.code, "lineups"),
    design: useDesign(job.code),
    shop: useJobShop(job.code),
  });
  const routes = useStage<RoutesResult>(job.code, "routes");
  return (
    <WithResult result={all} what="Lineups">
      {({ lineups, design, shop }) => (
        <LineupsView
          job={job.code}
          result={lineups}
          design={design}
          rules={shop.shop.rules.lineups}
          routes={routes.data}
          choice={{ strip, member, show, cable } as LineupsChoice}
        />
      )}
    </WithResult>
  );
}

export default function Lineups() {
  return (
    <JobPage view="Lineups" heading>
      {(job) => <Page job={job} />}
    </JobPage>
  );
}
