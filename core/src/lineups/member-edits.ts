import { flag, form, listOf, maybe, objectOf, oneOf, orNull, type ValueOf } from "../form/form";
import Joi from "joi";
import { changed, done, notThere, unfit, withFields, type AnyEditKind, type EditKind } from "../frame/edits";
import { enclosureOf } from "../design/geometry";
import { lookUp, type Lookup } from "../design/lookup";
import type { Design, Device, PinRef, Strip } from "../design/model";
import { listed } from "../design/open-points";
import { withoutDevices } from "../frame/remove";
import { renameDevices } from "../frame/rename";
import { FORM } from "../design/schema";
import { notOn, stripOf, withStrip } from "./on-strip";
import { NUMBER_BY, renumbering, type RenumberStrip } from "./renumber";

/** Edits of who stands on a strip: put on, taken off, named anew, made alike, and what lands on them. */

const name = FORM.name;
const names = FORM.list(FORM.name);
const members = names.min(1).unique();

/** The strip that names a device, if any does. */
const holder = (design: Design, device: string): Strip | undefined =>
  design.strips.find((s) => s.members.includes(device));

/** Where a rail stands: devices that are new on a strip belong there, even before they have a place. */
const standsIn = (look: Lookup, rail: string): { enclosure?: string } => {
  const face = look.rails.get(rail)?.face;
  const tag = face && enclosureOf(face);
  return tag && look.enclosures.has(tag) ? { enclosure: tag } : {};
};

// ---- put on, taken off -----------------------------------------------------------------------------

const putOnStripForm = objectOf({
  strip: name,
  members,
  /** Member behind which they come; null: before the first; absent: at the end. */
  behind: maybe(orNull(FORM.name)),
  /** Those that are no devices yet become devices of this part. */
  part: maybe(FORM.name),
});
export interface PutOnStrip extends ValueOf<typeof putOnStripForm> {}

/** Puts devices on a strip: terminals, or relays, breakers and supplies between them; new ones are made of a part. */
export const putOnStrip: EditKind<PutOnStrip, "put on strip"> = {
  kind: "put on strip",
  schema: putOnStripForm,
  apply(design, { strip: tag, members: added, behind, part }) {
    const look = lookUp(design);
    const strip = stripOf(design, tag);
    if (!strip) return notThere("strip", tag);
    if (part !== undefined && !look.parts.has(part)) return notThere("part", part);
    const known = new Set(design.devices.map((d) => d.tag));
    const fresh = added.filter((m) => !known.has(m));
    if (fresh.length > 0 && part === undefined) return notThere("device", fresh[0]!);
    for (const m of added) {
      const other = holder(design, m);
      if (other) return unfit(`${m} stands on strip ${other.tag} already`, "Take it off there first.");
    }
    const at = behind === undefined ? strip.members.length : behind === null ? 0 : strip.members.indexOf(behind) + 1;
    if (typeof behind === "string" && at === 0) return notOn(behind, tag);
    const next = [...strip.members];
    next.splice(at, 0, ...added);
    const made = fresh.map((m): Device => ({ tag: m, part: part!, ...standsIn(look, strip.rail) }));
    const devices = made.length > 0 ? [...design.devices, ...made] : design.devices;
    return withStrip({ ...design, devices }, strip, (s) => ({ ...s, members: next }));
  },
  sentence: ({ strip, members: added, behind, part }) =>
    `${listed(added)} put on ${strip}${behind === undefined ? "" : behind === null ? " before its first member" : ` behind ${behind}`}${part === undefined ? "" : `, new ones of part ${part}`}`,
  touches: ({ strip, members: added }) => [
    { thing: "strip", of: strip },
    ...added.map((of) => ({ thing: "device" as const, of })),
  ],
};

const takeOffStripForm = objectOf({
  strip: name,
  members,
  /** They leave the design too; only where nothing lands on them. */
  gone: flag,
});
export interface TakeOffStrip extends ValueOf<typeof takeOffStripForm> {}

/** Takes members off a strip, with what was said of them there. */
export const takeOffStrip: EditKind<TakeOffStrip, "take off strip"> = {
  kind: "take off strip",
  schema: takeOffStripForm,
  apply(design, { strip: tag, members: off, gone }) {
    const strip = stripOf(design, tag);
    if (!strip) return notThere("strip", tag);
    const leaving = new Set(off);
    const strange = off.find((m) => !strip.members.includes(m));
    if (strange !== undefined) return notOn(strange, tag);
    const bridged = (strip.jumpers ?? []).find((j) => j.members.some((m) => leaving.has(m)));
    if (bridged)
      return unfit(
        `the jumper from ${bridged.members[0]} to ${bridged.members[bridged.members.length - 1]} joins one of them`,
        "Delete the jumper first.",
      );
    if (gone) {
      const held = usedBy(design, leaving);
      if (held) return unfit(held, "Lead it elsewhere first, or let the device stay in the design.");
    }
    const list = <T>(items: T[] | undefined, keeps: (item: T) => boolean): T[] | null => {
      const kept = (items ?? []).filter(keeps);
      return kept.length > 0 ? kept : null;
    };
    const print = Object.entries(strip.print ?? {}).filter(([m]) => !leaving.has(m));
    const devices = gone ? design.devices.filter((d) => !leaving.has(d.tag)) : design.devices;
    return withStrip({ ...design, devices }, strip, (s) =>
      withFields(
        { ...s, members: s.members.filter((m) => !leaving.has(m)) },
        {
          print: print.length > 0 ? Object.fromEntries(print) : null,
          splitAfter: list(s.splitAfter, (m) => !leaving.has(m)),
          groups: list(s.groups, (g) => !g.some((m) => leaving.has(m))),
          pieces: list(s.pieces, (p) => p.behind === undefined || !leaving.has(p.behind)),
        },
      ),
    );
  },
  sentence: ({ strip, members: off, gone }) =>
    `${listed(off)} taken off ${strip}${gone ? " and out of the design" : ""}`,
  touches: ({ strip, members: off }) => [
    { thing: "strip", of: strip },
    ...off.map((of) => ({ thing: "device" as const, of })),
  ],
};

/** What still hangs on devices that are to leave the design, in words; null when nothing does. */
function usedBy(design: Design, leaving: ReadonlySet<string>): string | null {
  const at = (...refs: (PinRef | undefined)[]): string | undefined =>
    refs.find((r) => r && leaving.has(r.device))?.device;
  for (const w of design.wires) {
    const device = at(w.from, w.to);
    if (device !== undefined) return `wire ${w.number} lands on ${device}`;
  }
  for (const c of design.cables) {
    for (const core of c.cores) {
      const device = at(core.from, core.to);
      if (device !== undefined) return `core ${core.core} of ${c.tag} lands on ${device}`;
    }
  }
  const child = design.devices.find((d) => d.on?.slot !== undefined && leaving.has(d.on.slot) && !leaving.has(d.tag));
  return child ? `${child.tag} sits in ${child.on!.slot}` : null;
}

const removeStripForm = objectOf({
  strip: name,
  /** What becomes of its members: they stay as devices, where they say themselves, or leave the design with the wires to them. */
  members: oneOf(["stay", "go"]),
});
export interface RemoveStrip extends ValueOf<typeof removeStripForm> {}

/** Takes a strip out of the design, with its jumpers, prints and what else was said of it. */
export const removeStrip: EditKind<RemoveStrip, "remove strip"> = {
  kind: "remove strip",
  schema: removeStripForm,
  apply(design, { strip: tag, members: what }) {
    const strip = stripOf(design, tag);
    if (!strip) return notThere("strip", tag);
    const next = { ...design, strips: design.strips.filter((s) => s !== strip) };
    if (what === "stay") return done(next);
    const leaving = new Set(strip.members);
    const other = next.strips.find((s) => s.members.some((m) => leaving.has(m)));
    if (other) return unfit(`a member of ${tag} stands on ${other.tag} too`, "Take it off there first.");
    const carried = design.devices.find((d) => leaving.has(d.on?.slot ?? "") && !leaving.has(d.tag));
    if (carried) return unfit(`${carried.tag} sits in ${carried.on!.slot}`, "Place it elsewhere first.");
    return done(withoutDevices(next, leaving, true));
  },
  sentence: ({ strip, members: what }) =>
    `strip ${strip} deleted${what === "go" ? ", with its members and all wires to them" : "; its members stay"}`,
  touches: ({ strip }) => [{ thing: "strip", of: strip }],
};

const makeStripForm = objectOf({
  strip: name,
  rail: name,
  members,
});
export interface MakeStrip extends ValueOf<typeof makeStripForm> {}

/** A new strip of devices that stand on none yet. */
export const makeStrip: EditKind<MakeStrip, "make strip"> = {
  kind: "make strip",
  schema: makeStripForm,
  apply(design, { strip: tag, rail, members: on }) {
    const look = lookUp(design);
    if (stripOf(design, tag)) return unfit(`there is a strip ${tag} already`, "Give the new strip a tag of its own.");
    if (!look.rails.has(rail)) return notThere("rail", rail);
    for (const m of on) {
      if (!look.devices.has(m)) return notThere("device", m);
      const other = holder(design, m);
      if (other) return unfit(`${m} stands on strip ${other.tag} already`, "Take it off there first.");
    }
    return done({ ...design, strips: [...design.strips, { tag, rail, members: on }] });
  },
  sentence: ({ strip, rail, members: on }) => `strip ${strip} of ${listed(on)} made on ${rail}`,
  touches: ({ strip }) => [{ thing: "strip", of: strip }],
};

// ---- numbers ---------------------------------------------------------------------------------------

const count = form(Joi.number().integer().min(0).max(100_000));

/** Numbers the members of a strip anew, in their order; everything that names them goes with them. */
export const renumberStrip: EditKind<RenumberStrip, "renumber strip"> = {
  kind: "renumber strip",
  schema: objectOf({
    strip: name,
    from: count,
    step: count.min(1),
    by: oneOf(NUMBER_BY),
    start: count.min(1),
  }),
  apply(design, rule) {
    if (!stripOf(design, rule.strip)) return notThere("strip", rule.strip);
    const all = new Map(renumbering(design, rule));
    const names = new Map([...all].filter(([was, is]) => was !== is));
    if (names.size === 0) return unfit(`the members of ${rule.strip} have these numbers already`, "Give another rule.");
    const taken = new Set(design.devices.map((d) => d.tag).filter((t) => !all.has(t)));
    const clash = [...all.values()].filter((n) => taken.has(n));
    if (clash.length > 0)
      return unfit(
        `there ${clash.length === 1 ? "is a device" : "are devices"} ${listed(clash)} already`,
        "Begin at another number, or name those anew first.",
      );
    if (new Set(all.values()).size < all.size) return unfit("two members would get one name", "Give another rule.");
    return done(renameDevices(design, names));
  },
  sentence: ({ strip, from, step, by }) =>
    `members of ${strip} numbered from ${from} by ${step}${by === "none" ? "" : `, ${by} by ${by}`}`,
  touches: ({ strip }) => [{ thing: "strip", of: strip }],
};

// ---- made alike ------------------------------------------------------------------------------------

export const COPIED = ["part", "fuse", "texts", "turn"] as const;

const FIELD = { part: "part", fuse: "fuseA", texts: "texts", turn: "turn" } as const;

const copyToMembersForm = objectOf({
  strip: name,
  from: name,
  to: members,
  what: listOf(oneOf(COPIED)).min(1).unique(),
});
export interface CopyToMembers extends ValueOf<typeof copyToMembersForm> {}

/** Copies chosen properties of one member to others. */
export const copyToMembers: EditKind<CopyToMembers, "copy to members"> = {
  kind: "copy to members",
  schema: copyToMembersForm,
  apply(design, { strip: tag, from, to, what }) {
    const look = lookUp(design);
    const strip = stripOf(design, tag);
    if (!strip) return notThere("strip", tag);
    for (const m of [from, ...to]) {
      if (!strip.members.includes(m)) return notOn(m, tag);
      if (!look.devices.has(m)) return notThere("device", m);
    }
    const model = look.devices.get(from)!;
    const partOf = (d: Device): string => (what.includes("part") ? model.part : d.part);
    if (what.includes("fuse") && model.fuseA !== undefined) {
      const not = to.find((m) => look.parts.get(partOf(look.devices.get(m)!))?.terminal?.fuseMostA === undefined);
      if (not !== undefined) return unfit(`${not} takes no fuse`, "Copy its part too, or leave the fuse out.");
    }
    const chosen = new Set(to.map((m) => look.devices.get(m)!));
    const fields = Object.fromEntries(what.map((w) => [FIELD[w], model[FIELD[w]] ?? null]));
    return done({
      ...design,
      devices: changed(
        design.devices,
        (d) => chosen.has(d),
        (d) => withFields(d, fields),
      ),
    });
  },
  sentence: ({ from, to, what }) => `${what.join(", ")} of ${from} copied to ${listed(to)}`,
  touches: ({ to }) => to.map((of) => ({ thing: "device", of })),
};

// ---- what lands on them ----------------------------------------------------------------------------

const landConductorForm = objectOf({
  /** Number of a wire, or a core by its cable. */
  wire: maybe(FORM.name),
  cable: maybe(FORM.name),
  core: maybe(FORM.name),
  from: FORM.pinRef,
  to: FORM.pinRef,
})
  .xor("wire", "cable")
  .and("cable", "core");
export interface LandConductor extends ValueOf<typeof landConductorForm> {}

/** Lands one end of a wire or core on another clamp: another level of its terminal, or another terminal. */
export const landConductor: EditKind<LandConductor, "land"> = {
  kind: "land",
  schema: landConductorForm,
  apply(design, { wire, cable, core, from, to }) {
    const look = lookUp(design);
    const device = look.devices.get(to.device);
    if (!device) return notThere("device", to.device);
    const part = look.parts.get(device.part);
    if (part && !look.pin(part, to.pin))
      return unfit(`${to.device} has no pin ${to.pin}`, `It has: ${listed(look.pinNames(part))}.`);
    const there = (ref: PinRef | undefined): boolean => ref?.device === from.device && ref.pin === from.pin;
    const moved = <T extends { from?: PinRef; to?: PinRef }>(end: T): T => ({
      ...end,
      ...(there(end.from) ? { from: to } : {}),
      ...(!there(end.from) && there(end.to) ? { to } : {}),
    });
    const notHere = unfit(
      `${wire === undefined ? `core ${core} of ${cable}` : `wire ${wire}`} does not land on ${from.device}:${from.pin}`,
      "Look up where it lands now.",
    );
    if (from.device === to.device && from.pin === to.pin)
      return unfit("it lands there already", "Choose another clamp.");
    if (wire !== undefined) {
      const known = look.wires.find((w) => w.id === wire);
      if (!known) return notThere("wire", wire);
      if (!there(known.wire.from) && !there(known.wire.to)) return notHere;
      return done({
        ...design,
        wires: changed(
          design.wires,
          (w) => w === known.wire,
          (w) => moved(w),
        ),
      });
    }
    const own = look.cables.get(cable!);
    if (!own) return notThere("cable", cable!);
    const ends = own.cores.filter((c) => c.core === core && (there(c.from) || there(c.to)));
    if (ends.length === 0) return notHere;
    return done({
      ...design,
      cables: changed(
        design.cables,
        (c) => c === own,
        (c) => ({
          ...c,
          cores: changed(
            c.cores,
            (k) => k === ends[0],
            (k) => moved(k),
          ),
        }),
      ),
    });
  },
  sentence: ({ wire, cable, core, from, to }) =>
    `${wire === undefined ? `core ${core} of ${cable}` : `wire ${wire}`} moved from ${from.device}:${from.pin} to ${to.device}:${to.pin}`,
  touches: ({ wire, cable, from, to }) => [
    wire === undefined ? { thing: "cable", of: cable! } : { thing: "wire", of: wire },
    { thing: "device", of: from.device },
    { thing: "device", of: to.device },
  ],
};

export const MEMBER_EDITS = [
  putOnStrip,
  takeOffStrip,
  makeStrip,
  removeStrip,
  renumberStrip,
  copyToMembers,
  landConductor,
] as const satisfies readonly AnyEditKind[];
