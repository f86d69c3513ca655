import type { ProgressEvent } from "@gray-bench/contract/api";
import { STAGES } from "@gray-bench/core/stages";
import type { FastifyBaseLogger } from "fastify";
import { runCancelled, runFailed } from "../errors";
import type { Store } from "../store/database";
import { readDesignJson } from "../store/jobs";
import { readResult, storeResults, type ResultRow } from "../store/results";
import type { Workers } from "../workers/pool";
import type { StoredBytes, Summary } from "../workers/tasks";

type Listener = (event: ProgressEvent) => void;

interface Run {
  stop: AbortController;
  done: Promise<void>;
  last: ProgressEvent;
  listeners: Set<Listener>;
}

const toRow = (s: StoredBytes): ResultRow => ({
  name: s.name,
  type: s.type,
  etag: s.etag,
  bytes: Buffer.from(s.bytes),
});

/** Computes designs in workers, once each, and keeps the results by the design's hash. */
export class Runner {
  readonly #store: Store;
  readonly #workers: Workers;
  readonly #log: FastifyBaseLogger;
  readonly #runs = new Map<string, Run>();
  readonly #ended = new Map<string, ProgressEvent>();
  readonly #files = new Map<string, Promise<void>>();

  constructor(store: Store, workers: Workers, log: FastifyBaseLogger) {
    this.#store = store;
    this.#workers = workers;
    this.#log = log;
  }

  /** Where the computation of a design stands. */
  async state(hash: string): Promise<ProgressEvent> {
    const run = this.#runs.get(hash);
    if (run) return run.last;
    if (await readResult(this.#store.db, hash, "summary")) return { run: "done", stage: null, share: 1 };
    return this.#ended.get(hash) ?? { run: "waiting", stage: null, share: 0 };
  }

  async summary(hash: string): Promise<Summary | null> {
    const row = await readResult(this.#store.db, hash, "summary");
    return row ? (JSON.parse(row.bytes.toString("utf8")) as Summary) : null;
  }

  /** Starts computing unless that is running; resolves when it has ended, rejects when it was cancelled or failed. */
  start(hash: string, job: string): Promise<void> {
    const running = this.#runs.get(hash);
    if (running) return running.done;
    const stop = new AbortController();
    const run: Run = {
      stop,
      done: Promise.resolve(),
      last: { run: "running", stage: null, share: 0 },
      listeners: new Set(),
    };
    this.#runs.set(hash, run);
    this.#ended.delete(hash);
    run.done = this.#compute(hash, job, run);
    // Whoever waits hears of a failure; a run nobody waits for must not bring the process down.
    run.done.catch(() => undefined);
    return run.done;
  }

  async #compute(hash: string, job: string, run: Run): Promise<void> {
    const tell = (event: ProgressEvent): void => {
      run.last = event;
      for (const l of run.listeners) l(event);
    };
    const end = (event: ProgressEvent): void => {
      this.#runs.delete(hash);
      if (event.run !== "done") this.#ended.set(hash, event);
      tell(event);
    };
    try {
      const json = await readDesignJson(this.#store.db, hash);
      if (!json) throw new Error(`no design ${hash}`);
      const rows = await this.#workers.compute(json, run.stop.signal, (m) => tell({ run: "running", ...m }));
      run.stop.signal.throwIfAborted();
      await storeResults(this.#store.db, hash, rows.map(toRow));
      end({ run: "done", stage: null, share: 1 });
    } catch (error) {
      if (run.stop.signal.aborted) {
        end({ run: "cancelled", stage: run.last.stage, share: run.last.share });
        throw runCancelled(job);
      }
      this.#log.error(error, "computation failed");
      end({ run: "failed", stage: run.last.stage, share: run.last.share, message: (error as Error).message });
      throw runFailed(job);
    }
  }

  /** @returns whether there was anything to cancel */
  cancel(hash: string): boolean {
    const run = this.#runs.get(hash);
    run?.stop.abort();
    return run !== undefined;
  }

  /** Hears every step of a running computation; the answer stops listening. */
  listen(hash: string, listener: Listener): () => void {
    const run = this.#runs.get(hash);
    run?.listeners.add(listener);
    return () => run?.listeners.delete(listener);
  }

  /** A result by name, computed if need be. A cancelled computation is not started again by reading. */
  async result(hash: string, job: string, name: string): Promise<ResultRow | undefined> {
    const ready = await readResult(this.#store.db, hash, name);
    if (ready) return ready;
    if (this.#ended.get(hash)?.run === "cancelled") throw runCancelled(job);
    await this.start(hash, job);
    return readResult(this.#store.db, hash, name);
  }

  /** An output file by name, written on first demand. */
  async file(hash: string, job: string, name: string): Promise<ResultRow | undefined> {
    const key = `file:${name}`;
    const ready = await readResult(this.#store.db, hash, key);
    if (ready) return ready;
    let writing = this.#files.get(hash);
    if (!writing) {
      writing = this.#writeFiles(hash, job).finally(() => this.#files.delete(hash));
      this.#files.set(hash, writing);
    }
    await writing;
    return readResult(this.#store.db, hash, key);
  }

  async #writeFiles(hash: string, job: string): Promise<void> {
    const stages: Record<string, Uint8Array> = {};
    for (const { name } of STAGES) stages[name] = (await this.result(hash, job, name))!.bytes;
    const open = (await this.result(hash, job, "open"))!.bytes;
    await storeResults(this.#store.db, hash, (await this.#workers.files(stages, open)).map(toRow));
  }

  async close(): Promise<void> {
    for (const run of this.#runs.values()) run.stop.abort();
    await Promise.allSettled([...this.#runs.values()].map((r) => r.done));
  }
}
