import { alongRail, hungStrips, piecesAt } from "../design/hung";
import { lookUp, type Lookup } from "../design/lookup";
import type { Design, Device, Rail, Strip } from "../design/model";
import { byText } from "../design/order";
import { unfit, type Applied } from "../frame/edits";
import { SHOP_RULES } from "../shop/rules";
import { sidesOf } from "./clashes";

/** What stands on rails, as edits of places see it. */

/** Half a micrometre: sums of widths are off by less. */
export const NOISE_MM = 5e-4;
export const even = (mm: number): number => Math.round(mm * 1e6) / 1e6;
/** Millimetres that are missing, in tenths, never said too few. */
export const missing = (mm: number): number => Math.ceil(mm * 10 - 1e-6) / 10;

/** The strip that is laid and says where a device stands; undefined for what stands by itself. */
export const laidStripOf = ({ strips }: Pick<Design, "strips">, tag: string): Strip | undefined =>
  strips.find((s) => s.at !== undefined && s.members.includes(tag));

/** All devices whose place a strip says. O(members) */
export const heldByStrips = ({ strips }: Pick<Design, "strips">): Set<string> =>
  new Set(strips.flatMap((s) => (s.at === undefined ? [] : s.members)));

/** A member of a strip that is laid stands where the strip says: it is moved there, not by itself. */
export function refuseHeld(design: Design, tag: string): Applied | null {
  const strip = laidStripOf(design, tag);
  return strip
    ? unfit(
        `${tag} stands on strip ${strip.tag}, which is laid on ${strip.rail}`,
        "Move it on the strip, lay the strip at another place, or take it off its rail first.",
      )
    : null;
}

/** Whether a device stands in the slots of such a one, by however many. */
export function isIn(look: Lookup, tag: string, such: (carrier: string) => boolean): boolean {
  const seen = new Set<string>();
  for (let d = look.devices.get(tag); d?.on?.slot !== undefined && !seen.has(d.tag); d = look.devices.get(d.on.slot)) {
    if (such(d.on.slot)) return true;
    seen.add(d.tag);
  }
  return false;
}

/** A stretch of a rail that something stands on; `device`: what may be pushed along. */
export interface Stand {
  from: number;
  to: number;
  device: Device | null;
  /** The tag of the device, or of a strip that is laid. */
  of: string;
}

/**
 * What stands on a rail, from its start on, some devices left out. What is hung on strips is taken as the rules that
 * ship with the product hang it: the shop's own are not known to an edit.
 */
export function standsOn(design: Design, rail: string, but: ReadonlySet<string>): Stand[] {
  const look = lookUp(design);
  const held = heldByStrips(design);
  const stands: Stand[] = [];
  for (const d of look.devices.values())
    if (!but.has(d.tag) && d.on?.rail === rail && d.on.x !== undefined && !held.has(d.tag))
      stands.push({ from: d.on.x, to: d.on.x + (alongRail(d, look) ?? 0), device: d, of: d.tag });
  if (design.strips.some((s) => s.rail === rail && s.at !== undefined))
    for (const hung of hungStrips(look, SHOP_RULES.lineups).values()) {
      if (hung.strip.rail !== rail) continue;
      const at = piecesAt(hung);
      if (at.length === 0) continue;
      const ends = at.map(({ piece, x }) => x + (piece.widthMm ?? 0));
      stands.push({ from: Math.min(...at.map((p) => p.x)), to: Math.max(...ends), device: null, of: hung.strip.tag });
    }
  return stands.sort((a, b) => a.from - b.from || byText(a.of, b.of));
}

/** Where a rail is free behind all that stands on it, mm from its start. */
export const behindLast = (design: Design, rail: string, but: ReadonlySet<string>): number =>
  standsOn(design, rail, but).reduce((end, s) => Math.max(end, s.to), 0);

/** The room that the parts of two neighbours on a rail ask for between them, mm; what hangs on strips asks for none. */
export function gapBetween(before: Device | null, behind: Device | null, rail: Rail, look: Lookup): number {
  const [towards, back] = rail.run === "up" ? (["up", "down"] as const) : (["right", "left"] as const);
  const asks = (device: Device | null, side: string): number => {
    const part = device && look.parts.get(device.part);
    // On an upright rail everything stands a quarter turn further.
    const turn = (((device?.turn ?? 0) + (rail.run === "up" ? 90 : 0)) % 360) as 0 | 90 | 180 | 270;
    return part ? (sidesOf(part, turn).find(([way]) => way === side)?.[1] ?? 0) : 0;
  };
  return Math.max(asks(before, towards), asks(behind, back));
}
