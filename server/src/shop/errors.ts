import type { Fault } from "@gray-bench/core/design/faults";
import { BenchError } from "../errors";

export const noSuchVersion = (number: number | string): BenchError =>
  new BenchError(404, {
    code: "shop.unknown",
    message: `There is no version ${number} of the shop.`,
    where: String(number),
    remedy: "Take one of the versions that are listed.",
  });

export const shopRefused = (faults: Fault[]): BenchError =>
  new BenchError(422, {
    code: "shop.refused",
    message: `The rules were refused: ${faults.length} ${faults.length === 1 ? "fault" : "faults"}. Nothing was changed.`,
    where: faults[0]?.path ?? "the whole shop",
    remedy: "Mend the places listed.",
    faults,
    faultCount: faults.length,
  });

export const shopStale = (changed: string[]): BenchError =>
  new BenchError(409, {
    code: "shop.stale",
    message: "The shop was changed meanwhile. Nothing was changed by this.",
    where: "shop",
    remedy: "Read what changed; then do it again if it still holds.",
    changed,
  });
