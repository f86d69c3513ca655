import type { UnitFit, ZoneHeat } from "./result";

/** How a zone stands with the units that are in it; W and per cent. */
export type Verdict =
  | { kind: "too hot" | "too cold"; byW: number }
  | { kind: "wet" | "keeps itself" }
  | { kind: "fits"; dutyPercent: number };

/** What is wrong with a zone, the worst first; what does it when nothing is. */
export function verdict(z: ZoneHeat): Verdict {
  if (z.coolingNeededW > 0 && z.carriedW < z.coolingNeededW)
    return { kind: "too hot", byW: z.coolingNeededW - z.carriedW };
  if (z.heaterNeededW > z.heatedW) return { kind: "too cold", byW: z.heaterNeededW - z.heatedW };
  if (settles(z)) return { kind: "wet" };
  return z.coolingNeededW > 0 ? { kind: "fits", dutyPercent: z.dutyPercent! } : { kind: "keeps itself" };
}

/** Water settles on a wall: one is below the dew point, and what heats there is less than keeps it dry. */
export const settles = (z: ZoneHeat): boolean => z.surfaces.some((s) => s.wet) && z.dryNeededW > z.heatedW;

/** Within the limits, in the hottest hour and in the coldest. */
export const keeps = (z: ZoneHeat): boolean => ["fits", "keeps itself"].includes(verdict(z).kind);

/** What a zone still wants: where units stand that do another job, the missing one is wanted all the same. */
export function wanting(z: ZoneHeat): { cooling: boolean; heat: boolean } {
  return {
    cooling: z.coolingNeededW > 0 && z.carriedW < z.coolingNeededW,
    heat: Math.max(z.heaterNeededW, z.dryNeededW) > z.heatedW,
  };
}

/** The best of the library for one need of a zone: a proposal, or why there is none. */
export function proposalFor(z: ZoneHeat, does: "cools" | "heats"): UnitFit | "nothing needed" | "nothing fits" {
  const needed = does === "cools" ? z.coolingNeededW : Math.max(z.heaterNeededW, z.dryNeededW);
  if (needed <= 0) return "nothing needed";
  return z.fits.find((f) => f.does === does && f.holds && f.mounts) ?? "nothing fits";
}
