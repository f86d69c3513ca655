import { flag, form, maybe, objectOf, oneOf, orNull, recordOf, type ValueOf } from "../form/form";
import Joi from "joi";
import { changed, done, notThere, unfit, withFields, type AnyEditKind, type EditKind } from "../frame/edits";
import { own } from "../design/order";
import { lookUp } from "../design/lookup";
import { ACCESSORIES, SIDES, type Side, type Strip } from "../design/model";
import { listed } from "../design/open-points";
import { FORM } from "../design/schema";
import { MEMBER_EDITS } from "./member-edits";
import { notOn, stripOf, withStrip } from "./on-strip";

/** Edits of strips: their order, what is bridged, printed and fitted, and what lies on which side. */

type Jumper = NonNullable<Strip["jumpers"]>[number];

/** A record with one entry set, or taken away by null; undefined when nothing is left. */
function withEntry<T>(record: Record<string, T> | undefined, key: string, value: T | null): Record<string, T> | null {
  const others = Object.entries(record ?? {}).filter(([k]) => k !== key);
  const next = Object.fromEntries(value === null ? others : [...others, [key, value] as const]);
  return Object.keys(next).length === 0 ? null : next;
}

const name = FORM.name;
const names = FORM.list(FORM.name);

// ---- order -----------------------------------------------------------------------------------------

const orderStripForm = objectOf({
  strip: name,
  /** All members, each once, in their new order. */
  members: names.min(1),
});
export interface OrderStrip extends ValueOf<typeof orderStripForm> {}

export const orderStrip: EditKind<OrderStrip, "order strip"> = {
  kind: "order strip",
  schema: orderStripForm,
  apply(design, { strip: tag, members }) {
    const strip = stripOf(design, tag);
    if (!strip) return notThere("strip", tag);
    const [was, is] = [[...strip.members].sort(), [...members].sort()];
    if (was.length !== is.length || was.some((m, i) => m !== is[i])) {
      const lost = was.filter((m) => !members.includes(m));
      const fresh = is.filter((m) => !strip.members.includes(m));
      const words = [
        ...(lost.length > 0 ? [`${listed(lost)} would be lost`] : []),
        ...(fresh.length > 0 ? [`${listed(fresh)} would be new`] : []),
      ];
      return unfit(
        `the order does not name the members of ${tag} each once${words.length > 0 ? `: ${words.join(", ")}` : ""}`,
        "Put the members that are there into another order.",
      );
    }
    return withStrip(design, strip, (s) => ({ ...s, members }));
  },
  sentence: ({ strip, members }) => `strip ${strip} put into the order ${listed(members)}`,
  touches: ({ strip }) => [{ thing: "strip", of: strip }],
};

const splitStripForm = objectOf({
  strip: name,
  /** The last member that stays. */
  after: name,
  /** Tag of the strip that the others become. */
  to: name,
});
export interface SplitStrip extends ValueOf<typeof splitStripForm> {}

export const splitStrip: EditKind<SplitStrip, "split strip"> = {
  kind: "split strip",
  schema: splitStripForm,
  apply(design, { strip: tag, after, to }) {
    const strip = stripOf(design, tag);
    if (!strip) return notThere("strip", tag);
    if (stripOf(design, to)) return unfit(`there is a strip ${to} already`, "Give the new strip a tag of its own.");
    const at = strip.members.indexOf(after);
    if (at < 0) return notOn(after, tag);
    if (at === strip.members.length - 1)
      return unfit(`nothing stands behind ${after} on ${tag}`, "Split before the last member.");
    const rest = strip.members.slice(at + 1);
    const across = (strip.jumpers ?? []).find(
      (j) => j.members.some((m) => rest.includes(m)) && j.members.some((m) => !rest.includes(m)),
    );
    if (across)
      return unfit(
        `the jumper from ${across.members[0]} to ${across.members[across.members.length - 1]} lies across the place`,
        "Delete the jumper first.",
      );
    const together = strip.groups?.find((g) => g.some((m) => rest.includes(m)) && g.some((m) => !rest.includes(m)));
    if (together) return unfit(`${listed(together)} are kept together across the place`, "Let them go first.");
    const index = design.strips.indexOf(strip);
    const strips = [...design.strips];
    strips.splice(index, 1, part(strip, tag, strip.members.slice(0, at + 1)), part(strip, to, rest));
    return done({ ...design, strips });
  },
  sentence: ({ strip, after, to }) => `strip ${strip} split behind ${after}; the rest is ${to}`,
  touches: ({ strip, to }) => [
    { thing: "strip", of: strip },
    { thing: "strip", of: to },
  ],
};

/** What belongs to some members of a strip, under a tag. Sides are of conductors: both parts keep them. */
function part(strip: Strip, tag: string, members: string[]): Strip {
  const there = new Set(members);
  const { jumpers, print, splitAfter, groups, pieces, at, ...rest } = strip;
  const together = groups?.filter((g) => g.every((m) => there.has(m)));
  const first = members[0] === strip.members[0];
  const hung = pieces?.filter((p) => (p.behind === undefined ? first : there.has(p.behind)));
  const kept = jumpers?.filter((j) => j.members.every((m) => there.has(m)));
  const printed = Object.entries(print ?? {}).filter(([m]) => there.has(m));
  const splits = splitAfter?.filter((m) => there.has(m));
  return {
    ...rest,
    tag,
    members,
    ...(kept?.length ? { jumpers: kept } : {}),
    ...(printed.length > 0 ? { print: Object.fromEntries(printed) } : {}),
    ...(splits?.length ? { splitAfter: splits } : {}),
    ...(together?.length ? { groups: together } : {}),
    ...(hung?.length ? { pieces: hung } : {}),
    // What is split off is laid by itself: where it would stand hangs on its end stops.
    ...(at !== undefined && first ? { at } : {}),
  };
}

const joinStripsForm = objectOf({
  strip: name,
  /** The strip whose members come behind; it is then no more. */
  with: name,
});
export interface JoinStrips extends ValueOf<typeof joinStripsForm> {}

export const joinStrips: EditKind<JoinStrips, "join strips"> = {
  kind: "join strips",
  schema: joinStripsForm,
  apply(design, { strip: tag, with: other }) {
    const [one, two] = [stripOf(design, tag), stripOf(design, other)];
    if (!one) return notThere("strip", tag);
    if (!two) return notThere("strip", other);
    if (one === two) return unfit("a strip cannot be joined to itself", "Name another strip.");
    const clash = Object.entries(two.sides ?? {}).find(([c, side]) => (own(one.sides, c) ?? side) !== side);
    if (clash) return unfit(`${clash[0]} lies inside on one strip and outside on the other`, "Settle its side first.");
    const jumpers = [...(one.jumpers ?? []), ...(two.jumpers ?? [])];
    const print = { ...one.print, ...two.print };
    const sides = { ...one.sides, ...two.sides };
    const splitAfter = [...(one.splitAfter ?? []), ...(two.splitAfter ?? [])];
    const groups = [...(one.groups ?? []), ...(two.groups ?? [])];
    // What was said of the place before the first member of the other has no place any more.
    const pieces = [...(one.pieces ?? []), ...(two.pieces ?? []).filter((p) => p.behind !== undefined)];
    const joined: Strip = {
      ...one,
      members: [...one.members, ...two.members],
      ...(jumpers.length > 0 ? { jumpers } : {}),
      ...(Object.keys(print).length > 0 ? { print } : {}),
      ...(Object.keys(sides).length > 0 ? { sides } : {}),
      ...(splitAfter.length > 0 ? { splitAfter } : {}),
      ...(groups.length > 0 ? { groups } : {}),
      ...(pieces.length > 0 ? { pieces } : {}),
    };
    return done({ ...design, strips: design.strips.flatMap((s) => (s === one ? [joined] : s === two ? [] : [s])) });
  },
  sentence: (p) => `strip ${p.with} joined to the end of ${p.strip}`,
  touches: (p) => [
    { thing: "strip", of: p.strip },
    { thing: "strip", of: p.with },
  ],
};

// ---- jumpers ---------------------------------------------------------------------------------------

const setJumperForm = objectOf({
  strip: name,
  row: form(Joi.number().integer().min(1).max(10)),
  members: names.min(2).unique(),
  part: maybe(FORM.name),
});
export interface SetJumper extends ValueOf<typeof setJumperForm> {}

export const setJumper: EditKind<SetJumper, "set jumper"> = {
  kind: "set jumper",
  schema: setJumperForm,
  apply(design, { strip: tag, ...jumper }) {
    const strip = stripOf(design, tag);
    if (!strip) return notThere("strip", tag);
    const place = new Map(strip.members.map((m, i) => [m, i]));
    const off = jumper.members.find((m) => !place.has(m));
    if (off !== undefined) return notOn(off, tag);
    if (jumper.part !== undefined && !lookUp(design).parts.get(jumper.part)?.jumper)
      return unfit(`${jumper.part} is no comb of the library`, "Choose a part that is a comb.");
    const range = (j: Jumper): [number, number] => {
      const at = j.members.map((m) => place.get(m) ?? -1);
      return [Math.min(...at), Math.max(...at)];
    };
    const [lo, hi] = range(jumper);
    const other = (strip.jumpers ?? []).find((j) => {
      const [from, to] = range(j);
      return j.row === jumper.row && from <= hi && lo <= to;
    });
    if (other)
      return unfit(
        `in row ${jumper.row} there is a jumper from ${other.members[0]} to ${other.members[other.members.length - 1]} already`,
        "Delete that one first, or use another row.",
      );
    return withStrip(design, strip, (s) => ({ ...s, jumpers: [...(s.jumpers ?? []), jumper] }));
  },
  sentence: ({ strip, row, members }) => `${listed(members)} of ${strip} bridged in row ${row}`,
  touches: ({ strip }) => [{ thing: "strip", of: strip }],
};

const removeJumperForm = objectOf({
  strip: name,
  row: form(Joi.number().integer().min(1).max(10)),
  /** One of those it joins. */
  member: name,
});
export interface RemoveJumper extends ValueOf<typeof removeJumperForm> {}

export const removeJumper: EditKind<RemoveJumper, "remove jumper"> = {
  kind: "remove jumper",
  schema: removeJumperForm,
  apply(design, { strip: tag, row, member }) {
    const strip = stripOf(design, tag);
    if (!strip) return notThere("strip", tag);
    const gone = strip.jumpers?.find((j) => j.row === row && j.members.includes(member));
    if (!gone) return unfit(`no jumper in row ${row} joins ${member}`, "Choose one that is there.");
    const jumpers = strip.jumpers!.filter((j) => j !== gone);
    return withStrip(design, strip, (s) => withFields(s, { jumpers: jumpers.length > 0 ? jumpers : null }));
  },
  sentence: ({ strip, row, member }) => `jumper at ${member} of ${strip} in row ${row} deleted`,
  touches: ({ strip }) => [{ thing: "strip", of: strip }],
};

// ---- sides, prints, fuses --------------------------------------------------------------------------

const sideOfConductorForm = objectOf({
  strip: name,
  /** `wire 214`, `core 3 of -W7` */
  conductor: name,
  /** Null: what it is by itself. */
  side: orNull(oneOf(SIDES)),
});
export interface SideOfConductor extends ValueOf<typeof sideOfConductorForm> {}

export const sideOfConductor: EditKind<SideOfConductor, "side of conductor"> = {
  kind: "side of conductor",
  schema: sideOfConductorForm,
  apply(design, { strip: tag, conductor, side }) {
    const strip = stripOf(design, tag);
    if (!strip) return notThere("strip", tag);
    return withStrip(design, strip, (s) => withFields(s, { sides: withEntry(s.sides, conductor, side) }));
  },
  sentence: ({ strip, conductor, side }) =>
    side === null
      ? `${conductor} on ${strip} lies where it does by itself again`
      : `${conductor} lies ${side} on ${strip}`,
  touches: ({ strip }) => [{ thing: "strip", of: strip }],
};

const printMemberForm = objectOf({
  strip: name,
  member: name,
  /** Null: what the tag says. */
  text: orNull(FORM.text),
});
export interface PrintMember extends ValueOf<typeof printMemberForm> {}

export const printMember: EditKind<PrintMember, "print"> = {
  kind: "print",
  schema: printMemberForm,
  apply(design, { strip: tag, member, text }) {
    const strip = stripOf(design, tag);
    if (!strip) return notThere("strip", tag);
    if (!strip.members.includes(member)) return notOn(member, tag);
    return withStrip(design, strip, (s) => withFields(s, { print: withEntry(s.print, member, text) }));
  },
  sentence: ({ member, text }) =>
    text === null ? `the marker of ${member} shows its own name again` : `the marker of ${member} shows "${text}"`,
  touches: ({ member }) => [{ thing: "device", of: member }],
};

const fitFuseForm = objectOf({
  device: name,
  /** Rated current, A; null: none is fitted. */
  fuseA: orNull(FORM.amount),
});
export interface FitFuse extends ValueOf<typeof fitFuseForm> {}

export const fitFuse: EditKind<FitFuse, "fuse"> = {
  kind: "fuse",
  schema: fitFuseForm,
  apply(design, { device: tag, fuseA }) {
    const look = lookUp(design);
    const device = look.devices.get(tag);
    if (!device) return notThere("device", tag);
    const most = look.parts.get(device.part)?.terminal?.fuseMostA;
    if (most === undefined) return unfit(`${tag} takes no fuse`, "Choose a terminal for fuses.");
    return done({
      ...design,
      devices: changed(
        design.devices,
        (d) => d === device,
        (d) => withFields(d, { fuseA }),
      ),
    });
  },
  sentence: ({ device, fuseA }) => (fuseA === null ? `no fuse in ${device}` : `a fuse of ${fuseA} A in ${device}`),
  touches: ({ device }) => [{ thing: "device", of: device }],
};

// ---- where it stands, what is hung, what stays together ---------------------------------------------

const layStripForm = objectOf({
  strip: name,
  rail: name,
  /** From the start of the rail to the first piece, mm. */
  at: FORM.mm,
});
export interface LayStrip extends ValueOf<typeof layStripForm> {}

/** Lays a strip on a rail: all its members stand where it says from then on. */
export const layStrip: EditKind<LayStrip, "lay strip"> = {
  kind: "lay strip",
  schema: layStripForm,
  apply(design, { strip: tag, rail, at }) {
    const strip = stripOf(design, tag);
    if (!strip) return notThere("strip", tag);
    if (!lookUp(design).rails.has(rail)) return notThere("rail", rail);
    if (strip.members.length === 0) return unfit(`strip ${tag} has no members`, "Put some on it first.");
    if (strip.rail === rail && strip.at === at)
      return unfit(`strip ${tag} is laid there already`, "Give another place.");
    return withStrip(design, strip, (s) => ({ ...s, rail, at }));
  },
  sentence: ({ strip, rail, at }) => `strip ${strip} laid on ${rail} at ${at} mm`,
  touches: ({ strip, rail }) => [
    { thing: "strip", of: strip },
    { thing: "rail", of: rail },
  ],
};

const liftStripForm = objectOf({
  strip: name,
});
export interface LiftStrip extends ValueOf<typeof liftStripForm> {}

/** Takes a strip off its rail: its members stand where each says itself. */
export const liftStrip: EditKind<LiftStrip, "lift strip"> = {
  kind: "lift strip",
  schema: liftStripForm,
  apply(design, { strip: tag }) {
    const strip = stripOf(design, tag);
    if (!strip) return notThere("strip", tag);
    if (strip.at === undefined) return unfit(`strip ${tag} is not laid`, "Its members stand where each says itself.");
    return withStrip(design, strip, (s) => withFields(s, { at: null }));
  },
  sentence: ({ strip }) => `strip ${strip} taken off its rail; its members stand where each says itself`,
  touches: ({ strip }) => [{ thing: "strip", of: strip }],
};

const hangPieceForm = objectOf({
  strip: name,
  piece: oneOf(ACCESSORIES),
  /** Member behind which it hangs; null: before the first. */
  behind: orNull(FORM.name),
  /** Null: as the rules say. */
  hung: orNull(flag),
});
export interface HangPiece extends ValueOf<typeof hangPieceForm> {}

/** Hangs an accessory against the rules, leaves one out, or lets the rules count again. */
export const hangPiece: EditKind<HangPiece, "hang piece"> = {
  kind: "hang piece",
  schema: hangPieceForm,
  apply(design, { strip: tag, piece, behind, hung }) {
    const strip = stripOf(design, tag);
    if (!strip) return notThere("strip", tag);
    if (behind !== null && !strip.members.includes(behind)) return notOn(behind, tag);
    const others = (strip.pieces ?? []).filter((p) => p.kind !== piece || (p.behind ?? null) !== behind);
    const pieces = hung === null ? others : [...others, { kind: piece, ...(behind === null ? {} : { behind }), hung }];
    return withStrip(design, strip, (s) => withFields(s, { pieces: pieces.length > 0 ? pieces : null }));
  },
  sentence: ({ strip, piece, behind, hung }) =>
    `${behind === null ? `before the first member of ${strip}` : `behind ${behind} on ${strip}`}: ${hung === null ? `${piece} as the rules say` : hung ? piece : `no ${piece}`}`,
  touches: ({ strip }) => [{ thing: "strip", of: strip }],
};

const keepTogetherForm = objectOf({
  strip: name,
  /** Side by side, in their order; one alone: it is let go. */
  members: names.min(1).unique(),
});
export interface KeepTogether extends ValueOf<typeof keepTogetherForm> {}

/** Members that stay side by side when another order is proposed; what they belonged to before is dissolved. */
export const keepTogether: EditKind<KeepTogether, "keep together"> = {
  kind: "keep together",
  schema: keepTogetherForm,
  apply(design, { strip: tag, members }) {
    const strip = stripOf(design, tag);
    if (!strip) return notThere("strip", tag);
    const places = members.map((m) => strip.members.indexOf(m));
    const off = places.indexOf(-1);
    if (off >= 0) return notOn(members[off]!, tag);
    const gap = places.findIndex((p, i) => i > 0 && p !== places[i - 1]! + 1);
    if (gap > 0)
      return unfit(`${members[gap]} does not stand right behind ${members[gap - 1]}`, "Put them side by side first.");
    const others = (strip.groups ?? []).filter((g) => !g.some((m) => members.includes(m)));
    if (members.length === 1 && others.length === (strip.groups ?? []).length)
      return unfit(`${members[0]} is kept together with nothing`, "Name two members or more.");
    const groups = members.length > 1 ? [...others, members] : others;
    return withStrip(design, strip, (s) => withFields(s, { groups: groups.length > 0 ? groups : null }));
  },
  sentence: ({ strip, members }) =>
    members.length > 1 ? `${listed(members)} of ${strip} kept together` : `${members[0]} of ${strip} let go`,
  touches: ({ strip }) => [{ thing: "strip", of: strip }],
};

const splitDrawingForm = objectOf({
  strip: name,
  after: name,
  split: flag,
});
export interface SplitDrawing extends ValueOf<typeof splitDrawingForm> {}

/** Where the drawing of a strip goes on on another sheet. */
export const splitDrawing: EditKind<SplitDrawing, "split drawing"> = {
  kind: "split drawing",
  schema: splitDrawingForm,
  apply(design, { strip: tag, after, split }) {
    const strip = stripOf(design, tag);
    if (!strip) return notThere("strip", tag);
    if (split && !strip.members.includes(after)) return notOn(after, tag);
    const there = strip.splitAfter ?? [];
    if (there.includes(after) === split)
      return unfit(
        split ? `the drawing is split behind ${after} already` : `the drawing is not split behind ${after}`,
        "Choose another place.",
      );
    const splitAfter = split ? [...there, after] : there.filter((m) => m !== after);
    return withStrip(design, strip, (s) => withFields(s, { splitAfter: splitAfter.length > 0 ? splitAfter : null }));
  },
  sentence: ({ strip, after, split }) =>
    split ? `the drawing of ${strip} split behind ${after}` : `the drawing of ${strip} joined again behind ${after}`,
  touches: ({ strip }) => [{ thing: "strip", of: strip }],
};

const swapSidesForm = objectOf({
  strip: name,
  /** Where each conductor lies from now on; null: what it is by itself. */
  sides: recordOf(form(Joi.string().max(400)), orNull(oneOf(SIDES))).min(1),
});
export interface SwapSides extends ValueOf<typeof swapSidesForm> {}

/** Says of several conductors at once on which side they lie. */
export const swapSides: EditKind<SwapSides, "swap sides"> = {
  kind: "swap sides",
  schema: swapSidesForm,
  apply(design, { strip: tag, sides }) {
    const strip = stripOf(design, tag);
    if (!strip) return notThere("strip", tag);
    const bad = Object.keys(sides).find((c) => FORM.name.validate(c).error !== undefined);
    if (bad !== undefined) return unfit("a conductor has a name that cannot be", "Name a wire or a core.");
    let next: Strip["sides"] | null = strip.sides ?? {};
    for (const [conductor, side] of Object.entries(sides)) next = withEntry<Side>(next ?? {}, conductor, side);
    return withStrip(design, strip, (s) => withFields(s, { sides: next }));
  },
  sentence: ({ strip, sides }) => {
    const all = Object.keys(sides);
    return `sides of ${all.length === 1 ? all[0] : `${all.length} conductors`} on ${strip} swapped`;
  },
  touches: ({ strip }) => [{ thing: "strip", of: strip }],
};

const forgetForm = objectOf({
  strip: name,
  /** A conductor, or a member. */
  of: name,
});
export interface Forget extends ValueOf<typeof forgetForm> {}

/** Forgets what a strip says of a conductor or a member that is not there any more. */
export const forget: EditKind<Forget, "forget"> = {
  kind: "forget",
  schema: forgetForm,
  apply(design, { strip: tag, of }) {
    const strip = stripOf(design, tag);
    if (!strip) return notThere("strip", tag);
    const list = <T>(items: T[] | undefined, names: (item: T) => boolean): T[] | null => {
      const kept = (items ?? []).filter((t) => !names(t));
      return kept.length > 0 ? kept : null;
    };
    if (strip.members.includes(of)) return unfit(`${of} stands on strip ${tag}`, "Nothing of it is out of date.");
    const next = withFields(strip, {
      sides: withEntry(strip.sides, of, null),
      print: withEntry(strip.print, of, null),
      splitAfter: list(strip.splitAfter, (m) => m === of),
      groups: list(strip.groups, (g) => g.includes(of)),
      pieces: list(strip.pieces, (p) => p.behind === of),
    });
    if (Object.keys(next).length === Object.keys(strip).length && JSON.stringify(next) === JSON.stringify(strip))
      return unfit(`strip ${tag} says nothing of ${of}`, "There is nothing to forget.");
    return withStrip(design, strip, () => next);
  },
  sentence: ({ strip, of }) => `what strip ${strip} said of ${of} forgotten`,
  touches: ({ strip }) => [{ thing: "strip", of: strip }],
};

export const LINEUP_EDITS = [
  orderStrip,
  splitStrip,
  joinStrips,
  setJumper,
  removeJumper,
  sideOfConductor,
  printMember,
  fitFuse,
  layStrip,
  liftStrip,
  hangPiece,
  keepTogether,
  splitDrawing,
  swapSides,
  forget,
  ...MEMBER_EDITS,
] as const satisfies readonly AnyEditKind[];
