import { spawnSync } from "node:child_process";
import { cpus } from "node:os";
import { at, buildApp, buildServer, ensureBrowser, ensureInstalled, step } from "./lib.mjs";

// npm run bench: each benchmark prints ours, the rival, the bound and the ratio.
await ensureInstalled();
await ensureBrowser();
await step("building", buildServer);
await buildApp();
const { build } = await import("esbuild");
await build({
  entryPoints: [at("bench/src/routes.bench.ts"), at("bench/src/browser.bench.ts"), at("bench/src/edits.bench.ts")],
  outdir: at("dist/bench"),
  outExtension: { ".js": ".mjs" },
  bundle: true,
  platform: "node",
  format: "esm",
  external: ["selenium-webdriver"],
  // Its main file loads its parts in a way that cannot be bundled.
  alias: { "jsonc-parser": "jsonc-parser/lib/esm/main.js" },
  banner: {
    js: 'import { createRequire as benchRequire } from "node:module"; const require = benchRequire(import.meta.url);',
  },
  logLevel: "warning",
});
const commit = spawnSync("git", ["rev-parse", "--short", "HEAD"], { cwd: at(".") })
  .stdout.toString()
  .trim();
console.log(
  `\n${new Date().toISOString().slice(0, 10)}, commit ${commit}, Node ${process.version}, ${cpus().length} × ${cpus()[0].model}\n`,
);
let missed = 0;
for (const [file, ...args] of [
  ["routes.bench.mjs", "time"],
  ["routes.bench.mjs", "memory"],
  ["browser.bench.mjs"],
  ["edits.bench.mjs"],
]) {
  const { status } = spawnSync(process.execPath, [at("dist/bench", file), ...args], {
    stdio: "inherit",
    cwd: at("."),
  });
  if (status !== 0) missed++;
}
console.log(missed === 0 ? "\nevery bound held" : `\n${missed} of 4 missed a bound`);
process.exit(missed === 0 ? 0 : 1);
