import { endRuleIndex } from "../design/conductors";
import { landingsOf, pinKey, sizeOf } from "../design/landings";
import { lookUp } from "../design/lookup";
import type { Design } from "../design/model";
import { rulesFor, type Rules } from "../design/rules";
import { isTwin } from "./twin";

/**
 * Which wires each row of a table takes now, by the place of the table. A job's own rows stand before the
 * shop's and take their wires away from them. O(wires · rows).
 */
export const RULE_USE: Readonly<Record<string, (design: Design, shop: Rules) => string[][]>> = {
  ends: endUse,
  "routes.apart": apartUse,
};

function endUse(design: Design, shop: Rules): string[][] {
  const look = lookUp(design);
  const rules = rulesFor(shop, design.rules);
  const own = rules.ends.length - shop.ends.length;
  const landings = landingsOf(look, shop.classes);
  const used = shop.ends.map(() => new Set<string>());
  for (const { id, wire } of look.wires) {
    const sizeMm2 = sizeOf(look, wire, shop.classes)?.value;
    if (sizeMm2 === undefined || wire.core) continue;
    const type = wire.type === undefined ? undefined : look.parts.get(wire.type);
    const strand = wire.strand ?? type?.wire?.strand ?? "fine";
    for (const ref of [wire.from, wire.to]) {
      if (!ref) continue;
      const device = look.devices.get(ref.device);
      const part = device && look.parts.get(device.part);
      const clamp = part && look.pin(part, ref.pin)?.clamp;
      if (clamp === undefined) continue;
      const twin = isTwin(landings.get(pinKey(ref))!.conductors);
      const row = endRuleIndex(rules, { clamp, strand, twin, sizeMm2 });
      if (row >= own) used[row - own]!.add(id);
    }
  }
  return used.map((ids) => [...ids]);
}

function apartUse(design: Design, shop: Rules): string[][] {
  const look = lookUp(design);
  return shop.routes.apart.map((pair) =>
    look.wires
      .filter(({ wire }) => {
        const cls = wire.net === undefined ? undefined : look.nets.get(wire.net)?.class;
        return cls !== undefined && pair.includes(cls);
      })
      .map(({ id }) => id),
  );
}
