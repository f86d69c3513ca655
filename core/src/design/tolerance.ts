/**
 * The one place for tolerances.
 *
 * Coordinates are rounded to whole nanometres once, before they are compared or added, so that sums
 * are exact integers: a length does not depend on the order of its terms. A sixteenth of an inch is a
 * whole number of nanometres; a third of a millimetre is off by less than one. A hundred metres are
 * 1e11 nm, far below 2^53.
 */
const NM_PER_MM = 1_000_000;

/** Millimetres to whole nanometres. */
export const toNm = (mm: number): number => Math.round(mm * NM_PER_MM);

/** Whole nanometres to millimetres. */
export const toMm = (nm: number): number => nm / NM_PER_MM;

/**
 * A sum that lies above a step by no more than this lies on the step: thirds of a millimetre each lose
 * up to half a nanometre, and no sum of a wire has two hundred of them. A tenth of a micrometre.
 */
export const ON_STEP_NM = 100;

/** Cross-sections are equal when they differ by less than this (mm²): the smallest step in use is 0.06. */
export const SIZE_TOLERANCE_MM2 = 0.005;

export const sameSize = (a: number, b: number): boolean => Math.abs(a - b) < SIZE_TOLERANCE_MM2;

/** Bodies may touch; drawings are rounded to tenths, so this much overlap (mm) is touching. */
export const TOUCHING_MM = 0.2;

/** A pin may stand this far (mm) outside its body, as lugs and plugs do; beyond it is a slip of the pen. */
export const PIN_OUTSIDE_MM = 20;

/** Hotter than this no figure is told: nothing that is wired stands it, and losses or sizes cannot be right. */
export const BELIEVABLE_C = 300;
