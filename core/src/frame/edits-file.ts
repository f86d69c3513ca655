import Joi from "joi";
import type { LoggedEdit } from "./edits";
import { readFile, type FileRead } from "../design/read";

/** The edits of a job as a file, `*.edits.json`: laid on the design as received they give the current one. */

export const EDITS_FORMAT = "gray-bench-edits";
export const EDITS_VERSION = 1;

export interface EditsFile {
  format: typeof EDITS_FORMAT;
  version: typeof EDITS_VERSION;
  job: string;
  revision: string;
  /** Hash of the design as received, on which they were laid. */
  received: string;
  edits: LoggedEdit[];
}

const by = { who: Joi.string().max(120).required(), when: Joi.string().isoDate().required() };

const schema = Joi.object<EditsFile>({
  format: Joi.string().valid(EDITS_FORMAT).required(),
  version: Joi.number().valid(EDITS_VERSION).required(),
  job: Joi.string().max(120).required(),
  revision: Joi.string().max(120).required(),
  received: Joi.string().max(120).required(),
  edits: Joi.array()
    .max(200_000)
    .items(
      Joi.object({
        id: Joi.string().max(120).required(),
        kind: Joi.string().max(60).required(),
        payload: Joi.object().required(),
        ...by,
        why: Joi.string().max(500),
        back: Joi.object(by).allow(null).required(),
      }),
    )
    .required(),
}).prefs({ abortEarly: false, convert: false });

/** Reads a file of edits; whether each kind is known and fits is seen when they are laid. Never throws on any text. */
export const readEdits = (text: string): FileRead<EditsFile> =>
  readFile(text, { what: "a file of edits", format: EDITS_FORMAT, version: EDITS_VERSION, schema });
