import { readdirSync, readFileSync, renameSync, watch, writeFileSync, type FSWatcher } from "node:fs";
import { join } from "node:path";
import { answering, type Answer, type Asked } from "../http";
import { closeBoth, filesOverTcp, later, listen } from "../net";
import type { DrillingMachine } from "./shop";

/** A name of a program: one of the signs that names of files have. */
const NAME = /^[\w.+-]{1,200}$/;

export interface Listening {
  tcp: number;
  http: number;
  close(): Promise<void>;
}

export interface Wanted {
  tcp: number;
  http: number;
  /** Programs that are put there are taken, and what became of them stands beside them. */
  folder?: string;
  host?: string;
  /** For trying out: every answer comes so much later. ms */
  slowMs?: number;
}

/**
 * The machine on the network: programs over TCP (a connection each: a line with its name, then the program; the answer is one line,
 * `taken N` or `refused: …`), and over HTTP its state, its queue and what it made.
 */
export async function serve(machine: DrillingMachine, wanted: Wanted): Promise<Listening> {
  const host = wanted.host ?? "127.0.0.1";
  const { slowMs } = wanted;
  const tcp = filesOverTcp((name, file) => answer(machine, name, file.toString("latin1")), {
    file: "program",
    name: NAME,
    ...(slowMs === undefined ? {} : { slowMs }),
  });
  const http = answering(async (asked) => {
    await new Promise<void>((go) => later(slowMs, go));
    return reply(machine, asked);
  });
  const watcher = wanted.folder === undefined ? null : watching(machine, wanted.folder);
  const ports = await Promise.all([listen(tcp, wanted.tcp, host), listen(http, wanted.http, host)]);
  return {
    tcp: ports[0],
    http: ports[1],
    async close() {
      watcher?.close();
      await closeBoth(tcp, http);
    },
  };
}

function answer(machine: DrillingMachine, name: string, text: string): string {
  const taken = machine.take(name, text);
  if (taken.ok) return `taken ${taken.job.id}`;
  const [first] = taken.faults;
  const more = taken.faults.length > 1 ? ` (and ${taken.faults.length - 1} more)` : "";
  return `refused: line ${first!.line}: ${first!.text}${more}`;
}

function reply(machine: DrillingMachine, { method, path }: Asked): Answer {
  const one = /^\/jobs\/(\d+)(\/stop)?$/.exec(path);
  if (method === "GET" && path === "/")
    return [200, { name: machine.table.name, state: machine.state(), jobs: machine.list() }];
  if (one && method === "GET" && !one[2]) {
    const job = machine.job(Number(one[1]));
    return job ? [200, job] : [404, { error: "there is no such job" }];
  }
  if (one?.[2] && method === "POST")
    return machine.stop(Number(one[1])) ? [200, { stopped: true }] : [409, { error: "it is not running" }];
  const broken = /^\/try\/break\/(0(?:\.\d+)?|1)$/.exec(path);
  if (broken && method === "POST") {
    machine.breakAt(Number(broken[1]));
    return [200, { breaksAt: Number(broken[1]) }];
  }
  return [404, { error: `nothing stands at ${method} ${path}` }];
}

/** Takes every file that ends in .nc; beside it then stands .taken, or .refused with the reason. */
function watching(machine: DrillingMachine, folder: string): FSWatcher {
  const look = (): void => {
    for (const name of readdirSync(folder)) {
      if (!name.endsWith(".nc")) continue;
      const path = join(folder, name);
      let text: string;
      try {
        text = readFileSync(path, "latin1");
        // The one who writes it may not be done: a program ends with its last line.
        if (!text.endsWith("\n")) continue;
        renameSync(path, `${path}.read`);
      } catch {
        continue;
      }
      const said = answer(machine, name, text);
      writeFileSync(`${path}.${said.startsWith("taken") ? "taken" : "refused"}`, `${said}\r\n`);
    }
  };
  look();
  return watch(folder, look);
}
