import { form, formOf, listOf, maybe, objectOf, just, orNull, type ValueOf } from "../form/form";
import Joi from "joi";
import type { LoggedEdit } from "./edits";
import { readFile, type FileRead } from "../design/read";

/** The edits of a job as a file, `*.edits.json`: laid on the design as received they give the current one. */

export const EDITS_FORMAT = "gray-bench-edits";
export const EDITS_VERSION = 1;

const by = { who: form(Joi.string().max(120)), when: form(Joi.string().isoDate()) };
const edit = objectOf({
  id: form(Joi.string().max(120)),
  kind: form(Joi.string().max(60)),
  payload: formOf<unknown>(Joi.object()),
  ...by,
  why: maybe(form(Joi.string().max(500))),
  back: orNull(objectOf(by)),
});

const schema = objectOf({
  format: just(EDITS_FORMAT),
  version: just(EDITS_VERSION),
  job: form(Joi.string().max(120)),
  revision: form(Joi.string().max(120)),
  /** Hash of the design as received, on which they were laid. */
  received: form(Joi.string().max(120)),
  edits: listOf<LoggedEdit>(edit).max(200_000),
}).prefs({ abortEarly: false, convert: false });
export interface EditsFile extends ValueOf<typeof schema> {}

/** Reads a file of edits; whether each kind is known and fits is seen when they are laid. Never throws on any text. */
export const readEdits = (text: string): FileRead<EditsFile> =>
  readFile(text, { what: "a file of edits", format: EDITS_FORMAT, version: EDITS_VERSION, schema });
