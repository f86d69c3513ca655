import { mkdtempSync, rmSync, writeFileSync } from "node:fs";
import { tmpdir } from "node:os";
import { join } from "node:path";
import answers from "@gray-bench/contract/answers.schema.json";
import Ajv, { type ValidateFunction } from "ajv";
import { build, type BuildOptions } from "../src/app";
import { openStore, type Store } from "../src/store/database";
import type { Reserve } from "../src/store/reserve";
import { startWorkers } from "../src/workers/pool";
import type { WireMachine } from "../../standins/src/wire/machine";
import type { Server } from "../src/server";

export const WORKER = join(__dirname, "../../dist/server/worker.cjs");
export const MAIN = join(__dirname, "../../dist/server/main.mjs");
export const DESIGNS = join(__dirname, "../../designs");

export interface Bench {
  app: Server;
  folder: string;
  store: Store;
  close(): Promise<void>;
}

const ajv = new Ajv({ allowUnionTypes: true }).addSchema(answers, "answers");
const forms = new Map<string, ValidateFunction>();
/** Names of the answers that were held against their forms. */
export const held = new Set<string>();

/** Whatever is answered when all goes well is of the form that its address says, without a field more: else there is no answer. */
function holdAnswers(app: Server): void {
  app.addHook("onSend", async ({ routeOptions: { schema } }, reply, payload) => {
    const name = schema?.answer;
    const isText = typeof payload === "string" && String(reply.getHeader("content-type")).includes("json");
    if (name === undefined || reply.statusCode >= 300 || !isText) return payload;
    let form = forms.get(name);
    if (!form) forms.set(name, (form = ajv.compile({ $ref: `answers#/definitions/${name}` })));
    held.add(name);
    if (form(JSON.parse(payload))) return payload;
    const [fault] = form.errors!;
    process.stderr.write(`${name}${fault!.instancePath} ${fault!.message} ${JSON.stringify(fault!.params)}\n`);
    throw new Error("the answer is of another form than its address says");
  });
}

/**
 * A server with real workers and a data file in a folder of its own, or in one that is there and stays.
 * @param data its data file, written by another one; empty when absent
 */
export async function start(
  options: Partial<BuildOptions> = {},
  { there, data }: { there?: { folder: string; reserve: Reserve }; data?: Uint8Array } = {},
): Promise<Bench> {
  const folder = there?.folder ?? mkdtempSync(join(tmpdir(), "gray-bench-"));
  if (data) writeFileSync(join(folder, "test.db"), data);
  const store = await openStore(join(folder, "test.db"), there?.reserve);
  const workers = options.workers ?? startWorkers(WORKER, { threads: 1 });
  const app = await build({ store, workers, now: () => new Date(Date.UTC(2026, 10, 23)), ...options });
  holdAnswers(app);
  return {
    app,
    folder,
    store,
    async close() {
      await app.close();
      await workers.close();
      await store.close();
      if (!there) rmSync(folder, { recursive: true });
    },
  };
}

export const post = (app: Server, payload: string | Buffer) =>
  app.inject({ method: "POST", url: "/api/jobs", headers: { "content-type": "application/json" }, payload });

/** Reads until it is as wanted. */
export async function until<T>(read: () => Promise<T>, is: (t: T) => boolean): Promise<T> {
  for (;;) {
    const t = await read();
    if (is(t)) return t;
    await new Promise((next) => setTimeout(next, 20));
  }
}

/** Whoever stands at a machine for leads: puts in what it wants, until it is through. */
export function attendTo(machine: WireMachine): void {
  for (let n = 0; n < 10_000; n++) {
    machine.advance(60);
    const { state, wait } = machine.state();
    if (state === "idle") return;
    if (wait?.kind === "reel") machine.mount(wait.reel, 100);
    else if (wait?.kind === "magazine") machine.fill(wait.part);
    else if (wait?.kind === "jam") machine.clear();
  }
}
