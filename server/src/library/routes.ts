import {
  jobParams,
  libraryChange,
  libraryQuery,
  libraryTakeOver,
  versionParams,
  type JobSummary,
  type LibraryEffect,
  type LibraryOutlook,
  type LibraryQuery,
  type LibraryVersion,
  type LibraryVersions,
} from "@gray-bench/contract/api";
import { libraryText, type Library } from "@gray-bench/core/design/library";
import type { FastifyReply, FastifyRequest } from "fastify";
import { oneAtATime } from "../edits/oneAtATime";
import { libraryRefused, libraryStale, noLibrary, noSuchLibrary } from "../errors";
import { describeJob } from "../jobs/describe";
import { goneOf } from "../plugins/gone";
import { readBody } from "../plugins/joi";
import { isKnown } from "../results/etag";
import { targetFor } from "../results/target";
import type { Bench, Server } from "../server";
import { findJob, readDesignJson, setShown, type JobRow } from "../store/jobs";
import {
  appendLibrary,
  currentLibrary,
  findLibrary,
  libraryGzip,
  libraryVersion,
  listLibraries,
  readLibraryJson,
  type LibraryRow,
} from "../store/libraries";
import { appendLog, editsOf, readLog } from "../store/log";
import type { LayAnswer, LibraryAnswer, NotLaid } from "../workers/tasks";

const versionOf = ({ at, ...row }: LibraryRow): LibraryVersion => ({ ...row, when: at });

/** The library: what is known of parts, in versions that are only added to, and which jobs are completed with which. */
export function libraryRoutes(app: Server, { store, runner, workers, readJob, now, note }: Bench): void {
  const { db } = store;

  /** @throws library.stale when it is another one by now */
  async function upToDate(on: string): Promise<LibraryRow | undefined> {
    const current = await currentLibrary(db);
    if ((current?.hash ?? "") !== on) throw libraryStale(current ? [`${current.who}: version ${current.number}`] : []);
    return current;
  }

  /** Keeps a version, unless it is the one that counts. */
  async function keep(
    req: FastifyRequest,
    { on, who, why }: Pick<LibraryQuery, "on" | "who" | "why">,
    { hash, json, parts }: Extract<LibraryAnswer, { ok: true }>,
  ): Promise<LibraryVersion> {
    if (hash !== on) {
      await appendLibrary(db, { hash, json, parts, who, why: why ?? null, at: now().toISOString() });
      const { number } = (await currentLibrary(db))!;
      await note(req, { what: "library", job: null, who, detail: `version ${number}, ${parts} parts` });
    }
    return versionOf((await currentLibrary(db))!);
  }

  const readIn = async ({ body }: FastifyRequest, gone: AbortSignal) => {
    const read: LibraryAnswer = await workers.readLibrary(Buffer.isBuffer(body) ? body : Buffer.alloc(0), gone);
    if (!read.ok) throw libraryRefused(read.faults, read.count);
    return read;
  };
  /** As it is kept: compressed. */
  const sendKept = async (req: FastifyRequest, reply: FastifyReply, row: LibraryRow): Promise<FastifyReply> => {
    const etag = `"${row.hash.slice(0, 32)}"`;
    reply.header("etag", etag).header("cache-control", "no-cache").header("vary", "accept-encoding");
    if (isKnown(req.headers["if-none-match"], etag)) return reply.code(304).send();
    reply.type("application/json; charset=utf-8");
    const packed = /\bgzip\b/.test(String(req.headers["accept-encoding"] ?? ""));
    if (packed) return reply.header("content-encoding", "gzip").send(await libraryGzip(db, row.hash));
    return reply.send(Buffer.from((await readLibraryJson(db, row.hash))!.json));
  };

  app.get(
    "/api/library/versions",
    { schema: { summary: "Versions of the library, newest first" } },
    async (): Promise<LibraryVersions> => ({ versions: (await listLibraries(db)).map(versionOf) }),
  );

  app.get("/api/library", { schema: { summary: "The parts of the library as it is now" } }, async (req, reply) => {
    const row = await currentLibrary(db);
    if (!row) throw noLibrary();
    return sendKept(req, reply, row);
  });

  app.get(
    "/api/library/versions/:number",
    { schema: { summary: "The parts of one version of the library", params: versionParams } },
    async (req, reply) => {
      const { number } = req.params as { number: number };
      const row = await libraryVersion(db, number);
      if (!row) throw noSuchLibrary(String(number));
      return sendKept(req, reply, row);
    },
  );

  app.get("/api/library/file", { schema: { summary: "The library as a file" } }, async (_req, reply) => {
    const row = await currentLibrary(db);
    if (!row) throw noLibrary();
    const { json } = (await readLibraryJson(db, row.hash))!;
    return reply
      .header("content-disposition", `attachment; filename="library-${row.number}.library.json"`)
      .type("application/json; charset=utf-8")
      .send(libraryText(JSON.parse(Buffer.from(json).toString("utf8")) as Library));
  });

  app.post(
    "/api/library/outlook",
    { schema: { summary: "What a library file would change; stores nothing" } },
    async (req, reply): Promise<LibraryOutlook> => {
      const gone = goneOf(reply);
      const { hash, json, parts } = await readIn(req, gone);
      const row = await currentLibrary(db);
      const before = row ? await readLibraryJson(db, row.hash) : null;
      return {
        parts,
        already: row?.hash === hash,
        changes: await workers.differLibraries(before, { hash, json }, gone),
      };
    },
  );

  app.put(
    "/api/library",
    {
      schema: {
        summary: "A new version of the library, of a file of it (at most 64 MB); 409 when it was changed meanwhile",
        querystring: libraryQuery,
      },
    },
    async (req, reply): Promise<LibraryVersion> => {
      const { on, who, why } = req.query as LibraryQuery;
      const read = await readIn(req, goneOf(reply));
      return oneAtATime("library", async () => {
        await upToDate(on);
        return keep(req, { on, who, why }, read);
      });
    },
  );

  app.patch(
    "/api/library",
    {
      schema: {
        summary:
          "A new version of the library with some parts written anew, added or taken out (at most 1,000); 409 when it was changed meanwhile",
      },
    },
    (req, reply): Promise<LibraryVersion> => {
      const { parts, gone = [], ...asked } = readBody(req.body, libraryChange);
      return oneAtATime("library", async () => {
        const current = await upToDate(asked.on);
        const before = current ? await readLibraryJson(db, current.hash) : null;
        const read = await workers.writeParts(before, parts, gone, goneOf(reply));
        if (!read.ok) throw libraryRefused(read.faults, read.count);
        return keep(req, asked, read);
      });
    },
  );

  /** A job completed with another version, its edits on top. */
  async function laidWith(job: JobRow, hash: string, gone?: AbortSignal): Promise<Extract<LayAnswer, { ok: true }>> {
    const laid = await workers.lay(
      {
        received: { hash: job.received, json: (await readDesignJson(db, job.received))! },
        library: await readLibraryJson(db, hash),
        log: editsOf(await readLog(db, job.job)),
        turn: null,
      },
      gone,
    );
    if (!laid.ok) throw new Error("another library refuses no edits");
    return laid;
  }
  /** The version that is asked for; the newest where none is named. */
  async function wanted(hash: string | undefined): Promise<LibraryRow> {
    const row = hash === undefined ? await currentLibrary(db) : await findLibrary(db, hash);
    if (!row) throw hash === undefined ? noLibrary() : noSuchLibrary(hash);
    return row;
  }

  app.post(
    "/api/jobs/:job/library/outlook",
    { schema: { summary: "What the newest library, or the version named, would do to a job", params: jobParams } },
    async (req, reply): Promise<LibraryEffect> => {
      const gone = goneOf(reply);
      const asked = readBody<{ library?: string; who: string }>(req.body, libraryTakeOver);
      const job = await readJob(req.params);
      const laid = await laidWith(job, (await wanted(asked.library)).hash, gone);
      const before = { hash: job.hash, json: (await readDesignJson(db, job.hash))! };
      const known = new Set((JSON.parse(job.unfitting) as NotLaid[]).map((u) => u.id));
      return {
        things: await workers.differ({ before, after: laid }, gone),
        unfitting: laid.unfitting.filter((u) => !known.has(u.id)),
      };
    },
  );

  app.post(
    "/api/jobs/:job/library",
    { schema: { summary: "Complete a job with the newest library, or with the version named", params: jobParams } },
    (req): Promise<JobSummary> => {
      const asked = readBody<{ library?: string; who: string }>(req.body, libraryTakeOver);
      return oneAtATime((req.params as { job: string }).job, async () => {
        const job = await readJob(req.params);
        const row = await wanted(asked.library);
        if (row.hash !== job.library) {
          const laid = await laidWith(job, row.hash);
          const target = targetFor(job.job, laid.hash, job.shop);
          await runner.countsNow(target, { json: laid.json });
          const line = {
            job: job.job,
            what: "library" as const,
            id: row.hash,
            kind: `library version ${row.number}`,
            payload: "{}",
            why: null,
            who: asked.who,
            at: now().toISOString(),
            hash: laid.hash,
          };
          const design = {
            hash: laid.hash,
            head: JSON.stringify(laid.head),
            json: Buffer.from(laid.json),
            unfitting: JSON.stringify(laid.unfitting),
          };
          await appendLog(db, job.job, job.received, [line], design, row.hash);
          if ((await runner.state(target)).run === "done") await setShown(db, target);
        }
        return describeJob((await findJob(db, job.job))!, runner, store);
      });
    },
  );
}
