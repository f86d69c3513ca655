import { spawn, spawnSync, type ChildProcess } from "node:child_process";
import { existsSync, mkdtempSync, readFileSync, rmSync } from "node:fs";
import { createServer } from "node:net";
import { tmpdir } from "node:os";
import { join } from "node:path";
import type { BatchReply } from "@gray-bench/contract/wireprep";
import type { Shop } from "@gray-bench/core/shop/shop";
import { leadStates } from "@gray-bench/core/wireprep/events";
import { chainsIn } from "@gray-bench/core/wireprep/batch";
import { DESIGNS, MAIN } from "./helper";

const HILL = readFileSync(join(DESIGNS, "whole/hillfold.bench.json"), "utf8");
const ROOT = join(DESIGNS, "..");
/** Kills of each of the three programs. */
const KILLS = Number(process.env.GRAY_BENCH_KILLS ?? 10);
/** Of a machine whose leads take a few milliseconds, one in so many fails. */
const FACTOR = "150";
const PULL = "25";
const PANELS = 4;
/** Of machine and printer between two kills. */
const MOST_ANSWERS = 40;

jest.setTimeout(60_000 + KILLS * 15_000);

/** A stream of numbers from 0 to 1, the same in every run. */
function numbers(seed: number): () => number {
  let x = seed;
  return () => {
    x = (Math.imul(x, 1_664_525) + 1_013_904_223) >>> 0;
    return x / 2 ** 32;
  };
}

const freePort = (): Promise<number> =>
  new Promise((resolve) => {
    const probe = createServer().listen(0, "127.0.0.1", () => {
      const { port } = probe.address() as { port: number };
      probe.close(() => resolve(port));
    });
  });

/** A program that is killed and started again in the same place. */
class Program {
  readonly #args: readonly string[];
  #child: ChildProcess | null = null;
  said = "";

  constructor(args: readonly string[]) {
    this.#args = args;
  }

  /** Resolves when it says that it listens. */
  start(): Promise<void> {
    const child = spawn(process.execPath, this.#args);
    this.#child = child;
    return new Promise((resolve, reject) => {
      let said = "";
      child.stderr.on("data", (d) => (this.said += String(d)));
      child.stdout.on("data", (d) => {
        said += String(d);
        if (/listens on|takes files/.test(said)) resolve();
      });
      child.on("close", (code) => reject(new Error(`${this.#args[0]} ended with ${code}: ${this.said}`)));
    });
  }

  async end(signal: "SIGKILL" | "SIGTERM"): Promise<void> {
    const child = this.#child!;
    const closed = new Promise((done) => child.on("close", done));
    child.removeAllListeners("close");
    const over = new Promise((done) => child.on("close", done));
    child.kill(signal);
    await Promise.race([closed, over]);
  }
}

test(`server, machine and printer are killed ${KILLS} times each: every lead is made once, every label printed once`, async () => {
  if (!existsSync(join(ROOT, "dist/standins/wire.mjs")))
    spawnSync(process.execPath, ["-e", 'import("./scripts/lib.mjs").then((l) => l.buildStandins())'], { cwd: ROOT });
  const folder = mkdtempSync(join(tmpdir(), "gray-bench-"));
  const [at, tcp, http, ltcp, lhttp] = (await Promise.all([1, 2, 3, 4, 5].map(freePort))).map(String) as [
    string,
    string,
    string,
    string,
    string,
  ];
  const base = `http://127.0.0.1:${at}/api`;
  const machineAt = `http://127.0.0.1:${http}`;
  const printerAt = `http://127.0.0.1:${lhttp}`;
  const programs = {
    server: new Program([
      MAIN,
      ...["--data", join(folder, "data"), "--port", at, "--rate", "1000000"],
      ...["--wire-machine", `Brack 2=127.0.0.1:${tcp},${machineAt}`],
      ...["--printer", `Hallam labels=127.0.0.1:${ltcp},${printerAt}`],
    ]),
    machine: new Program([
      join(ROOT, "dist/standins/wire.mjs"),
      ...["--machine", join(ROOT, "standins/machines/brack-2.json"), "--journal", join(folder, "machine.jsonl")],
      ...["--tcp", tcp, "--http", http, "--factor", FACTOR, "--pull", PULL, "--seed", "3"],
    ]),
    printer: new Program([
      join(ROOT, "dist/standins/labels.mjs"),
      ...["--journal", join(folder, "printer.jsonl"), "--tcp", ltcp, "--http", lhttp, "--factor", FACTOR],
    ]),
  };
  /** Asks until it is answered: whoever is asked may just have been killed. */
  const ask = async <T>(url: string, init?: RequestInit): Promise<T> => {
    for (;;) {
      try {
        const reply = await fetch(url, init);
        if (reply.status < 500 || reply.status === 502) return (await reply.json()) as T;
      } catch {
        // Not there: it is started again at this moment.
      }
      await new Promise((next) => setTimeout(next, 20));
    }
  };
  const send = <T>(url: string, body: object): Promise<T> =>
    ask<T>(url, { method: "POST", headers: { "content-type": "application/json" }, body: JSON.stringify(body) });
  const jobs = `${base}/jobs/HILL-2604/batches`;
  interface Told {
    wait: { kind: string; reel?: string; part?: string } | null;
    jobs: { id: number; name: string; state: string; leads: number; labels: number; printed: number }[];
  }
  /** Whoever stands at machine and printer. */
  const attend = async (): Promise<void> => {
    const { wait } = await ask<Told>(machineAt);
    if (wait?.kind === "reel") await send(`${machineAt}/reel`, { reel: wait.reel, metres: 100 });
    if (wait?.kind === "magazine") await send(`${machineAt}/magazine`, { part: wait.part });
    const printer = await ask<Told>(printerAt);
    if (printer.wait) await send(`${printerAt}/roll`, {});
  };
  try {
    await Promise.all(Object.values(programs).map((p) => p.start()));
    // Every label is one from the printer.
    const { shop, hash } = await ask<{ shop: Shop; hash: string }>(`${base}/shop`);
    const wireprep = { ...shop.rules.wireprep, labels: [{ on: "sleeve", holds: 40 }] };
    await ask(`${base}/shop`, {
      method: "PUT",
      headers: { "content-type": "application/json" },
      body: JSON.stringify({ on: hash, who: "Ina", shop: { ...shop, rules: { ...shop.rules, wireprep } } }),
    });
    await ask(`${base}/jobs`, { method: "POST", headers: { "content-type": "application/json" }, body: HILL });
    let batch = 0;
    let panels = 0;
    const begin = async (): Promise<void> => {
      panels += PANELS;
      const made = await send<BatchReply>(jobs, {
        faces: [],
        panels,
        machine: "Brack 2",
        way: "least",
        fallbacks: null,
        who: "Ina",
      });
      // Where the server was killed after it made the batch, the answer is that nothing is left.
      batch = made.summary ? Number(made.summary.name.slice(1)) : batch + 1;
      await send(`${jobs}/B${batch}/send`, { who: "Ina" });
      await send(`${jobs}/B${batch}/print`, { who: "Ina", printer: "Hallam labels" });
    };
    const through = async (): Promise<boolean> => {
      const { summary, runs, batch: made } = await ask<BatchReply>(`${jobs}/B${batch}`);
      const wanted = made.plan.chains.flat().length;
      if (summary.made === wanted && runs.every((r) => r.state === "ended")) return true;
      // What its machine spoils too often, and what a killed send left, is sent again by hand.
      if (summary.made < wanted && runs.every((r) => r.state === "ended" || r.state === "refused"))
        await send(`${jobs}/B${batch}/send`, { who: "Ina" });
      return false;
    };
    const random = numbers(20_261_126);
    const left = { server: KILLS, machine: KILLS, printer: KILLS };
    await begin();
    while (Object.values(left).some((n) => n > 0)) {
      const names = (["server", "machine", "printer"] as const).filter((n) => left[n] > 0);
      const name = names[Math.floor(random() * names.length)]!;
      // After so many answers: a seed means the same on a slow machine as on a quick one.
      for (let n = Math.floor(random() * MOST_ANSWERS); n > 0; n--) await attend();
      await programs[name].end("SIGKILL");
      left[name]--;
      await programs[name].start();
      if (await through()) await begin();
    }
    for (let done = await through(); !done; done = await through()) await attend();

    // What the server says, and what the machines say, is the same: each lead once, none forgotten.
    const told = await ask<Told>(machineAt);
    const good = new Map<string, number>();
    for (const job of told.jobs) {
      const { made } = await ask<{ made: { wire: string; result: string }[] }>(`${machineAt}/jobs/${job.id}`);
      expect(made).toHaveLength(job.leads);
      expect(new Set(made.map((m) => m.wire)).size).toBe(made.length);
      for (const m of made) if (m.result === "good") good.set(m.wire, (good.get(m.wire) ?? 0) + 1);
    }
    expect(new Set(told.jobs.map((j) => j.name)).size).toBe(told.jobs.length);
    let leads = 0;
    for (let n = 1; n <= batch; n++) {
      const reply = await ask<BatchReply>(`${jobs}/B${n}`);
      const states = leadStates(chainsIn(reply.batch), reply.events);
      for (const chain of reply.batch.plan.chains)
        for (const lead of chain) {
          leads++;
          expect(states.get(lead)!.made).not.toBeNull();
          // Made well once; of those that share a crimp, once more for each time another one failed.
          if (chain.length === 1) expect([lead, good.get(lead)]).toEqual([lead, 1]);
          else expect(good.get(lead)).toBeGreaterThanOrEqual(1);
        }
    }
    expect(leads).toBeGreaterThan(KILLS);
    expect([...good.keys()]).toHaveLength(leads);
    const printed = await ask<Told>(printerAt);
    expect(printed.jobs).toHaveLength(batch);
    for (const job of printed.jobs) expect([job.state, job.printed]).toEqual(["done", job.labels]);
    expect(new Set(printed.jobs.map((j) => j.name)).size).toBe(printed.jobs.length);
  } finally {
    await Promise.all(Object.values(programs).map((p) => p.end("SIGKILL").catch(() => undefined)));
    rmSync(folder, { recursive: true, force: true });
  }
});
