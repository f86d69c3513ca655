import type { JobDetail } from "@gray-bench/contract/jobs";
import type { Design } from "@gray-bench/core/design/model";
import { membersOf, type LineupsResult } from "@gray-bench/core/lineups/result";
import type { RoutesResult } from "@gray-bench/core/routes/result";
import { useLocalSearchParams } from "expo-router";
import { joined, JobPage, WithResult } from "../../../jobs/JobPage";
import { Named, type NamedThing } from "../../../kit/Named";
import { useDesign, useJobShop, useStage } from "../../../queries/useJobs";
import { LineupsView, type LineupsChoice } from "../../../lineups/LineupsView";

/** A strip that is not there is told by the view. */
const namedIn = ({ strips }: LineupsResult, design: Design, { member, cable }: LineupsChoice): NamedThing[] => [
  {
    param: "member",
    what: "member",
    name: member,
    there: strips.some((s) => membersOf(s).some((m) => m.tag === member)),
  },
  { param: "cable", what: "cable", name: cable, there: design.cables.some((c) => c.tag === cable) },
];

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
        <Named things={namedIn(lineups, design, { member, cable } as LineupsChoice)}>
          <LineupsView
            job={job.code}
            result={lineups}
            design={design}
            rules={shop.shop.rules.lineups}
            routes={routes.data}
            choice={{ strip, member, show, cable } as LineupsChoice}
          />
        </Named>
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
