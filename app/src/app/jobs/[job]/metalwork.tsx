import type { JobDetail } from "@gray-bench/contract/jobs";
import type { MetalworkResult } from "@gray-bench/core/metalwork/result";
import type { PanelResult } from "@gray-bench/core/panel/result";
import { useLocalSearchParams } from "expo-router";
import { joined, JobPage, WithResult } from "../../../jobs/JobPage";
import { Named, type NamedThing } from "../../../kit/Named";
import { useDesign, useJobShop, useStage } from "../../../queries/useJobs";
import type { MetalworkChoice } from "../../../metalwork/choice";
import { MetalworkView } from "../../../metalwork/MetalworkView";

/** A face that has no hole is told by the view. */
const namedIn = ({ faces }: MetalworkResult, panel: PanelResult, { face, hole }: MetalworkChoice): NamedThing[] => [
  { param: "face", what: "face", name: face, there: panel.faces.some((f) => f.id === face) },
  {
    param: "hole",
    what: `hole of ${face ?? "this face"} with the number`,
    name: hole,
    there: faces.some((f) => (face === undefined || f.face === face) && f.holes.some((h) => h.number === Number(hole))),
  },
];

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
        <Named things={namedIn(metalwork, panel, choice)}>
          <MetalworkView
            job={job.code}
            result={metalwork}
            panel={panel}
            design={design}
            rules={shop.shop.rules.metalwork}
            choice={choice}
          />
        </Named>
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
