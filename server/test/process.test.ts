import { spawn, spawnSync, type ChildProcess } from "node:child_process";
import { existsSync, mkdtempSync, readFileSync, rmSync, writeFileSync } from "node:fs";
import { tmpdir } from "node:os";
import { join } from "node:path";
import type { JobSummary } from "@gray-bench/contract/api";
import type { RoutesResult } from "@gray-bench/core/routes/result";
import { DESIGNS, MAIN } from "./helper";

const CLI = join(MAIN, "../cli.mjs");
const HILL = JSON.parse(readFileSync(join(DESIGNS, "hillfold.bench.json"), "utf8")) as {
  job: Record<string, string>;
};

let folder: string;
beforeEach(() => {
  folder = mkdtempSync(join(tmpdir(), "gray-bench-"));
});
afterEach(() => rmSync(folder, { recursive: true }));

/** Starts a server on a free port; rejects with what it said when it ends instead. */
function serve(data: string): Promise<{ child: ChildProcess; address: string }> {
  return new Promise((resolve, reject) => {
    const child = spawn(process.execPath, [MAIN, "--data", data, "--port", "0"]);
    let said = "";
    child.stderr.on("data", (d) => (said += d));
    child.stdout.on("data", (d) => {
      said += d;
      const address = /listens on (\S+)/.exec(said)?.[1];
      if (address) resolve({ child, address });
    });
    child.on("close", (code) => reject(new Error(`${code} ${said}`)));
  });
}

const ended = (child: ChildProcess) => new Promise((resolve) => child.on("close", resolve));

describe("the data file", () => {
  test("acknowledged imports survive a killed server, whole; others leave nothing", async () => {
    const acknowledged: string[] = [];
    for (let round = 0; round < 3; round++) {
      const { child, address } = await serve(folder);
      const killed = ended(child);
      const next = async (i: number): Promise<void> => {
        const code = `JOB-${round}-${i}`;
        const body = JSON.stringify({ ...HILL, job: { ...HILL.job, code } });
        const reply = await fetch(`${address}/api/jobs`, {
          method: "POST",
          headers: { "content-type": "application/json" },
          body,
        });
        if (reply.status === 201) acknowledged.push(code);
      };
      // Several imports are under way at the moment of the kill.
      const under = Array.from({ length: 12 }, (_, i) => next(i).catch(() => undefined));
      await Promise.race(under);
      child.kill("SIGKILL");
      await killed;
      await Promise.all(under);
    }
    expect(acknowledged.length).toBeGreaterThanOrEqual(3);
    const { child, address } = await serve(folder);
    const { jobs } = (await (await fetch(`${address}/api/jobs`)).json()) as { jobs: JobSummary[] };
    const codes = jobs.map((j) => j.code);
    for (const code of acknowledged) expect(codes).toContain(code);
    // Every job that is listed is whole: it can be read and computed.
    for (const code of codes) {
      const routes = (await (await fetch(`${address}/api/jobs/${code}/stages/routes`)).json()) as RoutesResult;
      expect(routes.wires).toHaveLength(35);
    }
    const done = ended(child);
    child.kill("SIGTERM");
    await done;
  }, 60_000);

  test("a second server on the same data is refused and says what to do", async () => {
    const { child } = await serve(folder);
    await expect(serve(folder)).rejects.toThrow(/^3 The data file .* is in use by another Gray Bench\. Stop that one/);
    const done = ended(child);
    child.kill("SIGTERM");
    await done;
  }, 30_000);
});

describe("make", () => {
  const make = (...args: string[]) => spawnSync(process.execPath, [CLI, ...args], { encoding: "utf8" });

  test("writes every file and ends with 0", () => {
    const run = make(join(DESIGNS, "hillfold.bench.json"), join(folder, "out"));
    expect([run.status, run.stderr]).toEqual([0, ""]);
    for (const name of ["wires.csv", "wires.xlsx", "ducts.csv", "open-points.csv"])
      expect(existsSync(join(folder, "out", name))).toBe(true);
    expect(readFileSync(join(folder, "out/wires.csv"), "utf8")).toBe(
      readFileSync(join(DESIGNS, "golden/hillfold-wires.csv"), "utf8"),
    );
  });

  test("a refused design: reasons as JSON lines, nothing written, 1", () => {
    const file = join(folder, "bad.bench.json");
    writeFileSync(file, JSON.stringify({ ...HILL, wires: [{ number: 1 }], ducts: "none" }));
    const run = make(file, join(folder, "out"));
    expect(run.status).toBe(1);
    const reasons = run.stderr
      .trim()
      .split("\n")
      .map((l) => JSON.parse(l) as { path: string });
    expect(reasons.map((r) => r.path)).toEqual(["ducts", "wires[0].number"]);
    expect(existsSync(join(folder, "out/wires.csv"))).toBe(false);
  });

  test.each([[[]], [["one"]], [["nix.json", "out"]], [["a", "b", "c"]]])(
    "a wrong call %j ends with 2 and says how",
    (args) => {
      const run = spawnSync(process.execPath, [CLI, ...args], { encoding: "utf8", cwd: folder });
      expect([run.status, run.stderr.includes("usage: npm run make")]).toEqual([2, true]);
    },
  );
});
