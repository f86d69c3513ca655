import type Joi from "joi";
import { parse, type ParseError } from "jsonc-parser";
import { describe, MOST_FAULTS, type Fault } from "./faults";
import { formFaults, shapeFaults, stopsAtFirst } from "./bounded";
import { faultsOf } from "./form-faults";
import { beyond, type MostOf } from "./measure";
import { DESIGN_FORMAT, DESIGN_VERSION, type Design } from "./model";
import { designSchema } from "./schema";

export type FileRead<T> = { ok: true; value: T } | { ok: false; faults: Fault[]; count: number };
export type ReadResult = { ok: true; design: Design } | { ok: false; faults: Fault[]; count: number };

/** A kind of file of ours: one JSON object that names its format and version. */
export interface FileKind<T> {
  /** With its article: `a design`. */
  what: string;
  format: string;
  version: number;
  schema: Joi.ObjectSchema<T>;
}

/**
 * Reads a design file. Faults of form are reported all at once and refuse the file; faults of
 * content are left to the intake stage.
 * @param text the file, UTF-8 decoded; a byte order mark is passed over
 * @returns the design with absent lists filled in, or every fault (at most MOST_FAULTS of `count`)
 * Never throws on any text.
 */
export function readDesign(text: string): ReadResult {
  const read = readFile(text, DESIGN);
  return read.ok ? { ok: true, design: read.value } : read;
}

/** The same of a value that is no text: what was made of other files. */
export function checkDesign(raw: object): ReadResult {
  const read = checkFile(raw, DESIGN);
  return read.ok ? { ok: true, design: read.value } : read;
}

const DESIGN: FileKind<Design> = {
  what: "a design",
  format: DESIGN_FORMAT,
  version: DESIGN_VERSION,
  schema: designSchema,
};

/** More than the largest of our files has. */
const MOST: MostOf = { nests: 2_000_000, entries: 10_000_000 };
const WORDS = { nests: "2,000,000 objects and lists", entries: "10,000,000 entries of them" } as const;

/** Reads a file of one of our kinds. Never throws on any text. */
export function readFile<T>(text: string, kind: FileKind<T>): FileRead<T> {
  const json = text.replace(/^\uFEFF/, "");
  const much = beyond(json, MOST);
  if (much)
    return refuse([{ path: "the whole file", found: `more than ${WORDS[much]}`, expected: `at most ${WORDS[much]}` }]);
  let raw: unknown;
  try {
    raw = JSON.parse(json);
  } catch (error) {
    return refuse([error instanceof RangeError ? TOO_DEEP : jsonFault(json, kind)]);
  }
  return checkFile(raw, kind);
}

/** The same of a value that is no text any more. */
export function checkFile<T>(raw: unknown, kind: FileKind<T>): FileRead<T> {
  const wrongKind = kindFault(raw, kind);
  if (wrongKind) return refuse([wrongKind]);
  const shape = shapeFaults(raw);
  if (shape.length > 0) return refuse(shape);
  const { value, error } = stopsAtFirst(kind.schema).validate(raw);
  if (!error) return { ok: true, value: value as T };
  const faults = formFaults(raw as object, kind.schema);
  // Of what only the whole shows, the first fault is told.
  return refuse(faults.length > 0 ? faults : faultsOf(error));
}

function refuse(faults: Fault[]): { ok: false; faults: Fault[]; count: number } {
  return { ok: false, faults: faults.slice(0, MOST_FAULTS), count: faults.length };
}

/** A file of another kind gets one clear sentence rather than a hundred faults. */
function kindFault(raw: unknown, kind: Pick<FileKind<unknown>, "what" | "format" | "version">): Fault | null {
  if (typeof raw !== "object" || raw === null || Array.isArray(raw)) {
    return { path: "the whole file", found: describe(raw), expected: `${kind.what}: one JSON object` };
  }
  const { format, version } = raw as { format?: unknown; version?: unknown };
  if (format !== kind.format) {
    return { path: "format", found: describe(format), expected: `"${kind.format}"` };
  }
  if (version !== kind.version) {
    return {
      path: "version",
      found: describe(version),
      expected: `${kind.version}, the only version so far`,
    };
  }
  return null;
}

const TOO_DEEP: Fault = {
  path: "the whole file",
  found: "brackets within brackets, too many to follow",
  expected: "a file as its description says",
};

/** Where a text stops being JSON. A second parser looks for it: the platform's own names no place. */
function jsonFault(text: string, { what }: { what: string }): Fault {
  if (text.trim() === "")
    return { path: "the whole file", found: "an empty file", expected: `${what}: one JSON object` };
  const errors: ParseError[] = [];
  try {
    parse(text, errors, { disallowComments: true, allowTrailingComma: false });
  } catch {
    // It goes into brackets by calling itself.
    return TOO_DEEP;
  }
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
