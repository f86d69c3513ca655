import type { ClimateKind, FaceKind, Material, SurfaceState } from "../design/model";
import type { HeatRules } from "./rules";
import type { HeatTables, Surface } from "./rules";
import type { StageResult } from "../frame/stage";
import type { Shell } from "./balance";
import type { Slab } from "./column";
import type { Source } from "./map";

/** What one device puts into the air of its zone. */
export interface DeviceHeat {
  device: string;
  part: string;
  enclosure: string;
  /** At rated load; null where its part states none, though it is of a kind that has one. */
  lossW: number | null;
  share: number;
  diversity: number;
  /** What is counted: loss × share × diversity, or the fallback times them. */
  countedW: number;
  /** The loss is the median of like parts. */
  fallback: boolean;
  /** The warmest air along its height, as the model of slabs has it; null for what has no place. */
  aroundC: number | null;
  /** What its part bears around it. */
  limitC: number | null;
  /** Share of its rated load that it may carry there; nothing beyond what its part states. */
  derated: number | null;
  /** The hottest of the map of losses within its outline, W/dm². */
  hotWDm2: number | null;
}

export interface SurfaceHeat {
  enclosure: string;
  surface: Surface;
  state: SurfaceState;
  material: Material;
  areaM2: number;
  b: number;
  k: number;
  /** What the shop's tables say nothing of: the value that ships counts. */
  shipped?: ("b" | "k")[];
  /** Inner side of it in the coldest hour. */
  coldC: number;
  /** Colder than the dew point. */
  wet: boolean;
}

/** A unit on a face, its lower left corner. */
export interface Mount {
  part: string;
  face: string;
  x: number;
  y: number;
}

/** What units are for: the hottest hour and the coldest, or one of them. */
export const DOES = ["both", "cools", "heats"] as const;

/** One or two units of the library, and what they would do. */
export interface UnitFit {
  kind: ClimateKind | "fan and heater" | "unit and heater";
  does: (typeof DOES)[number];
  parts: { number: string; count: number }[];
  /** What they carry in the hottest hour; of heaters what they put in. */
  capacityW: number;
  /** Share of it that is needed, per cent. */
  dutyPercent: number;
  /** They keep what is wanted. */
  holds: boolean;
  /** Why they are not proposed though they might carry enough; null where nothing speaks against them. */
  but: string | null;
  /** Voltage, current and fuse of their supply, as far as it is stated. */
  supply: string | null;
  energyKWh: number;
  money: number;
  noiseDb: number | null;
  priceClass: number | null;
  /** Where each of them may be mounted; null where one may not, with the reason. */
  mounts: Mount[] | null;
  why: string;
  /** Something stands in the space before an opening that its part wants free. */
  crowded: boolean;
  /** The curve does not reach these temperatures. */
  beyond: boolean;
}

/** What stands in the space before an opening of a unit. */
export interface Intrusion {
  unit: string;
  opening: "outlet" | "inlet";
  thing: "device" | "duct";
  of: string;
  /** So much of the space is left before the opening, mm. */
  leftMm: number;
  freeMm: number;
}

/** A unit that stands in the design. */
export interface UnitHere {
  device: string;
  part: string;
  kind: ClimateKind;
  face: string;
  capacityW: number | null;
  beyond: boolean;
  /** Where it is read off it carries less than that. */
  unsafe: boolean;
}

/** Where the air of a plate goes. */
export interface AirWay {
  face: string;
  /** Units that blow and draw there. */
  units: string[];
  /** Those whose openings lie one behind the other as the plate sees them: their air cannot be followed. */
  hidden: string[];
  /** Parts of them that do not state their openings. */
  unstated: string[];
  columns: number;
  rows: number;
  cellMm: number;
  /** Share of the free plate that sees at least the stated speed, per cent. */
  reachedPercent: number;
  speedMs: number;
  /** Devices in dead air, the hottest first. */
  dead: { device: string; countedW: number }[];
  /** All that stands in dead air, by tag. */
  still: string[];
}

export interface ZoneHeat {
  zone: string;
  enclosures: string[];
  /** What it was worked out with. */
  values: HeatRules;
  devices: DeviceHeat[];
  wiresW: number;
  lossW: number;
  /** How much of it rests on fallbacks. */
  fallbackW: number;
  /** Devices whose loss is not stated. */
  missing: string[];
  /** If each of them lost as much as the worst of its kind in the library. */
  worstW: number;
  /** At rated load, all at once: what is summed by the rule of thumb. */
  ratedW: number;
  surfaces: SurfaceHeat[];
  effectiveM2: number;
  wPerK: number;
  /** Without anything, in the hottest hour; null where no wall passes heat. */
  insideWithoutC: number | null;
  coolingNeededW: number;
  fanFlowM3h: number | null;
  /** In the coldest hour, without a heater. */
  coldC: number | null;
  /** For what is wanted inside. */
  heaterNeededW: number;
  /** So that no wall is colder than the dew point. */
  dryNeededW: number;
  dewPointC: number;
  units: UnitHere[];
  /** What the units that stand there carry in all. */
  carriedW: number;
  /** What the heaters that stand there put in. */
  heatedW: number;
  /** Energy of a year of all units that stand there, kWh, and what it costs. */
  energyKWh: number;
  money: number;
  /** Doors that were taken to stand open, in a trial; none otherwise. */
  open: Shell["open"];
  /** What stands before the openings of its units. */
  before: Intrusion[];
  /** Duty of what stands there, per cent; null where nothing does. */
  dutyPercent: number | null;
  fits: UnitFit[];
  /** What 20 % on the sum and the next size would have bought. */
  thumb: (UnitFit & { wantedW: number }) | null;
  column: Slab[];
  /** Losses by face, for the map. */
  faces: { face: string; kind: FaceKind; w: number; h: number; sources: (Source & { device: string })[] }[];
  airWays: AirWay[];
}

/** What else a zone was worked out with, so that it can be worked out anew with other values. */
export interface HeatBasis {
  walls: HeatTables["walls"];
  stands: HeatTables["stands"];
  /** What wires put into each enclosure, W. */
  wires: { enclosure: string; w: number }[];
}

export interface HeatResult extends StageResult {
  zones: ZoneHeat[];
  basis: HeatBasis;
}

/** Figures of a zone that say how they came to be. */
export const FIGURES = [
  "loss",
  "surface",
  "coefficient",
  "inside_without_cooling",
  "cooling_needed",
  "fan_flow",
  "heater_needed",
  "dew_point",
  "duty",
] as const;
export type HeatFigure = (typeof FIGURES)[number];

export interface HeatSubject {
  zone: string;
  of: HeatFigure;
}
