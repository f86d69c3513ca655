import { onLine } from "../design/curve";
import { enclosureOf, faceId, type Face } from "../design/geometry";
import { sizeOf } from "../design/landings";
import { lookUp, type Lookup } from "../design/lookup";
import { LOSSY } from "../design/lossy";
import type { Design, Device, Part } from "../design/model";
import { listed, OpenPoints } from "../design/open-points";
import { byText, pushTo } from "../design/order";
import type { Rules } from "../design/rules";
import type { PanelResult, PlacedDevice } from "../panel/result";
import type { RoutesResult } from "../routes/result";
import { airWay, openingsOf, type Blower } from "./airways";
import {
  airFactor,
  coolingNeeded,
  dewPoint,
  effective,
  fanFlow,
  heaterNeeded,
  insideWithout,
  passing,
  wallInside,
  wireLoss,
} from "./balance";
import { airAt, columnOf } from "./column";
import type { Source } from "./map";
import type { AirWay, DeviceHeat, HeatResult, SurfaceHeat, UnitHere, ZoneHeat } from "./result";
import { airflowOf, carriesAt, fitsFor, kindOf, thumbOf, type FreeFace } from "./units";
import { settles } from "./verdict";
import { yearOf } from "./year";
import { heightOn, surfacesOf, zonesOf, type Zone } from "./zones";

const SLABS = 20;
/** What a cubic metre of air an hour carries for each kelvin, Wh/(m³K). */
const AIR_WH = 0.34;
const MOST_ZONES = 500;

interface Known {
  look: Lookup;
  rules: Pick<Rules, "heat" | "classes">;
  panel: PanelResult;
  placed: Map<string, PlacedDevice>;
  faces: Map<string, Face>;
  /** Median and largest loss of the parts of each kind that state one. */
  like: Map<string, { median: number; most: number }>;
  points: OpenPoints;
}

/**
 * The balance of every zone: what goes in, what its walls pass, what must be carried away or put in, which units do it, and
 * where it gets too hot. O(devices + wires + zones · (parts · bins + slabs + cells · √cells))
 */
export function compute(design: Design, shop: Rules, panel: PanelResult, routes: RoutesResult): HeatResult {
  const look = lookUp(design);
  const points = new OpenPoints("heat");
  const rules = { heat: { ...shop.heat, ...design.rules.heat }, classes: shop.classes };
  const known: Known = {
    look,
    rules,
    panel,
    placed: new Map(panel.devices.map((d) => [d.tag, d])),
    faces: new Map(panel.faces.map((f) => [f.id, f])),
    like: likeParts(look),
    points,
  };
  const zones = zonesOf(look, rules.heat);
  if (zones.length > MOST_ZONES)
    points.add({
      severity: "stop",
      kind: "too many zones",
      thing: "enclosure",
      of: zones[MOST_ZONES]!.enclosures[0]!.tag,
      text: `${zones.length} zones; heat was worked out for the first ${MOST_ZONES}`,
      remedy: "Put enclosures that share their air into one zone.",
    });
  const byEnclosure = devicesOf(known);
  const wires = wiresOf(known, routes);
  return {
    zones: zones.slice(0, MOST_ZONES).map((z) => zoneOf(z, byEnclosure, wires, known)),
    open: points.list(),
  };
}

/** Losses of the parts of the library that state one, kind by kind. */
function likeParts(look: Lookup): Known["like"] {
  const all = new Map<string, number[]>();
  for (const p of look.parts.values()) if (p.lossW !== undefined) pushTo(all, p.category, p.lossW);
  return new Map(
    [...all].map(([kind, list]) => {
      const sorted = list.sort((a, b) => a - b);
      const half = sorted.length >> 1;
      const median = sorted.length % 2 ? sorted[half]! : (sorted[half - 1]! + sorted[half]!) / 2;
      return [kind, { median, most: sorted[sorted.length - 1]! }];
    }),
  );
}

/** Mean square of a current that falls along a chain of n wires to equal loads, as a share of the whole. */
export const chainShare = (n: number): number => ((n + 1) * (2 * n + 1)) / (6 * n * n);

/** Devices by the enclosure they stand in; loose ones by the one they say. */
function devicesOf({ look, placed }: Known): Map<string, Device[]> {
  const all = new Map<string, Device[]>();
  for (const device of look.devices.values()) {
    const face = placed.get(device.tag)?.face;
    const tag = face === undefined ? device.enclosure : enclosureOf(face);
    if (tag === undefined) continue;
    pushTo(all, tag, device);
  }
  return all;
}

/**
 * What wires put into each enclosure, half at each end. The current of a net falls along its wires as along a chain of equal
 * loads fed from one end: of n wires the mean square is (n + 1)(2n + 1) / 6n² of the whole. O(wires)
 */
function wiresOf({ look, rules, placed }: Known, routes: RoutesResult): Map<string, number> {
  const watts = new Map<string, number>();
  const lengths = new Map(routes.wires.map((w) => [w.id, w.lengthMm]));
  const add = (device: string | undefined, w: number): void => {
    const face = device === undefined ? undefined : placed.get(device)?.face;
    if (face === undefined) return;
    const tag = enclosureOf(face);
    watts.set(tag, (watts.get(tag) ?? 0) + w);
  };
  const ofNet = new Map<string, number>();
  for (const { wire } of look.wires) if (wire.net !== undefined) ofNet.set(wire.net, (ofNet.get(wire.net) ?? 0) + 1);
  for (const { id, wire } of look.wires) {
    const current = wire.net === undefined ? undefined : look.nets.get(wire.net)?.currentA;
    const mm = lengths.get(id);
    const size = sizeOf(look, wire, rules.classes)?.value;
    if (current === undefined || mm === null || mm === undefined || size === undefined) continue;
    const n = ofNet.get(wire.net!)!;
    const w = wireLoss(current, size, mm) * chainShare(n);
    add(wire.from?.device, w / 2);
    add(wire.to?.device, w / 2);
  }
  return watts;
}

function zoneOf(
  zone: Zone,
  byEnclosure: ReadonlyMap<string, Device[]>,
  wires: ReadonlyMap<string, number>,
  known: Known,
): ZoneHeat {
  const { look, rules, placed, faces, points } = known;
  const { values } = zone;
  checkValues(zone, points);
  const devices = zone.enclosures.flatMap((e) =>
    (byEnclosure.get(e.tag) ?? []).flatMap((d) => deviceHeat(d, e.tag, zone, known) ?? []),
  );
  devices.sort((a, b) => b.countedW - a.countedW || byText(a.device, b.device));
  const wiresW = zone.enclosures.reduce((sum, e) => sum + (wires.get(e.tag) ?? 0), 0);
  const lossW = devices.reduce((sum, d) => sum + d.countedW, 0) + wiresW;
  const missing = devices.filter((d) => d.lossW === null);
  const bare = surfacesOf(zone, look, rules.heat);
  const wPerK = passing(bare);
  const coldC = insideWithout(lossW * (values.leastSharePercent / 100), wPerK, values.outsideMinC);
  const dewPointC = dewPoint(values.dampC, values.dampPercent);
  const surfaces = bare.map((s): SurfaceHeat => {
    const wallC = wallInside(coldC ?? values.outsideMinC, values.outsideMinC);
    return { ...s, coldC: wallC, wet: s.b > 0 && s.state === "free" && wallC < dewPointC };
  });
  const leastW = lossW * (values.leastSharePercent / 100);
  const coolingNeededW = coolingNeeded(lossW, wPerK, values.insideMaxC, values.outsideMaxC);
  const wanted = heaterNeeded(leastW, wPerK, values.insideMinC, values.outsideMinC);
  // So warm that a wall half way to outside is as warm as the dew point.
  const dry = surfaces.some((s) => s.wet)
    ? heaterNeeded(leastW, wPerK, 2 * dewPointC - values.outsideMinC, values.outsideMinC)
    : 0;
  const units = unitsOf(zone, byEnclosure, known);
  const carriedW = units.reduce((sum, u) => sum + (u.capacityW ?? 0), 0);
  const year = yearOf(values.outsideMinC, values.outsideMaxC);
  const need = { lossW, wPerK, values, coolingW: coolingNeededW, heaterW: Math.max(wanted, dry) };
  const free = freeFaces(zone, known);
  const ratedW = devices.reduce((sum, d) => sum + (d.lossW ?? 0) * d.share, 0) + wiresW;
  const ways = airWaysOf(zone, devices, known);
  const blowers = units.filter((u) => u.kind !== "heater");
  const column = columnOf({
    heightMm: Math.max(...zone.enclosures.map((e) => e.h)),
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
      .concat(wiresW > 0 ? [{ fromMm: 0, toMm: Math.max(...zone.enclosures.map((e) => e.h)), lossW: wiresW }] : []),
    wallsWPerK: passing(bare.filter((s) => s.surface !== "roof" && s.surface !== "base")),
    roofWPerK: passing(bare.filter((s) => s.surface === "roof")),
    floorWPerK: passing(bare.filter((s) => s.surface === "base")),
    outsideC: values.outsideMaxC,
    risingShare: values.risingPercent / 100,
    mixingWPerK:
      values.mixingWPerK + blowers.reduce((sum, u) => sum + AIR_WH * (airflowOf(look.parts.get(u.part)!) ?? 0), 0),
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
  for (const d of devices) {
    const p = placed.get(d.device);
    const face = p && faces.get(p.face);
    if (!face) continue;
    d.aroundC = airAt(column, heightOn(face, p.outline.y + p.outline.h / 2));
    d.derated = deratedAt(look.parts.get(d.part), d.aroundC);
  }
  const result: ZoneHeat = {
    zone: zone.name,
    enclosures: zone.enclosures.map((e) => e.tag),
    values,
    devices,
    wiresW,
    lossW,
    fallbackW: devices.reduce((sum, d) => sum + (d.fallback ? d.countedW : 0), 0),
    missing: missing.map((d) => d.device),
    worstW: lossW + missing.reduce((sum, d) => sum + worstOf(d, known) - d.countedW, 0),
    ratedW,
    surfaces,
    effectiveM2: effective(bare),
    wPerK,
    insideWithoutC: insideWithout(lossW, wPerK, values.outsideMaxC),
    coolingNeededW,
    fanFlowM3h: fanFlow(lossW, wPerK, values.insideMaxC, values.outsideMaxC, values.heightM),
    coldC,
    heaterNeededW: wanted,
    dryNeededW: dry,
    dewPointC,
    units,
    carriedW,
    heatedW: units.reduce(
      (sum, u) => sum + (u.kind === "heater" ? (look.parts.get(u.part)?.climate?.heatW ?? 0) : 0),
      0,
    ),
    dutyPercent: carriedW > 0 ? (100 * Math.max(0, coolingNeededW)) / carriedW : null,
    fits: fitsFor(look.parts.values(), need, year, free),
    thumb: thumbOf(look.parts.values(), ratedW, need, year, free),
    column,
    faces: facesOf(devices, known),
    airWays: ways,
  };
  judge(result, known);
  return result;
}

/** What a device puts into the air; null for one of a kind that puts in nothing. */
function deviceHeat(device: Device, enclosure: string, zone: Zone, { look, like }: Known): DeviceHeat | null {
  const part = look.parts.get(device.part);
  if (!part || kindOf(part) !== null) return null;
  if (part.lossW === undefined && !LOSSY.has(part.category)) return null;
  const share = device.loadShare ?? 1;
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
  };
}

/** Losses of the parts of its kind that state one. */
const likeOf = (number: string, { look, like }: Known) => like.get(look.parts.get(number)?.category ?? "");

/** The most that a device of its kind loses in this library. */
const worstOf = (d: DeviceHeat, known: Known): number => (likeOf(d.part, known)?.most ?? 0) * d.share * d.diversity;

/** Share of the rated load at a temperature, straight between the stated points; null where the part states none. */
function deratedAt(part: Part | undefined, aroundC: number): number | null {
  const points = (part?.derating ?? []).map((p) => ({ x: p.aroundC, y: p.share })).sort((a, b) => a.x - b.x);
  return points.length === 0 ? null : onLine(points, aroundC).y;
}

/** Units that stand on faces of a zone. */
function unitsOf(zone: Zone, byEnclosure: ReadonlyMap<string, Device[]>, { look, placed }: Known): UnitHere[] {
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
        },
      ];
    }),
  );
}

/** Faces of a zone with the outlines of what stands on them and what must be kept free. */
function freeFaces(zone: Zone, { look, panel, faces }: Known): FreeFace[] {
  const there = new Map<string, FreeFace["taken"]>();
  for (const d of panel.devices)
    if (zone.enclosures.some((e) => e.tag === enclosureOf(d.face))) pushTo(there, d.face, d.outline);
  // What clips onto a rail stands over it.
  for (const b of panel.ducts)
    if (zone.enclosures.some((e) => e.tag === enclosureOf(b.face))) pushTo(there, b.face, b.outline);
  for (const o of look.design.faces) for (const k of o.keepOuts ?? []) pushTo(there, faceId(o.enclosure, o.kind), k);
  return zone.enclosures.flatMap((e) =>
    (["door", "left", "right", "roof", "plate"] as const).flatMap((kind): FreeFace[] => {
      const face = faces.get(`${e.tag}/${kind}`);
      // Beside a neighbour nothing can be mounted.
      const closed =
        (kind === "right" && e.neighbourRight !== undefined) ||
        (kind === "left" && [...look.enclosures.values()].some((o) => o.neighbourRight === e.tag));
      return face && !closed ? [{ face, taken: there.get(face.id) ?? [] }] : [];
    }),
  );
}

/** Losses by face for the map. */
function facesOf(devices: readonly DeviceHeat[], { placed, faces }: Known): ZoneHeat["faces"] {
  const by = new Map<string, Source[]>();
  for (const d of devices) {
    const at = placed.get(d.device);
    if (!at || d.countedW === 0) continue;
    pushTo(by, at.face, { ...at.outline, lossW: d.countedW });
  }
  return [...by].flatMap(([id, sources]) => {
    const face = faces.get(id);
    return face ? [{ face: id, kind: face.kind, w: face.w, h: face.h, sources }] : [];
  });
}

/** Where the air of units goes on each plate of a zone, with what stands in their way told. */
function airWaysOf(zone: Zone, devices: readonly DeviceHeat[], { look, panel, faces, points }: Known): AirWay[] {
  const counted = new Map(devices.map((d) => [d.device, d.countedW]));
  return zone.enclosures.flatMap((e): AirWay[] => {
    const plate = faces.get(`${e.tag}/plate`);
    if (!plate) return [];
    const blowers = panel.devices.flatMap((device): Blower[] => {
      if (enclosureOf(device.face) !== e.tag) return [];
      const part = look.parts.get(device.part);
      if (!part || kindOf(part) === null || kindOf(part) === "heater") return [];
      const flowM3h = airflowOf(part);
      return flowM3h !== null && flowM3h > 0 ? [{ device, part, flowM3h }] : [];
    });
    if (blowers.length === 0) return [];
    for (const b of blowers)
      if (!openingsOf(b).stated)
        points.add({
          severity: "note",
          kind: "openings not stated",
          thing: "part",
          of: b.part.number,
          text: `part ${b.part.number} does not state where it blows and draws; its upper and its lower third were taken`,
          remedy: "State its openings.",
        });
    const bodies = panel.devices.filter((d) => d.face === plate.id);
    const { way } = airWay(e, plate, bodies, blowers, counted);
    if (way.dead.length > 0)
      points.add({
        severity: "check",
        kind: "dead air",
        thing: "face",
        of: plate.id,
        text: `${listed(way.dead.map((d) => d.device))} on ${plate.id} ${way.dead.length === 1 ? "lies" : "lie"} in dead air of ${way.units.join(" and ")}: slower than ${way.speedMs} m/s by the model of potential flow`,
        remedy: "Move them, turn the outlet, or move the unit.",
      });
    return [way];
  });
}

/** Values that cannot be together. */
function checkValues({ name, values: v, differ }: Zone, points: OpenPoints): void {
  const say = (kind: string, text: string, remedy: string): void =>
    points.add({ severity: "check", kind, thing: "enclosure", of: name, text, remedy });
  if (v.outsideMinC > v.outsideMaxC)
    say(
      "temperatures turned round",
      `around zone ${name} the lowest temperature, ${v.outsideMinC} °C, is above the highest, ${v.outsideMaxC} °C`,
      "Correct one of them.",
    );
  if (v.insideMinC > v.insideMaxC)
    say(
      "temperatures turned round",
      `wanted inside zone ${name}: at least ${v.insideMinC} °C, at most ${v.insideMaxC} °C`,
      "Correct one of them.",
    );
  if (differ)
    say(
      "zone says two things",
      `enclosures of zone ${name} state different surroundings; the first by tag counts`,
      "Let them say the same.",
    );
  if (airFactor(v.heightM).beyond)
    say(
      "above the table of air",
      `zone ${name} lies ${v.heightM} m above sea; fans are counted as at 1,000 m, which is too little`,
      "Ask the maker of the fan.",
    );
}

const w = (watts: number): string => `${Math.round(watts)} W`;
const c = (celsius: number): string => `${Math.round(celsius * 10) / 10} °C`;

/** What is too hot, too cold, too wet, too small and too large. */
function judge(z: ZoneHeat, known: Known): void {
  const { points } = known;
  const { values: v } = z;
  const say = (severity: "stop" | "check" | "note", kind: string, text: string, remedy: string): void =>
    points.add({ severity, kind, thing: "enclosure", of: z.enclosures[0]!, text, remedy });
  const alone = z.missing.filter((tag) => !likeOf(known.look.devices.get(tag)!.part, known));
  if (z.missing.length > 0)
    say(
      "check",
      "losses missing",
      `${listed(z.missing)} in zone ${z.zone} ${z.missing.length === 1 ? "states" : "state"} no loss; ${z.fallbackW > 0 ? `${w(z.fallbackW)} were counted for them, the median of like parts` : "nothing was counted for them"}, and ${w(z.worstW)} in all would be the worst${alone.length > 0 ? `, at least: no part of the kind of ${listed(alone)} states a loss` : ""}`,
      "State the losses of their parts.",
    );
  if (z.coolingNeededW > 0 && z.carriedW < z.coolingNeededW)
    say(
      "stop",
      "too hot inside",
      `zone ${z.zone} is short by ${w(z.coolingNeededW - z.carriedW)}: ${w(z.coolingNeededW)} must be carried away to keep ${c(v.insideMaxC)} at ${c(v.outsideMaxC)} outside${z.carriedW > 0 ? `, and its units carry ${w(z.carriedW)}` : `; without anything it gets ${z.insideWithoutC === null ? "hotter without end" : c(z.insideWithoutC)}`}`,
      "Choose a unit that fits, move losses, or let it be warmer inside.",
    );
  else if (z.dutyPercent !== null && z.coolingNeededW > 0) {
    if (z.dutyPercent < v.dutyLeastPercent)
      say(
        "check",
        "unit too large",
        `the units of zone ${z.zone} run ${Math.round(z.dutyPercent)} % of the hottest hour: in short cycles, which wear them out`,
        "Choose a smaller one.",
      );
    if (z.dutyPercent > v.dutyMostPercent)
      say(
        "check",
        "unit without reserve",
        `the units of zone ${z.zone} run ${Math.round(z.dutyPercent)} % of the hottest hour: nothing is left for a dirty filter`,
        "Choose a larger one, or move losses.",
      );
  }
  const wet = z.surfaces.filter((s) => s.wet);
  if (z.heaterNeededW > z.heatedW)
    say(
      "stop",
      "too cold inside",
      `zone ${z.zone} is short by ${w(z.heaterNeededW - z.heatedW)} of heat to keep ${c(v.insideMinC)} at ${c(v.outsideMinC)} outside${z.coldC === null ? "" : `; it falls to ${c(z.coldC)}`}`,
      "Add a heater.",
    );
  if (settles(z))
    say(
      "check",
      "water settles",
      `in zone ${z.zone} water settles on ${listed([...new Set(wet.map((s) => `${s.surface} of ${s.enclosure}`))])}: in the coldest hour they are at ${c(wet[0]!.coldC)}, and damp air of ${c(v.dampC)} and ${v.dampPercent} % has its dew point at ${c(z.dewPointC)}`,
      `Add a heater of ${w(z.dryNeededW)}, or keep damp air out.`,
    );
  for (const d of z.devices) {
    if (d.aroundC === null || d.limitC === null || d.aroundC <= d.limitC) continue;
    points.add({
      severity: "check",
      kind: "device too hot",
      thing: "device",
      of: d.device,
      text: `the air around ${d.device} reaches ${c(d.aroundC)} by the model of slabs; its part bears ${c(d.limitC)}`,
      remedy: "Move it lower, or cool the zone.",
    });
  }
  for (const u of z.units)
    if (u.beyond)
      points.add({
        severity: "note",
        kind: "beyond the curve",
        thing: "device",
        of: u.device,
        text: `the curve of ${u.device} does not reach ${c(v.insideMaxC)} inside and ${c(v.outsideMaxC)} outside; its nearest point counts`,
        remedy: "Add points to the curve.",
      });
}
