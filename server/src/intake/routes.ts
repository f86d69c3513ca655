import type { ImportOutlook, ImportReply } from "@gray-bench/contract/api";
import type { LoggedEdit } from "@gray-bench/core/design/edits";
import { refused } from "../errors";
import { describeJob } from "../jobs/describe";
import type { Bench, Server } from "../server";
import { goneOf } from "../plugins/gone";
import { oneAtATime } from "../edits/oneAtATime";
import { targetOf } from "../results/target";
import type { DesignJson, NotLaid } from "../workers/tasks";
import { findJob, listRevisions, readDesignJson, storeDesign, type LaidDesign } from "../store/jobs";
import { editsOf, readLog } from "../store/log";

/** Import of design files. */
export function intakeRoutes(app: Server, { store, runner, workers, now, note }: Bench): void {
  /** A new revision with the edits of the job on top; what does not fit any more is kept and told of. */
  async function laidOn({ hash, json }: DesignJson, log: LoggedEdit[], gone?: AbortSignal): Promise<LaidDesign | null> {
    if (log.length === 0) return null;
    const laid = await workers.lay({ received: { hash, json }, log, turn: null }, gone);
    if (!laid.ok) throw new Error("a revision refuses no edits");
    return {
      hash: laid.hash,
      head: JSON.stringify(laid.head),
      json: Buffer.from(laid.json),
      unfitting: JSON.stringify(laid.unfitting),
    };
  }

  app.post(
    "/api/jobs/outlook",
    {
      schema: {
        summary: "What a design file would do: a new job, or what it changes in one that is there; stores nothing",
      },
    },
    async (req, reply): Promise<ImportOutlook> => {
      const gone = goneOf(reply);
      const read = await workers.read(Buffer.isBuffer(req.body) ? req.body : Buffer.alloc(0), gone);
      if (!read.ok) throw refused(read.faults, read.count);
      const { code, title, revision } = read.job;
      const job = await findJob(store.db, code);
      const fresh = { code, title, revision, replaces: null, already: false, taken: false, things: [], unfitting: [] };
      if (!job) return fresh;
      const known = await listRevisions(store.db, code);
      const laid = await laidOn(read, editsOf(await readLog(store.db, code)), gone);
      const before = { hash: job.hash, json: (await readDesignJson(store.db, job.hash))! };
      return {
        ...fresh,
        replaces: job.revision,
        already: known.some((r) => r.hash === read.hash),
        taken: known.some((r) => r.revision === revision && r.hash !== read.hash),
        things: await workers.differ({ before, after: laid ?? read }, gone),
        unfitting: laid ? (JSON.parse(laid.unfitting) as NotLaid[]) : [],
      };
    },
  );

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
      // Until it is read nothing is changed: then it may still be given up.
      const read = await workers.read(bytes, goneOf(reply));
      if (!read.ok) throw refused(read.faults, read.count);
      const { code, ...job } = read.job;
      return oneAtATime(code, async () => {
        const design = {
          ...job,
          job: code,
          hash: read.hash,
          imported_at: now().toISOString(),
          head: JSON.stringify(read.head),
          json: Buffer.from(read.json),
        };
        const log = editsOf(await readLog(store.db, code));
        const outcome = await storeDesign(store.db, design, await laidOn(read, log));
        const current = (await findJob(store.db, code))!;
        if (outcome === "stored") {
          await note(req, { what: "import", job: code, who: null, detail: `revision ${job.revision}` });
          await runner.countsNow(targetOf(current));
        }
        reply.code(outcome === "stored" ? 201 : 200);
        return { already: outcome === "already", job: await describeJob(current, runner, store) };
      });
    },
  );
}
