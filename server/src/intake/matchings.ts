import { whoQuery } from "@gray-bench/contract/common";
import { keepMatching as form, matchingParams, type MatchingList } from "@gray-bench/contract/intake";
import { keptFile } from "@gray-bench/core/tables/kept";
import { noSuchMatching, tooManyMatchings } from "./errors";
import { readBody, whoOf } from "../plugins/joi";
import type { Bench, Server } from "../server";
import { deleteMatching, keepMatching, listMatchings } from "../store/arrivals";

const MOST = 200;

/** Matchings, kept by name: usually that of a customer. */
export function matchingRoutes(app: Server, { store, now, note }: Bench): void {
  app.get(
    "/api/matchings",
    { schema: { answer: "MatchingList", summary: "Kept matchings, by name" } },
    async (): Promise<MatchingList> => ({
      matchings: await listMatchings(store.db),
    }),
  );

  app.get(
    "/api/matchings/:name/file",
    { schema: { summary: "A matching as a file, as `make` takes it", params: matchingParams } },
    async (req, reply) => {
      const { name } = req.params;
      const found = (await listMatchings(store.db)).find((m) => m.name === name);
      if (!found) throw noSuchMatching(name);
      const stem = name.replace(/[^\w.-]+/g, "_");
      return reply
        .header("content-disposition", `attachment; filename="${stem}.matching.json"`)
        .type("application/json; charset=utf-8")
        .send(keptFile(found));
    },
  );

  app.put(
    "/api/matchings/:name",
    {
      schema: {
        answer: "MatchingList",
        body: form,
        summary: "Keep a matching under a name; what was kept under it is replaced",
        params: matchingParams,
        querystring: whoQuery,
      },
    },
    async (req): Promise<MatchingList> => {
      const { name } = req.params;
      const { tables, drawings = [] } = readBody(req.body, form);
      const known = await listMatchings(store.db);
      if (known.length >= MOST && !known.some((m) => m.name === name)) throw tooManyMatchings(MOST);
      await keepMatching(store.db, { name, tables, drawings }, now().toISOString());
      await note(req, { what: "matching", job: null, who: whoOf(req), detail: `${name} kept` });
      return { matchings: await listMatchings(store.db) };
    },
  );

  app.delete(
    "/api/matchings/:name",
    {
      schema: {
        summary: "Delete a matching; jobs that were made with it keep theirs",
        params: matchingParams,
        querystring: whoQuery,
      },
    },
    async (req, reply) => {
      const { name } = req.params;
      const { numDeletedRows } = await deleteMatching(store.db, name);
      if (numDeletedRows === 0n) throw noSuchMatching(name);
      await note(req, { what: "matching", job: null, who: whoOf(req), detail: `${name} deleted` });
      return reply.code(204).send();
    },
  );
}
