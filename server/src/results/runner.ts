import { setImmediate } from "node:timers/promises";
import { gunzipSync } from "node:zlib";
import type { Effect, ProgressEvent } from "@gray-bench/contract/results";
import type { Outlook } from "@gray-bench/contract/shop";
import { turnedPoints, type OpenPoint } from "@gray-bench/core/design/open-points";
import type { Question } from "@gray-bench/core/frame/question";
import type { AnyStage, Told } from "@gray-bench/core/frame/stage";
import type { StageKeys } from "@gray-bench/core/run";
import type { StageName } from "@gray-bench/core/stage-names";
import { STAGES } from "@gray-bench/core/stages";
import type { FastifyBaseLogger } from "fastify";
import { LRUCache } from "lru-cache";
import { diskFull, BenchError, noSuchJob, runCancelled, runFailed } from "../errors";
import type { Store } from "../store/database";
import { listTargets, readDesignJson, setShown } from "../store/jobs";
import { isDiskFull } from "../store/reserve";
import {
  clearOld,
  dropResults,
  readResult,
  readResults,
  ROOM,
  storeResults,
  touchResults,
  type ResultRow,
  type Room,
} from "../store/results";
import { findShop } from "../store/shops";
import type { Workers } from "../workers/pool";
import type { DrawAnswer, Known, MadeFrom, StoredBytes, Summary } from "../workers/tasks";
import { targetFor, targetOf, type Target } from "./target";

type Listener = (event: ProgressEvent) => void;

/** A design that is at hand. */
export interface Given {
  json: Uint8Array;
  from?: MadeFrom;
}

interface Run {
  job: string;
  begunMs: number;
  /** Computed to see what it would be: it is not ended when another design counts. */
  proposed: boolean;
  /** Another design or shop counts now. */
  needless: boolean;
  stop: AbortController;
  done: Promise<void>;
  last: ProgressEvent;
  /** Keys of the stages, once they are known. */
  keys: StageKeys | null;
  /** All numbers are there, and that was told; results are still being written out. */
  summed: boolean;
  listeners: Set<Listener>;
}

const toRow = ({ gzip, ...s }: StoredBytes): ResultRow => ({ ...s, gzip: Buffer.from(gzip) });
const unzipped = (gzip: Buffer): unknown => JSON.parse(gunzipSync(gzip).toString("utf8"));
const parse = (row: ResultRow): unknown => unzipped(row.gzip);

const CLEAR_EVERY_MS = 60_000;
const CLEAR_STEP = 20;
/** More than a page has. */
const MOST_SUMMARIES = 1000;

/** What a newer design has made needless may run so long: a thread that is ended forgets what it knows. */
const NEEDLESS_MS = 2000;
/** What found no room tries again after so long. */
const BUSY_MS = 1000;
/** What found no room on the disk is not computed again by looking at it for so long. */
const FULL_MS = 30_000;
/** Jobs, and runs that did not end well, that are remembered. */
const MOST_ENDED = 1000;

export interface RunnerOptions {
  store: Store;
  workers: Workers;
  log: FastifyBaseLogger;
  now: () => Date;
  /** Hears how far the computations of jobs are. */
  tell?: (job: string, progress: ProgressEvent & { key: string }) => void;
  room?: Room;
}

/** Computes designs in workers, and keeps each result by what it was computed from. */
export class Runner {
  readonly #store: Store;
  readonly #workers: Workers;
  readonly #log: FastifyBaseLogger;
  readonly #now: () => Date;
  readonly #room: Room | undefined;
  readonly #tell: RunnerOptions["tell"];
  readonly #runs = new Map<string, Run>();
  readonly #ended = new LRUCache<string, ProgressEvent>({ max: MOST_ENDED });
  readonly #files = new Map<string, Promise<void>>();
  /** Read last: what is kept under a key never changes. */
  readonly #summaries = new LRUCache<string, Summary>({ max: MOST_SUMMARIES });
  /** What went beyond a limit, by key: the same design with the same shop would again. */
  readonly #beyond = new LRUCache<string, BenchError>({ max: MOST_ENDED });
  #clearedMs = 0;
  /** Jobs that are computed when there is nothing else to do. */
  readonly #later = new Map<string, Target>();
  #closed = false;
  /** Of each job what was computed last. */
  readonly #lastOf = new LRUCache<string, string>({ max: MOST_ENDED });
  /** What computations changed against the ones before them, by both keys. */
  readonly #effects = new LRUCache<string, Effect>({ max: 200 });
  /** Shops and designs that are only thought of, by hash: they are not in the store. */
  readonly #proposed = new Map<string, string | Uint8Array>();

  constructor({ store, workers, log, now, room, tell }: RunnerOptions) {
    this.#store = store;
    this.#workers = workers;
    this.#log = log;
    this.#now = now;
    this.#room = room;
    this.#tell = tell;
  }

  #read(key: string, name: string): Promise<ResultRow | undefined> {
    return readResult(this.#store.db, key, name, this.#now().getTime());
  }

  /** The whole result of a stage; one that is just being written out is waited for. Undefined where it is not kept. */
  async #whole(key: string): Promise<ResultRow | undefined> {
    const row = await this.#read(key, "result");
    if (row) return row;
    for (const run of this.#runs.values())
      if (run.summed && Object.values(run.keys ?? {}).includes(key)) await run.done.catch(() => undefined);
    return this.#read(key, "result");
  }

  /** Where the computation of a design stands. */
  async state(target: Target): Promise<ProgressEvent> {
    return this.stateOf(target, (await this.#read(target.key, "summary")) !== undefined);
  }

  /** The same for who knows whether there is a summary. */
  stateOf({ key }: Target, known: boolean): ProgressEvent {
    const run = this.#runs.get(key);
    if (run) return run.last;
    if (known) return { run: "done", stage: null, share: 1 };
    return this.#ended.get(key) ?? { run: "waiting", stage: null, share: 0 };
  }

  async summary(key: string): Promise<Summary | null> {
    return (await this.summaries([key])).get(key) ?? null;
  }

  /** Several at once, by key; those that are not there are missing. */
  async summaries(keys: readonly string[]): Promise<Map<string, Summary>> {
    const { db } = this.#store;
    const there = await touchResults(db, keys, "summary", this.#now().getTime());
    const news = there.filter((key) => !this.#summaries.has(key));
    for (const [key, gzip] of news.length > 0 ? await readResults(db, news, "summary") : []) {
      this.#summaries.set(key, unzipped(gzip) as Summary);
    }
    return new Map(
      there.flatMap((key) => {
        const summary = this.#summaries.get(key);
        return summary ? [[key, summary]] : [];
      }),
    );
  }

  /** Keys of a computation that is under way, as far as they are known. */
  runningKeys({ key }: Target): StageKeys | null {
    return this.#runs.get(key)?.keys ?? null;
  }

  /** Computes with a shop or a design that is not in the store, to see what it would do. */
  async proposing<T>(hash: string, json: string | Uint8Array, work: () => Promise<T>): Promise<T> {
    this.#proposed.set(hash, json);
    try {
      return await work();
    } finally {
      this.#proposed.delete(hash);
    }
  }

  async #shopJson(hash: string): Promise<string> {
    const json = (await findShop(this.#store.db, hash))?.json ?? this.#proposed.get(hash);
    if (typeof json !== "string") throw new Error(`no shop ${hash}`);
    return json;
  }

  /** @throws job.unknown: it was deleted since it was looked up */
  async #designJson({ design, job }: Pick<Target, "design" | "job">): Promise<Uint8Array> {
    const json = (await readDesignJson(this.#store.db, design)) ?? this.#proposed.get(design);
    if (json === undefined || typeof json === "string") throw noSuchJob(job);
    return json;
  }

  /**
   * Starts computing unless that is running; resolves when it has ended, rejects when it was cancelled or failed.
   * @param given the design, where it is at hand, and what it was made of
   */
  start(target: Target, given?: Given): Promise<void> {
    const running = this.#runs.get(target.key);
    if (running) {
      // Somebody wants it after all.
      running.needless = false;
      return running.done;
    }
    const run: Run = {
      job: target.job,
      begunMs: performance.now(),
      proposed: this.#proposed.has(target.design) || this.#proposed.has(target.shop),
      needless: false,
      stop: new AbortController(),
      done: Promise.resolve(),
      last: { run: "running", stage: null, share: 0 },
      keys: null,
      summed: false,
      listeners: new Set(),
    };
    this.#runs.set(target.key, run);
    this.#ended.delete(target.key);
    run.done = this.#compute(target, run, given);
    // Whoever waits hears of a failure; a run nobody waits for must not bring the process down.
    run.done.catch(() => undefined);
    return run.done;
  }

  async #compute(target: Target, run: Run, given: Given | undefined): Promise<void> {
    const { key, job } = target;
    const tell = (event: ProgressEvent): void => {
      run.last = event;
      for (const l of run.listeners) l(event);
      if (!run.proposed) this.#tell?.(job, { ...event, key });
    };
    const end = (event: ProgressEvent): void => {
      this.#runs.delete(key);
      // That it is done was told. What is not kept then is computed when somebody asks for it.
      if (run.summed) return;
      // What was ended as needless is computed when somebody asks for it again.
      if (!run.needless) this.#ended.set(key, event);
      tell(event);
    };
    try {
      const [json, shop] = await Promise.all([given?.json ?? this.#designJson(target), this.#shopJson(target.shop)]);
      const before = run.proposed ? null : (this.#lastOf.get(job) ?? null);
      const task = {
        key,
        before,
        design: { hash: target.design, json, ...(given?.from && { from: given.from }) },
        shop,
      };
      const rows = await this.#workers.compute(task, run.stop.signal, {
        known: (keys, has) => this.#known((run.keys = keys), new Set(has), run),
        progress: (stage, share) => tell({ run: "running", stage, share }),
        summed: async (small, effect) => {
          run.stop.signal.throwIfAborted();
          await this.#keep(small.map(toRow));
          await setShown(this.#store.db, target);
          if (effect && before !== null) this.#effects.set(`${before} ${key}`, effect);
          if (!run.proposed) this.#lastOf.set(job, key);
          run.summed = true;
          tell({ run: "done", stage: null, share: 1 });
        },
      });
      await this.#keep(rows.map(toRow));
      this.#runs.delete(key);
      await this.clear();
    } catch (caught) {
      const error: unknown = isDiskFull(caught) ? diskFull() : caught;
      if (run.stop.signal.aborted) {
        end({ run: "cancelled", stage: run.last.stage, share: run.last.share });
        throw runCancelled(job);
      }
      if (error instanceof BenchError && error.body.code === "server.busy") {
        // Not begun: it has its turn when another one has ended, unless somebody asks for it before.
        this.#later.set(job, target);
        setTimeout(() => this.#next(), BUSY_MS).unref();
        end({ run: "waiting", stage: null, share: 0 });
        throw error;
      }
      const { message } = error as Error;
      end({ run: "failed", stage: run.last.stage, share: run.last.share, message });
      // Turned away or ended by a limit: said as it is.
      if (error instanceof BenchError) {
        if (error.body.code === "task.limit") this.#beyond.set(key, error);
        if (error.body.code === "disk.full") this.#beyond.set(key, error, { ttl: FULL_MS });
        throw error;
      }
      this.#log.error(error, "computation failed");
      throw runFailed(job);
    } finally {
      if (!this.#later.has(job)) this.#next();
    }
  }

  /** Keeps results, all or nothing; on a full disk in the place of old ones that no job shows. */
  async #keep(rows: readonly ResultRow[]): Promise<void> {
    const keep = (): Promise<void> => storeResults(this.#store.db, rows, this.#now().getTime());
    try {
      await keep();
    } catch (error) {
      if (!isDiskFull(error)) throw error;
      await this.#store.withReserve(() => this.#clear({ ...ROOM, mostBytes: 0 }));
      await keep();
    }
  }

  /** Computes what was left waiting, one after the other, in the order given: jobs that were imported when too much was to be done. */
  resume(waiting: readonly Target[]): void {
    for (const target of waiting) this.#later.set(target.job, target);
    this.#next();
  }

  #next(): void {
    // One at a time, and only when nothing else is computed: who waits for numbers comes first.
    const [first] = this.#later;
    if (!first || this.#closed || this.#runs.size > 0) return;
    const [job, target] = first;
    this.#later.delete(job);
    void this.#startIfNew(target).catch((error: unknown) => this.#log.error(error, "a job that waited"));
  }

  async #startIfNew(target: Target): Promise<void> {
    const now = (await listTargets(this.#store.db)).find((j) => j.job === target.job);
    // Deleted, changed or computed meanwhile.
    const counts = now !== undefined && targetOf(now).key === target.key;
    if (counts && (await this.state(target)).run === "waiting") this.start(target).catch(() => undefined);
    else this.#next();
  }

  /** What is kept under the keys, and the whole results that the missing stages need. */
  async #known(keys: StageKeys, has: ReadonlySet<StageName>, run: Run): Promise<Known> {
    // What another one is just writing out is waited for, and not computed twice.
    for (const other of this.#runs.values())
      if (
        other !== run &&
        other.summed &&
        STAGES.some(({ name }) => other.keys![name] === keys[name] && !has.has(name))
      )
        await other.done.catch(() => undefined);
    const known: Known = { briefs: {}, results: {} };
    const { db } = this.#store;
    const whole = new Set(await touchResults(db, Object.values(keys), "result", this.#now().getTime()));
    for (const { name } of STAGES) {
      // A brief whose result was never kept counts for nothing.
      const brief = whole.has(keys[name]!) ? await this.#read(keys[name]!, "brief") : undefined;
      if (brief) known.briefs[name] = brief.gzip;
    }
    for (const { name, needs } of STAGES) {
      if (known.briefs[name]) continue;
      for (const need of needs) {
        if (!known.briefs[need] || known.results[need] || has.has(need)) continue;
        const result = await this.#read(keys[need]!, "result");
        if (result) known.results[need] = result.gzip;
        // Cleared between the two look-ups: computed anew.
        else delete known.briefs[need];
      }
    }
    return known;
  }

  /** @returns whether there was anything to cancel */
  cancel({ key }: Target): boolean {
    const run = this.#runs.get(key);
    if (!run || run.summed) return false;
    run.stop.abort();
    return true;
  }

  /** Ends every computation of a job; resolves when none of them writes anything any more. */
  async cancelAll(job: string): Promise<void> {
    const own = [...this.#runs.values()].filter((run) => run.job === job);
    for (const run of own) run.stop.abort();
    await Promise.allSettled(own.map((run) => run.done));
  }

  /** Ends what was being computed of a job before another design or shop counted, unless it is about to end by itself. */
  #leave({ job, key }: Target): void {
    for (const [other, run] of this.#runs) {
      if (run.job !== job || other === key || run.proposed || run.needless || run.summed) continue;
      run.needless = true;
      const left = Math.max(0, run.begunMs + NEEDLESS_MS - performance.now());
      // What was taken back meanwhile counts again.
      setTimeout(() => {
        if (run.needless && !run.summed) run.stop.abort();
      }, left).unref();
    }
  }

  /**
   * Another design or shop of a job counts from now on: what was being computed before is left, and what counts is
   * begun unless it is known. Does not wait for it.
   */
  async countsNow(target: Target, given?: Given): Promise<void> {
    this.#leave(target);
    const run = this.#runs.get(target.key);
    if (run) Object.assign(run, { proposed: false, needless: false });
    if ((await this.state(target)).run !== "done" && !this.#beyond.has(target.key)) void this.start(target, given);
  }

  /** Hears every step of a running computation; the answer stops listening. */
  listen({ key }: Target, listener: Listener): () => void {
    const run = this.#runs.get(key);
    run?.listeners.add(listener);
    return () => run?.listeners.delete(listener);
  }

  /**
   * Something joined from all stages, by name, computed if need be. A computation that was cancelled, or ended by a limit, is not
   * started by reading: it would come to the same.
   */
  async joined(target: Target, name: "summary" | "open"): Promise<ResultRow> {
    const ready = await this.#read(target.key, name);
    if (ready) return ready;
    if (this.#ended.get(target.key)?.run === "cancelled") throw runCancelled(target.job);
    const beyond = this.#beyond.get(target.key);
    if (beyond) throw beyond;
    await this.start(target);
    return (await this.#read(target.key, name))!;
  }

  /**
   * What can be searched for in a design: gathered when first asked for, without computing anything of it.
   * @returns null when it was deleted since it was looked up
   */
  async entries(design: string): Promise<ResultRow | null> {
    const ready = await this.#read(design, "names");
    if (ready) return ready;
    const json = await readDesignJson(this.#store.db, design);
    if (!json) return null;
    const row = toRow(await this.#workers.index({ design: { hash: design, json } }));
    // Nothing of it is kept where it went meanwhile.
    if (!(await readDesignJson(this.#store.db, design))) return null;
    await this.#keep([row]);
    return row;
  }

  /** The result of a stage, computed if need be. */
  async result(target: Target, stage: string): Promise<ResultRow> {
    const keys = (parse(await this.joined(target, "summary")) as Summary).keys;
    const row = await this.#read(keys[stage]!, "result");
    if (row) return row;
    await this.start(target);
    return (await this.#read(keys[stage]!, "result"))!;
  }

  /** An output file by name, written on first demand. */
  async file(target: Target, name: string): Promise<ResultRow | undefined> {
    const ready = await this.#read(target.key, `file:${name}`);
    if (ready) return ready;
    let writing = this.#files.get(target.key);
    if (!writing) {
      writing = this.#writeFiles(target).finally(() => this.#files.delete(target.key));
      this.#files.set(target.key, writing);
    }
    await writing;
    return this.#read(target.key, `file:${name}`);
  }

  async #writeFiles(target: Target): Promise<void> {
    const results: Record<string, Uint8Array> = {};
    for (const { name } of STAGES) results[name] = (await this.result(target, name)).gzip;
    const [json, shop] = await Promise.all([this.#designJson(target), this.#shopJson(target.shop)]);
    const rows = await this.#workers.files({ key: target.key, design: { hash: target.design, json }, shop, results });
    await this.#keep(rows.map(toRow));
  }

  /** A document of a stage as somebody wants it drawn; null when the thing is not there. */
  async drawing(target: Target, stage: AnyStage, wanted: object, signal?: AbortSignal): Promise<DrawAnswer> {
    const results: Record<string, Uint8Array> = {};
    for (const name of [stage.name, ...stage.needs]) results[name] = (await this.result(target, name)).gzip;
    const [json, shop] = await Promise.all([this.#designJson(target), this.#shopJson(target.shop)]);
    const task = { stage: stage.name, design: { hash: target.design, json }, shop, results, wanted };
    return this.#workers.draw(task, signal);
  }

  /** Asks a stage about its results of some jobs, one after the other, by the shop of the first. */
  async ask<A extends object, R, T>(
    question: Question<A, R, T>,
    targets: readonly Target[],
    asked: A,
    signal?: AbortSignal,
  ): Promise<T> {
    const results = [];
    for (const target of targets) results.push((await this.result(target, question.stage)).gzip);
    return this.#workers.ask(question, { asked, results, shop: await this.#shopJson(targets[0]!.shop) }, signal);
  }

  /**
   * What has changed between two computations: in words, and in how many open points; null when one of them is not kept any
   * more. Of a computation and the one before it the thread that made both has said it.
   */
  async effect(before: string, after: string): Promise<Effect | null> {
    const known = this.#effects.get(`${before} ${after}`);
    if (known) return known;
    const words = await this.compare(before, after);
    if (!words) return null;
    const [one, two] = await Promise.all([before, after].map((key) => this.#read(key, "open")));
    if (one?.etag === two?.etag) return { words, solved: 0, raised: 0 };
    const openIn = (row: ResultRow | undefined): OpenPoint[] => (row ? (parse(row) as { open: OpenPoint[] }).open : []);
    return { words, ...turnedPoints(openIn(one), openIn(two)) };
  }

  /** What differs between two computations that have ended, in words; null when one of them is not kept any more. */
  async compare(before: string, after: string): Promise<Told[] | null> {
    const [one, two] = await Promise.all([this.summary(before), this.summary(after)]);
    if (!one || !two) return null;
    const stages: Record<string, { before: string; after: string }> = {};
    for (const { name, compare } of STAGES)
      if (compare && one.keys[name] !== two.keys[name])
        stages[name] = { before: one.keys[name]!, after: two.keys[name]! };
    if (Object.keys(stages).length === 0) return [];
    return this.#workers.compare(stages, async (key) => (await this.#whole(key))?.gzip ?? null);
  }

  /** What numbers would become: of one computation against another, both computed if need be. */
  async outlook(is: Target, would: Target): Promise<Outlook> {
    const summaryOf = async (t: Target): Promise<Summary> => parse(await this.joined(t, "summary")) as Summary;
    const [before, after] = [await summaryOf(is), await summaryOf(would)];
    const other = new Map(after.figures.map((f) => [`${f.stage} ${f.id}`, f.value]));
    return {
      figures: before.figures.flatMap(({ stage, id, label, unit, value }) => {
        const now = other.get(`${stage} ${id}`);
        return now === undefined || now === value ? [] : [{ stage, id, label, unit, before: value, after: now }];
      }),
      open: { before: before.open, after: after.open },
      words: (await this.compare(is.key, would.key)) ?? [],
    };
  }

  /** Clears what nobody has asked for in a long time; never what a job shows or counts with. */
  async clear(): Promise<void> {
    const nowMs = this.#now().getTime();
    if (nowMs - this.#clearedMs < CLEAR_EVERY_MS) return;
    this.#clearedMs = nowMs;
    await this.#clear(this.#room);
  }

  async #clear(room: Room | undefined): Promise<void> {
    const jobs = await listTargets(this.#store.db);
    const joined = [...new Set([...this.#runs.keys(), ...jobs.flatMap((j) => [targetOf(j).key, j.shown])])];
    const inUse = new Set([...joined, ...jobs.map((j) => j.hash)]);
    for (let i = 0; i < joined.length; i += CLEAR_STEP) {
      for (const { keys } of (await this.summaries(joined.slice(i, i + CLEAR_STEP))).values())
        for (const stage of Object.values(keys)) inUse.add(stage);
      // Others have their turn between two steps.
      await setImmediate();
    }
    await clearOld(this.#store.db, inUse, this.#now().getTime(), room);
  }

  /**
   * Throws away what was computed of a job that is gone: results of its designs, with every shop it was computed with, and what was
   * gathered for the search; never what another job counts with or shows.
   * @param gone designs and shops it had, and what it showed
   */
  async forget(
    job: string,
    gone: { designs: readonly string[]; shops: readonly string[]; shown: string },
  ): Promise<void> {
    const { db } = this.#store;
    const joined = gone.designs.flatMap((design) => gone.shops.map((shop) => targetFor(job, design, shop).key));
    const all = new Set([...gone.designs, ...joined, gone.shown]);
    for (const { keys } of (await this.summaries([...joined, gone.shown])).values())
      for (const stage of Object.values(keys)) all.add(stage);
    const jobs = await listTargets(db);
    const others = [...new Set(jobs.flatMap((j) => [targetOf(j).key, j.shown]))];
    for (const key of [...others, ...jobs.map((j) => j.hash)]) all.delete(key);
    for (let i = 0; i < others.length; i += CLEAR_STEP) {
      for (const { keys } of (await this.summaries(others.slice(i, i + CLEAR_STEP))).values())
        for (const stage of Object.values(keys)) all.delete(stage);
      await setImmediate();
    }
    for (const key of all) this.#summaries.delete(key);
    await dropResults(db, [...all]);
  }

  async close(): Promise<void> {
    this.#closed = true;
    for (const run of this.#runs.values()) run.stop.abort();
    await Promise.allSettled([...this.#runs.values()].map((r) => r.done));
  }
}
