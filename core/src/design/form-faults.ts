import type Joi from "joi";
import { describe, type Fault } from "./faults";

/** Faults of form in our words: place, what was found there, what was expected. */
export const faultsOf = (error: Pick<Joi.ValidationError, "details">): Fault[] => error.details.map(toFault);

const MOST_PATH_CHARS = 160;

/** A place in a file, `wires[213].from.pin`; the middle of a very long one is left out. */
export function toPath(path: readonly (string | number)[]): string {
  const joined = path
    .map((p) => (typeof p === "number" ? `[${p}]` : `.${p}`))
    .join("")
    .replace(/^\./, "");
  if (joined.length <= MOST_PATH_CHARS) return joined || "the whole file";
  return `${joined.slice(0, MOST_PATH_CHARS - 60)}…${joined.slice(-59)}`;
}

function toFault(detail: Joi.ValidationErrorItem): Fault {
  const context = detail.context ?? {};
  const value = context.value as unknown;
  const path = toPath(detail.path);
  const fault = (expected: string): Fault => ({ path, found: describe(value), expected });
  switch (detail.type) {
    case "any.required":
      return { path, found: "nothing", expected: "a value: this field is needed" };
    case "any.unknown":
      return {
        path,
        found: `${describe(value)} that does not belong to this kind`,
        expected: "no such field with this kind",
      };
    case "object.unknown":
      return {
        path,
        found: "a field this format does not know",
        expected: "one of the fields in the format's description",
      };
    case "any.invalid":
      return fault("another name: this one belongs to the language");
    case "any.only":
      return fault(`one of: ${((context.valids as unknown[]) ?? []).join(", ")}`);
    case "string.base":
      return fault("text");
    case "string.empty":
      return { path, found: "empty text", expected: "at least one character" };
    case "string.max":
      return fault(`at most ${context.limit} characters`);
    case "string.pattern.name":
    case "string.pattern.base":
      return fault(String(context.name ?? "text of another form"));
    case "number.base":
      return fault("a number");
    case "number.integer":
      return fault("a whole number");
    case "number.greater":
      return fault(`a number greater than ${context.limit}`);
    case "number.min":
      return fault(`a number of at least ${context.limit}`);
    case "number.max":
      return fault(`a number of at most ${context.limit}`);
    case "number.infinity":
    case "number.unsafe":
      return fault("a finite number");
    case "boolean.base":
      return fault("true or false");
    case "array.base":
      return fault("a list");
    case "array.min":
      return fault(`a list of at least ${context.limit}`);
    case "array.length":
      return fault(`a list of ${context.limit}`);
    case "array.max":
    case "array.orderedLength":
      return fault(`a list of at most ${context.limit}`);
    case "array.includesRequiredUnknowns":
      return fault(`${context.unknownMisses} more in the list`);
    case "alternatives.types":
    case "alternatives.match":
      return fault("text, or a list of texts");
    case "object.base":
      return fault("an object");
    case "object.and":
      return {
        path,
        found: `only ${(context.present as string[]).join(", ")}`,
        expected: "x, y and z together, or none",
      };
    case "object.missing":
      return {
        path,
        found: "neither of them",
        expected: `one of: ${(context.peers as string[]).join(", ")}`,
      };
    case "object.xor":
      return {
        path,
        found: `${(context.present as string[]).join(" and ")} together`,
        expected: "only one of them",
      };
    case "any.custom":
      return fault(`a pattern that can be read; ${(context.error as Error).message}`);
    default:
      return fault(detail.message.replace(/^"[^"]*" /, ""));
  }
}
