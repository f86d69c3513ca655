import { lookUp } from "../design/lookup";
import type { Design } from "../design/model";
import type { Thing } from "../design/open-points";
import { standsIn } from "../design/stands-in";

/** Something that was found. */
export interface Found {
  thing: Thing;
  of: string;
  /** What stands beside it: part text, ends of a wire. */
  text: string;
  /** Of a part: devices, rails, ducts, wires and cables that are of it. */
  uses?: number;
  /** Of a device: the pin that was asked for. */
  pin?: string;
}

/** Something that can be searched for. */
export interface Entry extends Omit<Found, "pin"> {
  /** Other names people know it by: a device with its enclosure. */
  also?: string[];
  /** Of a device: its pins. */
  pins?: string[];
}

/** Everything of a design that has a tag, number or name, in the order of the design. O(things + pins) */
export function searchEntries(design: Design): Entry[] {
  const look = lookUp(design);
  const parts = new Map(design.parts.map((p) => [p.number, p]));
  const uses = new Map<string, number>();
  const use = (part: string | undefined): void => {
    if (part !== undefined) uses.set(part, (uses.get(part) ?? 0) + 1);
  };
  for (const { part } of [...design.devices, ...design.rails, ...design.ducts]) use(part);
  for (const { type } of [...design.wires, ...design.cables]) use(type);
  for (const { jumpers = [] } of design.strips) for (const { part } of jumpers) use(part);
  const entry = (thing: Thing, of: string, text: string): Entry => ({ thing, of, text });
  return [
    ...design.devices.map((d): Entry => {
      const part = parts.get(d.part);
      const enclosure = standsIn(look, d);
      const pins = part?.pins?.map((p) => p.name) ?? [];
      return {
        ...entry("device", d.tag, [part?.text ?? d.part, ...(d.texts ?? [])].join(", ")),
        ...(enclosure === undefined ? {} : { also: [`${enclosure}${d.tag}`] }),
        ...(pins.length > 0 ? { pins } : {}),
      };
    }),
    ...design.wires.map((w) =>
      entry("wire", w.number, `${endText(w.from)} to ${endText(w.to)}${w.net ? `, ${w.net}` : ""}`),
    ),
    ...design.ducts.map((d) => entry("duct", d.tag, `duct on ${d.face}`)),
    ...design.rails.map((r) => entry("rail", r.tag, `rail on ${r.face}`)),
    ...design.crossings.map((c) => entry("crossing", c.tag, c.kind)),
    ...design.nets.map((n) => entry("net", n.name, n.class ?? "no class")),
    ...design.cables.map((c) => entry("cable", c.tag, [c.from, c.to].filter(Boolean).join(" to "))),
    ...design.strips.map((s) => entry("strip", s.tag, `${s.members.length} members`)),
    ...design.parts.map((p): Entry => {
      const count = uses.get(p.number);
      return { ...entry("part", p.number, p.text), ...(count === undefined ? {} : { uses: count }) };
    }),
    ...design.enclosures.map((e) => entry("enclosure", e.tag, e.text ?? "")),
    ...[...look.faces].map(([id, f]) => entry("face", id, `${f.w} × ${f.h} mm`)),
  ];
}

const endText = (end: { device: string; pin: string } | undefined): string => (end ? `${end.device}:${end.pin}` : "?");
