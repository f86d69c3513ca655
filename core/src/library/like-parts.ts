import type { LibraryPart } from "./library";

/** The middle of some numbers; of an even count the mean of the two in the middle. Undefined of none. O(n log n) */
export function median(numbers: readonly number[]): number | undefined {
  const sorted = [...numbers].sort((a, b) => a - b);
  const half = sorted.length >> 1;
  return sorted.length % 2 ? sorted[half] : sorted.length === 0 ? undefined : (sorted[half - 1]! + sorted[half]!) / 2;
}

/** What parts of one kind lose in the middle, and how many of them say it. */
export interface LikeLoss {
  watts: number;
  of: number;
}

/** A guess for the loss of a part, of others of its kind that state one; null where none does. O(parts) */
export function likeLoss(part: LibraryPart, parts: readonly LibraryPart[]): LikeLoss | null {
  if (part.category === undefined || part.category === "other") return null;
  const like = parts.filter((p) => p.category === part.category && p.number !== part.number && p.lossW !== undefined);
  const watts = median(like.map((p) => p.lossW!));
  return watts === undefined ? null : { watts: Math.round(watts * 100) / 100, of: like.length };
}
