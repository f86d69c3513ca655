import { done, Edits, notThere, type Applied } from "../frame/edits";
import { bodyAt, faceId } from "../design/geometry";
import { lookUp, type Lookup } from "../design/lookup";
import type { Design, Device } from "../design/model";
import type { HeatRules } from "./rules";
import type { PanelResult, PlacedDevice } from "../panel/result";
import { airWay } from "./airways";
import { basisOf, type Basis } from "./basis";
import { HEAT_EDITS } from "./edits";
import type { AirWay, ZoneHeat } from "./result";
import { streamsOf } from "./streams";
import {
  STANDS,
  standingEdits,
  type AirField,
  type Doing,
  type Placed,
  type Trial,
  type TrialBase,
  type Tried,
} from "./trial";
import { freeUnitTag, mountFor } from "./units";
import { blowersOf, freeFaces, zoneHeat } from "./zone";
import { zonesOf } from "./zones";

const EDITS = new Edits(HEAT_EDITS);

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
  run(name: string, asked: Trial): Tried | null {
    const { trial, refused } = this.#placed(name, asked);
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
    return { zone: done, trial, refused };
  }

  /** Places for the parts that are tried besides what stays. */
  #placed(name: string, { with: wanted = [], ...trial }: Trial): { trial: Placed; refused: Tried["refused"] } {
    if (wanted.length === 0) return { trial, refused: [] };
    const { basis } = this.#standing(trial);
    const zone = zonesOf(basis.look, basis.heat).find((z) => z.name === name);
    const refused: Tried["refused"] = [];
    const mounts: NonNullable<Placed["mounts"]> = [];
    const taken = new Set(basis.look.design.devices.map((d) => d.tag));
    for (const number of wanted) {
      const part = basis.look.parts.get(number);
      if (!part || !zone) {
        refused.push({ part: number, why: "it is not in the library of this job" });
        continue;
      }
      // With those before it in their places.
      const { basis: now } = this.#standing({ ...trial, mounts });
      const found = mountFor([{ part, count: 1 }], freeFaces(zone, now), zone.values, new Set(), basis.look.parts);
      if (!found.mounts) {
        refused.push({ part: number, why: found.why });
        continue;
      }
      // A fan comes with its outlet filter.
      for (const mount of found.mounts) {
        const device = freeUnitTag(taken);
        taken.add(device);
        mounts.push({ device, ...mount });
      }
    }
    return { trial: { ...trial, mounts }, refused };
  }

  /** The air before the plate of an enclosure; null where no unit blows there. O(cells · √cells) */
  field(enclosure: string, trial: Placed, counted: ReadonlyMap<string, number>): AirField | null {
    const { basis } = this.#standing(trial);
    const e = basis.look.enclosures.get(enclosure);
    const plate = basis.faces.get(faceId(enclosure, "plate"));
    const blowers = e ? blowersOf(e, basis) : [];
    if (!e || !plate || blowers.length === 0) return null;
    const bodies = basis.panel.devices.filter((d) => d.face === plate.id);
    const { way, flow, grid } = airWay(e, plate, bodies, blowers, counted);
    return { way, speed: Float32Array.from(flow.speed), blocked: grid.blocked, streams: streamsOf(grid, flow) };
  }

  #standing(trial: Placed): Standing {
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

  /** The design with edits laid, and what they change of where things stand: units on faces. */
  #after(edits: readonly Doing[]): { design: Design; panel: PanelResult } {
    const { panel } = this.#base;
    let { design } = this.#base;
    for (const edit of edits) {
      const applied =
        edit.kind === "lift" ? lifted(design, edit.payload as { device: string }) : EDITS.apply(design, edit);
      if (!applied.ok) throw new Error(`${applied.reason}. ${applied.remedy}`);
      design = applied.design;
    }
    const touched = new Set(edits.map((e) => (e.payload as { device: string }).device));
    const look = lookUp(design);
    return {
      design,
      panel: {
        ...panel,
        devices: [
          ...panel.devices.filter((d) => !touched.has(d.tag)),
          ...[...touched].flatMap((tag) => standing(look.devices.get(tag), look)),
        ],
      },
    };
  }
}

/** A device that a trial takes off its face. */
function lifted(design: Design, { device: tag }: { device: string }): Applied {
  if (!design.devices.some((d) => d.tag === tag)) return notThere("device", tag);
  return done({
    ...design,
    devices: design.devices.map(({ on, ...d }): Device => (d.tag === tag || on === undefined ? d : { ...d, on })),
  });
}

/** A unit where it stands on a face, as the panel places it; none without a face. */
function standing(device: Device | undefined, look: Lookup): PlacedDevice[] {
  const part = device && look.parts.get(device.part);
  const { face, x, y } = device?.on ?? {};
  if (!part || face === undefined || x === undefined || y === undefined) return [];
  const body = bodyAt({ x: x + part.w / 2, y: y + part.h / 2 }, part.w, part.h, device!.turn ?? 0, 0);
  return [
    {
      tag: device!.tag,
      part: part.number,
      text: part.text,
      category: part.category,
      texts: device!.texts ?? [],
      face,
      carrier: null,
      centre: body.centre,
      turn: body.turn,
      w: body.w,
      h: body.h,
      outline: body.outline,
      z: body.z,
      top: body.z + part.d,
      sheet: device!.sheet ?? null,
      item: device!.item ?? null,
      fallbacks: [],
    },
  ];
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
