const share = Number(process.env.GRAY_BENCH_RUNS ?? 1);

/**
 * How often a long property is drawn: all of it, or the share that the search for unnoticed faults asks for.
 * @param least drawn in any case
 */
export const runs = (all: number, least = 1): number => Math.max(Math.min(least, all), Math.ceil(all * share));

/** Whether everything is drawn, so that what is rare must have been met. */
export const ALL_DRAWN = share >= 1;
