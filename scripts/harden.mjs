import { spawnSync } from "node:child_process";
import { cpus } from "node:os";
import { at, buildApp, buildBenches, buildServer, ensureInstalled, run, step } from "./lib.mjs";

// npm run harden: the long form of what npm test does in short. Designs that nobody draws are computed one by one in a
// process of their own; mutated and garbled files are read; servers are killed; reads are timed under load.
const KILLS = 200;
/** Times more mutated files than in npm test. */
const FILES = 2;
/** Times more mutated tables. */
const TABLES = 17;
const MOST_SECONDS = 120;
const MOST_MB = 2500;

await ensureInstalled();
await step("building", buildServer);
await buildApp();
await buildBenches();
const bench = (file) => at("dist/bench", `${file}.bench.mjs`);
console.log(
  `\n${new Date().toISOString().slice(0, 10)}, Node ${process.version}, ${cpus().length} × ${cpus()[0].model}\n`,
);
const missed = [];

const names = JSON.parse(spawnSync(process.execPath, [bench("hostile"), "--names"], { encoding: "utf8" }).stdout);
console.log(`designs that nobody draws, each in at most ${MOST_SECONDS} s and ${MOST_MB} MB:\n`);
console.log("| design | n | file | computed in | peak memory | open points | results |");
console.log("| --- | --- | --- | --- | --- | --- | --- |");
for (const name of names) {
  const { status, stdout, stderr } = spawnSync(
    process.execPath,
    // The room that a thread of the server and `npm run make` have.
    ["--max-old-space-size=3000", "--max-semi-space-size=64", "--initial-heap-size=1024", bench("hostile"), name],
    {
      encoding: "utf8",
      timeout: 2 * MOST_SECONDS * 1000,
    },
  );
  if (status !== 0) {
    missed.push(name);
    console.log(
      `| ${name} | | | ended with ${status}: ${stderr.split("\n").find((l) => /error/i.test(l)) ?? ""} | | | |`,
    );
    continue;
  }
  const { n, inMB, ms, open, outMB, peakMB } = JSON.parse(stdout);
  const seconds = Object.values(ms).reduce((sum, v) => sum + v, 0) / 1000;
  console.log(
    `| ${name} | ${n.toLocaleString("en-GB")} | ${inMB} MB | ${seconds.toFixed(1)} s | ${peakMB.toLocaleString("en-GB")} MB | ${open.toLocaleString("en-GB")} | ${outMB} MB |`,
  );
  if (seconds > MOST_SECONDS || peakMB > MOST_MB) missed.push(name);
}
console.log("");

for (const [text, files, more] of [
  [
    "mutated, garbled and hostile files",
    ["core/src/design/broken.test.ts", "core/src/design/bounded.test.ts"],
    { GRAY_BENCH_RUNS: FILES },
  ],
  [
    `${TABLES * 300} mutated tables, as CSV and as XLSX`,
    ["designs/src/tables-broken.test.ts"],
    { GRAY_BENCH_RUNS: TABLES },
  ],
  [`${TABLES * 60} mutated documents`, ["server/test/attachments.test.ts"], { GRAY_BENCH_RUNS: TABLES }],
  [`${KILLS} kills`, ["server/test/process.test.ts", "server/test/kills.test.ts"], { GRAY_BENCH_KILLS: KILLS }],
  [
    "clients that come and go at random",
    ["server/test/clients.test.ts", "server/test/door.test.ts", "server/test/bounds.test.ts"],
    {},
  ],
  [
    "machines and services that drip, lie or never end",
    ["server/test/hostile.test.ts", "standins/test/hostile.test.ts"],
    {},
  ],
  ["a full disk", ["server/test/full.test.ts"], {}],
]) {
  try {
    await step(text, () =>
      run("npx", ["jest", "--runInBand", ...files], { env: { ...process.env, CI: "1", ...more } }),
    );
  } catch (error) {
    missed.push(text);
    console.log(error.message);
  }
}
console.log("");
if (spawnSync(process.execPath, [bench("attacks")], { stdio: "inherit", cwd: at(".") }).status !== 0)
  missed.push("attacks");
console.log("");
if (spawnSync(process.execPath, [bench("load")], { stdio: "inherit", cwd: at(".") }).status !== 0) missed.push("load");
console.log(missed.length === 0 ? "\neverything held" : `\ndid not hold: ${missed.join(", ")}`);
process.exit(missed.length === 0 ? 0 : 1);
