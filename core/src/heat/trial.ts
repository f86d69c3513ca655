import type { Design, Direction, SurfaceState } from "../design/model";
import type { HeatRules } from "./rules";
import type { Surface } from "./rules";
import type { PanelResult } from "../panel/result";
import type { AirWay, HeatResult, Mount, ZoneHeat } from "./result";
import type { Stream } from "./streams";

/** How all enclosures of a zone stand together: each like one that stands free, before a wall, or in a row. */
export const ARRANGEMENTS = ["free", "against a wall", "end of a row", "middle of a row"] as const;
export type Arrangement = (typeof ARRANGEMENTS)[number];

export const STANDS: Record<Arrangement, Partial<Record<Surface, SurfaceState>>> = {
  free: { rear: "free", left: "free", right: "free" },
  "against a wall": { rear: "covered", left: "free", right: "free" },
  "end of a row": { rear: "covered", left: "covered", right: "free" },
  "middle of a row": { rear: "covered", left: "covered", right: "covered" },
};

/** What is tried in a zone; nothing is kept of it. */
export interface Trial {
  values?: Partial<HeatRules>;
  /** Every load times this. */
  load?: number;
  stands?: Arrangement;
  /** Stands open only here: a design has no open doors. */
  doorOpen?: boolean;
  /** Units that leave their face, and parts that are mounted besides what stays. */
  without?: string[];
  with?: string[];
  /** Deflectors on outlets. */
  outlets?: { device: string; to: Direction | null }[];
}

/** A trial with the places its parts are mounted at. */
export type Placed = Omit<Trial, "with"> & { mounts?: (Mount & { device: string })[] };

/** What came of a trial. */
export interface Tried {
  zone: ZoneHeat;
  trial: Placed;
  /** Parts that have no place, each with the reason. */
  refused: { part: string; why: string }[];
}

export type Doing = { kind: string; payload: object };

const rounded = (v: number): number => Math.round(v * 1000) / 1000;

/** Edits that change what stands and blows where. */
export const standingEdits = ({ without = [], mounts = [], outlets = [] }: Placed): Doing[] => [
  ...without.map((device) => ({ kind: "lift", payload: { device } })),
  ...mounts.map(({ device, part, face, x, y }) => ({ kind: "mount unit", payload: { device, part, face, x, y } })),
  ...outlets.map((o) => ({ kind: "turn outlet", payload: { ...o } })),
];

/** What is tried as edits of the design; an open door is none. */
export function asEdits(trial: Placed, zone: Pick<ZoneHeat, "enclosures" | "devices" | "values">): Doing[] {
  const { values = {}, load = 1, stands } = trial;
  const [enclosure] = zone.enclosures;
  const differ = Object.fromEntries(
    Object.entries(values).filter(([key, v]) => v !== zone.values[key as keyof HeatRules]),
  );
  return [
    ...standingEdits(trial),
    ...(Object.keys(differ).length > 0 ? [{ kind: "set heat", payload: { enclosure, values: differ } }] : []),
    ...(stands === undefined
      ? []
      : zone.enclosures.map((e) => ({ kind: "set surfaces", payload: { enclosure: e, surfaces: STANDS[stands] } }))),
    ...(load === 1
      ? []
      : zone.devices.map((d) => ({
          kind: "set load",
          payload: { device: d.device, loadShare: Math.min(10, rounded(d.share * load)) },
        }))),
  ];
}

/** The field of the air before a plate, for drawing. Row by row upwards from the lower left corner. */
export interface AirField {
  way: AirWay;
  speed: Float32Array;
  blocked: Uint8Array;
  streams: Stream[];
}

export interface TrialBase {
  design: Design;
  panel: PanelResult;
  heat: Pick<HeatResult, "zones" | "basis">;
}
