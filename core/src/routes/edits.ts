import { form, maybe, objectOf, orNull, type ValueOf } from "../form/form";
import Joi from "joi";
import { ruleForm } from "../shop/rule-forms";
import { changed, done, notThere, withFields, type AnyEditKind, type EditKind } from "../frame/edits";
import { lookUp } from "../design/lookup";
import type { Crossing } from "../design/model";
import type { OwnRouteRules } from "./rules";
import { OWN_ROUTE_RULES } from "./rules";
import { FORM } from "../design/schema";

/** Edits of how wires are led: crossings and the route rules of this job. */

const setCrossingForm = objectOf({
  crossing: FORM.crossing,
});
export interface SetCrossing extends ValueOf<typeof setCrossingForm> {}

/** Makes a crossing, or changes the one of this tag, by figures. */
export const setCrossing: EditKind<SetCrossing, "set crossing"> = {
  kind: "set crossing",
  schema: setCrossingForm,
  apply(design, { crossing }) {
    const look = lookUp(design);
    if (!look.enclosures.has(crossing.enclosure)) return notThere("enclosure", crossing.enclosure);
    for (const end of [crossing.from, crossing.to]) {
      if (end.duct !== undefined && !look.ducts.has(end.duct)) return notThere("duct", end.duct);
      if (end.face !== undefined && !look.faces.has(end.face)) return notThere("face", end.face);
    }
    const known = look.crossings.get(crossing.tag);
    return done({
      ...design,
      crossings: known
        ? changed(
            design.crossings,
            (c) => c === known,
            () => crossing,
          )
        : [...design.crossings, crossing],
    });
  },
  sentence({ crossing: { tag, kind, from, to } }) {
    const end = (e: Crossing["from"]): string => e.duct ?? e.face!;
    return `crossing ${tag} (${kind}) led from ${end(from)} to ${end(to)}`;
  },
  touches: ({ crossing }) => [{ thing: "crossing", of: crossing.tag }],
};

const removeCrossingForm = objectOf({
  crossing: FORM.name,
});
export interface RemoveCrossing extends ValueOf<typeof removeCrossingForm> {}

export const removeCrossing: EditKind<RemoveCrossing, "remove crossing"> = {
  kind: "remove crossing",
  schema: removeCrossingForm,
  apply(design, { crossing }) {
    const known = lookUp(design).crossings.get(crossing);
    if (!known) return notThere("crossing", crossing);
    return done({ ...design, crossings: design.crossings.filter((c) => c !== known) });
  },
  sentence: ({ crossing }) => `crossing ${crossing} deleted`,
  touches: ({ crossing }) => [{ thing: "crossing", of: crossing }],
};

const setDoorForm = objectOf({
  enclosure: FORM.name,
  /** Null: not said; the shop's rule; the front corner. */
  hinge: maybe(orNull(FORM.hinge)),
  opensDeg: maybe(orNull(FORM.opensDeg)),
  hingeAxis: maybe(orNull(FORM.hingeAxis)),
}).or("hinge", "opensDeg", "hingeAxis");
export interface SetDoor extends ValueOf<typeof setDoorForm> {}

/** How the door of an enclosure swings: what bundles over its hinge need follows from it. */
export const setDoor: EditKind<SetDoor, "set door"> = {
  kind: "set door",
  schema: setDoorForm,
  apply(design, { enclosure, ...fields }) {
    const known = lookUp(design).enclosures.get(enclosure);
    if (!known) return notThere("enclosure", enclosure);
    return done({
      ...design,
      enclosures: changed(
        design.enclosures,
        (e) => e === known,
        (e) => withFields(e, fields),
      ),
    });
  },
  sentence: ({ enclosure, hinge, opensDeg, hingeAxis }) =>
    `door of ${enclosure}: ${[
      hinge === undefined ? null : hinge === null ? "side of its hinge not said" : `hung on the ${hinge}`,
      opensDeg === undefined ? null : opensDeg === null ? "opens as the shop says" : `opens by ${opensDeg}°`,
      hingeAxis === undefined
        ? null
        : hingeAxis === null
          ? "turns about its corner"
          : `turns about ${hingeAxis.x}, ${hingeAxis.z} mm`,
    ]
      .filter((t) => t !== null)
      .join(", ")}`,
  touches: ({ enclosure }) => [{ thing: "enclosure", of: enclosure }],
};

const nullable = Object.fromEntries(
  (Object.keys(OWN_ROUTE_RULES) as (keyof OwnRouteRules)[]).map((key) => [
    key,
    ruleForm(OWN_ROUTE_RULES[key]).allow(null),
  ]),
);

/** Values of this job's own; null lets the shop's count again. */
const setRulesForm = objectOf({
  rules: form(Joi.object(nullable)).min(1),
});
export interface SetRules extends ValueOf<typeof setRulesForm> {}

/** Route rules of this job, on top of the shop's. */
export const setRules: EditKind<SetRules, "set rules"> = {
  kind: "set rules",
  schema: setRulesForm,
  apply(design, { rules: values }) {
    const routes = withFields(design.rules.routes ?? {}, values);
    const rules = { ...design.rules, routes };
    if (Object.keys(routes).length === 0) Reflect.deleteProperty(rules, "routes");
    return done({ ...design, rules });
  },
  sentence: ({ rules }) =>
    (Object.entries(rules) as [keyof OwnRouteRules, unknown][])
      .map(([key, value]) => {
        const rule = OWN_ROUTE_RULES[key];
        const unit = rule.as === "number" ? rule.unit : "";
        return value === null ? `${rule.text}: the shop's again` : `${rule.text}: ${said(value)} ${unit}`.trim();
      })
      .join("; "),
  touches: () => [],
};

const said = (value: unknown): string =>
  Array.isArray(value) ? value.map((pair) => (pair as string[]).join(" before ")).join(", ") || "none" : String(value);

export const ROUTES_EDITS = [setCrossing, removeCrossing, setDoor, setRules] as const satisfies readonly AnyEditKind[];
