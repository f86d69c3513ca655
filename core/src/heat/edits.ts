import { form, maybe, objectOf, oneOf, orNull, type ValueOf } from "../form/form";
import Joi from "joi";
import { changed, done, notThere, unfit, withFields, type AnyEditKind, type EditKind } from "../frame/edits";
import { lookUp } from "../design/lookup";
import { DIRECTIONS, SURFACE_STATES, type Device } from "../design/model";
import type { HeatRules } from "./rules";
import { HEAT_RULES, SURFACES } from "./rules";
import type { NumberRule } from "../shop/rule-kinds";
import { numberForm } from "../shop/rule-forms";
import { FORM } from "../design/schema";
import { kindOf } from "./kinds";

/** Edits of heat: surroundings and wishes, of the job or of a zone; shares; units that are mounted. */

const NUMBERS = Object.entries(HEAT_RULES).filter((e): e is [keyof HeatRules, NumberRule] => e[1].as === "number");
const values = form(
  Joi.object(Object.fromEntries(NUMBERS.map(([key, rule]) => [key, numberForm(rule).allow(null)]))),
).min(1);

type Values = { [K in keyof HeatRules]?: number | null };

const said = (given: Values): string =>
  (Object.entries(given) as [keyof HeatRules, number | null][])
    .map(([key, value]) => {
      const rule = HEAT_RULES[key];
      const unit = rule.as === "number" ? rule.unit : "";
      return value === null ? `${rule.text}: as before` : `${rule.text}: ${value} ${unit}`.trim();
    })
    .join("; ");

const setHeatForm = objectOf({
  /** Of one enclosure and its zone; of the job when absent. */
  enclosure: maybe(FORM.name),
  values,
});
export interface SetHeat extends ValueOf<typeof setHeatForm> {}

/** What heat is worked out with; null lets the job's, or the shop's, count again. */
export const setHeat: EditKind<SetHeat, "set heat"> = {
  kind: "set heat",
  schema: setHeatForm,
  apply(design, { enclosure, values: given }) {
    if (enclosure === undefined) {
      const heat = withFields(design.rules.heat ?? {}, given) as Partial<HeatRules>;
      const rules = { ...design.rules, heat };
      if (Object.keys(heat).length === 0) Reflect.deleteProperty(rules, "heat");
      return done({ ...design, rules });
    }
    const own = lookUp(design).enclosures.get(enclosure);
    if (!own) return notThere("enclosure", enclosure);
    const zone = own.zone ?? own.tag;
    return done({
      ...design,
      enclosures: changed(
        design.enclosures,
        (e) => (e.zone ?? e.tag) === zone,
        (e) => {
          const heat = withFields(e.heat ?? {}, given) as Partial<HeatRules>;
          return withFields(e, { heat: Object.keys(heat).length > 0 ? heat : null });
        },
      ),
    });
  },
  sentence: ({ enclosure, values: given }) =>
    `${enclosure === undefined ? "heat" : `heat of ${enclosure}`}: ${said(given)}`,
  touches: ({ enclosure }) => (enclosure === undefined ? [] : [{ thing: "enclosure", of: enclosure }]),
};

const setLoadForm = objectOf({
  device: FORM.name,
  /** Share of its rated load, and of the time it is at load; null: as the design, or the job, says. */
  loadShare: maybe(orNull(form(Joi.number().min(0).max(10)))),
  diversity: maybe(orNull(form(Joi.number().min(0).max(1)))),
}).or("loadShare", "diversity");
export interface SetLoad extends ValueOf<typeof setLoadForm> {}

export const setLoad: EditKind<SetLoad, "set load"> = {
  kind: "set load",
  schema: setLoadForm,
  apply(design, { device: tag, ...fields }) {
    const device = lookUp(design).devices.get(tag);
    if (!device) return notThere("device", tag);
    return done({
      ...design,
      devices: changed(
        design.devices,
        (d) => d === device,
        (d) => withFields(d, fields),
      ),
    });
  },
  sentence: ({ device, loadShare, diversity }) =>
    `${device}: ${[
      ...(loadShare === undefined ? [] : [loadShare === null ? "load as rated" : `load ${loadShare}`]),
      ...(diversity === undefined ? [] : [diversity === null ? "diversity of the job" : `diversity ${diversity}`]),
    ].join(", ")}`,
  touches: ({ device }) => [{ thing: "device", of: device }],
};

const turnOutletForm = objectOf({
  device: FORM.name,
  /** Where a deflector leads the air, on the unit's face as seen from outside; null: without one. */
  to: orNull(oneOf(DIRECTIONS)),
});
export interface TurnOutlet extends ValueOf<typeof turnOutletForm> {}

export const turnOutlet: EditKind<TurnOutlet, "turn outlet"> = {
  kind: "turn outlet",
  schema: turnOutletForm,
  apply(design, { device: tag, to }) {
    const look = lookUp(design);
    const device = look.devices.get(tag);
    const part = device && look.parts.get(device.part);
    if (!device || !part) return notThere("device", tag);
    const kind = kindOf(part);
    if (kind === null || kind === "heater")
      return unfit(`${tag} blows no air`, "Name a cooling unit, a fan or an exchanger.");
    return done({
      ...design,
      devices: changed(
        design.devices,
        (d) => d === device,
        (d) => withFields(d, { deflector: to }),
      ),
    });
  },
  sentence: ({ device, to }) => (to === null ? `${device}: no deflector` : `${device}: deflector leads the air ${to}`),
  touches: ({ device }) => [{ thing: "device", of: device }],
};

const setSurfacesForm = objectOf({
  enclosure: FORM.name,
  /** How its surfaces stand; null: as where nothing is said. */
  surfaces: form(
    Joi.object(
      Object.fromEntries(
        SURFACES.map((s) => [
          s,
          Joi.string()
            .valid(...SURFACE_STATES)
            .allow(null),
        ]),
      ),
    ),
  ).min(1),
});
export interface SetSurfaces extends ValueOf<typeof setSurfacesForm> {}

export const setSurfaces: EditKind<SetSurfaces, "set surfaces"> = {
  kind: "set surfaces",
  schema: setSurfacesForm,
  apply(design, { enclosure, surfaces: given }) {
    if (!lookUp(design).enclosures.has(enclosure)) return notThere("enclosure", enclosure);
    return done({
      ...design,
      enclosures: changed(
        design.enclosures,
        (e) => e.tag === enclosure,
        (e) => {
          const surfaces = withFields(e.surfaces ?? {}, given);
          return withFields(e, { surfaces: Object.keys(surfaces).length > 0 ? surfaces : null });
        },
      ),
    });
  },
  sentence: ({ enclosure, surfaces }) =>
    `${enclosure}: ${Object.entries(surfaces)
      .map(([surface, state]) => `${surface} ${state ?? "as it stands"}`)
      .join(", ")}`,
  touches: ({ enclosure }) => [{ thing: "enclosure", of: enclosure }],
};

const mountUnitForm = objectOf({
  device: FORM.name,
  part: FORM.name,
  face: FORM.name,
  x: FORM.mm,
  y: FORM.mm,
  /** Units it takes the place of: they leave the design. */
  instead: maybe(FORM.list(FORM.name).unique()),
});
export interface MountUnit extends ValueOf<typeof mountUnitForm> {}

/** A unit becomes a device on a face; wires that landed on what it replaces land on it where it has such pins. */
export const mountUnit: EditKind<MountUnit, "mount unit"> = {
  kind: "mount unit",
  schema: mountUnitForm,
  apply(design, { device: tag, part: number, face, x, y, instead = [] }) {
    const look = lookUp(design);
    const part = look.parts.get(number);
    if (!part) return notThere("part", number);
    const exits = design.parts.some((p) => p.climate?.exit === number);
    if (kindOf(part) === null && !exits)
      return unfit(`part ${number} is no climate unit`, "Choose a unit of the library.");
    if (!look.faces.has(face)) return notThere("face", face);
    const [first, ...others] = instead;
    for (const old of instead) {
      const there = look.devices.get(old);
      const its = there && look.parts.get(there.part);
      if (!there || !its) return notThere("device", old);
      if (kindOf(its) === null) return unfit(`${old} is no climate unit`, "Name the units that it replaces.");
    }
    if (tag !== first && design.devices.some((d) => d.tag === tag))
      return unfit(`there is a device ${tag} already`, "Give the unit another tag.");
    const unit: Device = { tag, part: number, on: { face, x, y } };
    const gone = new Set(others);
    const devices =
      first === undefined
        ? [...design.devices, unit]
        : design.devices.flatMap((d) => (gone.has(d.tag) ? [] : d.tag === first ? [{ ...d, ...unit }] : [d]));
    const renamed = first !== undefined && first !== tag;
    if (!renamed && gone.size === 0) return done({ ...design, devices });
    const held = design.wires.find((w) =>
      [w.from, w.to].some((r) => r && (gone.has(r.device) || (renamed && r.device === first))),
    );
    if (held)
      return unfit(
        `wire ${held.number} lands on a unit that would leave the design`,
        renamed ? `Keep the tag ${first}, so that its wires stay.` : "Lead it elsewhere first.",
      );
    return done({ ...design, devices });
  },
  sentence: ({ device, part, face, x, y, instead }) =>
    `${device}, ${part}, mounted on ${face} at ${x}, ${y} mm${instead?.length ? ` instead of ${instead.join(", ")}` : ""}`,
  touches: ({ device, face, instead }) => [
    { thing: "device", of: device },
    { thing: "face", of: face },
    ...(instead ?? []).filter((of) => of !== device).map((of) => ({ thing: "device" as const, of })),
  ],
};

export const HEAT_EDITS = [
  setHeat,
  setLoad,
  turnOutlet,
  setSurfaces,
  mountUnit,
] as const satisfies readonly AnyEditKind[];
