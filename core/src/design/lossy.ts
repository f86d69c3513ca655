import type { Category } from "./model";

/** Kinds of device that put heat into an enclosure: one that states no loss is asked about, never taken as zero. */
export const LOSSY: ReadonlySet<Category> = new Set<Category>([
  "breaker",
  "contactor",
  "relay",
  "safety relay",
  "controller",
  "module",
  "supply",
  "drive",
  "chopper",
  "transformer",
  "filter",
]);
