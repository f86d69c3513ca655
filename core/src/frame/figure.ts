/**
 * What a figure is a figure of. Its number is only made by the functions below, so that it always stands in its unit and
 * is never multiplied to please whoever writes it: a length is in millimetres, a distance walked in metres.
 */
export interface Units {
  /** So many things. */
  count: "";
  /** One length, mm. */
  length: "mm";
  /** A sum of lengths, mm; people read it in metres. */
  lengths: "mm in all";
  /** A way that is walked, m. */
  distance: "m";
  share: "%";
  power: "W";
  time: "min";
}
export type Unit = Units[keyof Units];

declare const UNIT: unique symbol;
/** A number in a unit. */
export type Amount<U extends Unit> = number & { readonly [UNIT]: U };

type MeasuredIn<U> = U extends Unit ? { value: Amount<U>; unit: U } : never;
/** A number with its unit. */
export type Measured = MeasuredIn<Unit>;

const measure =
  <U extends Unit>(unit: U) =>
  (value: number): { value: Amount<U>; unit: U } => ({ value: value as Amount<U>, unit });

export const count = measure("");
/** @param value mm */
export const lengthOf = measure("mm");
/** @param value mm */
export const lengthsOf = measure("mm in all");
/** @param value m */
export const distanceOf = measure("m");
/** @param value per cent */
export const shareOf = measure("%");
/** @param value W */
export const powerOf = measure("W");
/** @param value minutes */
export const timeOf = measure("min");
