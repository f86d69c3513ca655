import { LANGUAGE_NAMES } from "./signs";
import type Joi from "joi";
import { describe, MOST_FAULTS, type Fault } from "./faults";
import { faultsOf, toPath } from "./form-faults";
import { MAX_ITEMS } from "./schema";

/**
 * Checks the form of a value without ever doing much more work than its size asks for: a file that is full of faults
 * is refused after the first MOST_FAULTS of them.
 */

const OWN_TO_THE_LANGUAGE: ReadonlySet<string> = new Set(LANGUAGE_NAMES);
/** Deeper than any of our forms. */
const MOST_DEPTH = 40;
/** Lists are gone through in pieces of this many items; only pieces with faults are looked at item by item. */
const PIECE = 500;
/** Of an item that holds more values only the first fault is told. */
const LARGE = 5000;

/** What no form allows, wherever it stands: looked for before the form is. O(size), without recursion. */
export function shapeFaults(raw: unknown): Fault[] {
  const faults: Fault[] = [];
  const left: { value: unknown; path: readonly (string | number)[] }[] = [{ value: raw, path: [] }];
  const tell = (path: readonly (string | number)[], found: string, expected: string): void => {
    faults.push({ path: toPath(path), found, expected });
  };
  while (left.length > 0 && faults.length < MOST_FAULTS) {
    const { value, path } = left.pop()!;
    if (typeof value !== "object" || value === null) continue;
    if (path.length > MOST_DEPTH) {
      tell(path, "a value within many others", `at most ${MOST_DEPTH} levels`);
      return faults;
    }
    if (Array.isArray(value)) {
      if (value.length > MAX_ITEMS) tell(path, describe(value), `a list of at most ${MAX_ITEMS}`);
      else
        for (let i = value.length - 1; i >= 0; i--)
          if (typeof value[i] === "object") left.push({ value: value[i], path: [...path, i] });
      continue;
    }
    for (const [key, inner] of Object.entries(value)) {
      if (OWN_TO_THE_LANGUAGE.has(key)) tell([...path, key], "a name that belongs to the language", "another name");
      if (typeof inner === "object") left.push({ value: inner, path: [...path, key] });
    }
  }
  return faults;
}

/** Whether a value holds more values, wherever in it, than faults could be told of. */
function isLarge(value: unknown): boolean {
  const left: unknown[] = [value];
  let seen = 0;
  while (left.length > 0) {
    const one = left.pop();
    if (typeof one !== "object" || one === null) continue;
    for (const inner of Object.values(one)) {
      if (++seen > LARGE) return true;
      left.push(inner);
    }
  }
  return false;
}

type Detail = Joi.ValidationErrorItem;

/** Faults of the items of a list, until there are enough. */
function listFaults(schema: Joi.Schema, key: string, items: readonly unknown[], enough: number): Detail[] {
  const found: Detail[] = [];
  const detailsOf = (some: readonly unknown[], abortEarly: boolean): Detail[] =>
    schema.validate(some, { abortEarly, convert: false }).error?.details ?? [];
  for (let start = 0; start < items.length && found.length < enough; start += PIECE) {
    const piece = items.slice(start, start + PIECE);
    if (detailsOf(piece, true).length === 0) continue;
    for (const [i, item] of piece.entries()) {
      if (found.length >= enough) break;
      for (const d of detailsOf([item], isLarge(item)))
        found.push({ ...d, path: [key, start + i, ...d.path.slice(1)] });
    }
  }
  return found;
}

const hasty = new WeakMap<Joi.ObjectSchema, Joi.ObjectSchema>();

/** A form that stops at the first fault: what is said with a form counts before what is said when it is asked. */
export function stopsAtFirst<T>(schema: Joi.ObjectSchema<T>): Joi.ObjectSchema<T> {
  let made = hasty.get(schema);
  if (!made) hasty.set(schema, (made = schema.prefs({ abortEarly: true })));
  return made as Joi.ObjectSchema<T>;
}

/** Fields of a form in their order. A form cannot be described in the browser, where the library leaves that out. */
const keysOf = (schema: Joi.ObjectSchema): string[] =>
  (schema as unknown as { $_terms: { keys: { key: string }[] | null } }).$_terms.keys?.map((k) => k.key) ?? [];

/** Faults of form of a whole file, in the order of its description; at most about MOST_FAULTS. */
export function formFaults(raw: object, schema: Joi.ObjectSchema): Fault[] {
  const keys = keysOf(schema);
  const lists = Object.entries(raw).filter(
    (entry): entry is [string, unknown[]] => Array.isArray(entry[1]) && entry[1].length > 0 && keys.includes(entry[0]),
  );
  const bare = { ...raw, ...Object.fromEntries(lists.map(([key]) => [key, []])) };
  const emptied = new Set(lists.map(([key]) => key));
  // Emptied lists are too short for some; that is no fault of the file.
  const found = (
    schema.prefs({ abortEarly: isLarge(bare) }).validate(bare, { convert: false }).error?.details ?? []
  ).filter((d) => !(d.path.length === 1 && emptied.has(String(d.path[0]))));
  for (const [key, items] of lists)
    found.push(...listFaults(schema.extract(key), key, items, MOST_FAULTS - found.length));
  const rank = (d: Detail): number => {
    const at = keys.indexOf(String(d.path[0]));
    return at < 0 ? keys.length : at;
  };
  return faultsOf({ details: found.sort((a, b) => rank(a) - rank(b)) });
}
