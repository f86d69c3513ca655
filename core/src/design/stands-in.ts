import { enclosureOf } from "./geometry";
import type { Lookup } from "./lookup";
import type { Device } from "./model";

/** The enclosure a device stands in; undefined while it stands nowhere. */
export function standsIn(look: Lookup, device: Device): string | undefined {
  const seen = new Set<string>();
  for (let d: Device | undefined = device; d && !seen.has(d.tag); d = look.devices.get(d.on?.slot ?? "")) {
    seen.add(d.tag);
    const face = d.on?.face ?? look.rails.get(d.on?.rail ?? "")?.face;
    if (face !== undefined) return enclosureOf(face);
    if (d.enclosure !== undefined) return d.enclosure;
  }
  return undefined;
}
