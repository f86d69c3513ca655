import type Joi from "joi";
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
