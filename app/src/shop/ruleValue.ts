import type { Column, NumberRule } from "@gray-bench/core/shop/rule-kinds";
import { lengthText, number, readLength, readSize, type Quantity } from "../kit/quantity";
import type { Settings } from "../kit/settings";

type Bounded = Pick<NumberRule, "unit" | "min" | "max">;

/** The unit that stands beside a number: that of the person for lengths, the rule's own else. */
export const unitBeside = (unit: string, { length }: Pick<Settings, "length">): string =>
  unit === "mm" && length === "in" ? "in" : unit;

/** A value as it stands in its field, without its unit. */
export const valueText = (value: number, unit: string, settings: Pick<Settings, "length">): string =>
  unit === "mm" ? lengthText(value, settings) : String(value);

/** What was typed for a number with a range, in the unit it is kept in; or why it cannot be. */
export function readBounded(text: string, { unit, min, max }: Bounded, settings: Settings): Quantity {
  const read: Quantity =
    unit === "mm" ? readLength(text, settings) : unit === "mm²" ? readSize(text, { size: "mm2" }) : plain(text, unit);
  if (!read.ok) return read;
  const inRange = read.value >= min && read.value <= max;
  return inRange
    ? read
    : { ok: false, reason: `This goes from ${min} to ${max.toLocaleString("en-GB")} ${unit}.`.replace(" .", ".") };
}

/** A number that may have its own unit behind it, and no other. */
function plain(text: string, unit: string): Quantity {
  const t = text.trim();
  const value = number(unit !== "" && t.endsWith(unit) ? t.slice(0, -unit.length) : t);
  return value === null
    ? { ok: false, reason: `Write a number${unit === "" ? "" : ` of ${unit}`}.` }
    : { ok: true, value };
}

/** What was typed into a cell of numbers; an empty one says nothing. */
export function readCell(text: string, { unit = "", min, max, needed }: Column, settings: Settings) {
  if (text.trim() === "")
    return needed ? ({ ok: false, reason: "This is needed." } as const) : ({ ok: true, value: undefined } as const);
  return readBounded(text, { unit, min: min ?? -1e9, max: max ?? 1e9 }, settings);
}

/** Why words do not go into a cell; null where they do. */
export const readWords = (text: string, { most = 0, needed }: Column): string | null =>
  text === "" && needed ? "This is needed." : text.length > most ? `No more than ${most} signs fit.` : null;
