import { existsSync, readdirSync, readFileSync, renameSync, watch, writeFileSync, type FSWatcher } from "node:fs";
import { join } from "node:path";
import { answering, type Answer, type Asked } from "../http";
import { closeBoth, filesOverTcp, listen } from "../net";
import { resultFile, type WireMachine } from "./machine";
import type { Fault } from "./table";

const TICK_MS = 50;

export interface Listening {
  tcp: number;
  http: number;
  close(): Promise<void>;
}

export interface Wanted {
  tcp: number;
  http: number;
  /** Files that are put there are taken; beside them stands what became of them. */
  folder?: string;
  host?: string;
  /** So many times as fast as a real one. */
  factor: number;
}

/**
 * The machine on the network. TCP: the first line is the name of the file, then the file; the answer is one line, `taken N` or
 * `refused: …`. HTTP: its state, its jobs with what was made, and what a person does at it: mount a reel, fill a magazine, clear a jam,
 * stop a job.
 */
export async function serveWire(machine: WireMachine, wanted: Wanted): Promise<Listening> {
  const host = wanted.host ?? "127.0.0.1";
  const tcp = filesOverTcp((name, file) => answer(machine, name, file));
  const http = answering((asked) => reply(machine, asked));
  const { folder } = wanted;
  const watcher = folder === undefined ? null : watching(machine, folder);
  let last = performance.now();
  const timer = setInterval(() => {
    const now = performance.now();
    machine.advance(((now - last) / 1000) * wanted.factor);
    last = now;
    if (folder !== undefined) leave(machine, folder);
  }, TICK_MS);
  const ports = await Promise.all([listen(tcp, wanted.tcp, host), listen(http, wanted.http, host)]);
  return {
    tcp: ports[0],
    http: ports[1],
    async close() {
      clearInterval(timer);
      watcher?.close();
      await closeBoth(tcp, http);
    },
  };
}

const said = (faults: readonly Fault[]): string =>
  `line ${faults[0]!.at}: ${faults[0]!.text}${faults.length > 1 ? ` (and ${faults.length - 1} more)` : ""}`;

function answer(machine: WireMachine, name: string, file: Buffer): string {
  const taken = machine.take(name, file);
  return taken.ok ? `taken ${taken.job.id}` : `refused: ${said(taken.faults)}`;
}

function reply(machine: WireMachine, { method, path, body }: Asked): Answer {
  const at = `${method} ${path}`;
  if (at === "GET /")
    return [
      200,
      {
        ...machine.state(),
        jobs: machine
          .jobs()
          .map(({ id, name, state, orders, made }) => ({ id, name, state, leads: orders.length, made: made.length })),
      },
    ];
  const one = /^GET \/jobs\/(\d+)$/.exec(at);
  if (one) {
    const job = machine.jobs()[Number(one[1]) - 1];
    return job
      ? [200, { id: job.id, name: job.name, state: job.state, leads: job.orders.length, made: job.made }]
      : [404, { error: "there is no such job" }];
  }
  const stopped = /^POST \/jobs\/(\d+)\/stop$/.exec(at);
  if (stopped)
    return machine.stop(Number(stopped[1])) ? [200, { stopped: true }] : [409, { error: "it is not running" }];
  if (at === "POST /clear") return machine.clear() ? [200, { cleared: true }] : [409, { error: "nothing is jammed" }];
  if (at === "POST /magazine") {
    if (typeof body.part !== "string" || body.part === "") return [400, { error: "a magazine is filled with a part" }];
    machine.fill(body.part);
    return [200, { filled: body.part }];
  }
  if (at !== "POST /reel") return [404, { error: `nothing stands at ${at}` }];
  if (typeof body.reel !== "string") return [400, { error: "a reel has a code" }];
  const wrong = machine.mount(body.reel, Number(body.metres));
  return wrong === null ? [200, { mounted: body.reel }] : [409, { error: wrong }];
}

const FILE = /\.(csv|xml)$/;
const OURS = /\.result\.csv$/;

/** Takes every file; beside it then stands .taken, or .refused with the reason. */
function watching(machine: WireMachine, folder: string): FSWatcher {
  const look = (): void => {
    for (const name of readdirSync(folder)) {
      if (!FILE.test(name) || OURS.test(name)) continue;
      const path = join(folder, name);
      let bytes: Buffer;
      try {
        bytes = readFileSync(path);
        // The one who writes it may not be done.
        if (bytes[bytes.length - 1] !== 10) continue;
        renameSync(path, `${path}.taking`);
      } catch {
        continue;
      }
      const taken = machine.take(name, bytes);
      if (!taken.ok) writeFileSync(`${path}.refused`, `${said(taken.faults)}\r\n`);
      renameSync(`${path}.taking`, `${path}.taken`);
    }
  };
  look();
  return watch(folder, look);
}

/** Leaves a file with the result of every job that is done. */
function leave(machine: WireMachine, folder: string): void {
  for (const job of machine.jobs()) {
    const path = join(folder, `${job.name.replace(FILE, "")}.result.csv`);
    if (job.state !== "done" || existsSync(path)) continue;
    writeFileSync(`${path}.part`, resultFile(job));
    renameSync(`${path}.part`, path);
  }
}
