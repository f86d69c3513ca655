import { readFileSync } from "node:fs";
import { HOSTILE } from "@gray-bench/designs/hostile";
import { importDesign, startBench } from "../../e2e/src/bench-server";

/**
 * The whole server under load: how many small designs it takes in a second, and how long others wait for what they
 * read while two long computations run. Ends with 1 when a bound was missed.
 */

const HILL = JSON.parse(readFileSync("designs/whole/hillfold.bench.json", "utf8")) as { job: Record<string, string> };
const JOBS = 2000;
const AT_ONCE = 4;
const READS = 1500;
const MOST_MS = 100;

const bench = await startBench();
const url = (path: string): string => `${bench.address}/api${path}`;
const send = (body: string): Promise<Response> =>
  fetch(url("/jobs"), { method: "POST", headers: { "content-type": "application/json" }, body });

/** Milliseconds of one read, its body included. */
async function timed(path: string): Promise<number> {
  const begun = performance.now();
  const reply = await fetch(url(path));
  await reply.arrayBuffer();
  if (reply.status !== 200) throw new Error(`${path}: ${reply.status}`);
  return performance.now() - begun;
}

function report(what: string, times: number[], bound: number): boolean {
  const sorted = [...times].sort((a, b) => a - b);
  const at = (q: number): number => sorted[Math.min(sorted.length - 1, Math.floor(sorted.length * q))]!;
  console.log(
    `${what}: ${times.length} times, median ${at(0.5).toFixed(1)} ms, 99th percentile ${at(0.99).toFixed(1)} ms, longest ${at(1).toFixed(0)} ms   bound: ${bound} ms`,
  );
  return at(0.99) < bound;
}

try {
  const begun = performance.now();
  let next = 0;
  await Promise.all(
    Array.from({ length: AT_ONCE }, async () => {
      for (let i = next++; i < JOBS; i = next++) {
        const reply = await send(JSON.stringify({ ...HILL, job: { ...HILL.job, code: `HILL-${i}` } }));
        if (reply.status !== 201) throw new Error(`import ${i}: ${reply.status} ${await reply.text()}`);
      }
    }),
  );
  const seconds = (performance.now() - begun) / 1000;
  console.log(
    `imports of a small design, ${AT_ONCE} at once, each acknowledged when on disk: ${(JOBS / seconds).toFixed(0)} a second`,
  );
  // What was put off while so many came in at once is computed when it is asked for; the list is timed after that.
  for (let i = 0; i < JOBS; i++) await timed(`/jobs/HILL-${i}/open-points`);
  const lists: number[] = [];
  for (let i = 0; i < 400; i++) lists.push(await timed(`/jobs?from=${5 * i}`));
  const listed = report(`a page of the list of ${JOBS.toLocaleString("en-GB")} jobs`, lists, MOST_MS);

  await importDesign(bench, JSON.stringify(HILL));
  const job = HILL.job.code;
  const reads = [
    "/jobs",
    `/jobs/${job}`,
    `/jobs/${job}/stages/routes`,
    `/jobs/${job}/open-points`,
    `/jobs/${job}/design`,
    `/search?q=-K1&job=${job}`,
    "/shop",
  ];
  for (const path of reads) await timed(path);
  const long = HOSTILE.find((h) => h.name.startsWith("ducts that lie on each other"))!;
  for (const code of ["LONG-1", "LONG-2"]) {
    const made = long.make(long.full);
    const reply = await send(JSON.stringify({ ...made, job: { ...made.job, code } }));
    if (reply.status !== 201) throw new Error(`import of ${code}: ${reply.status}`);
  }
  const running = async (): Promise<boolean> => {
    for (const code of ["LONG-1", "LONG-2"]) {
      const { run } = (await (await fetch(url(`/jobs/${code}`))).json()) as { run: string };
      if (run !== "running") return false;
    }
    return true;
  };
  const times: number[] = [];
  let during = true;
  while (during && times.length < READS) {
    for (const path of reads) times.push(await timed(path));
    during = await running();
  }
  if (times.length < 200) throw new Error(`the long computations ended after ${times.length} reads`);
  const waited = report("reads while two long computations run", times, MOST_MS);
  for (const code of ["LONG-1", "LONG-2"]) await fetch(url(`/jobs/${code}`), { method: "DELETE" });
  process.exitCode = listed && waited ? 0 : 1;
} finally {
  await bench.stop();
}
