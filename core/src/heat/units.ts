import { overlaps, type Face, type Rect } from "../design/geometry";
import { capacityAt, flowAt } from "../design/curve";
import type { FaceKind, Part } from "../design/model";
import type { HeatRules } from "./rules";
import { byText, pushTo } from "../design/order";
import { airFactor, coolingNeeded, heaterNeeded, type Shell } from "./balance";
import { kindOf } from "./kinds";
import { openingsOf } from "./openings";
import type { Before } from "../design/before";
import { DOES, type Mount, type UnitFit, type ZoneHeat } from "./result";
import { energyOf, type Bin } from "./year";

/** What a unit is measured against. */
export interface Need {
  lossW: number;
  shell: Shell;
  values: HeatRules;
  /** In the hottest hour, and in the coldest. */
  coolingW: number;
  heaterW: number;
  /** Dew point below which no wall may fall; null where none does without a heater. */
  dryC: number | null;
}

/** What a zone is in need of. */
export const needOf = (z: ZoneHeat): Need => ({
  lossW: z.lossW,
  shell: { wPerK: z.wPerK, open: z.open },
  values: z.values,
  coolingW: z.coolingNeededW,
  heaterW: Math.max(z.heaterNeededW, z.dryNeededW),
  dryC: z.surfaces.some((s) => s.wet) ? z.dewPointC : null,
});

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
): { w: number; beyond: boolean; unsafe: boolean } | null {
  const kind = kindOf(part);
  if (kind === "cooling unit") {
    const read = capacityAt(part.cooling?.curve ?? [], insideC, outsideC);
    return read && { w: read.capacityW, beyond: read.beyond, unsafe: read.unsafe };
  }
  const k = insideC - outsideC;
  if (kind === "exchanger")
    return part.climate?.wPerK === undefined
      ? null
      : { w: Math.max(0, part.climate.wPerK * k), beyond: false, unsafe: false };
  if (kind === "filter fan") {
    const flow = airflowOf(part);
    const { f, beyond } = airFactor(heightM);
    return flow === null ? null : { w: Math.max(0, (flow * k) / f), beyond, unsafe: beyond };
  }
  return null;
}

const powerOf = (part: Part): number => part.climate?.powerW ?? part.cooling?.powerW ?? 0;

/** Cells of a face in which a place is looked for: at least so large, at most so many. */
const CELL_MM = 10;
const MOST_CELLS = 5000;

/**
 * A place on a face for a body, clear of what is there: as high as it goes, or as low, there as near to the middle as it goes,
 * in steps of a cell from the edge; null where there is none. O(cells + things on the face)
 */
export function placeOn(
  face: Pick<Face, "w" | "h">,
  w: number,
  h: number,
  taken: readonly Rect[],
  edge = 25,
  low = false,
): { x: number; y: number } | null {
  const [roomW, roomH] = [face.w - 2 * edge, face.h - 2 * edge];
  if (w > roomW || h > roomH) return null;
  const cell = 5 * Math.ceil(Math.max(CELL_MM, Math.sqrt((roomW * roomH) / MOST_CELLS)) / 5);
  const [columns, rows] = [Math.ceil(roomW / cell), Math.ceil(roomH / cell)];
  // How many things take a cell: steps at their corners, then summed both ways; summed again, how many cells of any are taken.
  const wide = columns + 1;
  const sums = new Int32Array(wide * (rows + 1));
  const clip = (v: number, most: number): number => Math.min(most, Math.max(0, v));
  for (const t of taken) {
    const [c1, c2] = [
      clip(Math.floor((t.x - edge) / cell + EPS), columns),
      clip(Math.ceil((t.x + t.w - edge) / cell - EPS), columns),
    ];
    const [r1, r2] = [
      clip(Math.floor((t.y - edge) / cell + EPS), rows),
      clip(Math.ceil((t.y + t.h - edge) / cell - EPS), rows),
    ];
    // What has no width stands in the cell all the same.
    if (c1 >= columns || r1 >= rows || t.x + t.w <= edge || t.y + t.h <= edge) continue;
    const [c3, r3] = [Math.max(c2, c1 + 1), Math.max(r2, r1 + 1)];
    sums[r1 * wide + c1]!++;
    sums[r1 * wide + c3]!--;
    sums[r3 * wide + c1]!--;
    sums[r3 * wide + c3]!++;
  }
  summed(sums, wide, rows + 1);
  const full = new Int32Array(wide * (rows + 1));
  for (let r = 0; r < rows; r++)
    for (let c = 0; c < columns; c++) full[(r + 1) * wide + c + 1] = sums[r * wide + c]! > 0 ? 1 : 0;
  summed(full, wide, rows + 1);
  const [across, up] = [Math.ceil(w / cell - EPS), Math.ceil(h / cell - EPS)];
  const [lastC, lastR] = [Math.floor((roomW - w) / cell + EPS), Math.floor((roomH - h) / cell + EPS)];
  const middle = (roomW - w) / 2 / cell;
  for (let n = 0; n <= lastR; n++) {
    const r = low ? n : lastR - n;
    let best: number | null = null;
    for (let c = 0; c <= lastC; c++) {
      const [c2, r2] = [Math.min(columns, c + across), Math.min(rows, r + up)];
      const inside = full[r2 * wide + c2]! - full[r * wide + c2]! - full[r2 * wide + c]! + full[r * wide + c]!;
      if (inside === 0 && (best === null || Math.abs(c - middle) < Math.abs(best - middle))) best = c;
    }
    if (best !== null) return { x: edge + best * cell, y: edge + r * cell };
  }
  return null;
}

const EPS = 1e-9;

/** Each becomes the sum of all to its left and below, itself included. */
function summed(values: Int32Array, wide: number, high: number): void {
  for (let r = 0; r < high; r++)
    for (let c = 0; c < wide; c++)
      values[r * wide + c]! +=
        (c > 0 ? values[r * wide + c - 1]! : 0) +
        (r > 0 ? values[(r - 1) * wide + c]! : 0) -
        (c > 0 && r > 0 ? values[(r - 1) * wide + c - 1]! : 0);
}

/** A face of a zone with what stands on it and before it. */
export interface FreeFace {
  face: Face;
  /** What stands on it; of a unit, what it does: one that takes its place may stand there. */
  taken: { rect: Rect; does?: "cools" | "heats" }[];
  /** Bodies of the other faces of its enclosure that stand before it. */
  before: Before[];
  /** What hangs on it, kg, without its units. */
  kg: number;
}

export interface Counted {
  part: Part;
  count: number;
}

/** Warm air rises: what heats stands low, what blows cool air in too, and its air leaves high. */
const standsLow = (part: Part): boolean => ["heater", "filter fan"].includes(kindOf(part) ?? "");

const doesOf = (part: Part): "cools" | "heats" => (kindOf(part) === "heater" ? "heats" : "cools");

/**
 * Where units may be mounted, one after the other; or why one of them may not.
 * @param gone units that do this leave their places: by themselves, those that the new ones take the place of
 */
export function mountFor(
  parts: readonly Counted[],
  faces: readonly FreeFace[],
  values: Pick<HeatRules, "doorMostKg">,
  gone: ReadonlySet<string> = new Set(parts.map((p) => doesOf(p.part))),
  library: ReadonlyMap<string, Part> = new Map(),
): Found {
  const key = JSON.stringify([parts.map((p) => [p.part.number, p.count]), values.doorMostKg, [...gone]]);
  let known = found.get(faces);
  if (!known) found.set(faces, (known = new Map<string, Found>()));
  let one = known.get(key);
  if (!one) known.set(key, (one = placesFor(parts, faces, values, gone, library)));
  return one;
}

type Found = Pick<UnitFit, "mounts" | "why" | "crowded">;

/** Faces do not change: what was found on them once is not looked for again when other values are tried. */
const found = new WeakMap<readonly FreeFace[], Map<string, Found>>();

function placesFor(
  parts: readonly Counted[],
  faces: readonly FreeFace[],
  values: Pick<HeatRules, "doorMostKg">,
  gone: ReadonlySet<string>,
  library: ReadonlyMap<string, Part>,
): Found {
  const mounts: Mount[] = [];
  const added = new Map<string, Rect[]>();
  const hung = new Map<string, number>();
  let crowded = false;
  for (const { part, count } of parts) {
    const kinds = facesFor(part);
    const none = (why: string) => ({ mounts: null, why, crowded: false });
    if (kinds.length === 0) return none(`part ${part.number} names no face it may be mounted on`);
    for (let n = 0; n < count; n++) {
      const exit = part.climate?.exit;
      const out = exit === undefined ? undefined : library.get(exit);
      if (exit !== undefined && !out) return none(`its outlet filter ${exit} is not in the library`);
      for (const one of [part, ...(out ? [out] : [])]) {
        const its = one === part || facesFor(one).length === 0 ? kinds : facesFor(one);
        const spot = spotFor(one, its, faces, gone, added, hung, values);
        if (typeof spot === "string") return none(one === part ? spot : `of its outlet filter: ${spot}`);
        crowded ||= spot.crowded;
        const { face, x, y } = spot;
        mounts.push({ part: one.number, face, x, y });
        pushTo(added, face, { x, y, w: one.w, h: one.h });
        hung.set(face, (hung.get(face) ?? 0) + (one.weightKg ?? 0));
      }
    }
  }
  return { mounts, why: "", crowded };
}

/** `on +A2/right`, or why it cannot be mounted. */
export const whereText = ({ mounts, why, crowded }: Pick<UnitFit, "mounts" | "why" | "crowded">): string =>
  mounts
    ? `on ${[...new Set(mounts.map((m) => m.face))].join(" and ")}${crowded ? ", with something before its openings" : ""}`
    : why;

/** Between a unit and what stands beside it. */
const GAP_MM = 10;

/** A place for one unit, clear before its openings if there is such a one; or why there is none. */
function spotFor(
  part: Part,
  kinds: readonly FaceKind[],
  faces: readonly FreeFace[],
  gone: ReadonlySet<string>,
  added: ReadonlyMap<string, Rect[]>,
  hung: ReadonlyMap<string, number>,
  { doorMostKg }: Pick<HeatRules, "doorMostKg">,
): (Omit<Mount, "part"> & { crowded: boolean }) | string {
  const size = `${part.w} × ${part.h} mm`;
  let why = `no ${kinds.join(" or ")} of the zone has room for ${size}`;
  for (const freeMm of new Set([part.climate?.freeMm ?? 0, 0])) {
    for (const { face, taken, before, kg } of faces) {
      if (!kinds.includes(face.kind)) continue;
      const weight = kg + (hung.get(face.id) ?? 0) + (part.weightKg ?? 0);
      if (face.kind === "door" && weight > doorMostKg) {
        why = `with ${part.weightKg} kg more ${face.id} would carry ${Math.round(weight * 10) / 10} kg; a door carries ${doorMostKg} kg`;
        continue;
      }
      const there = [
        ...taken.flatMap((t) => (t.does && gone.has(t.does) ? [] : [t.rect])),
        ...(added.get(face.id) ?? []),
      ].map(({ x, y, w, h }) => ({ x: x - GAP_MM, y: y - GAP_MM, w: w + 2 * GAP_MM, h: h + 2 * GAP_MM }));
      const deep = before.flatMap((b) => (b.fromMm < part.d + freeMm && b.toMm > 0 ? [b.rect] : []));
      const at = placeOn(face, part.w, part.h, [...there, ...deep], undefined, standsLow(part));
      if (at) return { face: face.id, ...at, crowded: crowdedAt(part, at, before) };
      if (freeMm === 0)
        why = placeOn(face, part.w, part.h, there)
          ? `${face.id} has room for ${size}, but what stands behind it leaves less than its depth of ${part.d} mm`
          : `${face.id} has no room for ${size}`;
    }
  }
  return why;
}

/** Whether something stands in the space that a unit at a place wants free before its openings. */
function crowdedAt(part: Part, at: { x: number; y: number }, before: readonly Before[]): boolean {
  const freeMm = part.climate?.freeMm ?? 0;
  const { blows, draws } = openingsOf(part);
  return before.some(
    (b) =>
      b.toMm > part.d &&
      b.fromMm < part.d + freeMm &&
      [blows, draws].some((o) => overlaps({ ...o, x: at.x + o.x, y: at.y + o.y }, b.rect)),
  );
}

/** What units carry at an outside temperature, what is needed then, and which share of it that is. */
export interface DutyPoint {
  outsideC: number;
  hours: number;
  neededW: number;
  capacityW: number;
  /** Of the time they run, 0 to 1. */
  share: number;
}

/** What must be carried away at an outside temperature, W. */
export const coolingAt = ({ lossW, shell, values }: Need, outsideC: number): number =>
  coolingNeeded(lossW, shell, values.insideMaxC, outsideC);

/** What must be put in at an outside temperature, W: for what is wanted inside, and so that no wall gets wet. */
export function heatingAt({ lossW, shell, values, dryC }: Need, outsideC: number): number {
  const least = lossW * (values.leastSharePercent / 100);
  const warm = heaterNeeded(least, shell, values.insideMinC, outsideC);
  return dryC === null ? warm : Math.max(warm, heaterNeeded(least, shell, 2 * dryC - outsideC, outsideC));
}

/** What units of one sort do at an outside temperature. */
function dutyAt(parts: readonly Counted[], need: Need, outsideC: number): Omit<DutyPoint, "hours"> {
  const { insideMaxC, heightM } = need.values;
  const heats = parts.every((p) => doesOf(p.part) === "heats");
  const neededW = Math.max(0, heats ? heatingAt(need, outsideC) : coolingAt(need, outsideC));
  const capacityW = parts.reduce(
    (sum, { part, count }) =>
      sum + count * (heats ? (part.climate?.heatW ?? 0) : (carriesAt(part, insideMaxC, outsideC, heightM)?.w ?? 0)),
    0,
  );
  // Where they can carry nothing nobody lets them run.
  const share = capacityW > 0 ? Math.min(1, neededW / capacityW) : 0;
  return { outsideC, neededW, capacityW, share };
}

/** The duty of units of one sort over the outside temperatures of a year. O(bins · parts) */
export const dutyOver = (parts: readonly Counted[], need: Need, year: readonly Bin[]): DutyPoint[] =>
  year.map(({ outsideC, hours }) => ({ hours, ...dutyAt(parts, need, outsideC) }));

/** Energy of a year of units of one sort, kWh: each runs as long as all are needed. O(bins · parts) */
export const yearlyKWh = (parts: readonly Counted[], need: Need, year: readonly Bin[]): number =>
  energyOf(
    year,
    parts.reduce((sum, { part, count }) => sum + count * powerOf(part), 0),
    (t) => dutyAt(parts, need, t).share,
  );

/** What one kind of unit, so many of it, would do. */
function fitOf(
  part: Part,
  count: number,
  need: Need,
  year: readonly Bin[],
  faces: readonly FreeFace[],
  library: ReadonlyMap<string, Part>,
): UnitFit | null {
  const kind = kindOf(part);
  const { values } = need;
  if (kind === null) return null;
  const heats = kind === "heater";
  const neededW = heats ? need.heaterW : need.coolingW;
  const at = heats
    ? { w: part.climate?.heatW ?? 0, beyond: false, unsafe: false }
    : carriesAt(part, values.insideMaxC, values.outsideMaxC, values.heightM);
  if (neededW <= 0 || !at || (heats && at.w === 0)) return null;
  const parts = [{ part, count }];
  const capacityW = at.w * count;
  const energyKWh = yearlyKWh(parts, need, year);
  const but = at.unsafe
    ? `its figures do not reach ${values.insideMaxC} °C inside and ${values.outsideMaxC} °C outside: it carries less there than it says`
    : protectionLack(part, values.protectionIp);
  return {
    kind,
    does: doesOf(part),
    parts: [{ number: part.number, count }],
    // Two that are silent are silent.
    noiseDb: part.climate?.noiseDb ? part.climate.noiseDb + 10 * Math.log10(count) : (part.climate?.noiseDb ?? null),
    priceClass: part.climate?.priceClass ?? null,
    ...mountFor(parts, faces, values, undefined, library),
    capacityW,
    dutyPercent: capacityW > 0 ? (100 * neededW) / capacityW : Infinity,
    holds: capacityW >= neededW && but === null,
    but,
    supply: supplyText(part),
    energyKWh,
    money: energyKWh * values.tariffPerKWh,
    beyond: at.beyond,
  };
}

/** Why a part does not keep the degree of protection that is asked; null where it does, or none is asked. */
function protectionLack(part: Part, wanted: number): string | null {
  // What stands inside opens no wall.
  if (wanted <= 0 || facesFor(part).every((f) => f === "plate")) return null;
  const ip = part.climate?.ip;
  if (ip === undefined) return `it states no degree of protection; IP ${wanted} is asked`;
  const keeps = Math.floor(ip / 10) >= Math.floor(wanted / 10) && ip % 10 >= wanted % 10;
  return keeps ? null : `it keeps IP ${ip}; IP ${wanted} is asked`;
}

/** `230 V, 2.6 A, fuse 6 A`; null where the part states none of it. */
function supplyText({ climate, currentA }: Part): string | null {
  const said = [
    ...(climate?.supplyV === undefined ? [] : [`${climate.supplyV} V`]),
    ...(currentA === undefined ? [] : [`${currentA} A`]),
    ...(climate?.fuseA === undefined ? [] : [`fuse ${climate.fuseA} A`]),
  ];
  return said.length > 0 ? said.join(", ") : null;
}

/** How well a duty fits: 0 between the two that the shop states, else how far off. */
const off = ({ dutyPercent }: UnitFit, { dutyLeastPercent, dutyMostPercent }: HeatRules): number =>
  dutyPercent < dutyLeastPercent ? dutyLeastPercent - dutyPercent : Math.max(0, dutyPercent - dutyMostPercent);

/**
 * Units of the library for a need, the best first: where it gets too warm and too cold, what does both as a pair before what does
 * one of them alone; of each those that hold what is wanted and can be mounted, then a duty in the shop's range, then the least energy.
 * One of each, two of each; a pair is one that cools with the smallest heater that holds. O(parts · (bins + things on faces))
 */
export function fitsFor(
  parts: Iterable<Part>,
  need: Need,
  year: readonly Bin[],
  faces: readonly FreeFace[],
): UnitFit[] {
  const library = new Map([...parts].map((p) => [p.number, p]));
  const climate = [...library.values()].filter((p) => kindOf(p) !== null);
  const fits = climate.flatMap((p) => [1, 2].flatMap((n) => fitOf(p, n, need, year, faces, library) ?? []));
  const heater = fits
    .filter((f) => f.does === "heats" && f.holds && f.mounts && f.parts[0]!.count === 1)
    .sort((a, b) => a.capacityW - b.capacityW || byText(a.parts[0]!.number, b.parts[0]!.number))[0];
  const both = heater
    ? fits
        .filter((f) => f.does === "cools" && f.holds)
        .map((cools): UnitFit => {
          const all = [...cools.parts, ...heater.parts];
          return {
            ...cools,
            kind: cools.kind === "filter fan" ? "fan and heater" : "unit and heater",
            does: "both",
            parts: all,
            energyKWh: cools.energyKWh + heater.energyKWh,
            money: cools.money + heater.money,
            supply: [cools.supply, heater.supply].filter((t) => t !== null).join("; ") || null,
            ...mountFor(
              all.map(({ number, count }) => ({ part: library.get(number)!, count })),
              faces,
              need.values,
              undefined,
              library,
            ),
          };
        })
    : [];
  const rank = (f: UnitFit): number[] => [
    DOES.indexOf(f.does),
    f.holds ? 0 : 1,
    f.mounts ? 0 : 1,
    off(f, need.values),
    f.crowded ? 1 : 0,
    f.energyKWh,
    f.priceClass ?? 9,
  ];
  return [...both, ...fits].sort((a, b) => {
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
  const fit =
    bought && need.coolingW > 0
      ? fitOf(bought.p, 1, need, year, faces, new Map([...parts].map((p) => [p.number, p])))
      : null;
  return fit && { ...fit, wantedW };
}

/** A tag for a unit that nothing has yet: -E1, -E2 and on. */
export function freeUnitTag(taken: ReadonlySet<string>): string {
  for (let n = 1; ; n++) if (!taken.has(`-E${n}`)) return `-E${n}`;
}
