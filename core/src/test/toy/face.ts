import Joi from "joi";
import { FORM } from "../../design/schema";
import { objectOf } from "../../form/form";
import { done, notThere, type AnyEditKind, type EditKind } from "../../frame/edits";
import type { AnyEventKind } from "../../frame/event-kind";
import type { Face } from "../../frame/face";

const setTest: EditKind<{ enclosure: string; text: string }, "say what is tested"> = {
  kind: "say what is tested",
  schema: objectOf({ enclosure: FORM.name, text: FORM.text }),
  apply: (design, { enclosure, text }) =>
    design.enclosures.some((e) => e.tag === enclosure)
      ? done({ ...design, enclosures: design.enclosures.map((e) => (e.tag === enclosure ? { ...e, text } : e)) })
      : notThere("enclosure", enclosure),
  sentence: ({ enclosure, text }) => `of ${enclosure} is tested: ${text}`,
  touches: ({ enclosure }) => [{ thing: "enclosure", of: enclosure }],
};

const TESTED = {
  kind: "test",
  thing: { field: "enclosure", form: Joi.string().max(120) },
  says: { what: Joi.string().valid("passed", "failed").required() },
};

export const face: Face = {
  name: "handover",
  edits: [setTest as AnyEditKind],
  events: [TESTED as unknown as AnyEventKind],
  files: { "tests.csv": "how long each enclosure is tested" },
};
