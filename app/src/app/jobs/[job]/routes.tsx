import type { JobDetail } from "@gray-bench/contract/jobs";
import type { Design } from "@gray-bench/core/design/model";
import type { PanelResult } from "@gray-bench/core/panel/result";
import type { RoutesResult } from "@gray-bench/core/routes/result";
import { useLocalSearchParams } from "expo-router";
import { useMemo } from "react";
import { joined, JobPage, WithResult } from "../../../jobs/JobPage";
import { Named, type NamedThing } from "../../../kit/Named";
import { useDesign, useJobShop, useStage } from "../../../queries/useJobs";
import { RoutesView, type RoutesChoice } from "../../../routes/RoutesView";
import type { WireFilter } from "../../../routes/filter";

const namedIn = (
  { wires, edges }: RoutesResult,
  design: Design,
  { wire, duct, piece }: RoutesChoice,
  { crossing }: WireFilter,
): NamedThing[] => [
  { param: "wire", what: "wire", name: wire, there: wires.some((w) => w.id === wire) },
  { param: "duct", what: "duct", name: duct, there: design.ducts.some((d) => d.tag === duct) },
  {
    param: "piece",
    what: "duct piece",
    name: piece,
    there: edges.some((e) => e.kind === "piece" && e.id === piece),
  },
  {
    param: "crossing",
    what: "crossing",
    name: crossing,
    there: design.crossings.some((c) => c.tag === crossing),
  },
];

function Page({ job }: { job: JobDetail }) {
  const {
    wire,
    piece,
    duct,
    others,
    list,
    lay,
    faces,
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
  const all = joined({
    panel: useStage<PanelResult>(job.code, "panel"),
    routes: useStage<RoutesResult>(job.code, "routes"),
    design: useDesign(job.code),
    shop: useJobShop(job.code),
  });
  const choice = useMemo<RoutesChoice>(
    () => ({ wire, piece, duct, others, list, lay, faces }) as RoutesChoice,
    [wire, piece, duct, others, list, lay, faces],
  );
  const filter = useMemo<WireFilter>(
    () => ({ q, enclosure, class: cls, colour, device, net, crossing, show, sort }) as WireFilter,
    [q, enclosure, cls, colour, device, net, crossing, show, sort],
  );
  return (
    <WithResult result={all} what="Routes">
      {({ panel, routes, design, shop }) => (
        <Named things={namedIn(routes, design, choice, filter)}>
          <RoutesView
            job={job.code}
            hinges={job.hinges}
            panel={panel}
            result={routes}
            design={design}
            shop={shop.shop.rules}
            choice={choice}
            filter={filter}
          />
        </Named>
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
