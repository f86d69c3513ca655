import { gunzipSync } from "node:zlib";
import { jobParams } from "@gray-bench/contract/common";
import { effectQuery, fileParams, stageParams, type Effect, type ProgressEvent } from "@gray-bench/contract/results";
import { isFile } from "@gray-bench/core/files";
import { STAGES } from "@gray-bench/core/stages";
import type { OpenPoint } from "@gray-bench/core/design/open-points";
import type { NotLaid } from "../workers/tasks";
import { noSuchFile } from "../errors";
import { noSuchDrawing, noSuchStage, notKept } from "./errors";
import { goneOf } from "../plugins/gone";
import type { Bench, Server } from "../server";
import { fileStem } from "../store/jobs";
import { send } from "./send";
import { targetOf } from "./target";
import { fromJson } from "../store/json";

/** Stage results, output files, and the computations behind them. */
export function resultRoutes(app: Server, { runner, readJob }: Bench): void {
  app.get(
    "/api/jobs/:job/stages/:stage",
    { schema: { summary: "The result of a stage, computed if need be", params: stageParams } },
    async (req, reply) => {
      const { stage } = req.params;
      if (!STAGES.some((s) => s.name === stage)) throw noSuchStage(stage);
      const job = await readJob(req.params);
      return send(req, reply, await runner.result(targetOf(job), stage));
    },
  );

  app.get(
    "/api/jobs/:job/open-points",
    { schema: { summary: "Open points of all stages, stops first", params: jobParams } },
    async (req, reply) => {
      const job = await readJob(req.params);
      const row = await runner.joined(targetOf(job), "open");
      const notLaid = fromJson(job.unfitting);
      if (notLaid.length === 0) return send(req, reply, row);
      const { open } = JSON.parse(gunzipSync(row.gzip).toString("utf8")) as { open: OpenPoint[] };
      return { open: [...notLaid.map(pointOf), ...open] };
    },
  );

  app.get(
    "/api/jobs/:job/effect",
    {
      schema: {
        answer: "Effect",
        summary: "What changed since an earlier computation of the job, in words",
        params: jobParams,
        querystring: effectQuery,
      },
    },
    async (req): Promise<Effect> => {
      const { since, to } = req.query;
      const target = targetOf(await readJob(req.params));
      if (to === undefined || to === target.key) await runner.joined(target, "summary");
      const effect = await runner.effect(since, to ?? target.key);
      if (!effect) throw notKept(since);
      return effect;
    },
  );

  app.get(
    "/api/jobs/:job/files/:name",
    { schema: { summary: "An output file", params: fileParams } },
    async (req, reply) => {
      const { name } = req.params;
      // Known without looking at the job: nothing is computed for a name that no job has.
      if (!isFile(name)) throw noSuchFile(name);
      const job = await readJob(req.params);
      const file = await runner.file(targetOf(job), name);
      if (!file) throw noSuchFile(name);
      reply.header("content-disposition", `attachment; filename="${fileStem(job)}-${name}"`);
      return send(req, reply, file);
    },
  );

  for (const stage of STAGES) {
    const { name, drawing } = stage;
    if (!drawing) continue;
    app.get(
      `/api/jobs/:job/stages/${name}/drawing`,
      { schema: { summary: `A drawing of ${name} as wanted`, params: jobParams, querystring: drawing.schema } },
      async (req, reply) => {
        const job = await readJob(req.params);
        const file = await runner.drawing(targetOf(job), stage, req.query as object, goneOf(reply));
        if (!file) throw noSuchDrawing(drawing.of, String((req.query as Record<string, unknown>)[drawing.of]));
        const bytes = Buffer.from(file.bytes);
        return reply
          .header(
            "content-disposition",
            `inline; filename*=UTF-8''${encodeURIComponent(`${fileStem(job)} ${file.name}`)}`,
          )
          .header("cache-control", "no-cache")
          .type(file.type)
          .send(bytes);
      },
    );
  }

  app.post(
    "/api/jobs/:job/run",
    { schema: { summary: "Start the computation; does not wait for it", params: jobParams } },
    async (req, reply) => {
      const target = targetOf(await readJob(req.params));
      const state = await runner.state(target);
      if (state.run !== "done") void runner.start(target);
      return reply.code(202).send(await runner.state(target));
    },
  );

  app.delete(
    "/api/jobs/:job/run",
    { schema: { summary: "Cancel the computation", params: jobParams } },
    async (req) => ({ cancelled: runner.cancel(targetOf(await readJob(req.params))) }),
  );

  app.get(
    "/api/jobs/:job/run",
    { schema: { summary: "Progress as server-sent events, until the computation ends", params: jobParams } },
    async (req, reply) => {
      const target = targetOf(await readJob(req.params));
      const first = await runner.state(target);
      // Whoever asks for the head alone is not kept waiting for events.
      if (req.method === "HEAD") return reply.type("text/event-stream; charset=utf-8").send();
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
      quiet = runner.listen(target, tell);
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
