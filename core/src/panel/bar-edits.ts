import Joi from "joi";
import { freeName } from "../design/free-name";
import { lookUp } from "../design/lookup";
import type { Duct, Rail } from "../design/model";
import { FORM } from "../design/schema";
import { TOUCHING_MM } from "../design/tolerance";
import { form, listOf, maybe, objectOf, oneOf, type ValueOf } from "../form/form";
import { changed, done, notThere, unfit, withFields, type EditKind } from "../frame/edits";

/** Edits of rails and ducts. */

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

/** So many at once: no plate has more. */
const MOST_REPEATED = 100;

const addBarForm = objectOf({
  thing: oneOf(["rail", "duct"]),
  /** Of the first; the others take the next free ones. */
  tag: FORM.name,
  part: FORM.name,
  face: FORM.name,
  x: FORM.mm,
  y: FORM.mm,
  run: FORM.run,
  length: FORM.positive,
  /** How many, each a pitch beside the one before: above it where they lie, to the right where they stand upright. */
  times: maybe(form(Joi.number().integer().min(1).max(MOST_REPEATED))),
  /** Below nought: downwards, or to the left. */
  pitch: maybe(FORM.mm),
});
export interface AddBar extends ValueOf<typeof addBarForm> {}

/** New rails or ducts on a face, all of them within it, or none. */
export const addBar: EditKind<AddBar, "add bar"> = {
  kind: "add bar",
  schema: addBarForm,
  apply(design, { thing, tag, part: number, face: id, x, y, run, length, times = 1, pitch }) {
    const look = lookUp(design);
    const face = look.faces.get(id);
    if (!face) return notThere("face", id);
    const part = look.parts.get(number);
    if (!part) return notThere("part", number);
    if (part.category !== thing)
      return unfit(`${number} is no ${thing} of the library`, `Choose a part of the category ${thing}.`);
    const taken = new Set((thing === "rail" ? design.rails : design.ducts).map((b) => b.tag));
    if (taken.has(tag)) return unfit(`there is a ${thing} ${tag} already`, `${freeName(tag, taken)} is free.`);
    if (times > 1 && (pitch === undefined || Math.abs(pitch) < part.h - TOUCHING_MM))
      return unfit(
        `${times} of them need a pitch of at least ${part.h} mm, as high as ${number} is`,
        "Give the distance from one to the next.",
      );
    const bars: Rail[] = [];
    let name = tag;
    for (let i = 0; i < times; i++) {
      if (i > 0) name = freeName(name, taken);
      taken.add(name);
      const off = i * (pitch ?? 0);
      const at = run === "right" ? { x, y: y + off } : { x: x + off, y };
      const [w, h] = run === "right" ? [length, part.h] : [part.h, length];
      const over = Math.max(-at.x, -at.y, at.x + w - face.w, at.y + h - face.h);
      if (over > TOUCHING_MM)
        return unfit(
          `${thing} ${name} would reach ${Math.ceil(over * 10 - 1e-6) / 10} mm beyond ${id}, which is ${face.w} × ${face.h} mm`,
          times > 1 ? "Take fewer, a smaller pitch, or another corner." : "Make it shorter, or choose another corner.",
        );
      bars.push({ tag: name, face: id, ...at, run, length, part: number });
    }
    return done(
      thing === "rail"
        ? { ...design, rails: [...design.rails, ...bars] }
        : { ...design, ducts: [...design.ducts, ...bars] },
    );
  },
  sentence: ({ thing, tag, face, x, y, length, times = 1, pitch }) =>
    times > 1
      ? `${times} ${thing}s of ${length} mm added on ${face} from ${tag} at ${x}, ${y} mm on, ${pitch ?? "?"} mm apart`
      : `${thing} ${tag} of ${length} mm added on ${face} at ${x}, ${y} mm`,
  touches: ({ thing, tag }) => [{ thing, of: tag }],
};

const removeBarsForm = objectOf({
  thing: oneOf(["rail", "duct"]),
  tags: listOf(FORM.name).min(1).max(5000),
});
export interface RemoveBars extends ValueOf<typeof removeBarsForm> {}

/**
 * Deletes rails or ducts. What stood on a rail is loose then; a strip that was laid on it, or a crossing that led into
 * a duct, must be told where it goes first.
 */
export const removeBars: EditKind<RemoveBars, "remove bars"> = {
  kind: "remove bars",
  schema: removeBarsForm,
  apply(design, { thing, tags }) {
    const look = lookUp(design);
    const known: ReadonlyMap<string, Rail> = thing === "rail" ? look.rails : look.ducts;
    const lost = tags.find((t) => !known.has(t));
    if (lost !== undefined) return notThere(thing, lost);
    const going = new Set(tags);
    const goes = (b: Rail): boolean => going.has(b.tag) && known.get(b.tag) === b;
    if (thing === "duct") {
      const held = design.crossings.find((c) => [c.from, c.to].some((e) => e.duct !== undefined && going.has(e.duct)));
      if (held)
        return unfit(`crossing ${held.tag} leads into ${going.has(held.from.duct ?? "") ? held.from.duct : held.to.duct}`, "Lead the crossing elsewhere, or delete it first."); // prettier-ignore
      return done({ ...design, ducts: design.ducts.filter((d) => !goes(d)) });
    }
    const strip = design.strips.find((s) => going.has(s.rail));
    if (strip) return unfit(`strip ${strip.tag} belongs on rail ${strip.rail}`, "Lay the strip on another rail first.");
    return done({
      ...design,
      rails: design.rails.filter((r) => !goes(r)),
      devices: changed(
        design.devices,
        (d) => d.on?.rail !== undefined && going.has(d.on.rail),
        (d) => withFields(d, { on: null }),
      ),
    });
  },
  sentence: ({ thing, tags }) =>
    `${thing}${tags.length === 1 ? "" : "s"} ${tags.slice(0, 6).join(", ")}${tags.length > 6 ? ` and ${tags.length - 6} more` : ""} deleted${thing === "rail" ? "; what stood there is loose" : ""}`,
  touches: ({ thing, tags }) => tags.map((of) => ({ thing, of })),
};
