import type Joi from "joi";
import { bodyInvalid } from "../errors";
import type { Server } from "../server";

/** Validates parameters with the Joi schemas of the contract. */
export function useJoi(app: Server): void {
  app.setValidatorCompiler(({ schema }) => {
    return (data: unknown) => {
      const { value, error } = (schema as unknown as Joi.Schema).validate(data, { abortEarly: false });
      return error ? { error } : { value: value as unknown };
    };
  });
  // Replies are written as they are.
  app.setSerializerCompiler(() => (data) => JSON.stringify(data));
}

/** A body as JSON of one form; design files are read elsewhere. @throws request.invalid naming the place */
export function readBody<T>(body: unknown, schema: Joi.ObjectSchema<T>): T {
  let raw: unknown;
  try {
    raw = JSON.parse(Buffer.isBuffer(body) ? body.toString("utf8") : "");
  } catch {
    throw bodyInvalid("the whole body", "it is not JSON");
  }
  const { value, error } = schema.validate(raw, { convert: false });
  if (error) throw bodyInvalid(error.details[0]!.path.join(".") || "the whole body", error.details[0]!.message);
  return value;
}
