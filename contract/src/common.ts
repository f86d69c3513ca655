import Joi from "joi";

export type RunState = "waiting" | "running" | "done" | "failed" | "cancelled";

export const hash = Joi.string()
  .pattern(/^[0-9a-f]{64}$/)
  .required()
  .description("hash of the design it was made on");

export const who = Joi.string().trim().min(1).max(120).required();

export const code = Joi.string()
  .max(120)
  .pattern(/^[A-Za-z0-9][A-Za-z0-9._-]*$/)
  .required()
  .description("job code");

export const jobParams = Joi.object<{ job: string }>({ job: code });

export const libraryHash = Joi.string().pattern(/^[0-9a-f]{64}$/);

export const line = (most: number) => Joi.string().max(most).allow("").required();

export const resultKey = Joi.string().pattern(/^[0-9a-f]{64}$/);

/** For acts that need nobody's name, and write it down where it is given. */
export const doer = Joi.string().trim().min(1).max(120).description("name of whoever does it");

export const whoQuery = Joi.object<{ who?: string }>({ who: doer });

export const machine = Joi.string().min(1).max(60).required();

export const words = Joi.string().trim().min(1).max(500);

export const fileName = Joi.string()
  .trim()
  .min(1)
  .max(200)
  .pattern(/^(?!\.+$)[^\p{Cc}\/\\]+$/u)
  .required()
  .description("as the file is called");
