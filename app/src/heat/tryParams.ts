import { ARRANGEMENTS, type Trial } from "@gray-bench/core/heat/trial";
import type { ZoneHeat } from "@gray-bench/core/heat/result";

/** What is tried, as it stands in the address. */
export interface TryParams {
  /** Outside in the hottest hour and wanted inside at most, °C; load, per cent; diversity. */
  out?: string;
  in?: string;
  load?: string;
  div?: string;
  stands?: string;
  door?: string;
  /** Tags of units that are away, numbers of parts that are mounted besides, with commas between. */
  without?: string;
  with?: string;
}

export const TRY_KEYS = ["out", "in", "load", "div", "stands", "door", "without", "with"] as const;

/** Ends and step of what is set by the thumb. */
export const SLIDES = {
  out: { min: -20, max: 60, step: 1 },
  in: { min: 20, max: 60, step: 1 },
  load: { min: 0, max: 150, step: 5 },
  div: { min: 0, max: 1, step: 0.05 },
} as const;
export type Slide = keyof typeof SLIDES;

/** What a slider stands at where nothing is tried. */
export const slideNow = (key: Slide, { values }: Pick<ZoneHeat, "values">): number =>
  ({ out: values.outsideMaxC, in: values.insideMaxC, load: 100, div: values.diversity })[key];

/** A number of the address, within its ends; what is now where it is none. */
export function slideAt(key: Slide, params: TryParams, zone: Pick<ZoneHeat, "values">): number {
  const value = params[key] === undefined || params[key] === "" ? NaN : Number(params[key]);
  const { min, max } = SLIDES[key];
  return Number.isFinite(value) ? Math.min(max, Math.max(min, value)) : slideNow(key, zone);
}

/** What stands between commas. */
export const listOf = (text: string | undefined): string[] => (text ? text.split(",").filter(Boolean) : []);

/** Whether anything differs from what is. */
export const triesAnything = (params: TryParams): boolean => TRY_KEYS.some((k) => params[k] !== undefined);

/** What the address tries in a zone; units that are not there, and numbers that are none, are passed over. */
export function trialOf(params: TryParams, zone: Pick<ZoneHeat, "values" | "units">): Trial {
  const at = (key: Slide): number => slideAt(key, params, zone);
  const stands = ARRANGEMENTS.find((a) => a === params.stands);
  const values: NonNullable<Trial["values"]> = {};
  if (at("out") !== zone.values.outsideMaxC) values.outsideMaxC = at("out");
  if (at("in") !== zone.values.insideMaxC) values.insideMaxC = at("in");
  if (at("div") !== zone.values.diversity) values.diversity = at("div");
  const without = listOf(params.without).filter((tag) => zone.units.some((u) => u.device === tag));
  const more = listOf(params.with);
  return {
    ...(Object.keys(values).length > 0 ? { values } : {}),
    ...(at("load") === 100 ? {} : { load: at("load") / 100 }),
    ...(stands ? { stands } : {}),
    ...(params.door === "open" ? { doorOpen: true } : {}),
    ...(without.length > 0 ? { without } : {}),
    ...(more.length > 0 ? { with: more } : {}),
  };
}
