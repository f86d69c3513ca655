import { MessageChannel } from "node:worker_threads";
import { Piscina } from "piscina";
import type { ComputeAnswer, FilesAnswer, LayAnswer, LayTask, ReadAnswer, StageMessage, Task } from "./tasks";

/** The worker threads, as the rest of the server sees them. */
export interface Workers {
  read(bytes: Uint8Array): Promise<ReadAnswer>;
  compute(json: Uint8Array, signal: AbortSignal, progress: (message: StageMessage) => void): Promise<ComputeAnswer>;
  lay(task: Omit<LayTask, "kind">): Promise<LayAnswer>;
  files(stages: Record<string, Uint8Array>, open: Uint8Array): Promise<FilesAnswer>;
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
    async compute(json, signal, progress) {
      const { port1, port2 } = new MessageChannel();
      port1.on("message", progress);
      try {
        return (await run({ kind: "compute", json, port: port2 }, { signal, transferList: [port2] })) as ComputeAnswer;
      } finally {
        port1.close();
      }
    },
    lay: (task) => run({ kind: "lay", ...task }) as Promise<LayAnswer>,
    files: (stages, open) => run({ kind: "files", stages, open }) as Promise<FilesAnswer>,
    close: () => pool.destroy(),
  };
}
