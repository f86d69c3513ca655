import type { WiresThen } from "@gray-bench/core/placing";
import { formatLength } from "../kit/format";
import type { Settings } from "../kit/settings";

/** Metres of wire against now, and the fullest duct. */
export function wireWords({ wireMm, wires, fullest }: WiresThen, settings: Settings): string {
  const by = wireMm.then - wireMm.now;
  const length =
    Math.abs(by) < 0.5
      ? "as much wire as now"
      : `${formatLength(Math.abs(by), settings)} ${by > 0 ? "more" : "less"} wire`;
  const lost = wires.then - wires.now;
  const without = lost === 0 ? "" : `, ${Math.abs(lost)} ${lost > 0 ? "more" : "fewer"} with a length`;
  return `${length}${without}${fullest ? `; fullest duct ${fullest.of}, ${Math.round(fullest.percent)} %` : ""}`;
}
