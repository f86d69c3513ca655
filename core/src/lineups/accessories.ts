import type { Lookup } from "../design/lookup";
import type { Part } from "../design/model";
import { byText } from "../design/order";
import type { Accessory, Member } from "./result";

/** The accessory of a kind that the library has; of several the first by number. O(parts) */
export const accessoryOf = (look: Lookup, kind: Accessory["kind"]): Part | undefined =>
  [...look.parts.values()].filter((p) => p.accessory === kind).sort((a, b) => byText(a.number, b.number))[0];

/** Terminals stand flush where they are of one height and depth. */
const sameProfile = (a: Part | undefined, b: Part | undefined): boolean => !!a && !!b && a.h === b.h && a.d === b.d;

/**
 * Members with what the rules hang between them: end stops at both ends and after every so many members, end plates
 * where the open side of a terminal is not covered by one of its profile. O(members)
 * @param stop the part of end stops
 * @param every members after which an end stop comes; 0: at the ends only
 */
export function withAccessories(
  look: Lookup,
  members: readonly Member[],
  stop: Part | undefined,
  every: number,
): (Member | Accessory)[] {
  const parts = members.map((m) => (m.part === null ? undefined : look.parts.get(m.part)));
  const make = (kind: Accessory["kind"], part: Part | undefined, why: string): Accessory => ({
    kind,
    part: part?.number ?? null,
    widthMm: part?.w ?? null,
    why,
  });
  const plate = (i: number, why: string): Accessory => {
    const number = parts[i]!.terminal!.endPlate;
    const part = number === undefined ? undefined : look.parts.get(number);
    return { ...make("end plate", part, why), part: number ?? null };
  };
  const items: (Member | Accessory)[] = [];
  members.forEach((member, i) => {
    const open = parts[i]?.terminal?.openSide ?? "none";
    const stopBefore = i === 0 ? "begins the strip" : every > 0 && i % every === 0 ? `after ${every} members` : null;
    if (stopBefore !== null) items.push(make("end stop", stop, stopBefore));
    const covered = (j: number): boolean =>
      !(every > 0 && Math.max(i, j) % every === 0) && sameProfile(parts[i], parts[j]);
    if (open === "left" && (i === 0 || !covered(i - 1))) items.push(plate(i, `closes the open side of ${member.tag}`));
    items.push(member);
    if (open === "right" && (i === members.length - 1 || !covered(i + 1)))
      items.push(plate(i, `closes the open side of ${member.tag}`));
  });
  if (members.length > 0) items.push(make("end stop", stop, "ends the strip"));
  return items;
}

/** Sum of all widths; null when one is not known. */
export const lengthOf = (items: readonly (Member | Accessory)[]): number | null => {
  let sum = 0;
  for (const { widthMm } of items) {
    if (widthMm === null) return null;
    sum += widthMm;
  }
  // Tenths of thousandths: what is left is noise of the sum.
  return Math.round(sum * 1e4) / 1e4;
};
