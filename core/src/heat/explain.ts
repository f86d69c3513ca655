import { BELIEVABLE_C } from "../design/tolerance";
import type { Working } from "../frame/working";
import { airFactor, believable } from "./balance";
import type { HeatFigure, HeatResult, HeatSubject, ZoneHeat } from "./result";

const round = (v: number, digits = 2): number => Math.round(v * 10 ** digits) / 10 ** digits;

/** How a figure of a zone came to be, with its numbers set in; null when there is no such zone. */
export function explain({ zones }: HeatResult, { zone, of }: HeatSubject): Working | null {
  const z = zones.find((x) => x.zone === zone);
  return z ? WORKINGS[of](z) : null;
}

const WORKINGS: Record<HeatFigure, (z: ZoneHeat) => Working> = {
  loss: (z) => ({
    title: `Losses of zone ${z.zone}`,
    unit: "W",
    terms: [
      ...z.devices.map((d) => ({
        text: d.device,
        value: round(d.countedW),
        detail: `${d.lossW === null ? (d.fallback ? "median of like parts" : "not stated, counted as none") : `${d.lossW} W`} × ${d.share} load × ${d.diversity} diversity`,
        ...(d.lossW === null ? { fallback: true } : {}),
        link: { thing: "device" as const, of: d.device },
      })),
      {
        text: "wires",
        value: round(z.wiresW),
        detail: "I² · ρ/A · L · 1.2; of n wires of a net the mean square of its current is (n + 1)(2n + 1) / 6n²",
        source: "ρ = 0.0172 Ω·mm²/m",
      },
    ],
    total: round(z.lossW),
  }),
  surface: (z) => ({
    title: `Effective surface of zone ${z.zone}`,
    unit: "m²",
    terms: z.surfaces.map((s) => ({
      text: `${s.surface} of ${s.enclosure}, ${s.state}`,
      value: round(s.areaM2 * s.b, 4),
      detail: `${round(s.areaM2, 4)} m² × ${s.b}`,
      source: "IEC 60890",
      ...(s.shipped?.includes("b") ? { fallback: true } : {}),
    })),
    total: round(z.effectiveM2, 4),
  }),
  coefficient: (z) => ({
    title: `What the walls of zone ${z.zone} pass`,
    unit: "W/K",
    terms: z.surfaces.map((s) => ({
      text: `${s.surface} of ${s.enclosure}, ${s.material}`,
      value: round(s.areaM2 * s.b * s.k, 3),
      detail: `${round(s.areaM2 * s.b, 4)} m² × ${s.k} W/(m²K)`,
      ...(s.shipped ? { fallback: true } : {}),
    })),
    total: round(z.wPerK, 3),
  }),
  inside_without_cooling: (z) => ({
    title: `Inside zone ${z.zone} without cooling`,
    unit: "°C",
    terms: [
      { text: "outside, hottest hour", value: z.values.outsideMaxC },
      {
        text: "losses over what the walls pass",
        value: z.insideWithoutC === null ? 0 : round(z.insideWithoutC - z.values.outsideMaxC),
        detail: `${round(z.lossW)} W / ${round(z.wPerK, 3)} W/K`,
      },
    ],
    total:
      z.insideWithoutC === null
        ? "no wall passes heat"
        : believable(z.insideWithoutC) === null
          ? `over ${BELIEVABLE_C} °C: its size or its losses cannot be right`
          : round(z.insideWithoutC),
  }),
  cooling_needed: (z) => ({
    title: `To be carried away from zone ${z.zone}`,
    unit: "W",
    terms: [
      { text: "losses", value: round(z.lossW) },
      {
        text: "through the walls",
        value: round(z.coolingNeededW - z.lossW),
        detail: `−${round(z.wPerK, 3)} W/K × (${z.values.insideMaxC} − ${z.values.outsideMaxC}) K`,
      },
    ],
    total: round(z.coolingNeededW),
  }),
  fan_flow: (z) => ({
    title: `Air a filter fan must move through zone ${z.zone}`,
    unit: "m³/h",
    terms: [
      {
        text: "f · needed / difference",
        detail: `${airFactor(z.values.heightM).f} m³K/(W·h) × ${round(Math.max(0, z.coolingNeededW))} W / (${z.values.insideMaxC} − ${z.values.outsideMaxC}) K`,
        source: `f at ${z.values.heightM} m above sea`,
      },
    ],
    total: z.fanFlowM3h === null ? "outside it is not cooler than wanted inside" : round(z.fanFlowM3h),
  }),
  heater_needed: (z) => ({
    title: `To be put into zone ${z.zone}`,
    unit: "W",
    terms: [
      {
        text: "through the walls, coldest hour",
        value: round(z.heaterNeededW + (z.lossW * z.values.leastSharePercent) / 100),
        detail: `${round(z.wPerK, 3)} W/K × (${z.values.insideMinC} − ${z.values.outsideMinC}) K`,
      },
      {
        text: "losses that are there then",
        value: round((-z.lossW * z.values.leastSharePercent) / 100),
        detail: `${z.values.leastSharePercent} % of ${round(z.lossW)} W`,
      },
    ],
    total: round(z.heaterNeededW),
  }),
  dew_point: (z) => ({
    title: `Dew point of damp air shut into zone ${z.zone}`,
    unit: "°C",
    terms: [
      {
        text: "Magnus formula",
        detail: `air of ${z.values.dampC} °C and ${z.values.dampPercent} %, coefficients 17.62 and 243.12 °C`,
      },
      ...z.surfaces
        .filter((s) => s.wet)
        .map((s) => ({
          text: `water settles on the ${s.surface} of ${s.enclosure}`,
          detail: `${round(s.coldC, 1)} °C in the coldest hour`,
        })),
    ],
    total: round(z.dewPointC),
  }),
  duty: (z) => ({
    title: `Duty of the units of zone ${z.zone}`,
    unit: "%",
    terms: [
      ...z.units.map((u) => ({
        text: u.device,
        detail:
          u.capacityW === null
            ? "states nothing it carries"
            : `carries ${round(u.capacityW)} W at ${z.values.insideMaxC} °C inside and ${z.values.outsideMaxC} °C outside, off its curve`,
        ...(u.beyond ? { fallback: true } : {}),
        link: { thing: "device" as const, of: u.device },
      })),
      { text: "needed of carried", detail: `${round(Math.max(0, z.coolingNeededW))} W of ${round(z.carriedW)} W` },
    ],
    total: z.dutyPercent === null ? "no unit" : round(z.dutyPercent, 1),
  }),
};
