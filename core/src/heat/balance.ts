import { BELIEVABLE_C } from "../design/tolerance";
/**
 * Heat of an enclosure at rest: what goes out through its walls, how warm it gets, what must be carried away or put in.
 * Temperatures in °C, differences in K, power in W, surfaces in m². IEC 60890 for the surfaces.
 */

/** One side of an enclosure with how it stands. */
export interface Wall {
  areaM2: number;
  /** Share of the surface that counts, by how it stands. */
  b: number;
  /** Heat that passes a square metre for each kelvin, W/(m²K). */
  k: number;
}

/** What the walls pass for each kelvin, W/K: Σ k · A₀ · b. */
export const passing = (walls: readonly Wall[]): number => walls.reduce((sum, w) => sum + w.k * w.areaM2 * w.b, 0);

/** Effective surface, m²: Σ A₀ · b. */
export const effective = (walls: readonly Wall[]): number => walls.reduce((sum, w) => sum + w.areaM2 * w.b, 0);

/** How warm it gets without anything: T_out + P / (k · A); null where no wall passes anything. */
export const insideWithout = (lossW: number, wPerK: number, outsideC: number): number | null =>
  wPerK > 0 ? outsideC + lossW / wPerK : null;

/** What a cooling unit must carry, W: P − k · A · (T_in − T_out). Negative: the walls alone do it. */
export const coolingNeeded = (lossW: number, shell: Shell, insideC: number, outsideC: number): number =>
  lossW - through(shell, insideC, outsideC);

/** What a heater must put in, W: k · A · (T_in − T_out) − P. Negative: the losses alone do it. */
export const heaterNeeded = (lossW: number, shell: Shell, insideC: number, outsideC: number): number =>
  through(shell, insideC, outsideC) - lossW;

/** What passes heat between inside and outside: walls, and openings of doors that stand open. */
export interface Shell {
  wPerK: number;
  open: readonly { widthM: number; heightM: number }[];
}

const GRAVITY = 9.81;
/** Of an opening with an edge all round. */
const DISCHARGE = 0.6;
const KELVIN = 273.15;

/**
 * Air that goes in below and out above through an open door, m³/h, by the difference of densities:
 * C / 3 · W · H · √(g · H · |ΔT| / T) with C = 0.6 (flow through a doorway between two rooms at rest).
 */
export function doorFlow({ widthM, heightM }: Shell["open"][number], insideC: number, outsideC: number): number {
  const middle = (insideC + outsideC) / 2 + KELVIN;
  const fall = (GRAVITY * heightM * Math.abs(insideC - outsideC)) / middle;
  return (DISCHARGE / 3) * widthM * heightM * Math.sqrt(fall) * 3600;
}

/** What a cubic metre of air an hour carries for each kelvin, Wh/(m³K). */
export const AIR_WH = 0.34;

/** Heat that leaves through walls and open doors, W; negative: it comes in. */
export const through = ({ wPerK, open }: Shell, insideC: number, outsideC: number): number =>
  wPerK * (insideC - outsideC) +
  open.reduce((sum, o) => sum + AIR_WH * doorFlow(o, insideC, outsideC) * (insideC - outsideC), 0);

const HOTTEST_C = 5000;

/** A temperature that can be told; null where nothing passes heat, or where it is beyond all that can be. */
export const believable = (celsius: number | null): number | null =>
  celsius !== null && celsius > BELIEVABLE_C ? null : celsius;

/** How warm it gets without anything; null where nothing passes heat. With an open door halved down to 1e-9 K. */
export function restsAt(lossW: number, shell: Shell, outsideC: number): number | null {
  if (shell.open.length === 0) return insideWithout(lossW, shell.wPerK, outsideC);
  let [low, high] = [outsideC, HOTTEST_C];
  while (high - low > 1e-9) {
    const middle = (low + high) / 2;
    if (middle === low || middle === high) break;
    if (through(shell, middle, outsideC) < lossW) low = middle;
    else high = middle;
  }
  return (low + high) / 2;
}

/** Factor of air by height above sea: up to so many metres, m³K/(W·h). */
export const AIR_FACTORS: readonly { toM: number; f: number }[] = [
  { toM: 100, f: 3.1 },
  { toM: 250, f: 3.2 },
  { toM: 500, f: 3.3 },
  { toM: 750, f: 3.4 },
  { toM: 1000, f: 3.5 },
];

/** The factor of a height; above the table its last one, which then is too small: `beyond` says so. */
export function airFactor(heightM: number): { f: number; beyond: boolean } {
  const row = AIR_FACTORS.find((r) => heightM <= r.toM);
  return { f: (row ?? AIR_FACTORS[AIR_FACTORS.length - 1]!).f, beyond: !row };
}

/**
 * Air that a filter fan must move, m³/h: f · (P − k · A · ΔT) / ΔT. Null where the air outside is not cooler than wanted
 * inside: no flow does it.
 */
export function fanFlow(
  lossW: number,
  wPerK: number,
  insideC: number,
  outsideC: number,
  heightM: number,
): number | null {
  const k = insideC - outsideC;
  if (k <= 0) return null;
  return Math.max(0, (airFactor(heightM).f * coolingNeeded(lossW, { wPerK, open: [] }, insideC, outsideC)) / k);
}

const A = 17.62;
const B_C = 243.12;

/** Dew point of air, °C, by the Magnus formula over water. @param percent relative humidity, above 0 up to 100 */
export function dewPoint(airC: number, percent: number): number {
  const g = Math.log(percent / 100) + (A * airC) / (B_C + airC);
  return (B_C * g) / (A - g);
}

/**
 * Temperature of the inner side of a wall of sheet: half way between inside and outside, as heat passes to the sheet as
 * hard as from it. What stands against something warm is warmer: an estimate on the safe side.
 */
export const wallInside = (insideC: number, outsideC: number): number => (insideC + outsideC) / 2;

/** Loss of a wire, W: I² · ρ / A · L · 1.2; the factor brings copper to working temperature. @param mm its length */
export const wireLoss = (currentA: number, sizeMm2: number, mm: number): number =>
  ((currentA ** 2 * 0.0172) / sizeMm2) * (mm / 1000) * 1.2;
