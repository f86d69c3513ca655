import { form, either, maybe, objectOf, objectWithOne, oneOf, orNull, type ValueOf } from "../form/form";
import Joi from "joi";
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
import { canonicalJson } from "../design/canonical";
import { faceId } from "../design/geometry";
import { lookUp } from "../design/lookup";
import type { Design, FaceOverride, Hole } from "../design/model";
import { pushTo } from "../design/order";
import { FORM } from "../design/schema";

/** Edits of metalwork: how patterns are made, own holes, areas of sheets, how sheets lie, entries, ends of bars. */

const PATTERNS = ["device", "rail", "duct"] as const;

const setFixingForm = objectOf({
  things: FORM.list(
    objectOf({
      thing: oneOf(PATTERNS),
      of: FORM.name,
    }),
  ).min(1),
  /** Null: as the part, or the shop's rule, says. */
  fixing: orNull(FORM.fixing),
});
export interface SetFixing extends ValueOf<typeof setFixingForm> {}

/** How the pattern of a device, or the screws of a rail or a duct, are made; or that they are not drilled here. */
export const setFixing: EditKind<SetFixing, "set fixing"> = {
  kind: "set fixing",
  schema: setFixingForm,
  apply(design, { things, fixing }) {
    const look = lookUp(design);
    const found = { device: new Set<object>(), rail: new Set<object>(), duct: new Set<object>() };
    for (const { thing, of } of things) {
      const one =
        thing === "device" ? look.devices.get(of) : thing === "rail" ? look.rails.get(of) : look.ducts.get(of);
      if (!one) return notThere(thing, of);
      found[thing].add(one);
    }
    return done({
      ...design,
      devices: changed(
        design.devices,
        (d) => found.device.has(d),
        (d) => withFields(d, { fixing }),
      ),
      rails: changed(
        design.rails,
        (d) => found.rail.has(d),
        (d) => withFields(d, { fixing }),
      ),
      ducts: changed(
        design.ducts,
        (d) => found.duct.has(d),
        (d) => withFields(d, { fixing }),
      ),
    });
  },
  sentence: ({ things, fixing }) =>
    `${things.map((t) => t.of).join(", ")}: screws ${fixing === null ? "as the part says" : fixing}`,
  touches: ({ things }) => things,
};

/** The face of an id such as `+A1/plate`, as the design corrects it; null where there is no such face. */
function overrideOf(design: Design, id: string): FaceOverride | null {
  const face = lookUp(design).faces.get(id);
  if (!face) return null;
  return design.faces.find((o) => faceId(o.enclosure, o.kind) === id) ?? { enclosure: face.enclosure, kind: face.kind };
}

/** The design with one face corrected; a correction that says nothing any more goes. */
function withFace(design: Design, id: string, change: (o: FaceOverride) => FaceOverride | Applied): Applied {
  const own = overrideOf(design, id);
  if (!own) return notThere("face", id);
  const next = change(own);
  if ("ok" in next) return next;
  const there = design.faces.includes(own);
  const empty = Object.keys(next).every((k) => k === "enclosure" || k === "kind");
  const faces = there
    ? design.faces.flatMap((o) => (o === own ? (empty ? [] : [next]) : [o]))
    : empty
      ? design.faces
      : [...design.faces, next];
  return done({ ...design, faces });
}

const orNone = <T>(list: T[]): T[] | null => (list.length > 0 ? list : null);

const HOLE_WORDS: Readonly<Record<Exclude<Hole["kind"], "polygon">, string>> = {
  round: "a round hole",
  thread: "a threaded hole",
  countersunk: "a countersunk hole",
  slot: "a slot",
  rect: "an opening",
  knockout: "a knockout",
};

const holeText = (hole: Hole): string =>
  hole.kind === "polygon"
    ? `an outline of ${hole.points.length} corners`
    : `${HOLE_WORDS[hole.kind]} at ${hole.x}, ${hole.y} mm`;

const addHoleForm = objectOf({
  face: FORM.name,
  hole: FORM.hole,
});
export interface AddHole extends ValueOf<typeof addHoleForm> {}

export const addHole: EditKind<AddHole, "add hole"> = {
  kind: "add hole",
  schema: addHoleForm,
  apply: (design, { face, hole }) => withFace(design, face, (o) => ({ ...o, holes: [...(o.holes ?? []), hole] })),
  sentence: ({ face, hole }) => `${face}: ${holeText(hole)}`,
  touches: ({ face }) => [{ thing: "face", of: face }],
};

/** An own hole of a face: as it is, or, in older logs, by its number from one. */
type OwnHole = { was: Hole } | { nth: number };

const ownHole = {
  was: FORM.hole,
  nth: form(Joi.number().integer().min(1).max(200_000)),
};

/** Where an own hole stands in the list of its face; of equal ones the first. −1 where it is not any more. */
function placeOf(holes: readonly Hole[], which: OwnHole): number {
  if ("nth" in which) return holes[which.nth - 1] === undefined ? -1 : which.nth - 1;
  const wanted = canonicalJson(which.was);
  return holes.findIndex((h) => canonicalJson(h) === wanted);
}

const noHole = (face: string, which: OwnHole): Applied =>
  unfit(
    `${face} has no own hole ${"nth" in which ? which.nth : `like ${holeText(which.was)}`}`,
    "It may have been changed or deleted; look it up and try again.",
  );

/** A hole that is named by its number, named by what it is. */
function byItself<P extends { face: string } & OwnHole>(design: Design, payload: P): P {
  if (!("nth" in payload)) return payload;
  const was = overrideOf(design, payload.face)?.holes?.[payload.nth - 1];
  const { nth: _, ...rest } = payload;
  return was ? ({ ...rest, was } as unknown as P) : payload;
}

const ownText = (which: OwnHole): string => ("nth" in which ? `own hole ${which.nth}` : holeText(which.was));

const changeHoleForm = objectWithOne({ face: FORM.name, hole: FORM.hole }, ownHole);
export type ChangeHole = ValueOf<typeof changeHoleForm>;

export const changeHole: EditKind<ChangeHole, "change hole"> = {
  kind: "change hole",
  schema: changeHoleForm,
  settle: byItself,
  apply: (design, { face, hole, ...which }) =>
    withFace(design, face, (o) => {
      const at = placeOf(o.holes ?? [], which);
      return at < 0 ? noHole(face, which) : { ...o, holes: o.holes!.map((h, i) => (i === at ? hole : h)) };
    }),
  sentence: ({ face, hole, ...which }) => `${face}: ${ownText(which)} becomes ${holeText(hole)}`,
  touches: ({ face }) => [{ thing: "face", of: face }],
};

const dropHoleForm = objectWithOne({ face: FORM.name }, ownHole);
export type DropHole = ValueOf<typeof dropHoleForm>;

export const dropHole: EditKind<DropHole, "take hole away"> = {
  kind: "take hole away",
  schema: dropHoleForm,
  settle: byItself,
  apply: (design, { face, ...which }) =>
    withFace(design, face, (o) => {
      const at = placeOf(o.holes ?? [], which);
      return at < 0 ? noHole(face, which) : withFields(o, { holes: orNone(o.holes!.filter((_, i) => i !== at)) });
    }),
  sentence: ({ face, ...which }) => `${face}: ${ownText(which)} deleted`,
  touches: ({ face }) => [{ thing: "face", of: face }],
};

type Area = NonNullable<FaceOverride["keepOuts"]>[number];

/** One area put in the place of another; `was` null: it is new, `is` null: it goes. */
interface AreaChange {
  was: Area | null;
  is: Area | null;
}

const areaChange = objectOf({
  was: orNull(FORM.area),
  is: orNull(FORM.area),
});
const areas = either(FORM.list(areaChange), FORM.list(FORM.area));

/** A list of changes; in older logs a whole list. */
const isChanges = (list: AreaChange[] | Area[]): list is AreaChange[] => list.every((a) => "was" in a);

/** What makes one list of areas of another, pair by pair in their order. */
function areaChanges(before: readonly Area[], after: readonly Area[]): AreaChange[] {
  const left = new Map<string, Area[]>();
  for (const a of before) pushTo(left, canonicalJson(a), a);
  const fresh = after.filter((a) => left.get(canonicalJson(a))?.pop() === undefined);
  const going = new Set([...left.values()].flat());
  const gone = before.filter((a) => going.has(a));
  return Array.from({ length: Math.max(gone.length, fresh.length) }, (_, i) => ({
    was: gone[i] ?? null,
    is: fresh[i] ?? null,
  }));
}

/** A list of areas with changes made; the area that is not there any more. */
function changedAreas(there: readonly Area[], changes: readonly AreaChange[]): Area[] | { lost: Area } {
  const next: (Area | null)[] = [...there];
  for (const { was, is } of changes) {
    const wanted = was && canonicalJson(was);
    const at = was ? next.findIndex((a) => a !== null && canonicalJson(a) === wanted) : next.length;
    if (at < 0) return { lost: was! };
    next[at] = is;
  }
  return next.filter((a) => a !== null);
}

const AREAS = { keepOuts: "keep-out", entries: "entry plate" } as const;

const setAreasForm = objectOf({
  face: FORM.name,
  /** Changes one by one, so that areas nobody meant stay; a whole list is taken as what differs from the one there. */
  keepOuts: maybe(areas),
  entries: maybe(areas),
}).or("keepOuts", "entries");
export interface SetAreas extends ValueOf<typeof setAreasForm> {}

/** Keep-outs of a face, or the plates in it through which cables come in. */
export const setAreas: EditKind<SetAreas, "set areas"> = {
  kind: "set areas",
  schema: setAreasForm,
  settle(design, payload) {
    const own = overrideOf(design, payload.face);
    const next = { ...payload };
    for (const field of ["keepOuts", "entries"] as const) {
      const list = payload[field];
      if (own && list && (!isChanges(list) || list.length === 0))
        next[field] = areaChanges(own[field] ?? [], list as Area[]);
    }
    return next;
  },
  apply: (design, { face, ...lists }) =>
    withFace(design, face, (o) => {
      let next = o;
      for (const field of ["keepOuts", "entries"] as const) {
        const list = lists[field];
        if (!list) continue;
        const made = list.length > 0 && isChanges(list) ? changedAreas(o[field] ?? [], list) : (list as Area[]);
        if ("lost" in made)
          return unfit(
            `${face} has no ${AREAS[field]} of ${made.lost.w} × ${made.lost.h} mm at ${made.lost.x}, ${made.lost.y} mm`,
            "It may have been changed or deleted; look it up and try again.",
          );
        next = withFields(next, { [field]: orNone(made) });
      }
      return next;
    }),
  sentence: ({ face, ...lists }) =>
    `${face}: ${(["keepOuts", "entries"] as const).flatMap((field) => (lists[field] ? areaWords(lists[field], AREAS[field]) : [])).join(", ")}`,
  touches: ({ face }) => [{ thing: "face", of: face }],
};

function areaWords(list: AreaChange[] | Area[], name: string): string {
  if (list.length === 0 || !isChanges(list)) return `${list.length} ${name}${list.length === 1 ? "" : "s"}`;
  const [first] = list;
  if (list.length > 1 || !first) return `${list.length} ${name}s changed`;
  const { was, is } = first;
  const text = (a: Area): string =>
    `${a.text === undefined || a.text === "" ? "" : `"${a.text}" `}of ${a.w} × ${a.h} mm at ${a.x}, ${a.y} mm`;
  if (!was) return `${name} ${text(is!)} added`;
  return is ? `${name} ${text(was)} becomes one ${text(is)}` : `${name} ${text(was)} deleted`;
}

const setSheetForm = objectOf({
  face: FORM.name,
  /** Null: as the shop's rule says. */
  seen: maybe(orNull(FORM.seen)),
  machine: maybe(orNull(FORM.name)),
}).or("seen", "machine");
export interface SetSheet extends ValueOf<typeof setSheetForm> {}

export const setSheet: EditKind<SetSheet, "set sheet"> = {
  kind: "set sheet",
  schema: setSheetForm,
  apply: (design, { face, ...fields }) => withFace(design, face, (o) => withFields(o, fields)),
  sentence: ({ face, seen, machine }) =>
    `${face}: ${[
      ...(seen === undefined
        ? []
        : [seen === null ? "lies as the shop's rule says" : `seen from ${seen} on its machine`]),
      ...(machine === undefined ? [] : [machine === null ? "on the shop's machine" : `on ${machine}`]),
    ].join(", ")}`,
  touches: ({ face }) => [{ thing: "face", of: face }],
};

const layGlandsForm = objectOf({
  glands: FORM.list(
    objectOf({
      device: FORM.name,
      part: FORM.name,
      face: FORM.name,
      x: FORM.mm,
      y: FORM.mm,
      cable: maybe(FORM.name),
    }),
  ).min(1),
});
export interface LayGlands extends ValueOf<typeof layGlandsForm> {}

/** Glands become devices on a face; their cables come through them. */
export const layGlands: EditKind<LayGlands, "lay glands"> = {
  kind: "lay glands",
  schema: layGlandsForm,
  apply(design, { glands }) {
    const look = lookUp(design);
    const tags = new Set(design.devices.map((d) => d.tag));
    const through = new Map<object, { gland: string } | { glandTo: string }>();
    for (const g of glands) {
      const part = look.parts.get(g.part);
      if (!part) return notThere("part", g.part);
      if (!part.gland) return unfit(`part ${g.part} is no gland`, "Choose a gland of the library.");
      if (!look.faces.has(g.face)) return notThere("face", g.face);
      if (tags.has(g.device)) return unfit(`there is a device ${g.device} already`, "Give the gland another tag.");
      tags.add(g.device);
      if (g.cable === undefined) continue;
      const cable = look.cables.get(g.cable);
      if (!cable) return notThere("cable", g.cable);
      // At the end where a cable leads to, when it comes from another enclosure.
      const there = look.faces.get(g.face)!.enclosure;
      const far = cable.to === there && cable.from !== undefined && look.enclosures.has(cable.from);
      through.set(cable, { ...through.get(cable), ...(far ? { glandTo: g.device } : { gland: g.device }) });
    }
    return done({
      ...design,
      devices: [
        ...design.devices,
        ...glands.map(({ device, part, face, x, y }) => ({ tag: device, part, on: { face, x, y } })),
      ],
      cables: changed(
        design.cables,
        (c) => through.has(c),
        (c) => ({ ...c, ...through.get(c)! }),
      ),
    });
  },
  sentence: ({ glands }) =>
    `${glands.map((g) => (g.cable === undefined ? `spare gland ${g.device}` : `gland ${g.device} for ${g.cable}`)).join(", ")} laid on ${[...new Set(glands.map((g) => g.face))].join(", ")}`,
  touches: ({ glands }) =>
    glands.flatMap((g) => [
      { thing: "device" as const, of: g.device },
      ...(g.cable === undefined ? [] : [{ thing: "cable" as const, of: g.cable }]),
    ]),
};

const setMitreForm = objectOf({
  thing: oneOf(["rail", "duct"]),
  of: FORM.name,
  /** Ends that are cut at 45°; none: square. */
  ends: FORM.barEnds,
});
export interface SetMitre extends ValueOf<typeof setMitreForm> {}

export const setMitre: EditKind<SetMitre, "set mitre"> = {
  kind: "set mitre",
  schema: setMitreForm,
  apply(design, { thing, of, ends }) {
    const look = lookUp(design);
    const bar = thing === "rail" ? look.rails.get(of) : look.ducts.get(of);
    if (!bar) return notThere(thing, of);
    const mitre = orNone(ends);
    return done(
      thing === "rail"
        ? {
            ...design,
            rails: changed(
              design.rails,
              (b) => b === bar,
              (b) => withFields(b, { mitre }),
            ),
          }
        : {
            ...design,
            ducts: changed(
              design.ducts,
              (b) => b === bar,
              (b) => withFields(b, { mitre }),
            ),
          },
    );
  },
  sentence: ({ of, ends }) => `${of}: ${ends.length === 0 ? "cut square" : `${ends.join(" and ")} cut at 45°`}`,
  touches: ({ thing, of }) => [{ thing, of }],
};

export const METALWORK_EDITS = [
  setFixing,
  addHole,
  changeHole,
  dropHole,
  setAreas,
  setSheet,
  layGlands,
  setMitre,
] as const satisfies readonly AnyEditKind[];
