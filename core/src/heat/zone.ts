import { onLine } from "../design/curve";
import { frameOfHole } from "../design/hole-frame";
import { faceId, inEnclosure } from "../design/geometry";
import { LOSSY } from "../design/lossy";
import type { Device, Enclosure, Part } from "../design/model";
import { byText, pushTo } from "../design/order";
import { deadOf, wayOf, type Blower } from "./airways";
import {
  AIR_WH,
  dewPoint,
  doorFlow,
  effective,
  fanFlow,
  heaterNeeded,
  passing,
  restsAt,
  wallInside,
  type Shell,
} from "./balance";
import type { Basis } from "./basis";
import { beforeFace, bodiesOf } from "../design/before";
import { intrusions } from "./before";
import { airAt, columnOf } from "./column";
import { heatMap } from "./map";
import type { AirWay, DeviceHeat, Intrusion, SurfaceHeat, UnitHere, ZoneHeat } from "./result";
import { kindOf } from "./kinds";
import {
  airflowOf,
  carriesAt,
  coolingAt,
  fitsFor,
  heatingAt,
  thumbOf,
  yearlyKWh,
  type FreeFace,
  type Need,
} from "./units";
import { yearOf } from "./year";
import { heightOn, surfacesOf, type Zone } from "./zones";

const SLABS = 20;
/** Cells of the map in which a device's own surroundings are looked up. */
const HOT_CELL_MM = 20;

/** What is taken to be otherwise, beside the values of the zone: nothing of the design. */
export interface Otherwise {
  /** Doors stand open. */
  doorOpen?: boolean;
  /** Every load times this. */
  load?: number;
  /** Ways of the air that are known already: nothing that stands or blows has changed. */
  ways?: readonly AirWay[];
}

/** The balance of a zone. O(devices + parts · (bins + cells of faces) + slabs + cells of plates · √cells) */
export function zoneHeat(zone: Zone, basis: Basis, otherwise: Otherwise = {}): ZoneHeat {
  const { look, placed, faces, byEnclosure, wires } = basis;
  const { values } = zone;
  const load = otherwise.load ?? 1;
  const devices = zone.enclosures.flatMap((e) =>
    (byEnclosure.get(e.tag) ?? []).flatMap((d) => deviceHeat(d, e.tag, zone, load, basis) ?? []),
  );
  devices.sort((a, b) => b.countedW - a.countedW || byText(a.device, b.device));
  const wiresW = zone.enclosures.reduce((sum, e) => sum + (wires.get(e.tag) ?? 0), 0) * load ** 2;
  const lossW = devices.reduce((sum, d) => sum + d.countedW, 0) + wiresW;
  const missing = devices.filter((d) => d.lossW === null);
  const bare = surfacesOf(zone, look, basis.heat).filter((s) => !(otherwise.doorOpen && s.surface === "front"));
  const wPerK = passing(bare);
  const doors = otherwise.doorOpen ? zone.enclosures : [];
  const shell: Shell = { wPerK, open: doors.map((e) => ({ widthM: e.w / 1000, heightM: e.h / 1000 })) };
  const leastW = lossW * (values.leastSharePercent / 100);
  const coldC = restsAt(leastW, shell, values.outsideMinC);
  const dewPointC = dewPoint(values.dampC, values.dampPercent);
  const surfaces = bare.map((s): SurfaceHeat => {
    const wallC = wallInside(coldC ?? values.outsideMinC, values.outsideMinC);
    return { ...s, coldC: wallC, wet: s.b > 0 && s.state === "free" && wallC < dewPointC };
  });
  const wet = surfaces.some((s) => s.wet);
  const bareNeed: Need = { lossW, shell, values, coolingW: 0, heaterW: 0, dryC: null };
  const coolingNeededW = coolingAt(bareNeed, values.outsideMaxC);
  const heaterNeededW = heatingAt(bareNeed, values.outsideMinC);
  // So warm that a wall half way to outside is as warm as the dew point.
  const dryNeededW = wet ? heaterNeeded(leastW, shell, 2 * dewPointC - values.outsideMinC, values.outsideMinC) : 0;
  const need: Need = {
    ...bareNeed,
    coolingW: coolingNeededW,
    heaterW: Math.max(heaterNeededW, dryNeededW),
    dryC: wet ? dewPointC : null,
  };
  const units = unitsOf(zone, basis);
  const carriedW = units.reduce((sum, u) => sum + (u.capacityW ?? 0), 0);
  const year = yearOf(values.outsideMinC, values.outsideMaxC);
  const free = freeFaces(zone, basis);
  const ratedW = devices.reduce((sum, d) => sum + (d.lossW ?? 0) * d.share, 0) + wiresW;
  const counted = new Map(devices.map((d) => [d.device, d.countedW]));
  const heightMm = Math.max(...zone.enclosures.map((e) => e.h));
  const restsC = restsAt(lossW, shell, values.outsideMaxC);
  const column = columnOf({
    heightMm,
    slabs: SLABS,
    sources: devices
      .flatMap((d) => {
        const p = placed.get(d.device);
        const face = p && faces.get(p.face);
        if (!face || d.countedW === 0) return [];
        return [
          { fromMm: heightOn(face, p.outline.y), toMm: heightOn(face, p.outline.y + p.outline.h), lossW: d.countedW },
        ];
      })
      .concat(wiresW > 0 ? [{ fromMm: 0, toMm: heightMm, lossW: wiresW }] : []),
    wallsWPerK:
      passing(bare.filter((s) => s.surface !== "roof" && s.surface !== "base")) +
      // As much as it passes where the air comes to rest.
      shell.open.reduce((sum, o) => sum + AIR_WH * doorFlow(o, restsC ?? values.insideMaxC, values.outsideMaxC), 0),
    roofWPerK: passing(bare.filter((s) => s.surface === "roof")),
    floorWPerK: passing(bare.filter((s) => s.surface === "base")),
    outsideC: values.outsideMaxC,
    risingShare: values.risingPercent / 100,
    mixingWPerK:
      values.mixingWPerK +
      units.reduce((sum, u) => sum + (u.kind === "heater" ? 0 : AIR_WH * (airflowOf(look.parts.get(u.part)!) ?? 0)), 0),
    carried:
      carriedW > 0 && coolingNeededW > 0
        ? units.flatMap((u) => {
            const p = placed.get(u.device);
            const face = p && faces.get(p.face);
            // What is needed, as far as it is there, shared by what each can.
            const w = (Math.min(coolingNeededW, carriedW) * (u.capacityW ?? 0)) / carriedW;
            return face && w > 0 ? [{ atMm: heightOn(face, p.outline.y + p.outline.h / 2), coolW: w }] : [];
          })
        : [],
  });
  const onFaces = facesOf(devices, basis);
  const hot = hotSpots(onFaces, values.smoothingMm);
  for (const d of devices) {
    const p = placed.get(d.device);
    const face = p && faces.get(p.face);
    if (!face) continue;
    const { y, h } = p.outline;
    d.hotWDm2 = hot(p.face, p.outline);
    if (column.length === 0) continue;
    d.aroundC = Math.max(...[y, y + h / 2, y + h].map((at) => airAt(column, heightOn(face, at))));
    d.derated = deratedAt(look.parts.get(d.part), d.aroundC);
  }
  const standing = (["cools", "heats"] as const).map((does) =>
    units.flatMap((u) =>
      (u.kind === "heater") === (does === "heats") ? [{ part: look.parts.get(u.part)!, count: 1 }] : [],
    ),
  );
  const energyKWh = standing.reduce((sum, parts) => sum + (parts.length > 0 ? yearlyKWh(parts, need, year) : 0), 0);
  return {
    zone: zone.name,
    enclosures: zone.enclosures.map((e) => e.tag),
    values,
    devices,
    wiresW,
    lossW,
    fallbackW: devices.reduce((sum, d) => sum + (d.fallback ? d.countedW : 0), 0),
    missing: missing.map((d) => d.device),
    worstW: lossW + missing.reduce((sum, d) => sum + worstOf(d, basis) - d.countedW, 0),
    ratedW,
    surfaces,
    effectiveM2: effective(bare),
    wPerK,
    insideWithoutC: restsC,
    coolingNeededW,
    // What the walls pass is taken off already.
    fanFlowM3h: fanFlow(coolingNeededW, 0, values.insideMaxC, values.outsideMaxC, values.heightM),
    coldC,
    heaterNeededW,
    dryNeededW,
    dewPointC,
    units,
    carriedW,
    heatedW: units.reduce(
      (sum, u) => sum + (u.kind === "heater" ? (look.parts.get(u.part)?.climate?.heatW ?? 0) : 0),
      0,
    ),
    energyKWh,
    money: energyKWh * values.tariffPerKWh,
    dutyPercent: carriedW > 0 ? (100 * Math.max(0, coolingNeededW)) / carriedW : null,
    fits: fitsFor([...look.parts.values()], need, year, free),
    thumb: thumbOf([...look.parts.values()], ratedW, need, year, free),
    column,
    faces: onFaces,
    airWays: (otherwise.ways ?? airWaysOf(zone, basis, counted)).map((a) => ({ ...a, dead: deadOf(a.still, counted) })),
    open: shell.open,
    before: beforeOf(zone, basis),
  };
}

/** What a device puts into the air; null for one of a kind that puts in nothing. */
function deviceHeat(
  device: Device,
  enclosure: string,
  zone: Zone,
  load: number,
  { look, like }: Basis,
): DeviceHeat | null {
  const part = look.parts.get(device.part);
  if (!part || kindOf(part) !== null) return null;
  if (part.lossW === undefined && !LOSSY.has(part.category)) return null;
  const share = (device.loadShare ?? 1) * load;
  const diversity = device.diversity ?? zone.values.diversity;
  const median = zone.values.missingAsMedian >= 1 ? like.get(part.category)?.median : undefined;
  const lossW = part.lossW ?? null;
  return {
    device: device.tag,
    part: part.number,
    enclosure,
    lossW,
    share,
    diversity,
    countedW: (lossW ?? median ?? 0) * share * diversity,
    fallback: lossW === null && median !== undefined,
    aroundC: null,
    limitC: part.maxAroundC ?? null,
    derated: null,
    hotWDm2: null,
  };
}

/** Losses of the parts of its kind that state one. */
export const likeOf = (number: string, { look, like }: Basis) => like.get(look.parts.get(number)?.category ?? "");

/** The most that a device of its kind loses in this library. */
const worstOf = (d: DeviceHeat, basis: Basis): number => (likeOf(d.part, basis)?.most ?? 0) * d.share * d.diversity;

/** Share of the rated load at a temperature, straight between the stated points, nothing above them; null where the part states none. */
function deratedAt(part: Part | undefined, aroundC: number): number | null {
  const points = (part?.derating ?? []).map((p) => ({ x: p.aroundC, y: p.share })).sort((a, b) => a.x - b.x);
  const last = points[points.length - 1];
  if (!last) return null;
  return aroundC > last.x ? 0 : onLine(points, aroundC).y;
}

/** Units that stand on faces of a zone. */
function unitsOf(zone: Zone, { look, placed, byEnclosure }: Basis): UnitHere[] {
  const { insideMaxC, outsideMaxC, heightM } = zone.values;
  return zone.enclosures.flatMap((e) =>
    (byEnclosure.get(e.tag) ?? []).flatMap((d): UnitHere[] => {
      const part = look.parts.get(d.part);
      const kind = part ? kindOf(part) : null;
      const at = placed.get(d.tag);
      if (!part || kind === null || !at) return [];
      const carries = carriesAt(part, insideMaxC, outsideMaxC, heightM);
      return [
        {
          device: d.tag,
          part: part.number,
          kind,
          face: at.face,
          capacityW: carries?.w ?? null,
          beyond: carries?.beyond ?? false,
          unsafe: carries?.unsafe ?? false,
        },
      ];
    }),
  );
}

/** Faces of a zone with what stands on them, what must be kept free, and what stands before them. O(faces · bodies) */
export function freeFaces(zone: Zone, basis: Basis): FreeFace[] {
  const known = basis.free.get(zone.name) ?? facesToMount(zone, basis);
  basis.free.set(zone.name, known);
  return known;
}

function facesToMount(zone: Zone, { look, panel, faces }: Basis): FreeFace[] {
  const there = new Map<string, FreeFace["taken"]>();
  const kg = new Map<string, number>();
  const tags = zone.enclosures.map((e) => e.tag);
  for (const d of tags.flatMap((tag) => inEnclosure(panel.devices, tag))) {
    const part = look.parts.get(d.part);
    const kind = part ? kindOf(part) : null;
    pushTo(there, d.face, {
      rect: d.outline,
      ...(kind === null ? {} : { does: kind === "heater" ? ("heats" as const) : ("cools" as const) }),
    });
    if (kind === null) kg.set(d.face, (kg.get(d.face) ?? 0) + (part?.weightKg ?? 0));
  }
  // What clips onto a rail stands over it; a rail that is empty yet is there for what will.
  for (const bars of [panel.ducts, panel.rails])
    for (const b of tags.flatMap((tag) => inEnclosure(bars, tag))) pushTo(there, b.face, { rect: b.outline });
  for (const o of look.design.faces)
    for (const rect of [...(o.keepOuts ?? []), ...(o.entries ?? []), ...(o.holes ?? []).map(frameOfHole)])
      pushTo(there, faceId(o.enclosure, o.kind), { rect });
  return zone.enclosures.flatMap((e) => {
    const bodies = bodiesOf(inEnclosure(panel.devices, e.tag), inEnclosure(panel.ducts, e.tag), faces);
    const plate = faces.get(faceId(e.tag, "plate"));
    const behind = plate ? [{ face: plate, outline: { x: 0, y: 0, w: plate.w, h: plate.h }, z: 0, top: 0 }] : [];
    return (["door", "left", "right", "roof", "plate"] as const).flatMap((kind): FreeFace[] => {
      const face = faces.get(faceId(e.tag, kind));
      // Beside a neighbour nothing can be mounted.
      const closed =
        (kind === "right" && e.neighbourRight !== undefined) ||
        (kind === "left" && [...look.enclosures.values()].some((o) => o.neighbourRight === e.tag));
      if (!face || closed) return [];
      const others = [
        ...bodies.filter((b) => b.face !== face),
        ...behind.flatMap((b) => (kind === "plate" ? [] : [{ thing: "device" as const, of: "plate", ...b }])),
      ];
      return [{ face, taken: there.get(face.id) ?? [], before: beforeFace(face, others), kg: kg.get(face.id) ?? 0 }];
    });
  });
}

/** Losses by face for the map. */
function facesOf(devices: readonly DeviceHeat[], { placed, faces }: Basis): ZoneHeat["faces"] {
  const by = new Map<string, ZoneHeat["faces"][number]["sources"]>();
  for (const d of devices) {
    const at = placed.get(d.device);
    if (!at || d.countedW === 0) continue;
    pushTo(by, at.face, { device: d.device, ...at.outline, lossW: d.countedW });
  }
  return [...by].flatMap(([id, sources]) => {
    const face = faces.get(id);
    return face ? [{ face: id, kind: face.kind, w: face.w, h: face.h, sources }] : [];
  });
}

/** Units of an enclosure that blow and draw. */
export const blowersOf = (
  e: Pick<Enclosure, "tag">,
  { look, panel, faces }: Pick<Basis, "look" | "panel" | "faces">,
): Blower[] =>
  inEnclosure(panel.devices, e.tag).flatMap((device): Blower[] => {
    const part = look.parts.get(device.part);
    const face = faces.get(device.face);
    if (!part || !face || kindOf(part) === null || kindOf(part) === "heater") return [];
    const flowM3h = airflowOf(part);
    const { deflector } = look.devices.get(device.tag) ?? {};
    return flowM3h !== null && flowM3h > 0 ? [{ device, part, face, flowM3h, deflector }] : [];
  });

/** Where the air of units goes on each plate of a zone. O(cells · √cells) for each plate with units */
function airWaysOf(zone: Zone, basis: Basis, counted: ReadonlyMap<string, number>): AirWay[] {
  return zone.enclosures.flatMap((e): AirWay[] => {
    const plate = basis.faces.get(faceId(e.tag, "plate"));
    const blowers = blowersOf(e, basis);
    if (!plate || blowers.length === 0) return [];
    const bodies = inEnclosure(basis.panel.devices, e.tag).filter((d) => d.face === plate.id);
    return [wayOf(e, plate, bodies, blowers, counted)];
  });
}

/** What stands before the openings of the units of a zone. */
function beforeOf(zone: Zone, basis: Basis): Intrusion[] {
  const { panel, faces } = basis;
  return zone.enclosures.flatMap((e) => {
    const blowers = blowersOf(e, basis);
    if (blowers.length === 0) return [];
    return intrusions(blowers, bodiesOf(inEnclosure(panel.devices, e.tag), inEnclosure(panel.ducts, e.tag), faces));
  });
}

/** Looks up the hottest of the maps of faces within an outline. */
function hotSpots(onFaces: ZoneHeat["faces"], sigmaMm: number) {
  const maps = new Map(onFaces.map((f) => [f.face, { ...f, map: heatMap(f.w, f.h, f.sources, sigmaMm, HOT_CELL_MM) }]));
  return (face: string, o: { x: number; y: number; w: number; h: number }): number | null => {
    const there = maps.get(face);
    if (!there) return null;
    const { map, w, h } = there;
    const [cw, ch] = [w / map.columns, h / map.rows];
    let most = 0;
    const clip = (v: number, n: number): number => Math.min(n - 1, Math.max(0, Math.floor(v)));
    for (let r = clip(o.y / ch, map.rows); r <= clip((o.y + o.h) / ch, map.rows); r++)
      for (let c = clip(o.x / cw, map.columns); c <= clip((o.x + o.w) / cw, map.columns); c++)
        most = Math.max(most, map.values[r * map.columns + c]!);
    return most;
  };
}
