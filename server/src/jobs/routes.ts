import type { JobDetail } from "@gray-bench/contract/jobs";
import { jobParams } from "@gray-bench/contract/common";
import { deleteQuery, jobsQuery, type JobList } from "@gray-bench/contract/jobs";
import { FILES } from "@gray-bench/core/files";
import { jobAtMachine, noSuchJob } from "../errors";
import { goneOf } from "../plugins/gone";
import { whoOf } from "../plugins/joi";
import type { Bench, Server } from "../server";
import {
  countJobs,
  deleteJob,
  fileStem,
  findJob,
  listJobs,
  listRevisions,
  madeFrom,
  readDesignJson,
} from "../store/jobs";
import { isKnown } from "../results/etag";
import { openRuns } from "../store/leads";
import { currentShop } from "../store/shops";
import { describeJob, describeJobs } from "./describe";
import { fromJson } from "../store/json";

/** Reading and deleting jobs. */
export function jobRoutes(app: Server, { store, runner, workers, readJob, note, turns }: Bench): void {
  app.get(
    "/api/jobs",
    {
      schema: {
        answer: "JobList",
        summary: "A page of the jobs, the one due first at the top",
        querystring: jobsQuery,
      },
    },
    async (req): Promise<JobList> => {
      const { q, older, from, most } = req.query;
      const wanted = { q, otherShop: older ? (await currentShop(store.db)).hash : undefined };
      const [rows, total] = [await listJobs(store.db, from, most, wanted), await countJobs(store.db, wanted)];
      return { jobs: await describeJobs(rows, runner, store), total };
    },
  );

  app.get(
    "/api/jobs/:job",
    { schema: { answer: "JobDetail", summary: "One job with its figures", params: jobParams } },
    async (req): Promise<JobDetail> => {
      const row = await readJob(req.params);
      const revisions = await listRevisions(store.db, row.job);
      return {
        ...(await describeJob(row, runner, store)),
        ...fromJson(row.head),
        revisions: revisions.map((r) => ({
          revision: r.revision,
          designHash: r.hash,
          importedAt: r.imported_at,
        })),
        files: [...FILES],
      };
    },
  );

  app.get(
    "/api/jobs/:job/design",
    { schema: { summary: "The design, as stored", params: jobParams } },
    async (req, reply) => {
      const row = await readJob(req.params);
      const etag = `"${row.hash.slice(0, 32)}"`;
      reply.header("etag", etag).header("cache-control", "no-cache");
      if (isKnown(req.headers["if-none-match"], etag)) return reply.code(304).send();
      return reply.type("application/json; charset=utf-8").send(await readDesignJson(store.db, row.hash));
    },
  );

  app.get(
    "/api/jobs/:job/design/file",
    { schema: { summary: "The design with its edits as a file; reads back to the same hash", params: jobParams } },
    async (req, reply) => {
      const row = await readJob(req.params);
      const design: unknown = JSON.parse((await readDesignJson(store.db, row.hash))!.toString("utf8"));
      return reply
        .header("content-disposition", `attachment; filename="${fileStem(row)}.bench.json"`)
        .type("application/json; charset=utf-8")
        .send(`${JSON.stringify(design, null, 2)}\n`);
    },
  );

  app.get(
    "/api/jobs/:job/design/tables",
    {
      schema: {
        summary: "The design with its edits as CSV tables, packed together; imported again it has the same hash",
        params: jobParams,
      },
    },
    async (req, reply) => {
      const row = await readJob(req.params);
      const design = { hash: row.hash, json: (await readDesignJson(store.db, row.hash))! };
      return reply
        .header("content-disposition", `attachment; filename="${fileStem(row)}.tables.zip"`)
        .type("application/zip")
        .send(Buffer.from(await workers.pack(design, goneOf(reply))));
    },
  );

  app.delete(
    "/api/jobs/:job",
    {
      schema: {
        summary:
          "Delete a job with all its revisions; 409 while files of it are at machines, unless that is said to be known",
        params: jobParams,
        querystring: deleteQuery,
      },
    },
    (req, reply) => {
      const { job } = req.params;
      const { anyway } = req.query;
      // What is being done to it comes to its end first.
      return turns.take(job, async () => {
        const row = await findJob(store.db, job);
        if (!row) throw noSuchJob(job);
        const there = (await openRuns(store.db)).filter((r) => r.job === job);
        if (there.length > 0 && !anyway) throw jobAtMachine(job, [...new Set(there.map((r) => r.machine))]);
        await runner.cancelAll(job);
        const gone = await madeFrom(store.db, row);
        await note(req, { what: "delete", job, who: whoOf(req), detail: `revision ${row.revision}` });
        await store.withReserve(() => deleteJob(store.db, job));
        await store.withReserve(() => runner.forget(job, { ...gone, shown: row.shown }));
        await store.withReserve(() => store.shrink());
        return reply.code(204).send();
      });
    },
  );
}
