/** The ten stages of a job, in the order the work is done. */
export const STAGE_NAMES = [
  "intake",
  "panel",
  "routes",
  "lineups",
  "heat",
  "metalwork",
  "kits",
  "wireprep",
  "floor",
  "handover",
] as const;
export type StageName = (typeof STAGE_NAMES)[number];

export const STAGE_TITLES: Record<StageName, string> = {
  intake: "Intake",
  panel: "Panel",
  routes: "Routes",
  lineups: "Lineups",
  heat: "Heat",
  metalwork: "Metalwork",
  kits: "Kits",
  wireprep: "Wire prep",
  floor: "Floor",
  handover: "Handover",
};
