import type { JobDetail } from "@gray-bench/contract/jobs";
import type { PanelResult } from "@gray-bench/core/panel/result";
import type { RoutesResult } from "@gray-bench/core/routes/result";
import { useLocalSearchParams } from "expo-router";
import { useMemo } from "react";
import { JobPage, WithResult } from "../../../jobs/JobPage";
import { useColours, useDesign, useStage } from "../../../queries/useJobs";
import { PanelView, type PanelChoice } from "../../../panel/PanelView";

function Page({ job }: { job: JobDetail }) {
  const { device, pin, face, enclosure, rail, duct, part, strip, lay, faces } = useLocalSearchParams() as PanelChoice;
  const choice = useMemo<PanelChoice>(
    () => ({ device, pin, face, enclosure, rail, duct, part, strip, lay, faces }) as PanelChoice,
    [device, pin, face, enclosure, rail, duct, part, strip, lay, faces],
  );
  const panel = useStage<PanelResult>(job.code, "panel");
  const routes = useStage<RoutesResult>(job.code, "routes");
  const design = useDesign(job.code);
  const colours = useColours(job.code);
  return (
    <WithResult result={panel} what="Panel">
      {(data) => (
        <PanelView
          job={job.code}
          hinges={job.hinges}
          panel={data}
          routes={routes.data}
          design={design.data}
          choice={choice}
          colours={colours}
        />
      )}
    </WithResult>
  );
}

export default function Panel() {
  return (
    <JobPage view="Panel" heading>
      {(job) => <Page job={job} />}
    </JobPage>
  );
}
