/** How often a long property is drawn: all of it, or the share that the search for unnoticed faults asks for. */
export const runs = (all: number): number => Math.ceil(all * Number(process.env.GRAY_BENCH_RUNS ?? 1));
