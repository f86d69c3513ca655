import type { ImportOutlook, ImportReply } from "@gray-bench/contract/jobs";
import type { LoggedEdit } from "@gray-bench/core/frame/edits";
import type { Kysely } from "kysely";
import { whoOf } from "../plugins/joi";
import { describeJob } from "../jobs/describe";
import { targetOf } from "../results/target";
import type { Asked, Bench } from "../server";
import { findJob, listRevisions, readDesignJson, storeDesign, type LaidDesign } from "../store/jobs";
import { currentLibrary, findLibrary, readLibraryJson, type LibraryJson } from "../store/libraries";
import { editsOf, readLog } from "../store/log";
import type { Schema } from "../store/schema";
import type { DesignJson, ReadAnswer } from "../workers/tasks";
import { asJson, fromJson } from "../store/json";

/** A design as it was read. */
export type DesignRead = Extract<ReadAnswer, { ok: true }>;

/** Takes designs in, whatever they came as. */
export class Importer {
  readonly #bench: Bench;

  constructor(bench: Bench) {
    this.#bench = bench;
  }

  /**
   * A design completed by the library, with the edits of the job on top; what does not fit any more is kept and told of.
   * @returns null where nothing is laid on it
   */
  async #laidOn(
    { hash, json }: DesignJson,
    log: LoggedEdit[],
    library: LibraryJson | null,
    gone?: AbortSignal,
  ): Promise<LaidDesign | null> {
    if (log.length === 0 && !library) return null;
    const laid = await this.#bench.workers.lay({ received: { hash, json }, library, log, turn: null }, gone);
    if (!laid.ok) throw new Error("a revision refuses no edits");
    return {
      hash: laid.hash,
      head: asJson(laid.head),
      json: Buffer.from(laid.json),
      unfitting: asJson(laid.unfitting),
    };
  }

  /** What a design would do; stores nothing. */
  async outlook(read: DesignRead, gone?: AbortSignal): Promise<ImportOutlook> {
    const { store, workers } = this.#bench;
    const { code, title, revision } = read.job;
    const job = await findJob(store.db, code);
    const fresh = { code, title, revision, replaces: null, already: false, taken: false, things: [], unfitting: [] };
    if (!job) return fresh;
    const known = await listRevisions(store.db, code);
    const library = await readLibraryJson(store.db, job.library);
    const laid = await this.#laidOn(read, editsOf(await readLog(store.db, code)), library, gone);
    const before = { hash: job.hash, json: (await readDesignJson(store.db, job.hash))! };
    return {
      ...fresh,
      replaces: job.revision,
      already: known.some((r) => r.hash === read.hash),
      taken: known.some((r) => r.revision === revision && r.hash !== read.hash),
      things: await workers.differ({ before, after: laid ?? read }, gone),
      unfitting: laid ? fromJson(laid.unfitting) : [],
    };
  }

  /**
   * Takes a design over: a new job, or a new revision of one. All or nothing.
   * @param also what is written together with it
   * @throws revision.taken
   */
  take(
    req: Asked,
    read: DesignRead,
    also?: (tx: Kysely<Schema>) => Promise<void>,
  ): Promise<{ reply: ImportReply; stored: boolean }> {
    const { store, runner, now, note, turns, changed } = this.#bench;
    const { code, ...job } = read.job;
    return turns.take(code, async () => {
      const design = {
        ...job,
        job: code,
        hash: read.hash,
        imported_at: now().toISOString(),
        head: asJson(read.head),
        json: Buffer.from(read.json),
      };
      const log = editsOf(await readLog(store.db, code));
      // A job keeps its version until a newer one is taken over; a new one gets the newest.
      const known = await findJob(store.db, code);
      const row = known ? await findLibrary(store.db, known.library) : await currentLibrary(store.db);
      const laid = await this.#laidOn(read, log, await readLibraryJson(store.db, row?.hash ?? ""));
      const library = row ? { hash: row.hash, number: row.number, who: whoOf(req) ?? "import" } : null;
      const outcome = await storeDesign(store.db, design, laid, library, also);
      const current = (await findJob(store.db, code))!;
      if (outcome === "stored") {
        await note(req, { what: "import", job: code, who: whoOf(req), detail: `revision ${job.revision}` });
        await runner.countsNow(targetOf(current));
        changed(targetOf(current));
      }
      const reply = { already: outcome === "already", job: await describeJob(current, runner, store) };
      return { reply, stored: outcome === "stored" };
    });
  }
}
