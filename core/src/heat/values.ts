import type { Design } from "../design/model";
import type { HeatRules } from "./rules";
import { HEAT_RULES } from "./rules";

/** A value that a zone is worked out with, and who says it. */
export interface SaidValue {
  key: keyof HeatRules;
  text: string;
  value: number;
  unit: string;
  source: string;
}

/** Everything a zone is worked out with, in the order of the rules: the zone says it, the job, the shop, or the default. */
export function saidValues(
  design: Pick<Design, "enclosures" | "rules">,
  zone: { enclosures: readonly string[]; values: HeatRules },
): SaidValue[] {
  const own = design.enclosures.find((e) => e.tag === zone.enclosures[0])?.heat ?? {};
  const job = design.rules.heat ?? {};
  return (Object.keys(zone.values) as (keyof HeatRules)[]).map((key) => {
    const rule = HEAT_RULES[key];
    const value = zone.values[key];
    const source =
      own[key] !== undefined
        ? "of this zone"
        : job[key] !== undefined
          ? "of this job"
          : value === rule.default
            ? rule.source
            : "rule of the shop";
    return { key, text: rule.text, value, unit: rule.unit, source };
  });
}
