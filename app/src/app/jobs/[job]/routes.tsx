import type { JobDetail } from "@gray-bench/contract/api";
import type { PanelResult } from "@gray-bench/core/panel/result";
import type { RoutesResult } from "@gray-bench/core/routes/result";
import { useLocalSearchParams } from "expo-router";
import { useMemo } from "react";
import { JobPage, WithResult } from "../../../jobs/JobPage";
import { useStage } from "../../../jobs/useJobs";
import { RoutesView, type RoutesChoice } from "../../../routes/RoutesView";
import type { WireFilter } from "../../../routes/filter";

function Page({ job }: { job: JobDetail }) {
  const {
    wire,
    piece,
    duct,
    q,
    enclosure,
    class: cls,
    colour,
    device,
    net,
    crossing,
    show,
    sort,
  } = useLocalSearchParams() as RoutesChoice & WireFilter;
  const panel = useStage<PanelResult>(job.code, "panel");
  const routes = useStage<RoutesResult>(job.code, "routes");
  const choice = useMemo<RoutesChoice>(() => ({ wire, piece, duct }) as RoutesChoice, [wire, piece, duct]);
  const filter = useMemo<WireFilter>(
    () => ({ q, enclosure, class: cls, colour, device, net, crossing, show, sort }) as WireFilter,
    [q, enclosure, cls, colour, device, net, crossing, show, sort],
  );
  return (
    <WithResult result={panel} what="Panel">
      {(placed) => (
        <WithResult result={routes} what="Routes">
          {(data) => (
            <RoutesView job={job} panel={placed} result={data} overrides={job.rules} choice={choice} filter={filter} />
          )}
        </WithResult>
      )}
    </WithResult>
  );
}

export default function Routes() {
  return (
    <JobPage view="Routes" heading>
      {(job) => <Page job={job} />}
    </JobPage>
  );
}
