import { facesOf, type Face } from "./geometry";
import type { Cable, Crossing, Design, Device, Duct, Enclosure, Net, Part, Pin, Rail, When, Wire } from "./model";

/** A wire as the stages know it: its id is its number, made unique where a number is used twice. */
export interface KnownWire {
  id: string;
  /** Index in the design's list. */
  index: number;
  wire: Wire;
}

/**
 * The design as looked things up in: only what exists with the chosen options, the first of two
 * things with one name, and faces derived. O(size of the design).
 */
export interface Lookup {
  design: Design;
  enclosures: Map<string, Enclosure>;
  faces: Map<string, Face>;
  rails: Map<string, Rail>;
  ducts: Map<string, Duct>;
  crossings: Map<string, Crossing>;
  parts: Map<string, Part>;
  devices: Map<string, Device>;
  nets: Map<string, Net>;
  cables: Map<string, Cable>;
  wires: KnownWire[];
  /** Pins of a part by name. */
  pin(part: Part, name: string): Pin | undefined;
}

export function chosenOptions(design: Pick<Design, "options">): Map<string, string> {
  return new Map(design.options.map((o) => [o.key, o.chosen]));
}

/** Whether a condition holds. A key that is no option never holds. */
export function holds(when: When | undefined, chosen: ReadonlyMap<string, string>): boolean {
  if (!when) return true;
  return Object.entries(when).every(([key, wanted]) => [wanted].flat().includes(chosen.get(key) ?? "\u0000"));
}

function firstBy<T>(items: readonly T[], key: (item: T) => string): Map<string, T> {
  const map = new Map<string, T>();
  for (const item of items) if (!map.has(key(item))) map.set(key(item), item);
  return map;
}

const byTag = (t: { tag: string }): string => t.tag;

export function lookUp(design: Design): Lookup {
  const chosen = chosenOptions(design);
  const exists = (t: { when?: When }): boolean => holds(t.when, chosen);
  const pinsByPart = new Map<Part, Map<string, Pin>>();
  const seen = new Map<string, number>();
  const wires: KnownWire[] = [];
  design.wires.forEach((wire, index) => {
    if (!exists(wire)) return;
    const count = (seen.get(wire.number) ?? 0) + 1;
    seen.set(wire.number, count);
    wires.push({ id: count === 1 ? wire.number : `${wire.number} (${count})`, index, wire });
  });
  return {
    design,
    enclosures: firstBy(design.enclosures, byTag),
    faces: facesOf(design),
    rails: firstBy(design.rails, byTag),
    ducts: firstBy(design.ducts, byTag),
    crossings: firstBy(design.crossings, byTag),
    parts: firstBy(design.parts, (p) => p.number),
    devices: firstBy(design.devices.filter(exists), byTag),
    nets: firstBy(design.nets, (n) => n.name),
    cables: firstBy(design.cables.filter(exists), byTag),
    wires,
    pin(part, name) {
      let pins = pinsByPart.get(part);
      if (!pins) {
        pins = firstBy(part.pins ?? [], (p) => p.name);
        pinsByPart.set(part, pins);
      }
      return pins.get(name);
    },
  };
}
