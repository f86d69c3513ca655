import { lookUp } from "../design/lookup";
import type { Design } from "../design/model";
import type { Rules } from "../shop/rules";
import { pinPlacer } from "./pin-places";
import { wireEnds } from "../wiring/wire-ends";

/**
 * Which wires each row of a table takes now, by the place of the table. A job's own rows stand before the
 * shop's and take their wires away from them. O(wires · rows).
 */
export const RULE_USE: Readonly<Record<string, (design: Design, shop: Rules) => string[][]>> = {
  ends: endUse,
  "routes.apart": apartUse,
  "routes.pins": pinsUse,
};

function endUse(design: Design, shop: Rules): string[][] {
  const used = shop.ends.map(() => new Set<string>());
  for (const { wire, row } of wireEnds(design, shop)) used[row]?.add(wire);
  return used.map((ids) => [...ids]);
}

function pinsUse(design: Design, shop: Rules): string[][] {
  const look = lookUp(design);
  const { pins } = shop.routes;
  const used = pins.map(() => new Set<string>());
  const place = pinPlacer(look, pins);
  for (const { id, wire } of look.wires)
    for (const end of [wire.from, wire.to]) {
      const part = end && look.parts.get(look.devices.get(end.device)?.part ?? "");
      const row = part && place(part, end.pin)?.row;
      if (row) used[row - 1]!.add(id);
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
