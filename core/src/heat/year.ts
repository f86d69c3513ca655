/** Hours of a year at an outside temperature. */
export interface Bin {
  outsideC: number;
  hours: number;
}

const DAYS = 365;
const HOURS = 24;
/** Of the swing between the lowest and the highest temperature: over the year, the rest over the day. */
const YEARLY = 0.7;
const WIDTH_C = 1;

/**
 * A year between its lowest and highest outside temperature, in bins of a kelvin: the mean of the two, a swing over the year
 * and one over the day. A stand-in for a weather record, which the shop may not have; it reaches both extremes once.
 */
export function yearOf(lowestC: number, highestC: number): readonly Bin[] {
  const key = `${lowestC} ${highestC}`;
  const known = years.get(key);
  if (known) return known;
  const year = binsOf(lowestC, highestC);
  if (years.size >= MOST_YEARS) years.clear();
  years.set(key, year);
  return year;
}

/** The zones of a job mostly share one. */
const years = new Map<string, readonly Bin[]>();
const MOST_YEARS = 50;

function binsOf(lowestC: number, highestC: number): readonly Bin[] {
  const middle = (lowestC + highestC) / 2;
  const half = (highestC - lowestC) / 2;
  const bins = new Map<number, number>();
  for (let day = 0; day < DAYS; day++) {
    const season = Math.cos((2 * Math.PI * day) / DAYS);
    for (let hour = 0; hour < HOURS; hour++) {
      const t = middle + half * (YEARLY * season + (1 - YEARLY) * Math.cos((2 * Math.PI * hour) / HOURS));
      const bin = Math.round(t / WIDTH_C) * WIDTH_C;
      bins.set(bin, (bins.get(bin) ?? 0) + 1);
    }
  }
  return [...bins].map(([outsideC, hours]) => ({ outsideC, hours })).sort((a, b) => a.outsideC - b.outsideC);
}

/** Energy of a year, kWh, of something that runs a share of each hour. @param share 0 to 1 at an outside temperature */
export const energyOf = (year: readonly Bin[], powerW: number, share: (outsideC: number) => number): number =>
  year.reduce((sum, { outsideC, hours }) => sum + hours * Math.min(1, Math.max(0, share(outsideC))), 0) *
  (powerW / 1000);
