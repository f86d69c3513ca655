import { BELIEVABLE_C } from "../design/tolerance";
import { airFactor, believable } from "./balance";
import type { Basis } from "./basis";
import { listed, type OpenPoints } from "../design/open-points";
import type { ZoneHeat } from "./result";
import { settles } from "./verdict";
import { likeOf } from "./zone";
import type { Zone } from "./zones";

/** Values that cannot be together. */
export function checkValues({ name, values: v, differ }: Zone, points: OpenPoints): void {
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

/** Of a curve: two temperatures inside, two outside. */
const LEAST_POINTS = 4;

const w = (watts: number): string => `${Math.round(watts)} W`;
const c = (celsius: number): string => `${Math.round(celsius * 10) / 10} °C`;

/** What is too hot, too cold, too wet, too small and too large. */
export function judge(z: ZoneHeat, basis: Basis, points: OpenPoints): void {
  const { values: v } = z;
  const say = (severity: "stop" | "check" | "note", kind: string, text: string, remedy: string): void =>
    points.add({ severity, kind, thing: "enclosure", of: z.enclosures[0]!, text, remedy });
  const alone = z.missing.filter((tag) => !likeOf(basis.look.devices.get(tag)!.part, basis));
  if (z.missing.length > 0)
    say(
      "check",
      "losses missing",
      `${listed(z.missing)} in zone ${z.zone} ${z.missing.length === 1 ? "states" : "state"} no loss; ${z.fallbackW > 0 ? `${w(z.fallbackW)} were counted for them, the median of like parts` : "nothing was counted for them"}, and ${w(z.worstW)} in all would be the worst${alone.length > 0 ? `, at least: no part of the kind of ${listed(alone)} states a loss` : ""}`,
      "State the losses of their parts.",
    );
  if (z.insideWithoutC !== null && believable(z.insideWithoutC) === null)
    say(
      "check",
      "sizes or losses not believable",
      `zone ${z.zone} would get hotter than ${c(BELIEVABLE_C)}: ${w(z.lossW)} in an enclosure whose walls pass ${Math.round(z.wPerK * 1000) / 1000} W/K; no temperature is told`,
      "Correct the size of the enclosure, or the losses of what stands in it.",
    );
  if (z.coolingNeededW > 0 && z.carriedW < z.coolingNeededW)
    say(
      "stop",
      "too hot inside",
      `zone ${z.zone} is short by ${w(z.coolingNeededW - z.carriedW)}: ${w(z.coolingNeededW)} must be carried away to keep ${c(v.insideMaxC)} at ${c(v.outsideMaxC)} outside${z.carriedW > 0 ? `, and its units carry ${w(z.carriedW)}` : `; without anything it gets ${z.insideWithoutC === null ? "hotter without end" : believable(z.insideWithoutC) === null ? `hotter than ${c(BELIEVABLE_C)}` : c(z.insideWithoutC)}`}`,
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
  const unsaid = [
    ...new Set(
      z.surfaces.flatMap((s) =>
        (s.shipped ?? []).map((of) =>
          of === "k"
            ? `what walls of ${s.material} pass (${s.k} W/(m²K) counts, as shipped)`
            : `what a ${s.surface} counts that is ${s.state} (${s.b}, as shipped)`,
        ),
      ),
    ),
  ];
  if (unsaid.length > 0)
    say(
      "check",
      "not in the shop's tables",
      `for zone ${z.zone} the shop does not say ${listed(unsaid)}`,
      "Add the rows to the rules of heat.",
    );
  const wet = z.surfaces.filter((s) => s.wet);
  if (z.heaterNeededW > z.heatedW)
    say(
      "stop",
      "too cold inside",
      `zone ${z.zone} is short by ${w(z.heaterNeededW - z.heatedW)} of heat to keep ${c(v.insideMinC)} at ${c(v.outsideMinC)} outside${z.coldC === null ? "" : `; it falls to ${c(z.coldC)}`}`,
      `Add a heater of ${w(Math.max(z.heaterNeededW, z.dryNeededW) - z.heatedW)}.`,
    );
  if (settles(z))
    say(
      "check",
      "water settles",
      `in zone ${z.zone} water settles on ${listed([...new Set(wet.map((s) => `${s.surface} of ${s.enclosure}`))])}: in the coldest hour they are at ${c(wet[0]!.coldC)}, and damp air of ${c(v.dampC)} and ${v.dampPercent} % has its dew point at ${c(z.dewPointC)}`,
      `Add a heater of ${w(Math.max(z.heaterNeededW, z.dryNeededW) - z.heatedW)}, or keep damp air out.`,
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
  for (const d of z.devices)
    if (d.derated !== null && d.derated < d.share)
      points.add({
        severity: "check",
        kind: "load above its derating",
        thing: "device",
        of: d.device,
        text: `${d.device} may carry ${Math.round(d.derated * 100)} % of its rated load in air of ${c(d.aroundC!)} by the model of slabs${d.derated === 0 ? " (beyond what its part states it carries nothing)" : ""}; it is to carry ${Math.round(d.share * 100)} %`,
        remedy: "Move it lower, cool the zone, take a larger one, or state a smaller load.",
      });
  for (const { device, pins } of waitingOf(z, basis))
    points.add({
      severity: "check",
      kind: "unit without wires",
      thing: "device",
      of: device,
      text: `no wire lands on ${listed(pins)} of ${device} yet`,
      remedy: "Lead its wires there.",
    });
  for (const b of z.before)
    points.add({
      severity: "check",
      kind: "before an opening",
      thing: b.thing,
      of: b.of,
      text: `${b.of} stands before the ${b.opening} of ${b.unit}: ${Math.round(b.leftMm)} mm are left of the ${b.freeMm} mm that are to be free`,
      remedy: `Move ${b.of} or ${b.unit}.`,
    });
  for (const a of z.airWays) {
    for (const part of a.unstated)
      points.add({
        severity: "note",
        kind: "openings not stated",
        thing: "part",
        of: part,
        text: `part ${part} does not state where it blows and draws; its upper and its lower third were taken`,
        remedy: "State its openings.",
      });
    for (const device of a.hidden)
      points.add({
        severity: "note",
        kind: "openings behind each other",
        thing: "device",
        of: device,
        text: `as ${a.face} sees them, outlet and inlet of ${device} lie one behind the other: the model of the air in the plane of the plate does not follow it`,
        remedy: "Judge by hand where its air goes.",
      });
    if (a.dead.length > 0)
      points.add({
        severity: "check",
        kind: "dead air",
        thing: "face",
        of: a.face,
        text: `${listed(a.dead.map((d) => d.device))} on ${a.face} ${a.dead.length === 1 ? "lies" : "lie"} in dead air of ${a.units.join(" and ")}: slower than ${a.speedMs} m/s by the model of potential flow`,
        remedy: "Move them, turn the outlet, or move the unit.",
      });
  }
  for (const part of new Set(z.units.flatMap((u) => (u.kind === "cooling unit" ? [u.part] : [])))) {
    const stated = basis.look.parts.get(part)?.cooling?.curve.length ?? 0;
    if (stated < LEAST_POINTS)
      points.add({
        severity: "check",
        kind: "curve too short",
        thing: "part",
        of: part,
        text: `part ${part} states ${stated} points of its capacity; between fewer than ${LEAST_POINTS}, at two temperatures inside and two outside, nothing can be read off`,
        remedy: "State its curve.",
      });
  }
  for (const u of z.units)
    if (u.beyond)
      points.add({
        severity: u.unsafe ? "check" : "note",
        kind: "beyond the curve",
        thing: "device",
        of: u.device,
        text: `the curve of ${u.device} does not reach ${c(v.insideMaxC)} inside and ${c(v.outsideMaxC)} outside; its nearest point counts${u.unsafe ? ", and it carries less than that" : ""}`,
        remedy: "Add points to the curve.",
      });
}

/** Units of a zone with pins that no wire and no core lands on. */
function waitingOf(z: ZoneHeat, { look, landed }: Basis): { device: string; pins: string[] }[] {
  return z.units.flatMap(({ device, part }) => {
    const pins = (look.parts.get(part)?.pins ?? []).map((p) => p.name).filter((pin) => !landed(device, pin));
    return pins.length > 0 ? [{ device, pins }] : [];
  });
}
