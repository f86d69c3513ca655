import swagger from "@fastify/swagger";
import { errorBody } from "@gray-bench/contract/api";
import Joi from "joi";
import toJsonSchema from "joi-to-json";
import type { Server } from "../server";

const plain = (schema: Joi.Schema): Record<string, unknown> => {
  const { $schema: _, ...rest } = toJsonSchema(schema, "open-api") as Record<string, unknown>;
  return rest;
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
      const described: Record<string, unknown> = { ...(schema as Record<string, unknown>) };
      for (const key of ["params", "querystring"]) {
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
