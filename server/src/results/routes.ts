import { fileParams, jobParams, stageParams, type ProgressEvent } from "@gray-bench/contract/api";
import { STAGES } from "@gray-bench/core/stages";
import type { FastifyReply, FastifyRequest } from "fastify";
import type { OpenPoint } from "@gray-bench/core/design/open-points";
import type { NotLaid } from "../workers/tasks";
import { noSuchFile, noSuchStage } from "../errors";
import type { Bench, Server } from "../server";
import type { ResultRow } from "../store/results";

/** Stage results, output files, and the computations behind them. */
export function resultRoutes(app: Server, { runner, readJob }: Bench): void {
  app.get(
    "/api/jobs/:job/stages/:stage",
    { schema: { summary: "The result of a stage, computed if need be", params: stageParams } },
    async (req, reply) => {
      const { stage } = req.params as { stage: string };
      if (!STAGES.some((s) => s.name === stage)) throw noSuchStage(stage);
      const job = await readJob(req.params);
      return send(req, reply, (await runner.result(job.hash, job.job, stage))!);
    },
  );

  app.get(
    "/api/jobs/:job/open-points",
    { schema: { summary: "Open points of all stages, stops first", params: jobParams } },
    async (req, reply) => {
      const job = await readJob(req.params);
      const row = (await runner.result(job.hash, job.job, "open"))!;
      const notLaid = JSON.parse(job.unfitting) as NotLaid[];
      if (notLaid.length === 0) return send(req, reply, row);
      const { open } = JSON.parse(row.bytes.toString("utf8")) as { open: OpenPoint[] };
      return { open: [...notLaid.map(pointOf), ...open] };
    },
  );

  app.get(
    "/api/jobs/:job/files/:name",
    { schema: { summary: "An output file", params: fileParams } },
    async (req, reply) => {
      const { name } = req.params as { name: string };
      const job = await readJob(req.params);
      const file = await runner.file(job.hash, job.job, name);
      if (!file) throw noSuchFile(name);
      reply.header(
        "content-disposition",
        `attachment; filename="${job.job}-${job.revision.replace(/[^\w.-]/g, "_")}-${name}"`,
      );
      return send(req, reply, file);
    },
  );

  app.post(
    "/api/jobs/:job/run",
    { schema: { summary: "Start the computation; does not wait for it", params: jobParams } },
    async (req, reply) => {
      const job = await readJob(req.params);
      const state = await runner.state(job.hash);
      if (state.run !== "done") void runner.start(job.hash, job.job);
      return reply.code(202).send(await runner.state(job.hash));
    },
  );

  app.delete(
    "/api/jobs/:job/run",
    { schema: { summary: "Cancel the computation", params: jobParams } },
    async (req) => {
      const job = await readJob(req.params);
      return { cancelled: runner.cancel(job.hash) };
    },
  );

  app.get(
    "/api/jobs/:job/run",
    { schema: { summary: "Progress as server-sent events, until the computation ends", params: jobParams } },
    async (req, reply) => {
      const job = await readJob(req.params);
      const first = await runner.state(job.hash);
      reply.hijack();
      const { raw } = reply;
      raw.writeHead(200, {
        "content-type": "text/event-stream; charset=utf-8",
        "cache-control": "no-store",
        "x-accel-buffering": "no",
      });
      let quiet = (): void => undefined;
      const tell = (event: ProgressEvent): void => {
        raw.write(`event: progress\ndata: ${JSON.stringify(event)}\n\n`);
        if (event.run === "running") return;
        quiet();
        raw.end();
      };
      quiet = runner.listen(job.hash, tell);
      raw.on("close", () => quiet());
      tell(first);
    },
  );
}

/** An edit that does not fit the design as received is an open point. */
const pointOf = ({ id, sentence, reason, remedy }: NotLaid): OpenPoint => ({
  id: `edits/edit does not fit/job/${id}`,
  severity: "stop",
  stage: "intake",
  kind: "edit does not fit",
  thing: "edit",
  of: id,
  text: `"${sentence}" does not fit this revision: ${reason}`,
  remedy: `${remedy} Or take the edit back.`,
});

function send(req: FastifyRequest, reply: FastifyReply, row: ResultRow): FastifyReply {
  reply.header("etag", row.etag).header("cache-control", "no-cache");
  if (req.headers["if-none-match"] === row.etag) return reply.code(304).send();
  return reply.type(row.type).send(row.bytes);
}
