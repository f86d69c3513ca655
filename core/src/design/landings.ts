import { resolve, type Resolved } from "./conductors";
import { lookUp, type Lookup } from "./lookup";
import type { Colour, Design, PinRef, Wire } from "./model";
import { byText } from "./order";
import type { Rules } from "./rules";

/** A conductor under a clamp: a lead, or a core of a cable. */
export interface Conductor {
  /** Number of the wire, or name of the core. */
  of: string;
  /** Cable of a core; null for a lead. */
  cable: string | null;
  sizeMm2: number | null;
}

/** `wire 214`, `core 3 of -W7` */
export const conductorText = ({ of, cable }: Pick<Conductor, "of" | "cable">): string =>
  cable === null ? `wire ${of}` : `core ${of} of ${cable}`;

/** Conductors in words, in an order that does not hang on the order of the file. */
export const conductorTexts = (list: readonly Conductor[]): string[] => list.map(conductorText).sort(byText);

export type Colours = ReadonlyMap<string, Resolved<Colour> | null>;

/**
 * Colour of every wire by the rules of its job, by the id of the wire; null where nobody says one.
 * O(wires). No stage has it in its result: a wire painted over lies where it lay.
 */
export function coloursOf(design: Design, shopClasses: Rules["classes"]): Colours {
  const look = lookUp(design);
  const colours = new Map<string, Resolved<Colour> | null>();
  for (const { id, wire } of look.wires) colours.set(id, colourOf(look, wire, shopClasses));
  return colours;
}

export interface Landing {
  ref: PinRef;
  conductors: Conductor[];
}

export const pinKey = (ref: PinRef): string => `${ref.device}\u0000${ref.pin}`;

/** Colour of a wire by the rules of its job, or null. */
export function colourOf(look: Lookup, wire: Wire, shopClasses: Rules["classes"]): Resolved<Colour> | null {
  const net = wire.net === undefined ? undefined : look.nets.get(wire.net);
  const type = wire.type === undefined ? undefined : look.parts.get(wire.type);
  return resolve("colour", wire, net, type, look.design.rules.classes ?? {}, shopClasses);
}

/** Cross-section of a wire by the rules of its job, or null. */
export function sizeOf(look: Lookup, wire: Wire, shopClasses: Rules["classes"]) {
  const net = wire.net === undefined ? undefined : look.nets.get(wire.net);
  const type = wire.type === undefined ? undefined : look.parts.get(wire.type);
  return resolve("sizeMm2", wire, net, type, look.design.rules.classes ?? {}, shopClasses);
}

/**
 * What lands on every pin, leads and cores alike. A core that is also listed as a wire counts once; what leads to a device that an option
 * leaves out lands nowhere, at its other end neither.
 * O(wires + cores).
 */
export function landingsOf(look: Lookup, shopClasses: Rules["classes"]): Map<string, Landing> {
  const landings = new Map<string, Landing>();
  const listed = new Set<string>();
  const leftOut = new Set(look.design.devices.flatMap((d) => (look.devices.has(d.tag) ? [] : d.tag)));
  const away = (ends: readonly (PinRef | undefined)[]): boolean => ends.some((r) => r && leftOut.has(r.device));
  const land = (ref: PinRef, conductor: Conductor): void => {
    const key = pinKey(ref);
    const there = landings.get(key);
    if (there) there.conductors.push(conductor);
    else landings.set(key, { ref, conductors: [conductor] });
  };
  for (const { id, wire } of look.wires) {
    if (away([wire.from, wire.to])) continue;
    const sizeMm2 = sizeOf(look, wire, shopClasses)?.value ?? null;
    for (const ref of [wire.from, wire.to]) {
      if (!ref) continue;
      land(ref, { of: id, cable: null, sizeMm2 });
      if (wire.core) listed.add(`${wire.core.cable}\u0000${wire.core.core}\u0000${pinKey(ref)}`);
    }
  }
  for (const cable of look.cables.values()) {
    const ofType = look.parts.get(cable.type)?.cable?.sizeMm2;
    for (const core of cable.cores) {
      if (away([core.from, core.to])) continue;
      const sizeMm2 = core.sizeMm2 ?? ofType ?? null;
      for (const ref of [core.from, core.to]) {
        if (!ref || listed.has(`${cable.tag}\u0000${core.core}\u0000${pinKey(ref)}`)) continue;
        land(ref, { of: core.core, cable: cable.tag, sizeMm2 });
      }
    }
  }
  return landings;
}

/**
 * How many conductors land on each pin: of `landingsOf` their number alone, in a fraction of the time. One where nothing is known
 * of a pin. O(wires + cores)
 */
export function landingCounts(look: Lookup): (ref: PinRef) => number {
  const counts = new Map<string, Map<string, number>>();
  const listed = new Set<string>();
  const leftOut = new Set(look.design.devices.flatMap((d) => (look.devices.has(d.tag) ? [] : d.tag)));
  const away = (ref: PinRef | undefined): boolean => ref !== undefined && leftOut.has(ref.device);
  const land = (ref: PinRef): void => {
    let pins = counts.get(ref.device);
    if (!pins) counts.set(ref.device, (pins = new Map()));
    pins.set(ref.pin, (pins.get(ref.pin) ?? 0) + 1);
  };
  for (const { wire } of look.wires) {
    if (away(wire.from) || away(wire.to)) continue;
    for (const ref of [wire.from, wire.to]) {
      if (!ref) continue;
      land(ref);
      if (wire.core) listed.add(`${wire.core.cable}\u0000${wire.core.core}\u0000${pinKey(ref)}`);
    }
  }
  for (const cable of look.cables.values())
    for (const core of cable.cores) {
      if (away(core.from) || away(core.to)) continue;
      for (const ref of [core.from, core.to])
        if (ref && !listed.has(`${cable.tag}\u0000${core.core}\u0000${pinKey(ref)}`)) land(ref);
    }
  return (ref) => counts.get(ref.device)?.get(ref.pin) ?? 1;
}

export const samePin = (a: PinRef | null | undefined, b: PinRef | null | undefined): boolean =>
  !!a && !!b && a.device === b.device && a.pin === b.pin;
