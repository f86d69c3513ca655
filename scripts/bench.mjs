import { spawnSync } from "node:child_process";
import { cpus } from "node:os";
import { at, BENCHES, buildApp, buildBenches, buildServer, ensureBrowser, ensureInstalled, step } from "./lib.mjs";

// npm run bench: each benchmark prints ours, the rival, the bound and the ratio.
await ensureInstalled();
await ensureBrowser();
await step("building", buildServer);
await buildApp();
await buildBenches();
const commit = spawnSync("git", ["rev-parse", "--short", "HEAD"], { cwd: at(".") })
  .stdout.toString()
  .trim();
console.log(
  `\n${new Date().toISOString().slice(0, 10)}, commit ${commit}, Node ${process.version}, ${cpus().length} × ${cpus()[0].model}\n`,
);
let missed = 0;
for (const [file, ...args] of BENCHES) {
  const { status } = spawnSync(process.execPath, [at("dist/bench", file), ...args], {
    stdio: "inherit",
    cwd: at("."),
  });
  if (status !== 0) missed++;
}
console.log(missed === 0 ? "\nevery bound held" : `\n${missed} of ${BENCHES.length} missed a bound`);
process.exit(missed === 0 ? 0 : 1);
