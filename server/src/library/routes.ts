import { jobParams } from "@gray-bench/contract/common";
import type { JobSummary } from "@gray-bench/contract/jobs";
import {
  libraryChange,
  libraryFile,
  libraryLook,
  libraryQuery,
  libraryTakeOver,
  partUsesQuery,
  type LibraryEffect,
  type LibraryOutlook,
  type LibraryQuery,
  type LibraryVersion,
  type LibraryVersions,
  type PartUse,
  type PartUses,
} from "@gray-bench/contract/library";
import { versionParams } from "@gray-bench/contract/shop";
import { libraryText, type Library } from "@gray-bench/core/library/library";
import type { PartOutline } from "@gray-bench/core/drawings/part-outline";
import { XLSX_TYPE } from "@gray-bench/core/formats/xlsx";
import type { FastifyReply, FastifyRequest } from "fastify";
import { setImmediate } from "node:timers/promises";
import { libraryRefused, libraryStale, noLibrary, noSuchLibrary, outlineRefused } from "./errors";
import { describeJob } from "../jobs/describe";
import { goneOf } from "../plugins/gone";
import { readBody } from "../plugins/joi";
import { readEntries } from "../results/entries";
import { isKnown } from "../results/etag";
import { targetFor } from "../results/target";
import type { Bench, Server } from "../server";
import { countJobs, findJob, listJobs, readDesignJson, setShown, type JobRow } from "../store/jobs";
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
import type { LayAnswer, LibraryAnswer, PartAnswer } from "../workers/tasks";
import { asJson, fromJson } from "../store/json";

/** Jobs looked through for a part, and how long that may take. */
const MOST_LOOKED = 1000;
const MOST_MS = 5000;

const FILE_TYPES = {
  json: "application/json; charset=utf-8",
  csv: "text/csv; charset=utf-8",
  xlsx: XLSX_TYPE,
} as const;

const versionOf = ({ at, ...row }: LibraryRow): LibraryVersion => ({ ...row, when: at });

/** The library: what is known of parts, in versions that are only added to, and which jobs are completed with which. */
export function libraryRoutes(
  app: Server,
  { store, runner, workers, readJob, now, note, turns, changed }: Bench,
): void {
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
    { on, who, why }: Omit<LibraryQuery, "how">,
    { hash, json, parts }: Extract<LibraryAnswer, { ok: true }>,
  ): Promise<LibraryVersion> {
    if (hash !== on) {
      await appendLibrary(db, { hash, json, parts, who, why: why ?? null, at: now().toISOString() });
      const { number } = (await currentLibrary(db))!;
      await note(req, { what: "library", job: null, who, detail: `version ${number}, ${parts} parts` });
    }
    return versionOf((await currentLibrary(db))!);
  }

  /** A file as it came, by itself or written into the library there is. */
  const readIn = async ({ body }: FastifyRequest, into: LibraryRow | undefined, gone: AbortSignal) => {
    const before = into ? await readLibraryJson(db, into.hash) : null;
    const read: LibraryAnswer = await workers.readLibrary(Buffer.isBuffer(body) ? body : Buffer.alloc(0), before, gone);
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
    { schema: { answer: "LibraryVersions", summary: "Versions of the library, newest first" } },
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
      const { number } = req.params;
      const row = await libraryVersion(db, number);
      if (!row) throw noSuchLibrary(String(number));
      return sendKept(req, reply, row);
    },
  );

  app.get(
    "/api/library/file",
    {
      schema: {
        summary: "The library as a file: JSON, or a table as CSV or XLSX",
        querystring: libraryFile,
      },
    },
    async (req, reply) => {
      const { as } = req.query;
      const row = await currentLibrary(db);
      if (!row) throw noLibrary();
      const kept = (await readLibraryJson(db, row.hash))!;
      const name = `library-${row.number}.${as === "json" ? "library.json" : as}`;
      reply.header("content-disposition", `attachment; filename="${name}"`).type(FILE_TYPES[as]);
      if (as !== "json") return reply.send(Buffer.from(await workers.libraryFile(kept, as, goneOf(reply))));
      return reply.send(libraryText(JSON.parse(Buffer.from(kept.json).toString("utf8")) as Library));
    },
  );

  /** What a version of the library says of a part; null where there is none, or it does not know the part. */
  const partIn = async (hash: string, number: string): Promise<PartAnswer> =>
    hash === "" ? null : workers.partOf((await readLibraryJson(db, hash))!, number);

  app.get(
    "/api/library/uses",
    {
      schema: {
        answer: "PartUses",
        summary: "Jobs that use a part of the library, and which of them its newest version changes",
        querystring: partUsesQuery,
      },
    },
    async (req): Promise<PartUses> => {
      const { part } = req.query;
      const rows = await listJobs(db, 0, MOST_LOOKED);
      const current = await currentLibrary(db);
      const own = await partIn(current?.hash ?? "", part);
      const names = new Set([part, ...(own?.alsoAs ?? [])]);
      const found: { row: JobRow; uses: number; as: string }[] = [];
      const begun = performance.now();
      let looked = 0;
      for (const row of rows) {
        if (performance.now() - begun > MOST_MS) break;
        const entries = readEntries(await runner.entries(row.hash));
        const here = entries.filter((e) => e.thing === "part" && names.has(e.of));
        if (here.length > 0)
          found.push({ row, uses: here.reduce((sum, e) => sum + (e.uses ?? 0), 0), as: here[0]!.of });
        looked++;
        // Others have their turn between two jobs.
        await setImmediate();
      }
      // By the version that completes a job and the number by which it names the part.
      const said = new Map<string, string | null>();
      for (const { row, as } of found) {
        const key = `${row.library} ${as}`;
        if (!said.has(key)) said.set(key, (await partIn(row.library, as))?.said ?? null);
      }
      const versions = new Map((await listLibraries(db)).map((v) => [v.hash, v.number]));
      return {
        jobs: found.map(({ row, uses, as }): PartUse => ({
          job: row.job,
          title: row.title,
          as,
          uses,
          version: versions.get(row.library) ?? null,
          changes: current !== undefined && said.get(`${row.library} ${as}`) !== (own?.said ?? null),
        })),
        looked,
        all: await countJobs(db),
      };
    },
  );

  app.post(
    "/api/library/outlook",
    {
      schema: {
        answer: "LibraryOutlook",
        summary: "What a library file, or a table of parts as CSV or XLSX, would change; stores nothing",
        querystring: libraryLook,
      },
    },
    async (req, reply): Promise<LibraryOutlook> => {
      const gone = goneOf(reply);
      const { how } = req.query;
      const row = await currentLibrary(db);
      const { hash, json, parts, told } = await readIn(req, how === "into" ? row : undefined, gone);
      const before = row ? await readLibraryJson(db, row.hash) : null;
      return {
        parts,
        already: row?.hash === hash,
        told: told!,
        changes: await workers.differLibraries(before, { hash, json }, gone),
      };
    },
  );

  app.post(
    "/api/library/outline",
    {
      schema: {
        answer: "PartOutline",
        summary: "What a drawing of a part as DXF (at most 16 MB) offers: outlines and circles; stores nothing",
      },
    },
    async ({ body }, reply): Promise<PartOutline> => {
      const read = await workers.readOutline(Buffer.isBuffer(body) ? body : Buffer.alloc(0), goneOf(reply));
      if (!read.ok) throw outlineRefused(read.found, read.remedy);
      return read.outline;
    },
  );

  app.put(
    "/api/library",
    {
      schema: {
        answer: "LibraryVersion",
        summary:
          "A new version of the library, of a file of it or a table of parts (at most 64 MB); 409 when it was changed meanwhile",
        querystring: libraryQuery,
      },
    },
    async (req, reply): Promise<LibraryVersion> => {
      const { how, on, who, why } = req.query;
      // Read before its turn comes: a large one takes its time.
      const row = await upToDate(on);
      const read = await readIn(req, how === "into" ? row : undefined, goneOf(reply));
      return turns.take("library", async () => {
        await upToDate(on);
        return keep(req, { on, who, why }, read);
      });
    },
  );

  app.patch(
    "/api/library",
    {
      schema: {
        answer: "LibraryVersion",
        body: libraryChange,
        summary:
          "A new version of the library with some parts written anew, added or taken out (at most 1,000); 409 when it was changed meanwhile",
      },
    },
    (req, reply): Promise<LibraryVersion> => {
      const { parts, gone = [], ...asked } = readBody(req.body, libraryChange);
      return turns.take("library", async () => {
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
    {
      schema: {
        answer: "LibraryEffect",
        body: libraryTakeOver,
        summary: "What the newest library, or the version named, would do to a job",
        params: jobParams,
      },
    },
    async (req, reply): Promise<LibraryEffect> => {
      const gone = goneOf(reply);
      const asked = readBody<{ library?: string; who: string }>(req.body, libraryTakeOver);
      const job = await readJob(req.params);
      const laid = await laidWith(job, (await wanted(asked.library)).hash, gone);
      const before = { hash: job.hash, json: (await readDesignJson(db, job.hash))! };
      const known = new Set(fromJson(job.unfitting).map((u) => u.id));
      return {
        things: await workers.differ({ before, after: laid }, gone),
        unfitting: laid.unfitting.filter((u) => !known.has(u.id)),
      };
    },
  );

  app.post(
    "/api/jobs/:job/library",
    {
      schema: {
        answer: "JobSummary",
        body: libraryTakeOver,
        summary: "Complete a job with the newest library, or with the version named",
        params: jobParams,
      },
    },
    (req): Promise<JobSummary> => {
      const asked = readBody<{ library?: string; who: string }>(req.body, libraryTakeOver);
      return turns.take(req.params.job, async () => {
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
            head: asJson(laid.head),
            json: Buffer.from(laid.json),
            unfitting: asJson(laid.unfitting),
          };
          await appendLog(db, job.job, job.received, [line], design, row.hash);
          if ((await runner.state(target)).run === "done") await setShown(db, target);
          changed(target);
        }
        return describeJob((await findJob(db, job.job))!, runner, store);
      });
    },
  );
}
