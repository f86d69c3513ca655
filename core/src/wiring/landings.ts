import { Again } from "../frame/again";
import { resolve, type Resolved } from "./conductors";
import { lookUp, type KnownWire, type Lookup } from "../design/lookup";
import type { Cable, Colour, Design, PinRef, Wire } from "../design/model";
import { byText } from "../design/order";
import type { Rules } from "../shop/rules";

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
  eachEnd(look, (ref, { known, cable, core }) => {
    const conductor: Conductor = known
      ? { of: known.id, cable: null, sizeMm2: sizeOf(look, known.wire, shopClasses)?.value ?? null }
      : {
          of: core.core,
          cable: cable.tag,
          sizeMm2: core.sizeMm2 ?? look.parts.get(cable.type)?.cable?.sizeMm2 ?? null,
        };
    const key = pinKey(ref);
    const there = landings.get(key);
    if (there) there.conductors.push(conductor);
    else landings.set(key, { ref, conductors: [conductor] });
  });
  return landings;
}

/** A wire, or a core of a cable. */
type Landed =
  { known: KnownWire; cable?: never; core?: never } | { known?: never; cable: Cable; core: Cable["cores"][number] };

/** Every end that lands somewhere: see `landingsOf`. */
function eachEnd(look: Lookup, land: (ref: PinRef, of: Landed) => void): void {
  const listed = new Set<string>();
  const leftOut = new Set(look.design.devices.flatMap((d) => (look.devices.has(d.tag) ? [] : d.tag)));
  const away = (ref: PinRef | undefined): boolean => ref !== undefined && leftOut.has(ref.device);
  for (const known of look.wires) {
    const { wire } = known;
    if (away(wire.from) || away(wire.to)) continue;
    const of = { known };
    for (const ref of [wire.from, wire.to]) {
      if (!ref) continue;
      land(ref, of);
      if (wire.core) listed.add(`${wire.core.cable}\u0000${wire.core.core}\u0000${pinKey(ref)}`);
    }
  }
  for (const cable of look.cables.values())
    for (const core of cable.cores) {
      if (away(core.from) || away(core.to)) continue;
      for (const ref of [core.from, core.to])
        if (ref && !listed.has(`${cable.tag}\u0000${core.core}\u0000${pinKey(ref)}`)) land(ref, { cable, core });
    }
}

/**
 * How many conductors land on each pin: of `landingsOf` their number alone, in a fraction of the time. One where nothing is known
 * of a pin. O(wires + cores); where all ends lie as they did it is looked up
 */
export function landingCounts(look: Lookup): (ref: PinRef) => number {
  const { devices, cables, options } = look.design;
  // What a wire is beside its ends moves none of them.
  const setting: unknown[] = [cables, options];
  for (const { wire } of look.wires) setting.push(wire.from, wire.to, wire.core);
  const counts = countsOf.of(devices, setting, () => {
    const all = new Map<string, Map<string, number>>();
    eachEnd(look, (ref) => {
      let pins = all.get(ref.device);
      if (!pins) all.set(ref.device, (pins = new Map()));
      pins.set(ref.pin, (pins.get(ref.pin) ?? 0) + 1);
    });
    return all;
  });
  return (ref) => counts.get(ref.device)?.get(ref.pin) ?? 1;
}

/** How many land, by device and pin. */
const countsOf = new Again<Design["devices"], ReadonlyMap<string, ReadonlyMap<string, number>>>();

export const samePin = (a: PinRef | null | undefined, b: PinRef | null | undefined): boolean =>
  !!a && !!b && a.device === b.device && a.pin === b.pin;
