import { onBody, turnExit } from "../design/geometry";
import { lookUp } from "../design/lookup";
import type { Design, Exit, Part } from "../design/model";
import { byText, mapBy } from "../design/order";
import type { PlacedDevice } from "./result";

/** A pin where it stands on its face, mm. Pins whose part gives no position are not among them. */
export interface StandingPin {
  name: string;
  x: number;
  y: number;
  /** As the device is turned. */
  exit: Exit | null;
}

/** The pins of a device that have a position, in order of name. O(pins · log pins). */
export function standingPins(part: Part, device: PlacedDevice): StandingPin[] {
  return [...mapBy(part.pins ?? [], (p) => p.name).values()]
    .flatMap(({ name, x, y, z, exit }): StandingPin[] => {
      if (x === undefined || y === undefined || z === undefined) return [];
      const at = onBody(device, { x, y, z });
      return [{ name, x: at.x, y: at.y, exit: exit === undefined ? null : turnExit(exit, device.turn) }];
    })
    .sort((a, b) => byText(a.name, b.name));
}

/** Pins in use on a device that another part does not have, by name. */
export function unmatchedPins(design: Design, device: string, number: string): string[] {
  const look = lookUp(design);
  const part = look.parts.get(number);
  const used = new Set<string>();
  for (const { wire } of look.wires)
    for (const ref of [wire.from, wire.to]) if (ref?.device === device) used.add(ref.pin);
  for (const cable of look.cables.values())
    for (const core of cable.cores)
      for (const ref of [core.from, core.to]) if (ref?.device === device) used.add(ref.pin);
  return [...used].filter((pin) => !part || !look.pin(part, pin)).sort(byText);
}
