import { mkdirSync } from "node:fs";
import { dirname, join, resolve } from "node:path";
import { fileURLToPath } from "node:url";
import { parseArgs } from "node:util";
import { build } from "./app";
import { openStore, StoreInUse } from "./store/database";
import { startWorkers } from "./workers/pool";

/** Starts the server. Prints one line with its address when it listens. */
const here = dirname(fileURLToPath(import.meta.url));
const { values } = parseArgs({
  options: {
    data: { type: "string", default: "data" },
    host: { type: "string", default: "127.0.0.1" },
    port: { type: "string", default: "4600" },
    app: { type: "string" },
    threads: { type: "string", default: "2" },
    rate: { type: "string", default: "3000" },
    log: { type: "boolean", default: false },
  },
});

const folder = resolve(values.data);
mkdirSync(folder, { recursive: true });
try {
  const store = await openStore(join(folder, "gray-bench.db"));
  const workers = startWorkers(join(here, "worker.mjs"), Number(values.threads), (error) =>
    console.error(`a worker: ${error.message.split("\n")[0]}`),
  );
  const app = await build({
    store,
    workers,
    requestsPerMinute: Number(values.rate),
    ...(values.app ? { appFolder: resolve(values.app) } : {}),
    ...(values.log ? { logger: true } : {}),
  });
  const address = await app.listen({ host: values.host, port: Number(values.port) });
  console.log(`Gray Bench listens on ${address}`);
  const stop = async (): Promise<void> => {
    await app.close();
    await workers.close();
    await store.close();
    process.exit(0);
  };
  process.once("SIGINT", () => void stop());
  process.once("SIGTERM", () => void stop());
} catch (error) {
  console.error(error instanceof StoreInUse ? error.message : (error as Error).message);
  process.exit(error instanceof StoreInUse ? 3 : 1);
}
