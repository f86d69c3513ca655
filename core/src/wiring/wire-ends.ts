import { endRuleIndex, fitsSize, strandOf } from "./conductors";
import { landingsOf, pinKey, sizeOf } from "./landings";
import { lookUp } from "../design/lookup";
import type { Design } from "../design/model";
import type { EndPiece } from "../wireprep/rules";
import { rulesFor, type Rules } from "../shop/rules";
import type { EndTreatment } from "../design/model";
import { isTwin } from "./twin";

/** An end of a wire whose clamp and cross-section are known, and the rule that says what goes on it. */
export interface WireEnd {
  wire: string;
  sizeMm2: number;
  /** Place in the shop's table; below 0 where the job's own rules take it, or none does. */
  row: number;
  end: EndTreatment | null;
}

/** Ends of all wires that are no cores, by the rules of the job before those of the shop. O(wires · rules) */
export function wireEnds(design: Design, shop: Rules): WireEnd[] {
  const look = lookUp(design);
  const rules = rulesFor(shop, design.rules);
  const own = rules.ends.length - shop.ends.length;
  const landings = landingsOf(look, shop.classes);
  const ends: WireEnd[] = [];
  for (const { id, wire } of look.wires) {
    const sizeMm2 = sizeOf(look, wire, shop.classes)?.value;
    if (sizeMm2 === undefined || wire.core) continue;
    const type = wire.type === undefined ? undefined : look.parts.get(wire.type);
    const strand = strandOf(wire, type);
    for (const ref of [wire.from, wire.to]) {
      if (!ref) continue;
      const device = look.devices.get(ref.device);
      const part = device && look.parts.get(device.part);
      const clamp = part && look.pin(part, ref.pin)?.clamp;
      if (clamp === undefined) continue;
      const twin = isTwin(landings.get(pinKey(ref))?.conductors ?? []);
      const at = endRuleIndex(rules, { clamp, strand, twin, sizeMm2 });
      ends.push({ wire: id, sizeMm2, row: at - own, end: rules.ends[at]?.end ?? null });
    }
  }
  return ends;
}

/** What goes on an end, by the first row of the shop that fits. */
export const pieceFor = (end: string, sizeMm2: number, pieces: readonly EndPiece[]): EndPiece | undefined =>
  pieces.find((p) => p.end === end && fitsSize(p, { sizeMm2 }));
