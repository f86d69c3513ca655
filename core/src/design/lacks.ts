import { searchPattern } from "./find";
import type { LibraryPart } from "./library";
import type { Category } from "./model";

/** Parts on which nothing lands, or that are no bodies on a face. */
const PINLESS: ReadonlySet<Category> = new Set(["rail", "duct", "terminal accessory", "gland", "wire", "cable"]);
const COLD: ReadonlySet<Category> = new Set([
  ...PINLESS,
  "terminal",
  "earth",
  "socket",
  "operator",
  // What they take and give stands with their climate.
  "cooling",
  "fan",
  "heater",
]);
const BARS: ReadonlySet<Category> = new Set(["rail", "duct", "wire", "cable", "terminal accessory"]);

/** What a stage lacks of a part, by a word of ours that stands in the address too. */
export const LACKS = [
  {
    id: "size",
    text: "without a size",
    is: (p: LibraryPart) => p.w === undefined || p.h === undefined || p.d === undefined,
  },
  { id: "kind", text: "without a kind", is: (p: LibraryPart) => p.category === undefined || p.category === "other" },
  {
    id: "pins",
    text: "without pins",
    is: (p: LibraryPart) => !(p.category && PINLESS.has(p.category)) && !p.pins?.length,
  },
  {
    id: "loss",
    text: "without a loss",
    is: (p: LibraryPart) => !(p.category && COLD.has(p.category)) && p.lossW === undefined,
  },
  {
    id: "mount",
    text: "without a way to mount them",
    is: (p: LibraryPart) => !(p.category && BARS.has(p.category)) && !p.mounts?.length,
  },
  { id: "store", text: "without a stock place", is: (p: LibraryPart) => p.stock === undefined },
] as const;

/** Words of what a part lacks. */
export const lacksOf = (part: LibraryPart): string[] => LACKS.filter((l) => l.is(part)).map((l) => l.text);

/** Whether number, maker, text or kind of a part fits what a person typed; nothing typed fits all. */
export function fitsText({ number, maker, text, category }: LibraryPart, typed: string): boolean {
  const wanted = typed.trim();
  if (wanted === "") return true;
  const pattern = searchPattern(wanted);
  return [number, maker, text, category].some((field) => field !== undefined && pattern.test(field));
}
