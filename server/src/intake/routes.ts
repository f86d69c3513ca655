import { whoQuery } from "@gray-bench/contract/common";
import type { ImportOutlook, ImportReply } from "@gray-bench/contract/jobs";
import type { FastifyRequest } from "fastify";
import { refused } from "../errors";
import { goneOf } from "../plugins/gone";
import type { Bench, Server } from "../server";
import { Importer, type DesignRead } from "./import";

/** Import of design files. */
export function intakeRoutes(app: Server, bench: Bench): void {
  const importer = new Importer(bench);
  const readIn = async ({ body }: FastifyRequest, gone: AbortSignal): Promise<DesignRead> => {
    const read = await bench.workers.read(Buffer.isBuffer(body) ? body : Buffer.alloc(0), gone);
    if (!read.ok) throw refused(read.faults, read.count);
    return read;
  };

  app.post(
    "/api/jobs/outlook",
    {
      schema: {
        answer: "ImportOutlook",
        summary: "What a design file would do: a new job, or what it changes in one that is there; stores nothing",
      },
    },
    async (req, reply): Promise<ImportOutlook> => {
      const gone = goneOf(reply);
      return importer.outlook(await readIn(req, gone), gone);
    },
  );

  app.post(
    "/api/jobs",
    {
      schema: {
        answer: "ImportReply",
        summary:
          "Import a design: its file (application/json), or its tables packed together (application/octet-stream), at most 64 MB. All or nothing; the same one twice makes no second job",
        querystring: whoQuery,
      },
    },
    async (req, reply): Promise<ImportReply> => {
      // Until it is read nothing is changed: then it may still be given up.
      const taken = await importer.take(req, await readIn(req, goneOf(reply)));
      reply.code(taken.stored ? 201 : 200);
      return taken.reply;
    },
  );
}
