import { flag, maybe, objectOf, type ValueOf } from "../form/form";
import { done, notThere, unfit, type Applied, type EditKind } from "../frame/edits";
import { freeName } from "../design/free-name";
import { lookUp } from "../design/lookup";
import { standsIn } from "../design/stands-in";
import type { Design, Device, PinRef, Wire } from "../design/model";
import { listed } from "../design/open-points";
import { leadsTo, withoutDevices } from "../frame/remove";
import { FORM } from "../design/schema";

/** Edits by which devices come into a design and leave it. */

const tagTaken = (tag: string, tags: ReadonlySet<string>): Applied =>
  unfit(`there is a device ${tag} already`, `The next free tag is ${freeName(tag, tags)}.`);

const tagsOf = (design: Design): Set<string> => new Set(design.devices.map((d) => d.tag));

const addDeviceForm = objectOf({
  tag: FORM.name,
  part: FORM.name,
  enclosure: maybe(FORM.name),
  texts: maybe(FORM.texts),
  sheet: maybe(FORM.text),
});
export interface AddDevice extends ValueOf<typeof addDeviceForm> {}

/** A new device, loose. */
export const addDevice: EditKind<AddDevice, "add device"> = {
  kind: "add device",
  schema: addDeviceForm,
  apply(design, device) {
    const tags = tagsOf(design);
    if (tags.has(device.tag)) return tagTaken(device.tag, tags);
    const look = lookUp(design);
    if (!look.parts.has(device.part)) return notThere("part", device.part);
    if (device.enclosure !== undefined && !look.enclosures.has(device.enclosure))
      return notThere("enclosure", device.enclosure);
    return done({ ...design, devices: [...design.devices, device] });
  },
  sentence: ({ tag, part }) => `${tag} added, part ${part}`,
  touches: ({ tag }) => [{ thing: "device", of: tag }],
};

const copyDevicesForm = objectOf({
  devices: FORM.list(FORM.name).min(1).unique(),
  /** Wires that lead to them are copied too. */
  withWires: flag,
  /** Tags of the copies, one for each; the next free ones where they are not said. */
  as: maybe(FORM.list(FORM.name).unique()),
  /** What is copied of wires, and the numbers of the copies; settled with the tags. */
  wires: maybe(
    FORM.list(
      objectOf({
        wire: FORM.name,
        as: FORM.name,
      }),
    ),
  ),
});
export interface CopyDevices extends ValueOf<typeof copyDevicesForm> {}

/** Devices once more, loose, under tags of their own. Wires between them lead between the copies, others to the pins they lead to now. */
export const copyDevices: EditKind<CopyDevices, "copy devices"> = {
  kind: "copy devices",
  schema: copyDevicesForm,
  settle(design, payload) {
    const tags = tagsOf(design);
    const as = payload.as ?? payload.devices.map((tag) => taking(tags, tag));
    if (!payload.withWires || payload.wires) return { ...payload, as };
    const copied = new Set(payload.devices);
    const numbers = new Set(design.wires.map((w) => w.number));
    const wires = lookUp(design)
      .wires.filter(({ wire }) => !wire.core && leadsTo(wire, copied))
      .map(({ id, wire }) => ({ wire: id, as: taking(numbers, wire.number) }));
    return { ...payload, as, wires };
  },
  apply(design, { devices, as = [], wires = [] }) {
    const look = lookUp(design);
    const tags = tagsOf(design);
    if (as.length !== devices.length)
      return unfit(`${devices.length} devices are copied under ${as.length} tags`, "Give a tag for each.");
    const names = new Map<string, string>();
    const copies: Device[] = [];
    for (const [i, tag] of devices.entries()) {
      const device = look.devices.get(tag);
      if (!device) return notThere("device", tag);
      const name = as[i]!;
      if (tags.has(name)) return tagTaken(name, tags);
      tags.add(name);
      names.set(tag, name);
      const { on: _, item: __, ...rest } = device;
      const enclosure = rest.enclosure ?? standsIn(look, device);
      copies.push({ ...rest, tag: name, ...(enclosure === undefined ? {} : { enclosure }) });
    }
    const numbers = new Set(design.wires.map((w) => w.number));
    const known = new Map(look.wires.map((w) => [w.id, w.wire]));
    const end = (ref: PinRef): PinRef => ({ ...ref, device: names.get(ref.device) ?? ref.device });
    const led: Wire[] = [];
    for (const { wire: id, as: number } of wires) {
      const wire = known.get(id);
      if (!wire) return notThere("wire", id);
      if (numbers.has(number))
        return unfit(`there is a wire ${number} already`, `The next free number is ${freeName(number, numbers)}.`);
      numbers.add(number);
      const { from, to, ...rest } = wire;
      led.push({ ...rest, number, ...(from ? { from: end(from) } : {}), ...(to ? { to: end(to) } : {}) });
    }
    return done({
      ...design,
      devices: [...design.devices, ...copies],
      wires: led.length > 0 ? [...design.wires, ...led] : design.wires,
    });
  },
  sentence: ({ devices, as, wires }) =>
    `${listed(devices)} copied${as ? ` as ${listed(as)}` : ""}${wires?.length ? `, with ${wires.length === 1 ? "wire" : "wires"} ${listed(wires.map((w) => w.as))}` : ""}`,
  touches: ({ devices, as = [], wires = [] }) => [
    ...[...devices, ...as].map((of) => ({ thing: "device" as const, of })),
    ...wires.map(({ as: of }) => ({ thing: "wire" as const, of })),
  ],
};

/** The next free name, which is taken then. */
function taking(names: Set<string>, wanted: string): string {
  const name = freeName(wanted, names);
  names.add(name);
  return name;
}

const removeDevicesForm = objectOf({
  devices: FORM.list(FORM.name).min(1).unique(),
  /** Wires that lead to them go too; else they are loose at that end. */
  withWires: flag,
});
export interface RemoveDevices extends ValueOf<typeof removeDevicesForm> {}

/** Takes devices out of the design. A member of a strip is refused: the edit that takes it off its strip takes along what was said of it there. */
export const removeDevices: EditKind<RemoveDevices, "remove devices"> = {
  kind: "remove devices",
  schema: removeDevicesForm,
  apply(design, { devices, withWires }) {
    const look = lookUp(design);
    const missing = devices.find((tag) => !look.devices.has(tag));
    if (missing !== undefined) return notThere("device", missing);
    const leaving = new Set(devices);
    for (const strip of design.strips) {
      const member = strip.members.find((m) => leaving.has(m));
      if (member !== undefined)
        return unfit(`${member} is a member of strip ${strip.tag}`, "Take it off the strip, out of the design.");
    }
    const carried = design.devices.find((d) => leaving.has(d.on?.slot ?? "") && !leaving.has(d.tag));
    if (carried)
      return unfit(`${carried.tag} sits in ${carried.on!.slot}`, "Place it elsewhere first, or delete it too.");
    return done(withoutDevices(design, leaving, withWires));
  },
  sentence: ({ devices, withWires }) => `${listed(devices)} deleted${withWires ? ", with all wires to them" : ""}`,
  touches: ({ devices }) => devices.map((of) => ({ thing: "device", of })),
};
