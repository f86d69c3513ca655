import { chmodSync, existsSync, mkdirSync, rmSync, writeFileSync } from "node:fs";
import { dirname, join, resolve } from "node:path";
import { fileURLToPath } from "node:url";
import { parseArgs } from "node:util";
import { build } from "./app";
import { readStockAddress } from "./kits/address";
import { readAddress } from "./machines/line";
import { ADDRESS_FILE, openStore, StoreDamaged, StoreForeign, StoreInUse } from "./store/database";
import { Reserve } from "./store/reserve";
import { LIMITS, startWorkers } from "./workers/pool";

/**
 * Starts the server. Prints one line with its address when it listens.
 * Ends with 1 when it cannot, 2 when it was called wrongly, 3 when the data file is in use, 4 when it is damaged.
 */
const USAGE =
  "usage: [--data FOLDER] [--host ADDRESS] [--port N] [--allow NAME]… [--machine NAME=HOST:PORT,http://HOST:PORT]… [--wire-machine …]… [--printer …]… [--stock http://HOST:PORT] [--app FOLDER] [--threads N] [--rate N] [--task-seconds N] [--task-mb N] [--log] [--help]";
/** What hangs on is cut off after this long. */
const STOP_MS = 5_000;

function called() {
  const { values } = parseArgs({
    options: {
      data: { type: "string", default: "data" },
      host: { type: "string", default: "127.0.0.1" },
      port: { type: "string", default: "4600" },
      allow: { type: "string", multiple: true, default: [] },
      machine: { type: "string", multiple: true, default: [] },
      "wire-machine": { type: "string", multiple: true, default: [] },
      printer: { type: "string", multiple: true, default: [] },
      stock: { type: "string" },
      app: { type: "string" },
      threads: { type: "string", default: "2" },
      rate: { type: "string", default: "3000" },
      "task-seconds": { type: "string", default: String(LIMITS.computeSeconds) },
      "task-mb": { type: "string", default: String(LIMITS.megabytes) },
      log: { type: "boolean", default: false },
      help: { type: "boolean", default: false },
    },
  });
  if (values.help) {
    console.log(USAGE);
    process.exit(0);
  }
  if (values.app !== undefined && !existsSync(join(resolve(values.app), "index.html")))
    throw new Error(
      `--app takes the folder of the built application; there is no index.html in ${resolve(values.app)}`,
    );
  const whole = (
    name: "port" | "threads" | "rate" | "task-seconds" | "task-mb",
    least: number,
    most: number,
  ): number => {
    const n = Number(values[name]);
    if (!/^\d+$/.test(values[name]) || n < least || n > most)
      throw new Error(`--${name} takes a whole number from ${least} to ${most}, not "${values[name]}"`);
    return n;
  };
  return {
    ...values,
    machines: values.machine.map((text) => readAddress("machine", text)),
    wireMachines: values["wire-machine"].map((text) => readAddress("wire-machine", text)),
    printers: values.printer.map((text) => readAddress("printer", text)),
    stock: values.stock === undefined ? undefined : readStockAddress(values.stock),
    port: whole("port", 0, 65_535),
    threads: whole("threads", 1, 64),
    rate: whole("rate", 1, 10_000_000),
    "task-seconds": whole("task-seconds", 1, 86_400),
    "task-mb": whole("task-mb", 64, 1_000_000),
  };
}

async function serve(asked: ReturnType<typeof called>): Promise<void> {
  // What is written from here on belongs to the user of this process alone.
  process.umask(0o077);
  const folder = resolve(asked.data);
  mkdirSync(folder, { recursive: true });
  const file = join(folder, "gray-bench.db");
  for (const made of [file, `${file}-wal`, `${file}-shm`]) if (existsSync(made)) chmodSync(made, 0o600);
  const store = await openStore(file, new Reserve(folder));
  const here = dirname(fileURLToPath(import.meta.url));
  const workers = startWorkers(
    join(here, "worker.cjs"),
    { threads: asked.threads, computeSeconds: asked["task-seconds"], megabytes: asked["task-mb"] },
    (error) => console.error(`a worker: ${error.message.split("\n")[0]}`),
  );
  // An address that is listened on is a name too; "any address" is none.
  const own = /^(0\.0\.0\.0|::)$/.test(asked.host) ? [] : [asked.host];
  const app = await build({
    store,
    workers,
    folder,
    requestsPerMinute: asked.rate,
    names: [...own, ...asked.allow],
    machines: asked.machines,
    wireMachines: asked.wireMachines,
    printers: asked.printers,
    ...(asked.stock === undefined ? {} : { stock: asked.stock }),
    ...(asked.app ? { appFolder: resolve(asked.app) } : {}),
    // Faults of the server are logged in any case, under the id that the client is told.
    logger: { level: asked.log ? "info" : "error", stream: process.stderr },
  });
  const address = await app.listen({ host: asked.host, port: asked.port });
  const told = join(folder, ADDRESS_FILE);
  await store.withReserve(async () => writeFileSync(told, `${address}\n`));
  console.log(`Gray Bench listens on ${address}`);
  let stopping = false;
  const stop = async (): Promise<void> => {
    if (stopping) return;
    stopping = true;
    setTimeout(() => process.exit(0), STOP_MS).unref();
    await app.close();
    await workers.close();
    await store.close();
    rmSync(told, { force: true });
    process.exit(0);
  };
  process.on("SIGINT", () => void stop());
  process.on("SIGTERM", () => void stop());
}

try {
  await serve(called());
} catch (error) {
  const { message, code } = error as Error & { code?: string };
  const wrong = code?.startsWith("ERR_PARSE_ARGS") || /^--[\w-]+ takes/.test(message);
  console.error(wrong ? `${message}\n${USAGE}` : message);
  const unusable = error instanceof StoreDamaged || error instanceof StoreForeign;
  process.exit(error instanceof StoreInUse ? 3 : unusable ? 4 : wrong ? 2 : 1);
}
