import { Edits, type Edit } from "../design/edits";
import { faceId } from "../design/geometry";
import type { Design, Direction, HeatRules, SurfaceState } from "../design/model";
import type { Surface } from "../design/rules";
import { compute as computePanel } from "../panel/compute";
import { liftDevice } from "../panel/edits";
import type { PanelResult } from "../panel/result";
import { airWay } from "./airways";
import { basisOf, type Basis } from "./basis";
import { HEAT_EDITS } from "./edits";
import type { AirWay, HeatResult, Mount, ZoneHeat } from "./result";
import { streamsOf, type Stream } from "./streams";
import { blowersOf, zoneHeat } from "./zone";
import { zonesOf } from "./zones";

/** How all enclosures of a zone stand together: each like one that stands free, before a wall, or in a row. */
export const ARRANGEMENTS = ["free", "against a wall", "end of a row", "middle of a row"] as const;
export type Arrangement = (typeof ARRANGEMENTS)[number];

const STANDS: Record<Arrangement, Partial<Record<Surface, SurfaceState>>> = {
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
  /** Units that leave their face, and such as are mounted. */
  without?: string[];
  mounts?: (Mount & { device: string })[];
  /** Deflectors on outlets. */
  outlets?: { device: string; to: Direction | null }[];
}

type Doing = Pick<Edit, "kind" | "payload">;

const EDITS = new Edits([...HEAT_EDITS, liftDevice]);
const rounded = (v: number): number => Math.round(v * 1000) / 1000;

/** Edits that change what stands and blows where. */
const standingEdits = ({ without = [], mounts = [], outlets = [] }: Trial): Doing[] => [
  ...without.map((device) => ({ kind: "lift", payload: { device } })),
  ...mounts.map(({ device, part, face, x, y }) => ({ kind: "mount unit", payload: { device, part, face, x, y } })),
  ...outlets.map((o) => ({ kind: "turn outlet", payload: { ...o } })),
];

/** What is tried as edits of the design; an open door is none. */
export function asEdits(trial: Trial, zone: Pick<ZoneHeat, "enclosures" | "devices" | "values">): Doing[] {
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

interface Standing {
  basis: Basis;
  /** Known ways of the air by zone. */
  ways: Map<string, AirWay[]>;
}

/** Standings that are remembered: the thumb goes to and fro between a few. */
const MOST_STANDINGS = 16;

/**
 * Works out zones of a computed design with other values, units and arrangements. What stands and blows is worked out once;
 * then a zone costs O(devices + parts · bins).
 */
export class Trials {
  readonly #base: TrialBase;
  readonly #standings = new Map<string, Standing>();

  constructor(base: TrialBase) {
    this.#base = base;
  }

  /** The zone as it would be; null when there is none of that name. @throws Error where an edit of it cannot be */
  run(name: string, trial: Trial): ZoneHeat | null {
    const standing = this.#standing(trial);
    const { look, heat } = standing.basis;
    const zone = zonesOf(look, heat).find((z) => z.name === name);
    if (!zone) return null;
    const { stands, values } = trial;
    const tried = {
      ...zone,
      values: { ...zone.values, ...values },
      enclosures: stands
        ? zone.enclosures.map((e) => ({ ...e, surfaces: { ...e.surfaces, ...STANDS[stands] } }))
        : zone.enclosures,
    };
    const known = standing.ways.get(name);
    const done = zoneHeat(tried, standing.basis, {
      doorOpen: trial.doorOpen ?? false,
      load: trial.load ?? 1,
      ...(known ? { ways: known } : {}),
    });
    standing.ways.set(name, done.airWays);
    return done;
  }

  /** The air before the plate of an enclosure; null where no unit blows there. O(cells · √cells) */
  field(enclosure: string, trial: Trial, counted: ReadonlyMap<string, number>): AirField | null {
    const { basis } = this.#standing(trial);
    const e = basis.look.enclosures.get(enclosure);
    const plate = basis.faces.get(faceId(enclosure, "plate"));
    const blowers = e ? blowersOf(e, basis) : [];
    if (!e || !plate || blowers.length === 0) return null;
    const bodies = basis.panel.devices.filter((d) => d.face === plate.id);
    const { way, flow, grid } = airWay(e, plate, bodies, blowers, counted);
    return { way, speed: Float32Array.from(flow.speed), blocked: grid.blocked, streams: streamsOf(grid, flow) };
  }

  #standing(trial: Trial): Standing {
    const edits = standingEdits(trial);
    const key = JSON.stringify(edits);
    const known = this.#standings.get(key);
    if (known) return known;
    const { heat } = this.#base;
    const { design, panel } = edits.length === 0 ? this.#base : this.#after(edits);
    const { walls, stands, wires } = heat.basis;
    // Every zone has its values: those of the first stand for the rules, each zone states its own below.
    const values = heat.zones[0]?.values;
    const basis = basisOf(
      withValues(design, heat.zones),
      { ...(values as HeatRules), walls, stands },
      panel,
      new Map(wires.map((w) => [w.enclosure, w.w])),
    );
    const made: Standing = {
      basis,
      ways: new Map(edits.length === 0 ? heat.zones.map((z) => [z.zone, z.airWays]) : []),
    };
    if (this.#standings.size >= MOST_STANDINGS) this.#standings.delete(this.#standings.keys().next().value!);
    this.#standings.set(key, made);
    return made;
  }

  /** The design with edits laid, and what they change of where things stand. */
  #after(edits: readonly Doing[]): { design: Design; panel: PanelResult } {
    const { panel } = this.#base;
    let { design } = this.#base;
    for (const edit of edits) {
      const applied = EDITS.apply(design, edit);
      if (!applied.ok) throw new Error(`${applied.reason}. ${applied.remedy}`);
      design = applied.design;
    }
    const touched = new Set(edits.map((e) => (e.payload as { device: string }).device));
    const alone = { ...design, devices: design.devices.filter((d) => touched.has(d.tag)), strips: [] };
    return {
      design,
      panel: {
        ...panel,
        devices: [...panel.devices.filter((d) => !touched.has(d.tag)), ...computePanel(alone).devices],
      },
    };
  }
}

/** Every enclosure states the values its zone was worked out with. */
function withValues(design: Design, zones: readonly ZoneHeat[]): Design {
  const values = new Map(zones.flatMap((z) => z.enclosures.map((tag) => [tag, z.values] as const)));
  return {
    ...design,
    enclosures: design.enclosures.map((e) => {
      const heat = values.get(e.tag);
      return heat ? { ...e, heat } : e;
    }),
  };
}
