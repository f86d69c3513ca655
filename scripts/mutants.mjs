import { createHash } from "node:crypto";
import { mkdirSync, readdirSync, readFileSync, writeFileSync } from "node:fs";
import { cpus } from "node:os";
import { relative } from "node:path";
import { at, ensureInstalled, root } from "./lib.mjs";

// npm run mutants: plants faults in core one at a time and counts those that a test notices.
//   npm run mutants                       a seeded sample of 300 from all of core
//   npm run mutants -- 100 --seed 7       another number, another sample
//   npm run mutants -- core/src/design/hash.ts …    all faults of the files named
//   npm run mutants -- slips [stage …] ["words" …] [--each]     the list of faults of meaning; each with the test that noticed it
const args = process.argv.slice(2);
if (args[0] === "slips") {
  await ensureInstalled();
  const { trySlips } = await import("./slips.mjs");
  await trySlips(
    args.slice(1).filter((a) => !a.startsWith("--")),
    args.includes("--each"),
  );
  process.exit(0);
}
const seedAt = args.indexOf("--seed");
const seed = seedAt < 0 ? "1" : args.splice(seedAt, 2)[1];
const size = args[0] && /^\d+$/.test(args[0]) ? Number(args.shift()) : args.length > 0 ? Infinity : 300;

await ensureInstalled();
const { Stryker } = await import("@stryker-mutator/core");
const { createInstrumenter } = await import("@stryker-mutator/instrumenter");
const { createInjector } = await import("typed-inject");
const { keyOf } = await import("./mutants/sample.mjs");

const sources = (folder) =>
  readdirSync(at(folder), { withFileTypes: true }).flatMap((e) => {
    const path = `${folder}/${e.name}`;
    if (e.isDirectory()) return e.name === "test" ? [] : sources(path);
    return /\.ts$/.test(path) && !path.endsWith(".test.ts") ? [path] : [];
  });
const files = args.length > 0 ? args.map((f) => relative(root, at(f))) : sources("core/src");

const quiet = new Proxy({}, { get: (_, name) => (name.startsWith("is") ? () => false : () => {}) });
const instrumenter = createInjector()
  .provideValue("logger", quiet)
  .provideValue("options", {})
  .injectFunction(createInstrumenter);
const { mutants } = await instrumenter.instrument(
  files.map((f) => ({ name: at(f), mutate: true, content: readFileSync(at(f), "utf8") })),
  { plugins: null, excludedMutations: [], ignorers: [] },
);

const rank = (key) => createHash("sha256").update(`${seed} ${key}`).digest("hex");
const known = mutants.map((m) => ({ m, key: keyOf(m, root) })).filter(({ m }) => m.status !== "Ignored");
const chosen = known
  .map((k) => ({ ...k, rank: rank(k.key) }))
  .sort((a, b) => (a.rank < b.rank ? -1 : 1))
  .slice(0, size);
mkdirSync(at("dist/mutants"), { recursive: true });
process.env.GRAY_BENCH_SAMPLE = at("dist/mutants/sample.json");
writeFileSync(process.env.GRAY_BENCH_SAMPLE, JSON.stringify(chosen.map((c) => c.key)));
// Random designs are drawn a thirtieth as often: a fault that only one in ten thousand shows is not looked for.
process.env.GRAY_BENCH_RUNS = "0.03";
console.log(`${chosen.length} of ${known.length} possible faults in ${files.length} files (seed ${seed})`);
console.log("Noticed by no test, or only because the computation did not end:");

const start = Date.now();
const results = await new Stryker({
  // Lines are counted from nought where faults are found and from one where they are asked for.
  mutate: chosen.map(({ m }) => {
    const { start: s, end: e } = m.location;
    return `${relative(root, m.fileName)}:${s.line + 1}:${s.column}-${e.line + 1}:${e.column}`;
  }),
  ignorePatterns: ["app", "server", "contract", "e2e", "bench", "dist", "data", "out", ".git"],
  tempDirName: "dist/mutants/work",
  cleanTempDir: "always",
  testRunner: "jest",
  jest: { projectType: "custom", configFile: "scripts/mutants/jest.config.cjs", enableFindRelatedTests: true },
  coverageAnalysis: "perTest",
  checkers: ["sample"],
  plugins: ["@stryker-mutator/jest-runner", at("scripts/mutants/sample.mjs")],
  reporters: ["unnoticed"],
  logLevel: "error",
  concurrency: cpus().length,
  dryRunTimeoutMinutes: 15,
  timeoutMS: 40_000,
  allowConsoleColors: false,
}).runMutationTest();

const tried = results.filter((r) => r.status !== "CompileError" && r.status !== "Ignored");
const noticed = tried.filter((r) => r.status === "Killed" || r.status === "Timeout" || r.status === "RuntimeError");
const share = ((100 * noticed.length) / tried.length).toFixed(1);
const minutes = ((Date.now() - start) / 60_000).toFixed(1);
console.log(`\n${noticed.length} of ${tried.length} faults noticed, ${share} % (seed ${seed}, ${minutes} min)`);
