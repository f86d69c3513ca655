import type Joi from "joi";
import { parse, type ParseError } from "jsonc-parser";
import { describe, MOST_FAULTS, type Fault } from "./faults";
import { DESIGN_FORMAT, DESIGN_VERSION, type Design } from "./model";
import { designSchema } from "./schema";

export type ReadResult = { ok: true; design: Design } | { ok: false; faults: Fault[]; count: number };

/**
 * Reads a design file. Faults of form are reported all at once and refuse the file; faults of
 * content are left to the intake stage.
 * @param text the file, UTF-8 decoded; a byte order mark is passed over
 * @returns the design with absent lists filled in, or every fault (at most MOST_FAULTS of `count`)
 * Never throws on any text.
 */
export function readDesign(text: string): ReadResult {
  let raw: unknown;
  try {
    raw = JSON.parse(text.replace(/^\uFEFF/, ""));
  } catch {
    return refuse([jsonFault(text.replace(/^\uFEFF/, ""))]);
  }
  const wrongKind = kindFault(raw);
  if (wrongKind) return refuse([wrongKind]);
  const { value, error } = designSchema.validate(raw);
  return error ? refuse(error.details.map(toFault)) : { ok: true, design: value as Design };
}

function refuse(faults: Fault[]): ReadResult {
  return { ok: false, faults: faults.slice(0, MOST_FAULTS), count: faults.length };
}

/** A file of another kind gets one clear sentence rather than a hundred faults. */
function kindFault(raw: unknown): Fault | null {
  if (typeof raw !== "object" || raw === null || Array.isArray(raw)) {
    return { path: "the whole file", found: describe(raw), expected: "a design: one JSON object" };
  }
  const { format, version } = raw as { format?: unknown; version?: unknown };
  if (format !== DESIGN_FORMAT) {
    return { path: "format", found: describe(format), expected: `"${DESIGN_FORMAT}"` };
  }
  if (version !== DESIGN_VERSION) {
    return {
      path: "version",
      found: describe(version),
      expected: `${DESIGN_VERSION}, the only version so far`,
    };
  }
  return null;
}

/** Where a text stops being JSON. A second parser looks for it: the platform's own names no place. */
function jsonFault(text: string): Fault {
  if (text.trim() === "")
    return { path: "the whole file", found: "an empty file", expected: "a design: one JSON object" };
  const errors: ParseError[] = [];
  parse(text, errors, { disallowComments: true, allowTrailingComma: false });
  const offset = errors[0]?.offset ?? text.length;
  if (text.slice(offset).trim() === "")
    return { path: "the end of the file", found: "the file breaks off", expected: "a complete JSON file" };
  const before = text.slice(0, offset).split("\n");
  const got = text
    .slice(offset, offset + 20)
    .split("\n")[0]!
    .trim();
  return {
    path: `line ${before.length}, column ${before[before.length - 1]!.length + 1}`,
    found: got === "" ? "the end of the line" : `"${got}"`,
    expected: "JSON: check commas, quotes and brackets at this place and just before it",
  };
}

function toPath(path: readonly (string | number)[]): string {
  const joined = path.map((p) => (typeof p === "number" ? `[${p}]` : `.${p}`)).join("");
  return joined.replace(/^\./, "") || "the whole file";
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
    case "array.max":
      return fault(`a list of at most ${context.limit}`);
    case "array.includesRequiredUnknowns":
      return fault(`${context.unknownMisses} more in the list`);
    case "array.orderedLength":
      return fault(`a list of at most ${context.limit}`);
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
    default:
      return fault(detail.message.replace(/^"[^"]*" /, ""));
  }
}
