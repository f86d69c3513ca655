import { alongRail } from "../design/hung";
import { lookUp, mountOf } from "../design/lookup";
import type { Design, Device, Place } from "../design/model";
import { byText } from "../design/order";
import { FORM } from "../design/schema";
import { maybe, objectOf, oneOf, type ValueOf } from "../form/form";
import { changed, done, notThere, unfit, withFields, type AnyEditKind, type EditKind } from "../frame/edits";
import { addBar, removeBars, setBar } from "./bar-edits";
import { align, closeGaps, evenOut, lineUp, placeMany, swapPlaces } from "./row-edits";
import { behindLast, even, gapBetween, missing, NOISE_MM, refuseHeld, standsOn, type Stand } from "./stands";

/** Edits of what stands where: devices, rails and ducts. */

/** The device of a tag that counts with the chosen options, changed. */
const onDevice = (design: Design, device: Device, change: (d: Device) => Device): Design => ({
  ...design,
  devices: changed(design.devices, (d) => d === device, change),
});

// ---- devices ---------------------------------------------------------------------------------------

const placeDeviceForm = objectOf({
  device: FORM.name,
  on: FORM.place.xor("face", "rail", "slot"),
  turn: maybe(FORM.turn),
});
export interface PlaceDevice extends ValueOf<typeof placeDeviceForm> {}

/** Puts a device on a face, on a rail (behind its last device when no place is given) or into a slot. */
export const placeDevice: EditKind<PlaceDevice, "place"> = {
  kind: "place",
  schema: placeDeviceForm,
  apply(design, { device: tag, on, turn }) {
    const look = lookUp(design);
    const device = look.devices.get(tag);
    if (!device) return notThere("device", tag);
    const held = refuseHeld(design, tag);
    if (held) return held;
    let place = on;
    if (on.face !== undefined) {
      if (!look.faces.has(on.face)) return notThere("face", on.face);
      if (on.x === undefined || on.y === undefined)
        return unfit("a place on a face needs x and y", "Give the lower left corner of the body.");
    } else if (on.rail !== undefined) {
      if (!look.rails.has(on.rail)) return notThere("rail", on.rail);
      if (on.x === undefined) place = { ...on, x: behindLast(design, on.rail, new Set([tag])) };
    } else {
      const parent = look.devices.get(on.slot!);
      const part = parent && look.parts.get(parent.part);
      if (!parent) return notThere("device", on.slot!);
      if (!part || !look.slot(part, on.name ?? "")) {
        const free = (part?.slots ?? []).map((s) => s.name).sort(byText);
        return unfit(
          `${on.slot} has no slot ${on.name ?? "?"}`,
          free.length > 0 ? `It has: ${free.join(", ")}.` : "Its part has no slots.",
        );
      }
      for (
        let p: Device | undefined = parent;
        p;
        p = p.on?.slot === undefined ? undefined : look.devices.get(p.on.slot)
      ) {
        if (p.tag === tag) return unfit(`${tag} would sit in itself`, "Choose a slot of another device.");
        if (p.on?.slot === p.tag) break;
      }
    }
    return done(onDevice(design, device, (d) => ({ ...d, on: place, ...(turn === undefined ? {} : { turn }) })));
  },
  sentence: ({ device, on, turn }) => `${device} placed ${placeText(on)}${turn ? `, turned by ${turn}°` : ""}`,
  touches: ({ device }) => [{ thing: "device", of: device }],
};

const placeText = ({ face, rail, slot, name, x, y }: Place): string =>
  face !== undefined
    ? `on ${face} at ${x ?? "?"}, ${y ?? "?"} mm`
    : rail !== undefined
      ? `on ${rail} ${x === undefined ? "behind its last device" : `at ${x} mm`}`
      : `in slot ${name ?? "?"} of ${slot}`;

const insertDeviceForm = objectOf({
  device: FORM.name,
  beside: FORM.name,
  side: oneOf(["before", "behind"]),
  /** Left free on its side towards `beside`; what their parts ask for, when absent. */
  gap: maybe(FORM.mm.min(0)),
});
export interface InsertDevice extends ValueOf<typeof insertDeviceForm> {}

/** Puts a device on a rail before or behind another one; what stands in the way is pushed along, no further than needed and no nearer than parts ask. */
export const insertDevice: EditKind<InsertDevice, "insert"> = {
  kind: "insert",
  schema: insertDeviceForm,
  apply(design, { device: tag, beside, side, gap }) {
    const look = lookUp(design);
    const device = look.devices.get(tag);
    if (!device) return notThere("device", tag);
    const other = look.devices.get(beside);
    if (!other) return notThere("device", beside);
    if (beside === tag) return unfit(`${tag} cannot stand beside itself`, "Choose another device.");
    const held = refuseHeld(design, tag) ?? refuseHeld(design, beside);
    if (held) return held;
    const rail = other.on?.rail === undefined ? undefined : look.rails.get(other.on.rail);
    if (!rail || other.on?.x === undefined)
      return unfit(`${beside} stands on no rail`, "Choose a device that stands on a rail, or give a place.");
    const wide = alongRail(device, look);
    if (wide === null) return unfit(`how wide ${tag} is, is not known`, "Add its part to the library.");
    const stands = standsOn(design, rail.tag, new Set([tag]));
    const [from, to] = [other.on.x, other.on.x + (alongRail(other, look) ?? 0)];
    // What begins before the place stays.
    const isAfter = (s: Stand): boolean =>
      side === "behind" ? s.from >= to - NOISE_MM && s.device !== other : s.from >= from - NOISE_MM;
    const left = stands.filter((s) => !isAfter(s)).at(-1);
    const start =
      side === "behind"
        ? to + (gap ?? gapBetween(other, device, rail, look))
        : Math.max(from, left ? left.to + gapBetween(left.device, device, rail, look) : 0);
    const moved = new Map<Device, number>();
    let before: { end: number; was: number; device: Device | null } = { end: start + wide, was: -Infinity, device };
    // What comes to stand further along than it did; what lies beyond the end of the rail already is told as that.
    let reach = start + wide;
    for (const s of stands) {
      if (!isAfter(s)) continue;
      const asked = gapBetween(before.device, s.device, rail, look);
      // Those that stood nearer to each other than their parts ask are not drawn apart.
      const room = before.device === device ? (s.device === other && gap !== undefined ? gap : asked) : Math.max(0, Math.min(asked, s.from - before.was)); // prettier-ignore
      const wanted = Math.max(s.from, before.end + room);
      if (wanted > s.from + NOISE_MM) {
        if (s.device === null)
          return unfit(
            `strip ${s.of}, which is laid on ${rail.tag}, stands in the way`,
            "Lay the strip at another place first, or choose another device.",
          );
        moved.set(s.device, even(wanted));
        before = { end: wanted + (s.to - s.from), was: s.to, device: s.device };
        reach = Math.max(reach, before.end);
      } else if (s.to >= before.end) before = { end: s.to, was: s.to, device: s.device };
    }
    if (reach > rail.length + NOISE_MM)
      return unfit(
        `${rail.tag} has no room for ${tag} there: ${missing(reach - rail.length)} mm are missing at its end`,
        "Choose another rail, move what stands there, or lengthen the rail.",
      );
    const on: Place = { rail: rail.tag, x: even(start) };
    return done({
      ...design,
      devices: design.devices.map((d) =>
        d === device ? { ...d, on } : moved.has(d) ? { ...d, on: { ...d.on, x: moved.get(d)! } } : d,
      ),
    });
  },
  sentence: ({ device, beside, side, gap }) =>
    `${device} put ${side} ${beside}${gap ? `, ${gap} mm apart` : ""}; what stood in its way was pushed along`,
  touches: ({ device, beside }) => [
    { thing: "device", of: device },
    { thing: "device", of: beside },
  ],
};

const turnDeviceForm = objectOf({
  device: FORM.name,
  turn: FORM.turn,
});
export interface TurnDevice extends ValueOf<typeof turnDeviceForm> {}

export const turnDevice: EditKind<TurnDevice, "turn"> = {
  kind: "turn",
  schema: turnDeviceForm,
  apply(design, { device: tag, turn }) {
    const device = lookUp(design).devices.get(tag);
    return device ? done(onDevice(design, device, (d) => ({ ...d, turn }))) : notThere("device", tag);
  },
  sentence: ({ device, turn }) => `${device} turned to ${turn}°`,
  touches: ({ device }) => [{ thing: "device", of: device }],
};

const liftDeviceForm = objectOf({
  device: FORM.name,
});
export interface LiftDevice extends ValueOf<typeof liftDeviceForm> {}

/** Takes a device off its place; it is loose then. */
export const liftDevice: EditKind<LiftDevice, "lift"> = {
  kind: "lift",
  schema: liftDeviceForm,
  apply(design, { device: tag }) {
    const device = lookUp(design).devices.get(tag);
    if (!device) return notThere("device", tag);
    const held = refuseHeld(design, tag);
    if (held) return held;
    if (!device.on) return unfit(`${tag} has no place`, "It is loose already.");
    return done(onDevice(design, device, (d) => withFields(d, { on: null })));
  },
  sentence: ({ device }) => `${device} lifted off its place`,
  touches: ({ device }) => [{ thing: "device", of: device }],
};

const swapPartForm = objectOf({
  device: FORM.name,
  part: FORM.name,
});
export interface SwapPart extends ValueOf<typeof swapPartForm> {}

/** Another part for a device. Pins are matched by name; what does not match becomes an open point. */
export const swapPart: EditKind<SwapPart, "swap part"> = {
  kind: "swap part",
  schema: swapPartForm,
  apply(design, { device: tag, part }) {
    const look = lookUp(design);
    const device = look.devices.get(tag);
    if (!device) return notThere("device", tag);
    if (!look.parts.has(part)) return notThere("part", part);
    if (device.part === part) return unfit(`${tag} is part ${part} already`, "Choose another part.");
    if (device.on?.rail !== undefined && !mountOf(look.parts.get(part)!, "rail"))
      return unfit(
        `part ${part} has no mount for a rail, and ${tag} stands on ${device.on.rail}`,
        "Place the device elsewhere first, or choose a part for rails.",
      );
    return done(onDevice(design, device, (d) => ({ ...d, part })));
  },
  sentence: ({ device, part }) => `${device} is now part ${part}`,
  touches: ({ device }) => [{ thing: "device", of: device }],
};

export const PANEL_EDITS = [
  placeDevice,
  insertDevice,
  turnDevice,
  liftDevice,
  swapPart,
  setBar,
  lineUp,
  placeMany,
  closeGaps,
  evenOut,
  align,
  swapPlaces,
  addBar,
  removeBars,
] as const satisfies readonly AnyEditKind[];
