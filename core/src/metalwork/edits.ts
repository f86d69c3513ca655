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
} from "../design/edits";
import { faceId } from "../design/geometry";
import { lookUp } from "../design/lookup";
import type { BarEnd, Design, FaceOverride, Fixing, Hole, Seen } from "../design/model";
import { FORM } from "../design/schema";

/** Edits of metalwork: how patterns are made, own holes, areas of sheets, how sheets lie, entries, ends of bars. */

const PATTERNS = ["device", "rail", "duct"] as const;

export interface SetFixing {
  things: { thing: (typeof PATTERNS)[number]; of: string }[];
  /** Null: as the part, or the shop's rule, says. */
  fixing: Fixing | null;
}

/** How the pattern of a device, or the screws of a rail or a duct, are made; or that they are not drilled here. */
export const setFixing: EditKind<SetFixing> = {
  kind: "set fixing",
  schema: Joi.object<SetFixing, true>({
    things: FORM.list(
      Joi.object({
        thing: Joi.string()
          .valid(...PATTERNS)
          .required(),
        of: FORM.name.required(),
      }),
    )
      .min(1)
      .required(),
    fixing: FORM.fixing.allow(null).required(),
  }),
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

const holeText = (hole: Hole): string =>
  hole.kind === "polygon"
    ? `an outline of ${hole.points.length} corners`
    : `a ${hole.kind} hole at ${hole.x}, ${hole.y} mm`;

export interface AddHole {
  face: string;
  hole: Hole;
}

export const addHole: EditKind<AddHole> = {
  kind: "add hole",
  schema: Joi.object<AddHole>({ face: FORM.name.required(), hole: FORM.hole.required() }),
  apply: (design, { face, hole }) => withFace(design, face, (o) => ({ ...o, holes: [...(o.holes ?? []), hole] })),
  sentence: ({ face, hole }) => `${face}: ${holeText(hole)}`,
  touches: ({ face }) => [{ thing: "face", of: face }],
};

export interface ChangeHole {
  face: string;
  /** Which of its own holes, from one. */
  nth: number;
  hole: Hole;
}

const nth = Joi.number().integer().min(1).max(200_000).required();
const noHole = (face: string, n: number): Applied =>
  unfit(`${face} has no own hole ${n}`, "It may have been taken away; look it up and try again.");

export const changeHole: EditKind<ChangeHole> = {
  kind: "change hole",
  schema: Joi.object<ChangeHole>({ face: FORM.name.required(), nth, hole: FORM.hole.required() }),
  apply: (design, { face, nth: n, hole }) =>
    withFace(design, face, (o) =>
      o.holes?.[n - 1] === undefined
        ? noHole(face, n)
        : { ...o, holes: o.holes.map((h, i) => (i === n - 1 ? hole : h)) },
    ),
  sentence: ({ face, nth: n, hole }) => `${face}: own hole ${n} becomes ${holeText(hole)}`,
  touches: ({ face }) => [{ thing: "face", of: face }],
};

export interface DropHole {
  face: string;
  nth: number;
}

export const dropHole: EditKind<DropHole> = {
  kind: "take hole away",
  schema: Joi.object<DropHole, true>({ face: FORM.name.required(), nth }),
  apply: (design, { face, nth: n }) =>
    withFace(design, face, (o) =>
      o.holes?.[n - 1] === undefined
        ? noHole(face, n)
        : withFields(o, { holes: orNone(o.holes.filter((_, i) => i !== n - 1)) }),
    ),
  sentence: ({ face, nth: n }) => `${face}: own hole ${n} taken away`,
  touches: ({ face }) => [{ thing: "face", of: face }],
};

type Area = NonNullable<FaceOverride["keepOuts"]>[number];

export interface SetAreas {
  face: string;
  keepOuts?: Area[];
  entries?: Area[];
}

/** Keep-outs of a face, or the plates in it through which cables come in: each list as a whole. */
export const setAreas: EditKind<SetAreas> = {
  kind: "set areas",
  schema: Joi.object<SetAreas, true>({
    face: FORM.name.required(),
    keepOuts: FORM.list(FORM.area),
    entries: FORM.list(FORM.area),
  }).or("keepOuts", "entries"),
  apply: (design, { face, keepOuts, entries }) =>
    withFace(design, face, (o) =>
      withFields(o, {
        ...(keepOuts ? { keepOuts: orNone(keepOuts) } : {}),
        ...(entries ? { entries: orNone(entries) } : {}),
      }),
    ),
  sentence: ({ face, keepOuts, entries }) =>
    `${face}: ${[
      ...(keepOuts ? [`${keepOuts.length} keep-outs`] : []),
      ...(entries ? [`${entries.length} entry plates`] : []),
    ].join(", ")}`,
  touches: ({ face }) => [{ thing: "face", of: face }],
};

export interface SetSheet {
  face: string;
  /** Null: as the shop's rule says. */
  seen?: Seen | null;
  machine?: string | null;
}

export const setSheet: EditKind<SetSheet> = {
  kind: "set sheet",
  schema: Joi.object<SetSheet, true>({
    face: FORM.name.required(),
    seen: FORM.seen.allow(null),
    machine: FORM.name.allow(null),
  }).or("seen", "machine"),
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

export interface LayGlands {
  glands: { device: string; part: string; face: string; x: number; y: number; cable?: string }[];
}

/** Glands become devices on a face; their cables come through them. */
export const layGlands: EditKind<LayGlands> = {
  kind: "lay glands",
  schema: Joi.object<LayGlands, true>({
    glands: FORM.list(
      Joi.object({
        device: FORM.name.required(),
        part: FORM.name.required(),
        face: FORM.name.required(),
        x: FORM.mm.required(),
        y: FORM.mm.required(),
        cable: FORM.name,
      }),
    )
      .min(1)
      .required(),
  }),
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

export interface SetMitre {
  thing: "rail" | "duct";
  of: string;
  /** Ends that are cut at 45°; none: square. */
  ends: BarEnd[];
}

export const setMitre: EditKind<SetMitre> = {
  kind: "set mitre",
  schema: Joi.object<SetMitre, true>({
    thing: Joi.string().valid("rail", "duct").required(),
    of: FORM.name.required(),
    ends: FORM.barEnds.required(),
  }),
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

export const METALWORK_EDITS: readonly AnyEditKind[] = [
  setFixing,
  addHole,
  changeHole,
  dropHole,
  setAreas,
  setSheet,
  layGlands,
  setMitre,
];
