import { spawn } from "node:child_process";
import { mkdtempSync, rmSync } from "node:fs";
import { tmpdir } from "node:os";
import { join } from "node:path";

export interface BenchServer {
  address: string;
  pid: number;
  stop(): Promise<void>;
  /** Stops, with its data kept. */
  leave(): Promise<void>;
  /** Starts again where it was, with the same data. */
  come(): Promise<void>;
}

const root = process.cwd();

/** Starts the built server with an empty data folder on a free port. */
export async function startBench(more: readonly string[] = []): Promise<BenchServer> {
  const folder = mkdtempSync(join(tmpdir(), "gray-bench-"));
  let running = await run(folder, "0", more);
  const { address } = running;
  return {
    address,
    get pid() {
      return running.pid;
    },
    async stop() {
      await running.end();
      rmSync(folder, { recursive: true, force: true });
    },
    leave: () => running.end(),
    async come() {
      running = await run(folder, new URL(address).port, more);
    },
  };
}

interface Running {
  address: string;
  pid: number;
  end(): Promise<void>;
}

function run(folder: string, port: string, more: readonly string[]): Promise<Running> {
  const args = ["--data", folder, "--port", port, "--app", join(root, "app/dist"), "--rate", "100000", ...more];
  const child = spawn(process.execPath, [join(root, "dist/server/main.mjs"), ...args]);
  const ended = new Promise<void>((resolve) => child.on("close", () => resolve()));
  return new Promise((resolve, reject) => {
    let said = "";
    child.stderr.on("data", (d) => (said += String(d)));
    child.stdout.on("data", (d) => {
      said += String(d);
      const address = /listens on (\S+)/.exec(said)?.[1];
      if (!address) return;
      resolve({
        address,
        pid: child.pid!,
        async end() {
          child.kill("SIGTERM");
          await ended;
        },
      });
    });
    void ended.then(() => reject(new Error(said)));
  });
}

/** Imports a design and waits until it is computed. */
export async function importDesign(bench: BenchServer, body: string): Promise<string> {
  const reply = await fetch(`${bench.address}/api/jobs`, {
    method: "POST",
    headers: { "content-type": "application/json" },
    body,
  });
  if (!reply.ok) throw new Error(await reply.text());
  const { job } = (await reply.json()) as { job: { code: string } };
  await (await fetch(`${bench.address}/api/jobs/${job.code}/stages/routes`)).arrayBuffer();
  return job.code;
}
