import { maybe, objectOf, oneOf, type ValueOf } from "../form/form";
import {
  changed,
  done,
  notThere,
  unfit,
  withFields,
  type AnyEditKind,
  type Applied,
  type EditKind,
} from "../frame/edits";
import { alongRail, hungStrips, piecesAt } from "../design/hung";
import { lookUp, mountOf } from "../design/lookup";
import type { Design, Device, Duct, Place, Rail } from "../design/model";
import { byText } from "../design/order";
import { SHOP_RULES } from "../shop/rules";
import { FORM } from "../design/schema";

/** Edits of what stands where: devices, rails and ducts. */

/** The device of a tag that counts with the chosen options, changed. */
const onDevice = (design: Design, device: Device, change: (d: Device) => Device): Design => ({
  ...design,
  devices: changed(design.devices, (d) => d === device, change),
});

/** A member of a strip that is laid stands where the strip says: it is moved there, not by itself. */
const heldBy = ({ strips }: Design, tag: string): Applied | null => {
  const strip = strips.find((s) => s.at !== undefined && s.members.includes(tag));
  return strip
    ? unfit(
        `${tag} stands on strip ${strip.tag}, which is laid on ${strip.rail}`,
        "Move it on the strip, lay the strip at another place, or take it off its rail first.",
      )
    : null;
};

/**
 * Where a rail is free behind its last device and the last strip that is laid on it, mm from its start. What is hung on
 * strips is taken as the rules that ship with the product hang it: the shop's own are not known to an edit.
 */
export function behindLast(design: Design, rail: string, but: string): number {
  const look = lookUp(design);
  let end = 0;
  for (const d of look.devices.values())
    if (d.tag !== but && d.on?.rail === rail && d.on.x !== undefined)
      end = Math.max(end, d.on.x + (alongRail(d, look) ?? 0));
  if (design.strips.some((s) => s.rail === rail && s.at !== undefined))
    for (const hung of hungStrips(look, SHOP_RULES.lineups).values())
      if (hung.strip.rail === rail)
        for (const { piece, x } of piecesAt(hung)) end = Math.max(end, x + (piece.widthMm ?? 0));
  return end;
}

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
    const held = heldBy(design, tag);
    if (held) return held;
    let place = on;
    if (on.face !== undefined) {
      if (!look.faces.has(on.face)) return notThere("face", on.face);
      if (on.x === undefined || on.y === undefined)
        return unfit("a place on a face needs x and y", "Give the lower left corner of the body.");
    } else if (on.rail !== undefined) {
      if (!look.rails.has(on.rail)) return notThere("rail", on.rail);
      if (on.x === undefined) place = { ...on, x: behindLast(design, on.rail, tag) };
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
  /** Left free on its side towards `beside`; none when absent. */
  gap: maybe(FORM.mm.min(0)),
});
export interface InsertDevice extends ValueOf<typeof insertDeviceForm> {}

/** A stretch of a rail that something stands on; `device`: what may be pushed along. */
interface Stand {
  from: number;
  to: number;
  device: Device | null;
  /** A strip that is laid. */
  of: string;
}

/** What stands on a rail, from its start on, a device left out; laid strips as their rules ship. */
function standsOn(design: Design, rail: string, but: string): Stand[] {
  const look = lookUp(design);
  const held = new Set(design.strips.flatMap((s) => (s.at === undefined ? [] : s.members)));
  const stands: Stand[] = [];
  for (const d of look.devices.values())
    if (d.tag !== but && d.on?.rail === rail && d.on.x !== undefined && !held.has(d.tag))
      stands.push({ from: d.on.x, to: d.on.x + (alongRail(d, look) ?? 0), device: d, of: d.tag });
  if (design.strips.some((s) => s.rail === rail && s.at !== undefined))
    for (const hung of hungStrips(look, SHOP_RULES.lineups).values()) {
      if (hung.strip.rail !== rail) continue;
      const at = piecesAt(hung);
      if (at.length === 0) continue;
      const ends = at.map(({ piece, x }) => x + (piece.widthMm ?? 0));
      stands.push({ from: Math.min(...at.map((p) => p.x)), to: Math.max(...ends), device: null, of: hung.strip.tag });
    }
  return stands.sort((a, b) => a.from - b.from || byText(a.of, b.of));
}

/** Half a micrometre: sums of widths are off by less. */
const NOISE_MM = 5e-4;
const even = (mm: number): number => Math.round(mm * 1e6) / 1e6;

/** Puts a device on a rail before or behind another one; what stands in the way is pushed along, and no further than needed. */
export const insertDevice: EditKind<InsertDevice, "insert"> = {
  kind: "insert",
  schema: insertDeviceForm,
  apply(design, { device: tag, beside, side, gap = 0 }) {
    const look = lookUp(design);
    const device = look.devices.get(tag);
    if (!device) return notThere("device", tag);
    const other = look.devices.get(beside);
    if (!other) return notThere("device", beside);
    if (beside === tag) return unfit(`${tag} cannot stand beside itself`, "Choose another device.");
    const held = heldBy(design, tag) ?? heldBy(design, beside);
    if (held) return held;
    const rail = other.on?.rail === undefined ? undefined : look.rails.get(other.on.rail);
    if (!rail || other.on?.x === undefined)
      return unfit(`${beside} stands on no rail`, "Choose a device that stands on a rail, or give a place.");
    const wide = alongRail(device, look);
    if (wide === null) return unfit(`how wide ${tag} is, is not known`, "Add its part to the library.");
    const stands = standsOn(design, rail.tag, tag);
    const [from, to] = [other.on.x, other.on.x + (alongRail(other, look) ?? 0)];
    const start = side === "behind" ? to + gap : from;
    const moved = new Map<Device, number>();
    let end = start + wide + (side === "before" ? gap : 0);
    // What comes to stand further along than it did; what lies beyond the end of the rail already is told as that.
    let reach = start + wide;
    for (const s of stands) {
      // What begins before the place stays, and so does what there is room for.
      const isAfter = side === "behind" ? s.from >= to - NOISE_MM : s.from >= from - NOISE_MM;
      if (!isAfter || (s.device === other && side === "behind")) continue;
      const wanted = Math.max(s.from, end);
      if (wanted > s.from + NOISE_MM) {
        if (s.device === null)
          return unfit(
            `strip ${s.of}, which is laid on ${rail.tag}, stands in the way`,
            "Lay the strip at another place first, or choose another device.",
          );
        moved.set(s.device, even(wanted));
        end = wanted + (s.to - s.from);
        reach = Math.max(reach, end);
      } else end = Math.max(end, s.to);
    }
    if (reach > rail.length + NOISE_MM)
      return unfit(
        `${rail.tag} has no room for ${tag} there: ${Math.ceil((reach - rail.length) * 10 - 1e-6) / 10} mm are missing at its end`,
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
    const held = heldBy(design, tag);
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

// ---- rails and ducts -------------------------------------------------------------------------------

const setBarForm = objectOf({
  thing: oneOf(["rail", "duct"]),
  tag: FORM.name,
  face: maybe(FORM.name),
  x: maybe(FORM.mm),
  y: maybe(FORM.mm),
  run: maybe(FORM.run),
  length: maybe(FORM.positive),
  part: maybe(FORM.name),
}).or("face", "x", "y", "run", "length", "part");
export interface SetBar extends ValueOf<typeof setBarForm> {}

/** Moves, stretches, turns or exchanges a rail or a duct. */
export const setBar: EditKind<SetBar, "set bar"> = {
  kind: "set bar",
  schema: setBarForm,
  apply(design, { thing, tag, ...values }) {
    const look = lookUp(design);
    const bar = thing === "rail" ? look.rails.get(tag) : look.ducts.get(tag);
    if (!bar) return notThere(thing, tag);
    if (values.face !== undefined && !look.faces.has(values.face)) return notThere("face", values.face);
    if (values.part !== undefined && look.parts.get(values.part)?.category !== thing)
      return unfit(`${values.part} is no ${thing} of the library`, `Choose a part of the category ${thing}.`);
    return done(
      thing === "rail"
        ? {
            ...design,
            rails: changed<Rail>(
              design.rails,
              (b) => b === bar,
              (b) => withFields(b, values),
            ),
          }
        : {
            ...design,
            ducts: changed<Duct>(
              design.ducts,
              (b) => b === bar,
              (b) => withFields(b, values),
            ),
          },
    );
  },
  sentence({ thing, tag, face, x, y, run, length, part }) {
    const at =
      x === undefined && y === undefined
        ? null
        : `moved to ${[x === undefined ? null : `x ${x}`, y === undefined ? null : `y ${y}`].filter(Boolean).join(", ")} mm`;
    return `${thing} ${tag} ${[
      face === undefined ? null : `put on ${face}`,
      at,
      run === undefined ? null : run === "up" ? "led upright" : "laid flat",
      length === undefined ? null : `made ${length} mm long`,
      part === undefined ? null : `exchanged for ${part}`,
    ]
      .filter((t) => t !== null)
      .join(", ")}`;
  },
  touches: ({ thing, tag }) => [{ thing, of: tag }],
};

export const PANEL_EDITS = [
  placeDevice,
  insertDevice,
  turnDevice,
  liftDevice,
  swapPart,
  setBar,
] as const satisfies readonly AnyEditKind[];
