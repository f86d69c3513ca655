import { searchPattern } from "../design/wildcards";
import type { LibraryPart } from "./library";
import { NOT_TOLD, type Category, type Design } from "../design/model";

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

/** What a stage lacks of a part first of all, by a word of ours that stands in the address too. */
export const LACKS = [
  {
    id: "size",
    stage: "panel",
    text: "without a size",
    is: (p: LibraryPart) => p.w === undefined || p.h === undefined || p.d === undefined,
  },
  {
    id: "kind",
    stage: "lineups",
    text: "without a kind",
    is: (p: LibraryPart) => p.category === undefined || p.category === "other",
  },
  {
    id: "pins",
    stage: "routes",
    text: "without pins",
    is: (p: LibraryPart) => !(p.category && PINLESS.has(p.category)) && !p.pins?.length,
  },
  {
    id: "loss",
    stage: "heat",
    text: "without a loss",
    is: (p: LibraryPart) => !(p.category && COLD.has(p.category)) && p.lossW === undefined,
  },
  {
    id: "mount",
    stage: "panel",
    text: "without a way to mount them",
    is: (p: LibraryPart) => !(p.category && BARS.has(p.category)) && !p.mounts?.length,
  },
  {
    id: "holes",
    stage: "metalwork",
    text: "without holes",
    // Rails and ducts have slots in them.
    is: (p: LibraryPart) =>
      !(p.category && BARS.has(p.category)) &&
      !p.holes?.length &&
      p.mounts?.some((m) => m.kind === "plate" || m.kind === "door") === true,
  },
  { id: "store", stage: "kits", text: "without a stock place", is: (p: LibraryPart) => p.stock === undefined },
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

/** A part that a design names, and what it lacks there. */
export interface Lacking {
  number: string;
  text: string;
  /** Devices, rails and ducts of this part. */
  devices: number;
  /** Null: nobody describes it. */
  lacks: readonly Lack[] | null;
}

export type Lack = (typeof LACKS)[number];

/** Parts of a design that lack something, those that most devices are of first. O(devices + parts) */
export function lackingParts({ devices, rails, ducts, parts }: Design): Lacking[] {
  const counts = new Map<string, number>();
  for (const { part } of [...devices, ...rails, ...ducts])
    if (part !== NOT_TOLD) counts.set(part, (counts.get(part) ?? 0) + 1);
  const known = new Map(parts.map((p) => [p.number, p]));
  return [...counts]
    .flatMap(([number, count]): Lacking[] => {
      const part = known.get(number);
      const lacks = part ? LACKS.filter((l) => l.is(part)) : null;
      return lacks?.length === 0 ? [] : [{ number, text: part?.text ?? "", devices: count, lacks }];
    })
    .sort(
      (a, b) =>
        Number(a.lacks !== null) - Number(b.lacks !== null) || b.devices - a.devices || (a.number < b.number ? -1 : 1),
    );
}

/** How many parts lack what, and how many devices that concerns, in the order of LACKS. */
export function lacksByKind(lacking: readonly Lacking[]): { lack: Lack; parts: number; devices: number }[] {
  return LACKS.flatMap((lack) => {
    const some = lacking.filter((l) => l.lacks?.includes(lack) ?? lack.id === "size");
    return some.length === 0
      ? []
      : [{ lack, parts: some.length, devices: some.reduce((sum, l) => sum + l.devices, 0) }];
  });
}
