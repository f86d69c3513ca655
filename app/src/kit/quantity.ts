import { awgMm2 } from "@gray-bench/core/wiring/conductors";
import type { Settings } from "./settings";

/** What was typed, in the unit things are kept in; or why it cannot be. */
export type Quantity = { ok: true; value: number } | { ok: false; reason: string };

const refuse = (reason: string): Quantity => ({ ok: false, reason });

/** `12`, `12.5`, `1/2`, `1 1/2`; a comma may stand for the point. Null when it is no number. */
export function number(text: string): number | null {
  const t = text.trim().replace(",", ".");
  const mixed = /^(-)?(?:(\d+) )?(\d+)\/(\d+)$/.exec(t);
  if (mixed) {
    const [, minus, whole, top, bottom] = mixed;
    if (Number(bottom) === 0) return null;
    return (minus ? -1 : 1) * (Number(whole ?? 0) + Number(top) / Number(bottom));
  }
  return /^-?(\d+\.?\d*|\.\d+)$/.test(t) ? Number(t) : null;
}

/** Splits a text into its number and the unit behind it. */
function split(text: string): [number: number | null, unit: string] {
  const [, digits, unit] = /^\s*([-\d.,/ ]*\d[.]?)\s*(.*?)\s*$/.exec(text) ?? ["", "", text];
  return [number(digits!), unit!.toLowerCase()];
}

/** A temperature in °C: `35` in the unit beside the field, `35 °C`, `95 °F`, `-8`. */
export function readTemperature(text: string, { temperature }: Pick<Settings, "temperature">): Quantity {
  const [value, unit] = split(text);
  if (value === null) return refuse("Write a temperature, for example 35, -8 °C or 95 °F.");
  const kind = unit.replace("°", "").trim();
  if (!["", "c", "f"].includes(kind)) return refuse(`"${unit}" is no unit of temperature here. Write °C or °F.`);
  const celsius = (kind === "" ? temperature.toLowerCase() : kind) === "f" ? ((value - 32) * 5) / 9 : value;
  if (celsius < -273.15) return refuse("Nothing is colder than -273.15 °C.");
  return { ok: true, value: Math.round(celsius * 1e6) / 1e6 };
}

const LENGTHS: Record<string, number> = {
  mm: 1,
  cm: 10,
  m: 1000,
  in: 25.4,
  '"': 25.4,
  inch: 25.4,
  ft: 304.8,
  "'": 304.8,
};

/** A length in millimetres: `12` in the unit beside the field, `12 mm`, `1/2 in`, `1 1/2"`. */
export function readLength(text: string, { length }: Pick<Settings, "length">): Quantity {
  const [value, unit] = split(text);
  if (value === null) return refuse("Write a number, for example 12, 12.5 mm or 1/2 in.");
  const factor = LENGTHS[unit === "" ? length : unit];
  if (factor === undefined) return refuse(`"${unit}" is no unit of length here. Write mm, cm, m, in or ft.`);
  return { ok: true, value: Math.round(value * factor * 1e6) / 1e6 };
}

/** A cross-section in mm²: `1.5`, `1.5 mm2`, `14 AWG`, `2/0 AWG`. */
export function readSize(text: string, { size }: Pick<Settings, "size">): Quantity {
  const awg = /^\s*(?:awg)?\s*(\d+)(\/0)?\s*(?:awg)?\s*$/i.exec(text);
  const asGauge = /awg/i.test(text) || (size === "awg" && awg !== null);
  if (asGauge) {
    if (!awg) return refuse("Write a gauge such as 14 AWG or 2/0 AWG.");
    const n = awg[2] ? 1 - Number(awg[1]) : Number(awg[1]);
    if (n > 40 || n < -3) return refuse("Gauges go from 40 to 4/0.");
    return { ok: true, value: Math.round(awgMm2(n) * 1000) / 1000 };
  }
  const [value, unit] = split(text);
  if (value === null) return refuse("Write a cross-section, for example 1.5 or 14 AWG.");
  if (!["", "mm2", "mm²"].includes(unit))
    return refuse(`"${unit}" is no unit of cross-section here. Write mm² or AWG.`);
  if (value <= 0) return refuse("A cross-section is greater than 0.");
  return value > 1000 ? refuse("A cross-section is at most 1,000 mm².") : { ok: true, value };
}

/** Watts: `12`, `12 W`, `0.4 kW`. */
export function readWatts(text: string): Quantity {
  const [value, unit] = split(text);
  if (value === null) return refuse("Write a number of watts, for example 12 or 0.4 kW.");
  const factor = { "": 1, w: 1, kw: 1000, mw: 0.001 }[unit];
  if (factor === undefined) return refuse(`"${unit}" is no unit of power here. Write W or kW.`);
  return value < 0 ? refuse("A loss is at least 0.") : { ok: true, value: value * factor };
}

/** A number without a unit, at least 0. */
export function readAmount(text: string): Quantity {
  const value = number(text);
  return value !== null && value >= 0 ? { ok: true, value } : refuse("Write a number, at least 0.");
}

/** A length as it stands in its field, without its unit: `12.5`, `0.4921`. */
export const lengthText = (mm: number, { length }: Pick<Settings, "length">): string =>
  String(length === "in" ? Math.round((mm / LENGTHS.in!) * 10_000) / 10_000 : mm);

/** A whole number from 1 on. */
export function readCount(text: string): Quantity {
  const value = number(text);
  return value !== null && Number.isInteger(value) && value >= 1
    ? { ok: true, value }
    : refuse("Write a whole number, at least 1.");
}

/** Lengths as whoever reads and types has them. */
export const lengthsIn = (settings: Settings) => ({
  unit: settings.length,
  write: (mm: number): string => lengthText(mm, settings),
  read: (text: string): Quantity => readLength(text, settings),
});
