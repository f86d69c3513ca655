import { facesOf, type Face } from "./geometry";
import { canonicalJson } from "./canonical";
import type {
  Cable,
  Crossing,
  Design,
  Device,
  Duct,
  Enclosure,
  Mount,
  Net,
  Part,
  Pin,
  Rail,
  Slot,
  Strip,
  When,
  Wire,
} from "./model";
import { namedTwice } from "./names";
import { byText, mapBy, pushTo } from "./order";

/**
 * A wire as the stages know it: its id is its number, made unique where a number is used twice: the
 * first by content keeps the bare number, the others get "(2)", "(3)".
 */
export interface KnownWire {
  id: string;
  /** Index in the design's list. */
  index: number;
  wire: Wire;
}

/**
 * The design as looked things up in: only what exists with the chosen options, one of two
 * things with one name (whichever comes first by content), and faces derived. O(size of the design).
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
  strips: Map<string, Strip>;
  wires: KnownWire[];
  /** Pins of a part by name. */
  pin(part: Part, name: string): Pin | undefined;
  slot(part: Part, name: string): Slot | undefined;
  /** Names of the pins and slots of a part, and of all rails, in order. */
  pinNames(part: Part): readonly string[];
  slotNames(part: Part): readonly string[];
  railNames: readonly string[];
}

const mounts = new WeakMap<Part, Map<string, Mount>>();

/** The mount of a part of one kind, or undefined. */
export function mountOf<K extends Mount["kind"]>(part: Part, kind: K): Extract<Mount, { kind: K }> | undefined {
  let known = mounts.get(part);
  if (!known) mounts.set(part, (known = mapBy(part.mounts ?? [], (m) => m.kind)));
  return known.get(kind) as Extract<Mount, { kind: K }> | undefined;
}

export function chosenOptions(design: Pick<Design, "options">): Map<string, string> {
  return new Map([...mapBy(design.options, (o) => o.key)].map(([key, o]) => [key, o.chosen]));
}

/** Whether a condition holds. A key that is no option never holds. */
export function holds(when: When | undefined, chosen: ReadonlyMap<string, string>): boolean {
  if (!when) return true;
  return Object.entries(when).every(([key, wanted]) => [wanted].flat().includes(chosen.get(key) ?? "\u0000"));
}

const byTag = (t: { tag: string }): string => t.tag;

/** Each list is looked through when first asked for, so that nobody reads what he has no use for. */
export function lookUp(design: Design): Lookup {
  const chosen = later(() => chosenOptions(design));
  const exists = (t: { when?: When }): boolean => t.when === undefined || holds(t.when, chosen());
  const lists = {
    enclosures: later(() => mapBy(design.enclosures, byTag)),
    faces: later(() => facesOf(design)),
    rails: later(() => mapBy(design.rails, byTag)),
    ducts: later(() => mapBy(design.ducts, byTag)),
    crossings: later(() => mapBy(design.crossings, byTag)),
    parts: later(() => mapBy(design.parts, (p) => p.number)),
    devices: later(() => mapBy(design.devices.filter(exists), byTag)),
    nets: later(() => mapBy(design.nets, (n) => n.name)),
    cables: later(() => mapBy(design.cables.filter(exists), byTag)),
    wires: later(() => knownWires(design, exists)),
    strips: later(() => mapBy(design.strips, byTag)),
    railNames: later((): string[] => [...lists.rails().keys()].sort(byText)),
  };
  const pins = onceFor((part: Part) => mapBy(part.pins ?? [], (p) => p.name));
  const slots = onceFor((part: Part) => mapBy(part.slots ?? [], (s) => s.name));
  const look: Partial<Lookup> = {
    design,
    pin: (part: Part, name: string) => pins(part).get(name),
    slot: (part: Part, name: string) => slots(part).get(name),
    pinNames: onceFor((part: Part) => [...pins(part).keys()].sort(byText)),
    slotNames: onceFor((part: Part) => [...slots(part).keys()].sort(byText)),
  };
  for (const [name, get] of Object.entries(lists)) Object.defineProperty(look, name, { get, enumerable: true });
  return look as Lookup;
}

/** A value worked out when first asked for. */
function later<T>(make: () => T): () => T {
  let made: { value: T } | undefined;
  return () => (made ??= { value: make() }).value;
}

/** A value worked out once for each thing. */
function onceFor<K extends object, T>(make: (thing: K) => T): (thing: K) => T {
  const made = new Map<K, T>();
  return (thing) => {
    let value = made.get(thing);
    if (value === undefined) made.set(thing, (value = make(thing)));
    return value;
  };
}

function knownWires(design: Design, exists: (t: { when?: When }) => boolean): KnownWire[] {
  const wires: KnownWire[] = [];
  design.wires.forEach((wire, index) => {
    if (exists(wire)) wires.push({ id: wire.number, index, wire });
  });
  // Hardly ever is a number used twice.
  if (namedTwice(design.wires, (w) => w.number).size === 0) return wires;
  const alike = new Map<string, KnownWire[]>();
  for (const known of wires) pushTo(alike, known.id, known);
  for (const same of alike.values()) {
    if (same.length === 1) continue;
    const text = new Map(same.map((k) => [k, canonicalJson(k.wire)]));
    same.sort((a, b) => byText(text.get(a)!, text.get(b)!));
    same.forEach((k, n) => {
      if (n > 0) k.id = `${k.wire.number} (${n + 1})`;
    });
  }
  return wires;
}
