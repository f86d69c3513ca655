import { MessageChannel } from "node:worker_threads";
import { Piscina } from "piscina";
import type { StageKeys } from "@gray-bench/core/run";
import type { StageName } from "@gray-bench/core/stage-names";
import type {
  CompareAnswer,
  CompareTask,
  ComputeAnswer,
  ComputeMessage,
  ComputeTask,
  DifferAnswer,
  DifferTask,
  FilesAnswer,
  IndexAnswer,
  IndexTask,
  FilesTask,
  Known,
  LayAnswer,
  Laying,
  ReadAnswer,
  Task,
} from "./tasks";

/** Whoever asks for a computation: answers what is known under the keys, and hears how far it is. */
export interface Asker {
  known(keys: StageKeys): Promise<Known>;
  progress(stage: StageName, share: number): void;
}

/** The worker threads, as the rest of the server sees them. */
export interface Workers {
  read(bytes: Uint8Array): Promise<ReadAnswer>;
  compute(task: Omit<ComputeTask, "kind" | "port">, signal: AbortSignal, asker: Asker): Promise<ComputeAnswer>;
  lay(task: Laying): Promise<LayAnswer>;
  files(task: Omit<FilesTask, "kind">): Promise<FilesAnswer>;
  compare(task: Omit<CompareTask, "kind">): Promise<CompareAnswer>;
  differ(task: Omit<DifferTask, "kind">): Promise<DifferAnswer>;
  index(task: Omit<IndexTask, "kind">): Promise<IndexAnswer>;
  close(): Promise<void>;
}

/**
 * @param file the bundled worker
 * @param trouble hears of faults that belong to no task any more. A cancelled worker may have answered
 * just before it was ended; that late answer is one of them and must not bring the server down.
 */
export function startWorkers(
  file: string,
  threads: number,
  trouble: (error: Error) => void = () => undefined,
): Workers {
  const pool = new Piscina({ filename: file, maxThreads: threads, minThreads: 1, idleTimeout: 30_000 });
  pool.on("error", trouble);
  const run = (task: Task, options?: Parameters<Piscina["run"]>[1]): Promise<unknown> => pool.run(task, options);
  return {
    read: (bytes) => run({ kind: "read", bytes }) as Promise<ReadAnswer>,
    async compute(task, signal, asker) {
      const { port1, port2 } = new MessageChannel();
      const ended = new AbortController();
      const failed = new Promise<never>((_, fail) => {
        port1.on("message", (m: ComputeMessage) => {
          if ("keys" in m) asker.known(m.keys).then((known) => port1.postMessage(known), fail);
          else asker.progress(m.stage, m.share);
        });
      });
      const computed = run(
        { kind: "compute", ...task, port: port2 },
        { signal: AbortSignal.any([signal, ended.signal]), transferList: [port2] },
      );
      try {
        return (await Promise.race([computed, failed])) as ComputeAnswer;
      } catch (error) {
        // A worker whose question was not answered would wait for ever.
        ended.abort();
        await computed.catch(() => undefined);
        throw error;
      } finally {
        port1.close();
      }
    },
    lay: (task) => run({ kind: "lay", ...task }) as Promise<LayAnswer>,
    files: (task) => run({ kind: "files", ...task }) as Promise<FilesAnswer>,
    compare: (task) => run({ kind: "compare", ...task }) as Promise<CompareAnswer>,
    differ: (task) => run({ kind: "differ", ...task }) as Promise<DifferAnswer>,
    index: (task) => run({ kind: "index", ...task }) as Promise<IndexAnswer>,
    close: () => pool.destroy(),
  };
}
