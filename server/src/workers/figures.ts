import type { JobFigures } from "@gray-bench/contract/api";
import type { Design } from "@gray-bench/core/design/model";
import type { IntakeResult } from "@gray-bench/core/intake/result";
import { isFallback, type RoutesResult } from "@gray-bench/core/routes/result";
import type { JobResults } from "@gray-bench/core/run";

/** The key figures of a job, read off the stage results. */
export function figuresOf(design: Design, results: JobResults): JobFigures {
  const intake = results.stages.intake as IntakeResult;
  const routes = results.stages.routes as RoutesResult;
  let longest: JobFigures["longest"] = null;
  for (const w of routes.wires) {
    if (w.lengthMm !== null && w.lengthMm > (longest?.mm ?? 0)) longest = { wire: w.id, mm: w.lengthMm };
  }
  let worstPiece: JobFigures["worstPiece"] = null;
  for (const e of routes.edges) {
    if (e.kind === "piece" && e.fillPercent > (worstPiece?.percent ?? 0))
      worstPiece = { piece: e.id, percent: e.fillPercent };
  }
  return {
    devices: intake.counts.devices,
    wires: intake.counts.wires,
    routed: routes.wires.filter((w) => w.lengthMm !== null).length,
    cables: design.cables.length - intake.leftOut.cables,
    totalMm: routes.totalMm,
    longest,
    worstPiece,
    fallbacks: routes.wires.filter((w) => w.marks.some(isFallback)).length,
  };
}
