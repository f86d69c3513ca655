/** The short form: does each bench end, and does it say its figures; nothing is judged by them. */
export const SHORT = process.env.GRAY_BENCH_SHORT === "1";

/** A size as it is measured, or, in the short form, one that takes next to no time. */
export const sized = <T>(whole: T, short: T): T => (SHORT ? short : whole);

/** Ends with 1 when a bound was missed. */
export function held(all: boolean): void {
  process.exitCode = SHORT || all ? 0 : 1;
}
