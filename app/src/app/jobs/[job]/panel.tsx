import type { JobDetail } from "@gray-bench/contract/jobs";
import type { Design } from "@gray-bench/core/design/model";
import { HEAT_RULES } from "@gray-bench/core/heat/rules";
import { ROUTE_RULES } from "@gray-bench/core/routes/rules";
import type { PanelResult } from "@gray-bench/core/panel/result";
import type { RoutesResult } from "@gray-bench/core/routes/result";
import { useLocalSearchParams } from "expo-router";
import { useMemo } from "react";
import { JobPage, WithResult } from "../../../jobs/JobPage";
import { Named, type NamedThing } from "../../../kit/Named";
import { useColours, useDesign, useJobShop, useStage } from "../../../queries/useJobs";
import { PanelView, type PanelChoice } from "../../../panel/PanelView";

/** A device that is not there is told by the view, with what can be done. What the design alone says is known when that is here. */
const namedIn = (
  { faces }: PanelResult,
  design: Design | undefined,
  { rail, duct, face, enclosure, strip, part }: PanelChoice,
): NamedThing[] => [
  { param: "rail", what: "rail", name: rail, there: !design || design.rails.some((r) => r.tag === rail) },
  { param: "duct", what: "duct", name: duct, there: !design || design.ducts.some((d) => d.tag === duct) },
  { param: "face", what: "face", name: face, there: face === "all" || faces.some((f) => f.id === face) },
  { param: "enclosure", what: "enclosure", name: enclosure, there: faces.some((f) => f.enclosure === enclosure) },
  { param: "strip", what: "strip", name: strip, there: !design || design.strips.some((s) => s.tag === strip) },
  { param: "part", what: "part", name: part, there: !design || design.parts.some((p) => p.number === part) },
];

function Page({ job }: { job: JobDetail }) {
  const params = useLocalSearchParams() as PanelChoice;
  const { device, pin, face, enclosure, rail, duct, part, strip, lay, faces, show, paper, units, scale } = params;
  const choice = useMemo<PanelChoice>(
    () =>
      ({ device, pin, face, enclosure, rail, duct, part, strip, lay, faces, show, paper, units, scale }) as PanelChoice,
    [device, pin, face, enclosure, rail, duct, part, strip, lay, faces, show, paper, units, scale],
  );
  const panel = useStage<PanelResult>(job.code, "panel");
  const routes = useStage<RoutesResult>(job.code, "routes");
  const design = useDesign(job.code);
  const colours = useColours(job.code);
  const shop = useJobShop(job.code).data?.shop;
  const opensDeg =
    design.data?.rules.routes?.doorOpenDeg ?? shop?.rules.routes.doorOpenDeg ?? ROUTE_RULES.doorOpenDeg.default;
  return (
    <WithResult result={panel} what="Panel">
      {(data) => (
        <Named things={namedIn(data, design.data, choice)}>
          <PanelView
            job={job.code}
            hinges={job.hinges}
            panel={data}
            routes={routes.data}
            design={design.data}
            choice={choice}
            colours={colours}
            opensDeg={opensDeg}
            rules={shop?.rules}
            doorMostKg={shop?.rules.heat.doorMostKg ?? HEAT_RULES.doorMostKg.default}
          />
        </Named>
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
