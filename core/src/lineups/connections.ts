import { resolve } from "../wiring/conductors";
import { enclosureOf } from "../design/geometry";
import { conductorText, pinKey } from "../wiring/landings";
import type { Lookup } from "../design/lookup";
import type { Device, NetClass, PinRef, Side } from "../design/model";
import type { Rules } from "../shop/rules";
import type { Connection } from "./result";

const endText = ({ device, pin }: PinRef): string => `${device}:${pin}`;

/** The enclosure a device stands in, by way of its face, rail or slot; undefined where none is known. */
export function enclosures(look: Lookup): (tag: string) => string | undefined {
  const known = new Map<string, string | undefined>();
  const own = ({ on, enclosure }: Device): string | undefined => {
    const face = on?.face ?? (on?.rail === undefined ? undefined : look.rails.get(on.rail)?.face);
    if (face === undefined) return enclosure;
    const tag = enclosureOf(face);
    return look.enclosures.has(tag) ? tag : undefined;
  };
  return (tag) => {
    const chain: string[] = [];
    let at: string | undefined = tag;
    let found: string | undefined;
    while (at !== undefined && !chain.includes(at) && chain.length < MOST_SLOTS) {
      if (known.has(at)) {
        found = known.get(at);
        break;
      }
      chain.push(at);
      const device: Device | undefined = look.devices.get(at);
      found = device && own(device);
      at = found === undefined ? device?.on?.slot : undefined;
    }
    for (const t of chain) known.set(t, found);
    return found;
  };
}

/** Deeper than devices are plugged into each other. */
const MOST_SLOTS = 40;

/**
 * What lands on the pins of some devices, with the side it lies on by what it is: a core is outside, a wire to a device of the same
 * enclosure inside, a wire to another enclosure where the shop says, outside where it does not. A core that is also listed as a wire counts once.
 * O(wires + cores).
 */
export function connectionsOf(look: Lookup, shop: Rules, wanted: ReadonlySet<string>): Map<string, Connection[]> {
  const all = new Map<string, Connection[]>();
  const enclosureOf = enclosures(look);
  const jobClasses = look.design.rules.classes ?? {};
  const here = (ref: PinRef | undefined): boolean => ref !== undefined && wanted.has(ref.device);
  const listed = new Set<string>();
  const land = (ref: PinRef, connection: Connection): void => {
    const key = pinKey(ref);
    const there = all.get(key);
    if (there) there.push(connection);
    else all.set(key, [connection]);
  };
  /** The shop says where wires to another enclosure lie; outside where it does not. */
  const farSide = (of: NetClass | undefined): Side =>
    shop.lineups.farSide.find((row) => row.class === undefined || row.class === of)?.side ?? "outside";
  const sideOf = (ref: PinRef, other: PinRef | undefined, of: NetClass | undefined): Side => {
    const [here, there] = [enclosureOf(ref.device), other && enclosureOf(other.device)];
    return here !== undefined && there !== undefined && here !== there ? farSide(of) : "inside";
  };
  for (const { id, wire } of look.wires) {
    if (!here(wire.from) && !here(wire.to)) continue;
    const net = wire.net === undefined ? undefined : look.nets.get(wire.net);
    const type = wire.type === undefined ? undefined : look.parts.get(wire.type);
    const sizeMm2 = resolve("sizeMm2", wire, net, type, jobClasses, shop.classes)?.value ?? null;
    const colour = resolve("colour", wire, net, type, jobClasses, shop.classes)?.value ?? null;
    for (const [ref, other] of [
      [wire.from, wire.to],
      [wire.to, wire.from],
    ]) {
      if (!ref || !here(ref)) continue;
      const { core } = wire;
      if (core) listed.add(`${core.cable}\u0000${core.core}\u0000${pinKey(ref)}`);
      land(ref, {
        conductor: core ? conductorText({ of: core.core, cable: core.cable }) : conductorText({ of: id, cable: null }),
        wire: id,
        cable: core?.cable ?? null,
        core: core?.core ?? null,
        colour,
        sizeMm2,
        net: wire.net ?? null,
        pin: ref.pin,
        far: other ? endText(other) : null,
        side: core ? "outside" : sideOf(ref, other, net?.class),
        decided: false,
      });
    }
  }
  for (const cable of look.cables.values()) {
    const ofType = look.parts.get(cable.type)?.cable?.sizeMm2;
    for (const core of cable.cores) {
      for (const [ref, other] of [
        [core.from, core.to],
        [core.to, core.from],
      ]) {
        if (!ref || !here(ref) || listed.has(`${cable.tag}\u0000${core.core}\u0000${pinKey(ref)}`)) continue;
        land(ref, {
          conductor: conductorText({ of: core.core, cable: cable.tag }),
          wire: null,
          cable: cable.tag,
          core: core.core,
          colour: core.colour ?? null,
          sizeMm2: core.sizeMm2 ?? ofType ?? null,
          net: core.net ?? null,
          pin: ref.pin,
          far: other ? endText(other) : (core.far ?? null),
          side: "outside",
          decided: false,
        });
      }
    }
  }
  return all;
}
