import { canonicalJson } from "../design/canonical";
import type { LibraryPart } from "./library";
import { pushTo } from "../design/order";

/** Parts that may be one and the same, and one made of several. */

/** A number as it is compared: without what people write now so, now so. `OH-K9`, `oh k9` and `OHK9` are alike. */
const plainNumber = (number: string): string =>
  number
    .normalize("NFKC")
    .toLowerCase()
    .replace(/[^\p{L}\p{N}]/gu, "");

/** Groups of parts whose numbers are alike; of each the one that says most comes first. O(parts) */
export function doublesOf(parts: readonly LibraryPart[]): LibraryPart[][] {
  const groups = new Map<string, LibraryPart[]>();
  for (const p of parts) {
    const plain = plainNumber(p.number);
    // Signs alone tell nothing.
    if (plain !== "") pushTo(groups, plain, p);
  }
  const says = (p: LibraryPart): number => Object.keys(p).length;
  return [...groups.values()].filter((g) => g.length > 1).map((g) => g.sort((a, b) => says(b) - says(a)));
}

type Said = Exclude<keyof LibraryPart, "number" | "alsoAs">;

const saidBy = (p: LibraryPart): Said[] =>
  (Object.keys(p) as (keyof LibraryPart)[]).filter(
    (f): f is Said => f !== "number" && f !== "alsoAs" && p[f] !== undefined,
  );

/** Fields of which two parts say different things. */
export const disagree = (one: LibraryPart, other: LibraryPart): Said[] =>
  saidBy(one).filter((f) => other[f] !== undefined && canonicalJson(one[f]) !== canonicalJson(other[f]));

/** Fields that one part gets from another. */
export const gained = (one: LibraryPart, other: LibraryPart): Said[] =>
  saidBy(other).filter((f) => one[f] === undefined);

/** One part of two: what the first says stands, what it leaves out comes from the other, whose number leads to it from then on. */
export function mergedPart(one: LibraryPart, other: LibraryPart): LibraryPart {
  const alsoAs = [...new Set([...(one.alsoAs ?? []), other.number, ...(other.alsoAs ?? [])])].filter(
    (n) => n !== one.number,
  );
  return { ...other, ...one, alsoAs };
}
