import swagger from "@fastify/swagger";
import answers from "@gray-bench/contract/answers.schema.json";
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

const FORMS = "#/components/schemas/";

/** JSON Schema as this version of OpenAPI has it: what may be null says so beside its type, one value is a list of one. */
function asOpenApi(value: unknown): unknown {
  if (Array.isArray(value)) return value.map(asOpenApi);
  if (!isObject(value)) return value;
  const { type, anyOf, const: only, $ref, description, ...rest } = value;
  // Beside a reference nothing is read.
  if (typeof $ref === "string") return { $ref: $ref.replace("#/definitions/", FORMS) };
  const own = Object.fromEntries(Object.entries(rest).map(([key, one]) => [key, asOpenApi(one)]));
  if (typeof description === "string") own.description = description;
  if (only !== undefined) own.enum = [only];
  const types = [type].flat().filter((t) => t !== undefined && t !== "null");
  const some = (Array.isArray(anyOf) ? anyOf : []) as Json[];
  const left = some.filter((one) => one.type !== "null").map(asOpenApi);
  if ([type].flat().includes("null") || left.length < some.length) own.nullable = true;
  if (types.length === 1) own.type = types[0];
  const anyType = types.length > 1 ? types.map((t) => ({ type: t })) : [];
  if (left.length + anyType.length > 0) own.anyOf = [...left, ...anyType];
  return own;
}

type Forms = typeof answers.definitions;

declare module "fastify" {
  interface FastifySchema {
    /** Form of what is answered when all goes well, by its name in the contract. */
    answer?: keyof Forms;
  }
}

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
      components: {
        schemas: { Error: plain(errorBody) as never, ...(asOpenApi(answers.definitions) as object) },
      },
    },
    transform: ({ schema, url }) => {
      const { answer, ...described }: Json = { ...(schema as Json) };
      for (const key of ["params", "querystring", "body"]) {
        if (Joi.isSchema(described[key])) described[key] = plain(described[key]);
      }
      described.response = {
        "2XX": {
          description: "done",
          ...(typeof answer === "string" && {
            content: { "application/json": { schema: { $ref: `${FORMS}${answer}` } } },
          }),
        },
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
