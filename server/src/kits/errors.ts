import { BenchError } from "../errors";

const MOST_SHORT = 5;

export const stockMissing = (): BenchError =>
  new BenchError(409, {
    code: "stock.none",
    message: "This server knows no stock service.",
    where: "stock service",
    remedy: "Start the server with --stock and its address.",
  });

export const stockAway = (why: string): BenchError =>
  new BenchError(502, {
    code: "stock.away",
    message: `The stock service did not do it: ${why}.`,
    where: "stock service",
    remedy: "Try again when it answers; nothing was reserved that will not be given back.",
  });

export const notEnough = (job: string, missing: readonly string[]): BenchError =>
  new BenchError(409, {
    code: "stock.short",
    message: `There is not enough for ${job}, so nothing was reserved: ${missing.slice(0, MOST_SHORT).join("; ")}${missing.length > MOST_SHORT ? ` and ${missing.length - MOST_SHORT} more` : ""}.`,
    where: job,
    remedy: "Reserve what is there, or take an alternate for what is short.",
  });

export const nothingToReserve = (job: string): BenchError =>
  new BenchError(409, {
    code: "stock.nothing",
    message: `Nothing of what ${job} needs is in the store.`,
    where: job,
    remedy: "Look at the shortages: the store may not know the parts.",
  });

export const tooManyPicks = (job: string): BenchError =>
  new BenchError(409, {
    code: "picks.full",
    message: `The log of picks of ${job} is full.`,
    where: job,
    remedy: "Import what is left of it as a job of its own.",
  });
