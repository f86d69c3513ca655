import type { Way } from "@gray-bench/core/wireprep/result";

/** `3 min`, `0.4 min`, `2 h 5 min` */
export function minutesText(minutes: number): string {
  if (minutes < 10) return `${Math.round(minutes * 10) / 10} min`;
  const whole = Math.round(minutes);
  return whole < 120 ? `${whole} min` : `${Math.floor(whole / 60)} h ${whole % 60} min`;
}

/** The time of day in so many seconds, on this device. */
export const clockText = (seconds: number): string =>
  new Date(Date.now() + seconds * 1000).toLocaleTimeString("en-GB", { hour: "2-digit", minute: "2-digit" });

export const WAY_TEXTS: Record<Way, string> = {
  least: "least changing over",
  mixed: "a few bundles mixed",
  bundles: "bundle by bundle",
  list: "as listed",
};
