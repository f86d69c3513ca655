import type { RouteRules } from "./rules";
import { ON_STEP_NM, SIZE_TOLERANCE_MM2, toMm, toNm } from "../design/tolerance";
import type { LengthTerms, WireEnd } from "./result";

export interface LengthParts {
  entryFromNm: number;
  wayNm: number;
  entryToNm: number;
  loopsNm: number;
}

type End = Pick<WireEnd, "tailMm" | "onDoor"> & {
  /** Half of what the duct it enters is wider than the rule, nm; 0 where that does not count. */
  wideNm?: number;
};

/**
 * Cut length and its terms: the sum of the parts with tails, slack and reserve, raised to the shortest
 * lead, then rounded up to the step. Whole nanometres throughout, so the terms add up exactly; a sum
 * within `ON_STEP_NM` above a step is on it.
 * @param sizeMm2 of the wire; null when not known: then nothing is added for bending
 */
export function cutLength(
  parts: LengthParts,
  from: End,
  to: End,
  sizeMm2: number | null,
  outerMm: number | null,
  rules: RouteRules,
): { lengthMm: number; terms: LengthTerms } {
  const slack = (end: End): number => toNm(end.onDoor ? rules.slackDoorMm : rules.slackMm);
  const thick = sizeMm2 !== null && sizeMm2 >= rules.bendFromMm2 - SIZE_TOLERANCE_MM2;
  const bend = thick ? Math.round(toNm(outerMm ?? 0) * rules.bendDiameters) : 0;
  const tailFrom = toNm(from.tailMm);
  const tailTo = toNm(to.tailMm);
  const slackFrom = slack(from);
  const slackTo = slack(to);
  const [wideFrom, wideTo] = [from.wideNm ?? 0, to.wideNm ?? 0];
  const sum =
    parts.entryFromNm +
    parts.wayNm +
    parts.entryToNm +
    parts.loopsNm +
    tailFrom +
    tailTo +
    slackFrom +
    slackTo +
    wideFrom +
    wideTo +
    2 * bend;
  const reserve = Math.round((sum * rules.reservePercent) / 100);
  const raise = Math.max(0, toNm(rules.shortestLeadMm) - sum - reserve);
  const step = toNm(rules.stepMm);
  const before = sum + reserve + raise;
  const length = Math.ceil((before - ON_STEP_NM) / step) * step;
  return {
    lengthMm: toMm(length),
    terms: {
      entryFrom: toMm(parts.entryFromNm),
      way: toMm(parts.wayNm),
      entryTo: toMm(parts.entryToNm),
      loops: toMm(parts.loopsNm),
      tailFrom: toMm(tailFrom),
      tailTo: toMm(tailTo),
      slackFrom: toMm(slackFrom),
      slackTo: toMm(slackTo),
      wideFrom: toMm(wideFrom),
      wideTo: toMm(wideTo),
      bendFrom: toMm(bend),
      bendTo: toMm(bend),
      reserve: toMm(reserve),
      raise: toMm(raise),
      rounding: toMm(length - before),
    },
  };
}
