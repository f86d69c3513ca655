const id = { name: "id", in: "path", required: true, schema: { type: "string" } };
const part = { name: "part", in: "path", required: true, schema: { type: "string" } };
const json = (schema: object) => ({ content: { "application/json": { schema } } });
const number = { type: "number" };
const string = { type: "string" };
const item = {
  type: "object",
  properties: {
    part: string,
    text: string,
    place: string,
    pack: number,
    level: number,
    reserved: number,
    free: number,
  },
};
const lines = {
  type: "array",
  items: { type: "object", required: ["part", "quantity"], properties: { part: string, quantity: number } },
};
const error = { type: "object", properties: { error: string } };

/** What the service says of itself. */
export const OPENAPI = {
  openapi: "3.0.3",
  info: {
    title: "Stock service, simulated",
    version: "1",
    description: "Items, places, levels, reservations, deliveries.",
  },
  paths: {
    "/items": {
      get: {
        summary: "Items with their levels, by part, in pages",
        parameters: [
          { name: "from", in: "query", schema: { type: "integer", default: 0 } },
          { name: "most", in: "query", schema: { type: "integer", default: 1000, maximum: 5000 } },
        ],
        responses: {
          200: {
            description: "a page",
            ...json({ type: "object", properties: { at: string, items: { type: "array", items: item } } }),
          },
        },
      },
    },
    "/items/{part}": {
      get: {
        summary: "One item",
        parameters: [part],
        responses: {
          200: { description: "the item", ...json(item) },
          404: { description: "no such part", ...json(error) },
        },
      },
    },
    "/deliveries": {
      get: { summary: "What is on its way, by date", responses: { 200: { description: "deliveries" } } },
    },
    "/reservations": {
      post: {
        summary: "Reserve all lines or none; the same id again counts once",
        requestBody: json({
          type: "object",
          required: ["id", "job", "lines"],
          properties: { id: string, job: string, lines },
        }),
        responses: {
          201: { description: "reserved" },
          200: { description: "was reserved before" },
          409: { description: "not enough: what is missing" },
        },
      },
    },
    "/reservations/{id}": {
      get: {
        summary: "A reservation",
        parameters: [id],
        responses: { 200: { description: "it" }, 404: { description: "none" } },
      },
      delete: {
        summary: "Release it",
        parameters: [id],
        responses: { 200: { description: "released" }, 404: { description: "none" } },
      },
    },
    "/moves": {
      post: {
        summary: "Take out of the store, or put back (below 0); the same id again counts once",
        requestBody: json({
          type: "object",
          required: ["id", "part", "quantity"],
          properties: {
            id: string,
            part: string,
            quantity: number,
            reservation: { type: "string", description: "taken from what is reserved under this id" },
          },
        }),
        responses: {
          200: { description: "the level now" },
          404: { description: "no such part" },
          409: { description: "too little" },
        },
      },
    },
  },
} as const;
