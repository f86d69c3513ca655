import type { JobDetail } from "@gray-bench/contract/jobs";
import type { WireprepResult } from "@gray-bench/core/wireprep/result";
import { useLocalSearchParams } from "expo-router";
import { joined, JobPage, WithResult } from "../../../jobs/JobPage";
import { Named, type NamedThing } from "../../../kit/Named";
import { useJobShop, useStage } from "../../../queries/useJobs";
import type { WireprepChoice } from "../../../wireprep/choice";
import { WireprepView } from "../../../wireprep/WireprepView";

const namedIn = ({ leads, notMade }: WireprepResult, { lead }: WireprepChoice): NamedThing[] => [
  { param: "lead", what: "lead", name: lead, there: [...leads, ...notMade].some((l) => l.wire === lead) },
];

function Page({ job }: { job: JobDetail }) {
  const choice = useLocalSearchParams() as WireprepChoice;
  const all = joined({ wireprep: useStage<WireprepResult>(job.code, "wireprep"), shop: useJobShop(job.code) });
  return (
    <WithResult result={all} what="Leads">
      {({ wireprep, shop }) => (
        <Named things={namedIn(wireprep, choice)}>
          <WireprepView job={job} result={wireprep} rules={shop.shop.rules.wireprep} choice={choice} />
        </Named>
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
