import type { ImportReply } from "@gray-bench/contract/api";
import { refused } from "../errors";
import { describeJob } from "../jobs/describe";
import type { Bench, Server } from "../server";
import { findJob, storeDesign } from "../store/jobs";

/** Import of design files. */
export function intakeRoutes(app: Server, { store, runner, workers, now }: Bench): void {
  app.post(
    "/api/jobs",
    {
      schema: {
        summary:
          "Import a design file (application/json, at most 64 MB). All or nothing; the same file twice makes no second job",
      },
    },
    async (req, reply): Promise<ImportReply> => {
      const bytes = Buffer.isBuffer(req.body) ? req.body : Buffer.alloc(0);
      const read = await workers.read(bytes);
      if (!read.ok) throw refused(read.faults, read.count);
      const { code, ...job } = read.job;
      const outcome = await storeDesign(store.db, {
        ...job,
        job: code,
        hash: read.hash,
        imported_at: now().toISOString(),
        head: JSON.stringify(read.head),
        json: Buffer.from(read.json),
      });
      if (outcome === "stored") void runner.start(read.hash, code);
      reply.code(outcome === "stored" ? 201 : 200);
      return {
        already: outcome === "already",
        job: await describeJob((await findJob(store.db, code))!, runner),
      };
    },
  );
}
