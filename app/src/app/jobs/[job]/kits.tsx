import type { JobDetail } from "@gray-bench/contract/jobs";
import type { KitsResult } from "@gray-bench/core/kits/result";
import { useLocalSearchParams } from "expo-router";
import { joined, JobPage, WithResult } from "../../../jobs/JobPage";
import { billKey } from "../../../kits/Bill";
import { Named, type NamedThing } from "../../../kit/Named";
import { useDesign, useJobShop, useStage } from "../../../queries/useJobs";
import type { KitsChoice } from "../../../kits/choice";
import { KitsView } from "../../../kits/KitsView";

/** A kit that is not there is told by the view. */
const namedIn = ({ bill }: KitsResult, { line }: KitsChoice): NamedThing[] => [
  { param: "line", what: "line of the bill", name: line, there: bill.some((l) => billKey(l) === line) },
];

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
        <Named things={namedIn(kits, choice)}>
          <KitsView job={job} result={kits} design={design} rules={shop.shop.rules.kits} choice={choice} />
        </Named>
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
