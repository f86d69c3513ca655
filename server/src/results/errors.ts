import type { Thing } from "@gray-bench/core/design/open-points";
import { BenchError } from "../errors";

export const noSuchStage = (stage: string): BenchError =>
  new BenchError(404, {
    code: "stage.not-built",
    message: `The stage ${stage} does not compute anything yet.`,
    where: stage,
    remedy: "Ask for one of the stages that the job lists as ready or open.",
  });

export const noSuchDrawing = (thing: Thing, name: string): BenchError =>
  new BenchError(404, {
    code: "drawing.unknown",
    message: `There is no ${thing} ${name} to draw.`,
    where: thing,
    remedy: "It may have been renamed or taken away; look it up and try again.",
  });

export const notKept = (key: string): BenchError =>
  new BenchError(404, {
    code: "result.not-kept",
    message: "The numbers of that computation are not kept any more.",
    where: key,
    remedy: "Compare with a newer one.",
  });
