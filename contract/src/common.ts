import { form, maybe, objectOf } from "@gray-bench/core/form/form";
import Joi from "joi";

export type RunState = "waiting" | "running" | "done" | "failed" | "cancelled";

export const hash = form(
  Joi.string()
    .pattern(/^[0-9a-f]{64}$/)
    .description("hash of the design it was made on"),
);

export const who = form(Joi.string().trim().min(1).max(120));

export const code = form(
  Joi.string()
    .max(120)
    .pattern(/^[A-Za-z0-9][A-Za-z0-9._-]*$/)
    .description("job code"),
);

export const jobParams = objectOf({
  job: code,
});

export const libraryHash = form(Joi.string().pattern(/^[0-9a-f]{64}$/));

export const line = (most: number) => form(Joi.string().max(most).allow(""));

export const resultKey = form(Joi.string().pattern(/^[0-9a-f]{64}$/));

/** For acts that need nobody's name, and write it down where it is given. */
export const doer = form(Joi.string().trim().min(1).max(120).description("name of whoever does it"));

export const whoQuery = objectOf({
  who: maybe(doer),
});

export const machine = form(Joi.string().min(1).max(60));

export const words = form(Joi.string().trim().min(1).max(500));

export const fileName = form(
  Joi.string()
    .trim()
    .min(1)
    .max(200)
    .pattern(/^(?!\.+$)[^\p{Cc}\/\\]+$/u)
    .description("as the file is called"),
);
