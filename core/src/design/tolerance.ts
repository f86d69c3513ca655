/**
 * The one place for tolerances.
 *
 * Coordinates are rounded to whole micrometres before they are compared or added, so that sums are
 * exact integers: a length does not depend on the order of its terms, and 1,385.0000001 mm is never
 * rounded up to 1,390 mm. No drawing of a panel states less than a tenth of a millimetre.
 */
const UM_PER_MM = 1000;

/** Millimetres to whole micrometres. */
export const toUm = (mm: number): number => Math.round(mm * UM_PER_MM);

/** Whole micrometres to millimetres. */
export const toMm = (um: number): number => um / UM_PER_MM;

/** Cross-sections are equal when they differ by less than this (mm²): the smallest step in use is 0.06. */
export const SIZE_TOLERANCE_MM2 = 0.005;

export const sameSize = (a: number, b: number): boolean => Math.abs(a - b) < SIZE_TOLERANCE_MM2;
