import type { RouteRules } from "../design/rules";
import { toMm, toUm } from "../design/tolerance";
import type { LengthTerms } from "./result";

export interface LengthParts {
  entryFromUm: number;
  wayUm: number;
  entryToUm: number;
  loopsUm: number;
  tailFromMm: number;
  tailToMm: number;
  fromOnDoor: boolean;
  toOnDoor: boolean;
}

/**
 * Cut length and its terms: the sum of the parts with slack and reserve, raised to the shortest
 * lead, then rounded up to the step. Whole micrometres throughout, so the terms add up exactly.
 */
export function cutLength(parts: LengthParts, rules: RouteRules): { lengthMm: number; terms: LengthTerms } {
  const slack = (onDoor: boolean): number => toUm(onDoor ? rules.slackDoorMm : rules.slackMm);
  const tailFrom = toUm(parts.tailFromMm);
  const tailTo = toUm(parts.tailToMm);
  const slackFrom = slack(parts.fromOnDoor);
  const slackTo = slack(parts.toOnDoor);
  const sum =
    parts.entryFromUm + parts.wayUm + parts.entryToUm + parts.loopsUm + tailFrom + tailTo + slackFrom + slackTo;
  const reserve = Math.round((sum * rules.reservePercent) / 100);
  const raise = Math.max(0, toUm(rules.shortestLeadMm) - sum - reserve);
  const step = toUm(rules.stepMm);
  const before = sum + reserve + raise;
  const length = Math.ceil(before / step) * step;
  return {
    lengthMm: toMm(length),
    terms: {
      entryFrom: toMm(parts.entryFromUm),
      way: toMm(parts.wayUm),
      entryTo: toMm(parts.entryToUm),
      loops: toMm(parts.loopsUm),
      tailFrom: toMm(tailFrom),
      tailTo: toMm(tailTo),
      slackFrom: toMm(slackFrom),
      slackTo: toMm(slackTo),
      reserve: toMm(reserve),
      raise: toMm(raise),
      rounding: toMm(length - before),
    },
  };
}
