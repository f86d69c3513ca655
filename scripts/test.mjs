import { existsSync, readFileSync, rmSync } from "node:fs";
import { at, BENCHES, buildApp, buildBenches, buildServer, ensureBrowser, ensureInstalled, run, step } from "./lib.mjs";

// npm test: everything, on a fresh clone too. Ends with one line: N passed, N failed.
let passed = 0;
let failed = 0;

async function check(text, work) {
  try {
    await step(text, work);
    passed++;
  } catch (error) {
    failed++;
    console.log(error.message);
  }
}

await ensureInstalled();
await ensureBrowser();
await step("building the server", buildServer);
await buildApp();
const checks = [
  ["lint", () => run("npx", ["eslint", "."])],
  ...Object.entries({
    "the app": "app",
    "what runs on Node": "tsconfig.node.json",
    "what runs anywhere": "tsconfig.plain.json",
  }).map(([what, project]) => [`types of ${what}`, () => run("npx", ["tsc", "-p", project, "--noEmit"])]),
  ["format", () => run("npx", ["prettier", "--check", "."])],
  [
    "imports go down only",
    () =>
      run("npx", [
        "depcruise",
        "--config",
        ".dependency-cruiser.cjs",
        "core",
        "contract",
        "server",
        "app/src",
        "designs",
        "standins",
        "e2e",
        "bench",
      ]),
  ],
  ["nothing unused, nothing unlisted", () => run("npx", ["knip", "--no-progress"])],
];
// Two at a time, the longest first.
await Promise.all(
  [0, 1].map(async () => {
    for (let next = checks.shift(); next; next = checks.shift()) await check(...next);
  }),
);
const report = at("dist/jest.json");
rmSync(report, { force: true });
// One after the other: what is computed beside them makes browsers late.
for (const projects of [["core", "designs", "standins", "server", "app"], ["e2e"]]) {
  await step(`tests of ${projects.join(", ")}`, async () => {
    let output = "";
    try {
      output = await run("npx", [
        "jest",
        "--selectProjects",
        ...projects,
        // Jest leaves one core free, which of two is half.
        "--maxWorkers=2",
        "--json",
        `--outputFile=${report}`,
        "--silent=false",
      ]);
    } catch (error) {
      output = error.message;
    }
    if (!existsSync(report)) {
      failed++;
      console.log(output);
      return;
    }
    const { numPassedTests, numFailedTests, numRuntimeErrorTestSuites } = JSON.parse(readFileSync(report, "utf8"));
    rmSync(report);
    passed += numPassedTests;
    failed += numFailedTests + numRuntimeErrorTestSuites;
    if (numFailedTests + numRuntimeErrorTestSuites > 0) console.log(output);
  });
}
// Benches in their short form: that each ends, and says its figures. What they come to is not judged here.
await buildBenches();
for (const [file, ...args] of [...BENCHES, ["attacks.bench.mjs"]])
  await check(`bench ${[file.replace(".bench.mjs", ""), ...args].join(" ")} in short`, async () => {
    const said = await run(process.execPath, [at("dist/bench", file), ...args], {
      env: { ...process.env, GRAY_BENCH_SHORT: "1" },
      // That it ends at all; a machine that others use takes three times as long.
      timeout: 300_000,
    });
    if (!/\d+(\.\d+)? (ms|MB|m|min|%)[^]*bound/.test(said) || /NaN|undefined/.test(said))
      throw new Error(`it does not say its figures:\n${said}`);
  });
console.log(`${passed} passed, ${failed} failed`);
process.exit(failed === 0 ? 0 : 1);
