import swagger from "@fastify/swagger";
import { errorBody } from "@gray-bench/contract/errors";
import Joi from "joi";
import toJsonSchema from "joi-to-json";
import type { Server } from "../server";

type Json = Record<string, unknown>;

const isObject = (value: unknown): value is Json =>
  typeof value === "object" && value !== null && !Array.isArray(value);

/** What the conversion makes of a form under a condition: anything at all, nothing at all, or what another field says. */
const saysNothing = (one: unknown): boolean =>
  isObject(one) &&
  (isObject(one.not) ||
    ((one.type === "array"
      ? isObject(one.items) && Object.keys(one.items).length === 0
      : typeof one.type === "string") &&
      Object.keys(one).every((key) => ["type", "nullable", "items"].includes(key))));

/** Forms under conditions as those that are left of them; an object of any fields as such; what refers to another field as a text. */
function cleaned(value: unknown): unknown {
  if (Array.isArray(value)) return value.map(cleaned);
  if (!isObject(value)) return value;
  const { oneOf, anyOf, ...rest } = value;
  const some = [oneOf, anyOf].flatMap((list) => (Array.isArray(list) ? (list as unknown[]) : []));
  const left = some.filter((one) => !saysNothing(one)).map(cleaned);
  const own = Object.fromEntries(
    // A field that may not be there is one that the form does not have.
    Object.entries(rest).flatMap(([key, one]) => (isObject(one) && isObject(one.not) ? [] : [[key, cleaned(one)]])),
  );
  if (Array.isArray(own.enum) && own.enum.some((one) => isObject(one) && "ref" in one)) return { type: "string" };
  if (isObject(own.properties) && Object.keys(own.properties).length === 0) return { type: "object" };
  if (left.length === 0) return some.length > 0 && Object.keys(own).length === 0 ? {} : own;
  if (left.length === 1) return { ...own, ...(left[0] as Json) };
  return { ...own, anyOf: left };
}

const plain = (schema: Joi.Schema): Json => {
  const { $schema: _, ...rest } = toJsonSchema(schema, "open-api") as Json;
  return cleaned(rest) as Json;
};

/** Describes the interface for programs at /api/openapi.json. */
export async function openApi(app: Server): Promise<void> {
  await app.register(swagger, {
    openapi: {
      openapi: "3.0.3",
      info: {
        title: "Gray Bench",
        version: "1",
        description: "Jobs, stage results and output files of a panel shop.",
      },
      components: { schemas: { Error: plain(errorBody) as never } },
    },
    transform: ({ schema, url }) => {
      const described: Json = { ...(schema as Json) };
      for (const key of ["params", "querystring", "body"]) {
        if (Joi.isSchema(described[key])) described[key] = plain(described[key]);
      }
      described.response = {
        "2XX": { description: "done" },
        default: {
          description: "what is wrong, where, and what to do",
          content: { "application/json": { schema: { $ref: "#/components/schemas/Error" } } },
        },
      };
      return { schema: described as never, url };
    },
  });
  app.get("/api/openapi.json", { schema: { hide: true } as never }, () => app.swagger());
}
