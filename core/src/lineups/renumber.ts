import { lookUp } from "../design/lookup";
import type { Design } from "../design/model";

export const NUMBER_BY = ["none", "part", "group"] as const;

export interface RenumberStrip {
  strip: string;
  from: number;
  step: number;
  /** Where a group begins: with another part, or with another group that is kept together. */
  by: (typeof NUMBER_BY)[number];
  /** Each further group begins at the next multiple of this. */
  start: number;
}

/** `-X2.14`: what is counted stands behind the last dot or colon. */
const NUMBERED = /^(.*[.:])(\d{1,9})$/;

/** Old and new names of the members that a rule counts, in order; those that end in no number keep theirs. O(members) */
export function renumbering(
  design: Design,
  { strip: tag, from, step, by, start }: RenumberStrip,
): [was: string, is: string][] {
  const look = lookUp(design);
  const strip = look.strips.get(tag);
  const groupOf = new Map((strip?.groups ?? []).flatMap((g) => g.map((m): [string, string] => [m, g[0]!])));
  const key = (m: string): string =>
    by === "part" ? (look.devices.get(m)?.part ?? "") : by === "group" ? (groupOf.get(m) ?? "") : "";
  const names: [string, string][] = [];
  let next = from;
  let group: string | null = null;
  for (const m of new Set(strip?.members ?? [])) {
    const stem = NUMBERED.exec(m)?.[1];
    if (stem === undefined || !look.devices.has(m)) continue;
    if (group !== null && key(m) !== group) next = Math.ceil(next / start) * start;
    group = key(m);
    names.push([m, `${stem}${next}`]);
    next += step;
  }
  return names;
}
