import type { ClimateKind, FaceKind, HeatRules, Material, SurfaceState } from "../design/model";
import type { Surface } from "../design/rules";
import type { StageResult } from "../design/stage";
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
  /** Of the air at its height, as the model of slabs has it; null for what has no place. */
  aroundC: number | null;
  /** What its part bears around it. */
  limitC: number | null;
  /** Share of its rated load that it may carry there. */
  derated: number | null;
}

export interface SurfaceHeat {
  enclosure: string;
  surface: Surface;
  state: SurfaceState;
  material: Material;
  areaM2: number;
  b: number;
  k: number;
  /** Inner side of it in the coldest hour. */
  coldC: number;
  /** Colder than the dew point. */
  wet: boolean;
}

/** One or two units of the library, and what they would do. */
export interface UnitFit {
  kind: ClimateKind | "fan and heater";
  parts: { number: string; count: number }[];
  /** What they carry in the hottest hour; of heaters what they put in. */
  capacityW: number;
  /** Share of it that is needed, per cent. */
  dutyPercent: number;
  /** They keep what is wanted. */
  holds: boolean;
  energyKWh: number;
  money: number;
  noiseDb: number | null;
  priceClass: number | null;
  /** Where the first of them may be mounted; null where nowhere, with the reason. */
  mount: { face: string; x: number; y: number } | null;
  why: string;
  /** The curve does not reach these temperatures. */
  beyond: boolean;
}

/** A unit that stands in the design. */
export interface UnitHere {
  device: string;
  part: string;
  kind: ClimateKind;
  face: string;
  capacityW: number | null;
  beyond: boolean;
}

/** Where the air of a plate goes. */
export interface AirWay {
  face: string;
  /** Units that blow and draw there. */
  units: string[];
  columns: number;
  rows: number;
  cellMm: number;
  /** Share of the free plate that sees at least the stated speed, per cent. */
  reachedPercent: number;
  speedMs: number;
  /** Devices in dead air, the hottest first. */
  dead: { device: string; countedW: number }[];
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
  /** Duty of what stands there, per cent; null where nothing does. */
  dutyPercent: number | null;
  fits: UnitFit[];
  /** What 20 % on the sum and the next size would have bought. */
  thumb: (UnitFit & { wantedW: number }) | null;
  column: Slab[];
  /** Losses by face, for the map. */
  faces: { face: string; kind: FaceKind; w: number; h: number; sources: Source[] }[];
  airWays: AirWay[];
}

export interface HeatResult extends StageResult {
  zones: ZoneHeat[];
}
