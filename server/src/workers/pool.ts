import { promisify } from "node:util";
import { MessageChannel, type MessagePort } from "node:worker_threads";
import { gunzip, gzip, type ZlibOptions } from "node:zlib";
import { promise, type queueAsPromised } from "fastq";
import { LRUCache } from "lru-cache";
import { Piscina } from "piscina";
import { BenchError, requestGone, serverBusy, taskLimit } from "../errors";
import type { Effect } from "@gray-bench/contract/results";
import type { LibraryChanges, LibraryPart } from "@gray-bench/core/library/library";
import type { Question } from "@gray-bench/core/frame/question";
import type { Told } from "@gray-bench/core/frame/stage";
import type { StageKeys } from "@gray-bench/core/run";
import type { StageName } from "@gray-bench/core/stage-names";
import type {
  AnswerTo,
  AskTask,
  CompareTask,
  ComputeMessage,
  ComputeTask,
  DesignJson,
  DifferAnswer,
  DifferTask,
  DocumentAnswer,
  DrawAnswer,
  DrawTask,
  FindAsked,
  FindSent,
  IndexTask,
  FilesTask,
  Known,
  LayAnswer,
  Laying,
  LibraryAnswer,
  OutlineAnswer,
  PartAnswer,
  ReadAnswer,
  StoredBytes,
  TablesAnswerTo,
  TablesTask,
  Task,
  ThreadData,
  ThreadKind,
  WrittenBytes,
} from "./tasks";

/** Whoever asks for a computation: answers what is known under the keys, and hears how far it is. */
export interface Asker {
  /** @param has stages whose results the worker has: they need not be sent */
  known(keys: StageKeys, has: readonly StageName[]): Promise<Known>;
  progress(stage: StageName, share: number): void;
  /** All that is small is there; the results come when they are written out. */
  summed(rows: StoredBytes[], effect: Effect | null): Promise<void>;
}

/** What is asked, of which results, with which shop. */
export type Asking<A extends object> = { asked: A; results: Uint8Array[]; shop: string };

/** The worker threads, as the rest of the server sees them. */
export interface Workers {
  /**
   * Reading, laying and telling apart end when nobody waits for them any more.
   * @param bytes handed over where they are a piece of memory of their own: they are empty then
   */
  read(bytes: Uint8Array, signal?: AbortSignal): Promise<ReadAnswer>;
  compute(task: Omit<ComputeTask, "kind" | "port">, signal: AbortSignal, asker: Asker): Promise<StoredBytes[]>;
  lay(task: Laying, signal?: AbortSignal): Promise<LayAnswer>;
  files(task: Omit<FilesTask, "kind">): Promise<StoredBytes[]>;
  draw(task: Omit<DrawTask, "kind">, signal?: AbortSignal): Promise<DrawAnswer>;
  /** Asks a stage what it can be asked beside its result. `results` are compressed, as they are kept. */
  ask<A extends object, R, T>(question: Question<A, R, T>, task: Asking<A>, signal?: AbortSignal): Promise<T>;
  /**
   * What differs between results, by keys; `read` gives those that the worker does not have, null where one is not kept any more.
   * @returns null when something could not be read
   */
  compare(stages: CompareTask["stages"], read: (key: string) => Promise<Uint8Array | null>): Promise<Told[] | null>;
  differ(task: Omit<DifferTask, "kind">, signal?: AbortSignal): Promise<DifferAnswer>;
  index(task: Omit<IndexTask, "kind">): Promise<StoredBytes>;
  /** @param into the library into which it is written, field by field; null: the file is all of it */
  readLibrary(bytes: Uint8Array, into: DesignJson | null, signal?: AbortSignal): Promise<LibraryAnswer>;
  readOutline(bytes: Uint8Array, signal?: AbortSignal): Promise<OutlineAnswer>;
  partOf(library: DesignJson, number: string): Promise<PartAnswer>;
  libraryFile(library: DesignJson, as: "csv" | "xlsx", signal?: AbortSignal): Promise<Uint8Array>;
  differLibraries(before: DesignJson | null, after: DesignJson, signal?: AbortSignal): Promise<LibraryChanges>;
  /** A library with parts written anew, added and taken out. */
  writeParts(
    before: DesignJson | null,
    parts: LibraryPart[],
    gone: string[],
    signal?: AbortSignal,
  ): Promise<LibraryAnswer>;
  pack(design: DesignJson, signal?: AbortSignal): Promise<Uint8Array>;
  tables<T extends TablesTask["what"]>(what: T, signal?: AbortSignal): Promise<TablesAnswerTo<T>>;
  readDocument(bytes: Uint8Array, signal?: AbortSignal): Promise<DocumentAnswer>;
  /**
   * What of a design stands in documents, as JSON; `read` gives what the thread does not have.
   * @returns null where there is no such page
   */
  find(asked: FindAsked, read: () => Promise<FindSent>, signal?: AbortSignal): Promise<Uint8Array | null>;
  close(): Promise<void>;
}

export interface Limits {
  /** Threads that compute and write files. */
  threads: number;
  /** Threads that read: what a person waits for never waits for a computation. */
  readers: number;
  /** Longest a task may run; longest one of a reader. */
  computeSeconds: number;
  readSeconds: number;
  /** Memory of a thread. */
  megabytes: number;
  /** So many tasks may wait for threads of one kind; more are turned away. */
  queue: number;
}

export const LIMITS: Limits = {
  threads: 2,
  readers: 1,
  computeSeconds: 300,
  readSeconds: 60,
  megabytes: 3000,
  queue: 64,
};

/** Three times what a thread fills before it looks through it. MB */
const YOUNG_MB = 192;

/**
 * Compressing is done here, in the threads of the language itself, and never in a worker: a worker that is ended while it
 * makes a compressor takes the whole process with it.
 */

const zip = promisify<Uint8Array, ZlibOptions, Buffer>(gzip);
const unzip = promisify<Uint8Array, Buffer>(gunzip);

/** Compressed once, not at each request. Hardly larger than with more effort, and in a third of the time. */
const kept = async ({ bytes, ...rest }: WrittenBytes): Promise<StoredBytes> => ({
  ...rest,
  gzip: await zip(bytes, { level: 2 }),
});

async function plain(results: Record<string, Uint8Array>): Promise<Record<string, Uint8Array>> {
  const entries = Object.entries(results).map(async ([name, one]) => [name, await unzip(one)] as const);
  return Object.fromEntries(await Promise.all(entries));
}

const plainKnown = async ({ briefs, results }: Known): Promise<Known> => ({
  briefs: await plain(briefs),
  results: await plain(results),
});

type Transferred = MessagePort | ArrayBuffer;

const ownMemoryOf = ({ buffer, byteLength }: Uint8Array): ArrayBuffer[] =>
  buffer instanceof ArrayBuffer && buffer.byteLength === byteLength ? [buffer] : [];

/** A task that waits for its turn. */
interface Queued {
  task: Task;
  signal: AbortSignal | undefined;
  transferList: Transferred[] | undefined;
}

/** Rejects when nobody waits any more. */
const whenGone = (signal: AbortSignal): Promise<never> =>
  new Promise((_, fail) => {
    if (signal.aborted) fail(requestGone());
    else signal.addEventListener("abort", () => fail(requestGone()), { once: true });
  });

/** Tasks of one kind on threads of their own, bounded in time, memory and number. */
class Threads {
  readonly #pool: Piscina;
  readonly #threads: number;
  readonly #seconds: number;
  /** So many may wait. */
  readonly #most: number;
  readonly #queue: queueAsPromised<Queued, unknown>;
  #running = 0;
  /** The design that is computed. */
  at: string | null = null;

  /**
   * @param kind who computes gives way to who answers
   * @param least threads that stand ready: none where they are seldom wanted
   */
  constructor(
    file: string,
    kind: ThreadKind,
    threads: number,
    seconds: number,
    limits: Limits,
    trouble: (error: Error) => void,
    least: 0 | 1 = 1,
  ) {
    this.#threads = threads;
    this.#seconds = seconds;
    this.#most = limits.queue;
    this.#queue = promise((queued: Queued) => this.#do(queued), threads);
    this.#pool = new Piscina({
      filename: file,
      maxThreads: threads,
      minThreads: least,
      idleTimeout: 30_000,
      workerData: { kind } satisfies ThreadData,
      // What is new is dropped soon, and there is much of it: with little room most of the time goes into clearing it away.
      resourceLimits: {
        maxOldGenerationSizeMb: limits.megabytes,
        ...(kind === "computes" ? { maxYoungGenerationSizeMb: YOUNG_MB } : {}),
      },
    });
    this.#pool.on("error", trouble);
  }

  get idle(): boolean {
    return this.#running < this.#threads;
  }

  /** @throws server.busy when too many wait, task.limit when it took too long or too much memory */
  async run<T extends Task>(task: T, signal?: AbortSignal, transferList?: Transferred[]): Promise<AnswerTo<T>> {
    if (this.#running >= this.#threads + this.#most) throw serverBusy();
    this.#running++;
    try {
      const done = this.#queue.push({ task, signal, transferList });
      // What a thread answers is of the form that its task says.
      return (await (signal ? Promise.race([done, whenGone(signal)]) : done)) as AnswerTo<T>;
    } finally {
      this.#running--;
    }
  }

  /** A task whose turn has come: what it waited before is not counted. */
  async #do({ task, signal, transferList }: Queued): Promise<unknown> {
    if (signal?.aborted) throw requestGone();
    const slow = AbortSignal.timeout(this.#seconds * 1000);
    if (task.kind === "compute") this.at = task.design.hash;
    try {
      return await this.#pool.run(task, {
        signal: signal ? AbortSignal.any([signal, slow]) : slow,
        ...(transferList ? { transferList } : {}),
      });
    } catch (error) {
      const { code } = error as Error & { code?: string };
      if (signal?.aborted) throw requestGone();
      if (slow.aborted) throw taskLimit(`it took longer than ${this.#seconds} s`);
      if (code === "ERR_WORKER_OUT_OF_MEMORY") throw taskLimit("it took more memory than a task may have");
      throw error;
    } finally {
      this.at = null;
    }
  }

  close(): Promise<void> {
    return this.#pool.destroy();
  }

  get running(): number {
    return this.#running;
  }
}

/** What goes on for longer is not short; designs beyond so much are not tried there: a few hundred wires have a tenth of it. */
const SHORT_SECONDS = 20;
const SMALL_DESIGN_BYTES = 1e6;
/** Remembered of so many designs and results. */
const MOST_HOMES = 2000;

/**
 * Threads that compute, each by itself: what one has worked out lies there and nowhere else, so that who goes on with a design goes to
 * the thread that has it.
 */
class Homes {
  readonly #threads: Threads[];
  readonly #most: number;
  readonly #makeShort: () => Threads;
  #shortOnly: Threads | null = null;
  /** By hashes of designs and keys of results. */
  readonly #homes = new LRUCache<string, Threads>({ max: MOST_HOMES });

  constructor(file: string, limits: Limits, trouble: (error: Error) => void) {
    this.#most = limits.threads + limits.queue;
    this.#threads = Array.from(
      { length: limits.threads },
      // How many may wait is counted for all of them.
      () => new Threads(file, "computes", 1, limits.computeSeconds, { ...limits, queue: Infinity }, trouble),
    );
    const seconds = Math.min(SHORT_SECONDS, limits.computeSeconds);
    this.#makeShort = () => new Threads(file, "computes", 1, seconds, { ...limits, queue: 0 }, trouble);
  }

  /** The thread that has one of these, named first that is wanted most; undefined where none has. */
  homeOf(...names: string[]): Threads | undefined {
    for (const name of names) {
      const home = this.#homes.get(name);
      if (home) return home;
    }
    return undefined;
  }

  /**
   * Where to work with things of these names: at home unless something else is done there, else where least is to do. Who goes on with
   * what is just being done waits for it: elsewhere all of it would have to be done again.
   */
  choose(...names: string[]): Threads {
    const home = this.homeOf(...names);
    const goesOn = home?.running === 1 && home.at !== null && names.includes(home.at);
    return home && (home.idle || goesOn) ? home : this.#leastBusy();
  }

  /**
   * Does a task with a thread that is chosen; where that is busy and the task looks small, at once with one that takes nothing else, so
   * that a small job does not wait for large ones. What turns out to be long waits its turn after all.
   * @param bytes of the design
   */
  async somewhere<T>(names: string[], bytes: number, work: (thread: Threads) => Promise<T>): Promise<T> {
    const thread = this.choose(...names);
    const goesOn = thread.at !== null && names.includes(thread.at);
    // What was short before may be so again: its home is the short one then.
    const large = bytes > SMALL_DESIGN_BYTES;
    if (thread !== this.#shortOnly && (thread.idle || goesOn || large || !this.#short().idle)) return work(thread);
    try {
      return await work(this.#short());
    } catch (error) {
      if (!(error instanceof BenchError && error.body.code === "task.limit")) throw error;
      return work(this.#leastBusy());
    }
  }

  /** Made when it is first wanted. */
  #short(): Threads {
    return (this.#shortOnly ??= this.#makeShort());
  }

  /** The one with the least to do; of equals the one that has had nothing to do for longest. */
  #leastBusy(): Threads {
    const [least] = [...this.#threads].sort((a, b) => a.running - b.running);
    return least!;
  }

  settle(thread: Threads, names: Iterable<string>): void {
    for (const name of names) this.#homes.set(name, thread);
    // Whoever worked last stands at the end.
    const at = this.#threads.indexOf(thread);
    if (at >= 0) this.#threads.push(...this.#threads.splice(at, 1));
  }

  /** @throws as a thread, and server.busy when too many wait for all of them */
  run<T extends Task>(
    thread: Threads,
    task: T,
    signal?: AbortSignal,
    transferList?: Transferred[],
  ): Promise<AnswerTo<T>> {
    if (this.#threads.reduce((sum, t) => sum + t.running, 0) >= this.#most) return Promise.reject(serverBusy());
    return thread.run(task, signal, transferList);
  }

  async close(): Promise<void> {
    await Promise.all([...this.#threads, ...(this.#shortOnly ? [this.#shortOnly] : [])].map((t) => t.close()));
  }
}

/**
 * @param file the bundled worker
 * @param trouble hears of faults that belong to no task any more. A cancelled worker may have answered
 * just before it was ended; that late answer is one of them and must not bring the server down.
 */
export function startWorkers(
  file: string,
  given: Partial<Limits> = {},
  trouble: (error: Error) => void = () => undefined,
): Workers {
  const limits = { ...LIMITS, ...given };
  const computing = new Homes(file, limits, trouble);
  const anywhere = <T extends Extract<Task, { kind: "files" | "draw" | "ask" }>>(
    task: T,
    signal?: AbortSignal,
  ): Promise<AnswerTo<T>> => {
    const [names, bytes] = "design" in task ? [[task.design.hash], task.design.json.byteLength] : [[], 0];
    return computing.somewhere(names, bytes, (thread) => computing.run(thread, task, signal));
  };
  const reading = new Threads(file, "reads", limits.readers, limits.readSeconds, limits, trouble);
  // Lists and files of large batches, and tables of drawing offices, take their time: who imports or edits meanwhile does not wait for them.
  const writing = new Threads(file, "reads", limits.readers, limits.readSeconds, limits, trouble);
  // A schematic of hundreds of pages is read for many seconds: nobody but who leafs through schematics waits for it.
  const leafing = new Threads(file, "reads", limits.readers, limits.readSeconds, limits, trouble, 0);
  const computeOn = async (
    thread: Threads,
    task: Omit<ComputeTask, "kind" | "port">,
    signal: AbortSignal,
    asker: Asker,
  ): Promise<StoredBytes[]> => {
    const { port1, port2 } = new MessageChannel();
    computing.settle(thread, [task.design.hash]);
    const ended = new AbortController();
    let toldSum = (): void => undefined;
    // What is said by the port may come later than the answer.
    const summed = new Promise<void>((done) => (toldSum = done));
    const failed = new Promise<never>((_, fail) => {
      port1.on("message", (m: ComputeMessage) => {
        if ("summed" in m) {
          Promise.all(m.summed.map(kept))
            .then((rows) => asker.summed(rows, m.effect))
            .then(toldSum, fail);
        } else if ("keys" in m) {
          computing.settle(thread, Object.values(m.keys));
          asker
            .known(m.keys, m.has)
            .then(plainKnown)
            .then((known) => port1.postMessage(known), fail);
        } else asker.progress(m.stage, m.share);
      });
    });
    const computed = computing.run(
      thread,
      { kind: "compute", ...task, port: port2 },
      AbortSignal.any([signal, ended.signal]),
      [port2],
    );
    try {
      const rows = await Promise.race([computed, failed]);
      await Promise.race([summed, failed]);
      return await Promise.all(rows.map(kept));
    } catch (error) {
      // A worker whose question was not answered would wait for ever.
      ended.abort();
      await computed.catch(() => undefined);
      throw error;
    } finally {
      port1.close();
    }
  };
  return {
    read: (bytes, signal) => reading.run({ kind: "read", bytes }, signal, ownMemoryOf(bytes)),
    compute(task, signal, asker) {
      const { hash, from, json } = task.design;
      const names = [hash, ...(from ? [from.on] : [])];
      return computing.somewhere(names, json.byteLength, (thread) => computeOn(thread, task, signal, asker));
    },
    // Where it is computed next, if a thread is free there: what an edit leaves alone is then not read again.
    async lay(task, signal) {
      const home = computing.choose("current" in task ? task.current.hash : task.received.hash);
      const laying = { kind: "lay", ...task } as const;
      if (!home.idle) return reading.run(laying, signal);
      const answer = await computing.run(home, laying, signal);
      if (answer.ok) computing.settle(home, [answer.hash]);
      return answer;
    },
    async files(task) {
      const results = await plain(task.results);
      const rows = await anywhere({ kind: "files", ...task, results });
      return Promise.all(rows.map(kept));
    },
    draw: async (task, signal) => anywhere({ kind: "draw", ...task, results: await plain(task.results) }, signal),
    async ask<A extends object, R, T>({ stage, name, long }: Question<A, R, T>, task: Asking<A>, signal?: AbortSignal) {
      const results = await Promise.all(task.results.map((one) => unzip(one)));
      const asking: AskTask = { kind: "ask", stage, question: name, ...task, results };
      return (await (long ? anywhere(asking, signal) : writing.run(asking, signal))) as T;
    },
    async compare(stages, read) {
      // What has just been computed lies in the thread that did; it is not waited for when it is busy.
      const home = computing.homeOf(...Object.values(stages).map(({ after }) => after));
      const threads = home?.idle ? home : reading;
      const ask = (results: CompareTask["results"]) => threads.run({ kind: "compare", stages, results });
      let answer = await ask({});
      if ("lacks" in answer) {
        // Another thread may answer next: all are sent.
        const results: CompareTask["results"] = {};
        for (const key of new Set(Object.values(stages).flatMap(({ before, after }) => [before, after]))) {
          const one = await read(key);
          if (!one) return null;
          results[key] = await unzip(one);
        }
        answer = await ask(results);
      }
      return "told" in answer ? answer.told : null;
    },
    differ: (task, signal) => reading.run({ kind: "differ", ...task }, signal),
    index: async (task) => kept(await reading.run({ kind: "index", ...task })),
    readLibrary: (bytes, into, signal) => writing.run({ kind: "library", what: { do: "read", bytes, into } }, signal),
    readOutline: (bytes, signal) => writing.run({ kind: "library", what: { do: "outline", bytes } }, signal),
    partOf: (library, number) => writing.run({ kind: "library", what: { do: "part", library, number } }),
    libraryFile: (library, as, signal) => writing.run({ kind: "library", what: { do: "file", library, as } }, signal),
    writeParts: (before, parts, gone, signal) =>
      writing.run({ kind: "library", what: { do: "write", before, parts, gone } }, signal),
    differLibraries: (before, after, signal) =>
      writing.run({ kind: "library", what: { do: "differ", before, after } }, signal),
    pack: (design, signal) => writing.run({ kind: "pack", design }, signal),
    tables: async <T extends TablesTask["what"]>(what: T, signal?: AbortSignal) =>
      (await writing.run({ kind: "tables", what }, signal)) as TablesAnswerTo<T>,
    readDocument: (bytes, signal) => leafing.run({ kind: "attachments", what: { do: "read", bytes } }, signal),
    async find(asked, read, signal) {
      const ask = (sent: FindSent | null) =>
        leafing.run({ kind: "attachments", what: { do: "find", ...asked, sent } }, signal);
      let answer = await ask(null);
      if ("lacks" in answer) answer = await ask(await read());
      return "json" in answer ? answer.json : null;
    },
    close: async () => {
      await Promise.all([computing.close(), reading.close(), writing.close(), leafing.close()]);
    },
  };
}
