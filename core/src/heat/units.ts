import type { Face, Rect } from "../design/geometry";
import { overlaps } from "../design/geometry";
import { capacityAt, flowAt } from "../design/curve";
import type { ClimateKind, FaceKind, HeatRules, Part } from "../design/model";
import { byText } from "../design/order";
import { airFactor, coolingNeeded } from "./balance";
import type { UnitFit } from "./result";
import { energyOf, type Bin } from "./year";

/** What a unit is measured against. */
export interface Need {
  lossW: number;
  wPerK: number;
  values: HeatRules;
  coolingW: number;
  heaterW: number;
}

/** What a part does to the air; null when it does nothing. */
export const kindOf = (part: Part): ClimateKind | null => part.climate?.kind ?? (part.cooling ? "cooling unit" : null);

export const facesFor = (part: Part): FaceKind[] =>
  part.climate?.on ??
  (part.mounts ?? []).flatMap((m): FaceKind[] => (m.kind === "door" ? ["door"] : m.kind === "plate" ? ["plate"] : []));

/**
 * Air that a unit moves, m³/h: as stated, or off its curve at a third of the highest pressure it stands, as through a clean
 * filter and out again; null where it states neither.
 */
export function airflowOf(part: Part): number | null {
  const curve = part.climate?.flow ?? [];
  return part.cooling?.airflowM3h ?? flowAt(curve, Math.max(0, ...curve.map((p) => p.pa)) / 3);
}

/** What a part carries away at two temperatures, W; null where it does not say it. */
export function carriesAt(
  part: Part,
  insideC: number,
  outsideC: number,
  heightM: number,
): { w: number; beyond: boolean } | null {
  const kind = kindOf(part);
  if (kind === "cooling unit") {
    const read = capacityAt(part.cooling?.curve ?? [], insideC, outsideC);
    return read && { w: read.capacityW, beyond: read.beyond };
  }
  const k = insideC - outsideC;
  if (kind === "exchanger")
    return part.climate?.wPerK === undefined ? null : { w: Math.max(0, part.climate.wPerK * k), beyond: false };
  if (kind === "filter fan") {
    const flow = airflowOf(part);
    const { f, beyond } = airFactor(heightM);
    return flow === null ? null : { w: Math.max(0, (flow * k) / f), beyond };
  }
  return null;
}

const powerOf = (part: Part): number => part.climate?.powerW ?? part.cooling?.powerW ?? 0;

/** Things of a face beside which a place is looked for. */
const MOST_TRIED = 24;

/** A place on a face for a body, clear of what is there; null where none was found. O(things on the face) */
export function placeOn(
  face: Face,
  w: number,
  h: number,
  taken: readonly Rect[],
  edge = 25,
): { x: number; y: number } | null {
  if (w + 2 * edge > face.w || h + 2 * edge > face.h) return null;
  // Against an edge, or beside or above something: the middle first. On a crowded face not all that stands there is tried.
  const tried = taken.slice(0, MOST_TRIED);
  const xs = [(face.w - w) / 2, edge, face.w - edge - w, ...tried.flatMap((t) => [t.x + t.w + 10, t.x - w - 10])];
  const ys = [face.h - edge - h, (face.h - h) / 2, edge, ...tried.flatMap((t) => [t.y + t.h + 10, t.y - h - 10])];
  for (const y of ys) {
    if (y < edge || y + h > face.h - edge) continue;
    for (const x of xs) {
      if (x < edge || x + w > face.w - edge) continue;
      if (!taken.some((t) => overlaps({ x, y, w, h }, t))) return { x, y };
    }
  }
  return null;
}

/** Faces of a zone with what stands on them. */
export interface FreeFace {
  face: Face;
  taken: Rect[];
}

function mountFor(
  parts: readonly { part: Part; count: number }[],
  faces: readonly FreeFace[],
  values: HeatRules,
): Pick<UnitFit, "mount" | "why"> {
  const first = parts[0]!.part;
  const kinds = facesFor(first);
  if (kinds.length === 0) return { mount: null, why: "its part names no face it may be mounted on" };
  if (kinds.includes("plate")) {
    const plate = faces.find((f) => f.face.kind === "plate");
    if (plate) {
      const at = placeOn(plate.face, first.w, first.h, plate.taken);
      if (at) return { mount: { face: plate.face.id, ...at }, why: "" };
    }
  }
  let why = `no ${kinds.join(" or ")} of the zone has room for ${first.w} × ${first.h} mm`;
  const wanted = parts.reduce((n, p) => n + (p.part === first ? p.count : 0), 0);
  for (const { face, taken } of faces) {
    if (!kinds.includes(face.kind) || face.kind === "plate") continue;
    if (face.kind === "door" && (first.weightKg ?? 0) > values.doorMostKg) {
      why = `${first.weightKg} kg is more than a door carries (${values.doorMostKg} kg)`;
      continue;
    }
    // As many as are wanted, one beside or above the other.
    const used = [...taken];
    let at: { x: number; y: number } | null = null;
    for (let n = 0; n < wanted; n++) {
      const spot = placeOn(face, first.w, first.h, used);
      if (!spot) {
        at = null;
        why = `${face.id} has no room for ${wanted === 1 ? "it" : `${wanted} of them`}`;
        break;
      }
      at ??= spot;
      used.push({ ...spot, w: first.w, h: first.h });
    }
    if (at) return { mount: { face: face.id, ...at }, why: "" };
  }
  return { mount: null, why };
}

/** What one kind of unit, so many of it, would do. */
function fitOf(
  part: Part,
  count: number,
  need: Need,
  year: readonly Bin[],
  faces: readonly FreeFace[],
): UnitFit | null {
  const kind = kindOf(part);
  const { values, lossW, wPerK } = need;
  if (kind === null) return null;
  const common = {
    parts: [{ number: part.number, count }],
    noiseDb: part.climate?.noiseDb === undefined ? null : part.climate.noiseDb + 10 * Math.log10(count),
    priceClass: part.climate?.priceClass ?? null,
    ...mountFor([{ part, count }], faces, values),
  };
  if (kind === "heater") {
    const w = (part.climate?.heatW ?? 0) * count;
    if (need.heaterW <= 0 || w === 0) return null;
    const energyKWh = energyOf(
      year,
      w,
      (t) => (wPerK * (values.insideMinC - t) - lossW * (values.leastSharePercent / 100)) / w,
    );
    return {
      kind,
      ...common,
      capacityW: w,
      dutyPercent: (100 * need.heaterW) / w,
      holds: w >= need.heaterW,
      energyKWh,
      money: energyKWh * values.tariffPerKWh,
      beyond: false,
    };
  }
  if (need.coolingW <= 0) return null;
  const at = carriesAt(part, values.insideMaxC, values.outsideMaxC, values.heightM);
  if (!at) return null;
  const capacityW = at.w * count;
  const energyKWh = energyOf(year, powerOf(part) * count, (t) => {
    const carries = (carriesAt(part, values.insideMaxC, t, values.heightM)?.w ?? 0) * count;
    const wanted = coolingNeeded(lossW, wPerK, values.insideMaxC, t);
    return wanted <= 0 ? 0 : carries > 0 ? wanted / carries : 1;
  });
  return {
    kind,
    ...common,
    capacityW,
    dutyPercent: capacityW > 0 ? (100 * need.coolingW) / capacityW : Infinity,
    holds: capacityW >= need.coolingW,
    energyKWh,
    money: energyKWh * values.tariffPerKWh,
    beyond: at.beyond,
  };
}

/** How well a duty fits: 0 between the two that the shop states, else how far off. */
const off = ({ dutyPercent }: UnitFit, { dutyLeastPercent, dutyMostPercent }: HeatRules): number =>
  dutyPercent < dutyLeastPercent ? dutyLeastPercent - dutyPercent : Math.max(0, dutyPercent - dutyMostPercent);

/**
 * Units of the library for a need, the best first: those that hold what is wanted and can be mounted, of those the ones
 * with a duty in the shop's range, then the least energy. One of each, two of each, and where it gets too warm and too cold a
 * fan with a heater. O(parts · (bins + things on faces))
 */
export function fitsFor(
  parts: Iterable<Part>,
  need: Need,
  year: readonly Bin[],
  faces: readonly FreeFace[],
): UnitFit[] {
  const climate = [...parts].filter((p) => kindOf(p) !== null);
  const fits = climate.flatMap((p) => [1, 2].flatMap((n) => fitOf(p, n, need, year, faces) ?? []));
  const fans = fits.filter((f) => f.kind === "filter fan" && f.holds);
  const heaters = fits.filter((f) => f.kind === "heater" && f.holds && f.parts[0]!.count === 1);
  const heater = heaters.sort((a, b) => a.capacityW - b.capacityW)[0];
  const both = heater
    ? fans.map((fan): UnitFit => ({
        ...fan,
        kind: "fan and heater",
        parts: [...fan.parts, ...heater.parts],
        energyKWh: fan.energyKWh + heater.energyKWh,
        money: fan.money + heater.money,
        mount: heater.mount ? fan.mount : null,
        why: heater.mount ? fan.why : heater.why,
      }))
    : [];
  const rank = (f: UnitFit): number[] => [
    f.holds ? 0 : 1,
    f.mount ? 0 : 1,
    off(f, need.values),
    f.energyKWh,
    f.priceClass ?? 9,
  ];
  return [...fits, ...both].sort((a, b) => {
    const [x, y] = [rank(a), rank(b)];
    const i = x.findIndex((v, k) => v !== y[k]);
    return i >= 0 ? x[i]! - y[i]! : byText(JSON.stringify(a.parts), JSON.stringify(b.parts));
  });
}

/** What the rule of thumb buys: losses as rated and a fifth more, the next larger by its name plate (35 °C, 35 °C). */
export function thumbOf(
  parts: Iterable<Part>,
  ratedW: number,
  need: Need,
  year: readonly Bin[],
  faces: readonly FreeFace[],
): (UnitFit & { wantedW: number }) | null {
  const wantedW = ratedW * 1.2;
  const rated = [...parts]
    .filter((p) => kindOf(p) === "cooling unit")
    .flatMap((p) => {
      const plate = capacityAt(p.cooling?.curve ?? [], 35, 35);
      return plate ? [{ p, w: plate.capacityW }] : [];
    })
    .sort((a, b) => a.w - b.w || byText(a.p.number, b.p.number));
  const bought = rated.find((r) => r.w >= wantedW) ?? rated[rated.length - 1];
  const fit = bought && need.coolingW > 0 ? fitOf(bought.p, 1, need, year, faces) : null;
  return fit && { ...fit, wantedW };
}
