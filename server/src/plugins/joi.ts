import type Joi from "joi";
import { beyond, type MostOf } from "@gray-bench/core/design/measure";
import { bodyInvalid } from "../errors";
import type { Asked, Server } from "../server";

/** Validates parameters with the Joi schemas of the contract. Bodies are bytes here: `readBody` measures them before it looks at them. */
export function useJoi(app: Server): void {
  app.setValidatorCompiler(({ schema, httpPart }) => {
    if (httpPart === "body") return (data: unknown) => ({ value: data });
    return (data: unknown) => {
      const { value, error } = (schema as unknown as Joi.Schema).validate(data, { abortEarly: false });
      return error ? { error } : { value: value as unknown };
    };
  });
  // Replies are written as they are.
  app.setSerializerCompiler(() => (data) => JSON.stringify(data));
}

/** How long the lists of a form may be, by their names. */
const mosts = new WeakMap<Joi.ObjectSchema, ReadonlyMap<string, number>>();

function mostsOf(schema: Joi.ObjectSchema): ReadonlyMap<string, number> {
  let known = mosts.get(schema);
  if (!known) {
    const { keys } = schema.describe() as { keys?: Record<string, Joi.Description> };
    known = new Map(
      Object.entries(keys ?? {}).flatMap(([name, { type, rules }]): [string, number][] => {
        const rule = (rules as { name: string; args?: { limit?: unknown } }[] | undefined)?.find(
          (r) => r.name === "max",
        );
        return type === "array" && typeof rule?.args?.limit === "number" ? [[name, rule.args.limit]] : [];
      }),
    );
    mosts.set(schema, known);
  }
  return known;
}

/** Lists are measured before their items are looked at: a million of them would be looked at for seconds. */
function tooLong(raw: unknown, schema: Joi.ObjectSchema): { name: string; count: number; most: number } | null {
  for (const [name, most] of mostsOf(schema)) {
    const list = (raw as Record<string, unknown> | null)?.[name];
    if (Array.isArray(list) && list.length > most) return { name, count: list.length, most };
  }
  return null;
}

/** A shop with all its tables has less. */
const MOST: MostOf = { nests: 50_000, entries: 400_000 };
/** Objects and lists in one entry of a list, on an average, and beside the list. */
const NESTS_OF_ONE = 20;
const NESTS_BESIDE = 1000;

/** How much may stand in a body of a form: where it is made of lists, so much for each entry they may have. */
function mostIn(schema: Joi.ObjectSchema): MostOf {
  const items = [...mostsOf(schema).values()].reduce((sum, n) => sum + n, 0);
  return items === 0 ? MOST : { ...MOST, nests: Math.min(MOST.nests, NESTS_BESIDE + NESTS_OF_ONE * items) };
}

/** A body as JSON of one form; design files are read elsewhere. @throws request.invalid naming the place */
export function readBody<T>(body: unknown, schema: Joi.ObjectSchema<T>): T {
  const text = Buffer.isBuffer(body) ? body.toString("utf8") : "";
  const most = mostIn(schema);
  const much = beyond(text, most);
  if (much) {
    const words = much === "nests" ? "objects and lists" : "entries";
    throw bodyInvalid("the whole body", `it has more ${words} than ${most[much].toLocaleString("en-GB")}`);
  }
  let raw: unknown;
  try {
    raw = JSON.parse(text);
  } catch {
    throw bodyInvalid("the whole body", "it is not JSON");
  }
  const long = tooLong(raw, schema);
  if (long) throw bodyInvalid(long.name, `it has ${long.count} entries; ${long.most} are the most`);
  const { value, error } = schema.validate(raw, { convert: false });
  if (error) throw bodyInvalid(error.details[0]!.path.join(".") || "the whole body", error.details[0]!.message);
  return value;
}

/** The name that was given with what needs none; null where none was. */
export const whoOf = ({ query }: Pick<Asked, "query">): string | null => query.who ?? null;
