import { contentHash } from "@gray-bench/core/design/hash";
import { readDesign } from "@gray-bench/core/design/read";
import { allFiles, runStages } from "@gray-bench/core/run";
import { HOSTILE } from "@gray-bench/designs/hostile";

/** Computes one hostile design in a process of its own, and says what it took. `node hostile.bench.mjs NAME [N]` */
const [name, size] = process.argv.slice(2);
const found = HOSTILE.find((h) => h.name === name)!;
const text = JSON.stringify(found.make(size ? Number(size) : found.full));
const times: Record<string, number> = {};
let last = performance.now();
const lap = (what: string): void => {
  const now = performance.now();
  times[what] = Math.round(now - last);
  last = now;
};
const read = readDesign(text);
if (!read.ok) throw new Error(JSON.stringify(read.faults.slice(0, 3)));
lap("read");
contentHash(read.design);
lap("hash");
const results = runStages(read.design, undefined, (stage, share) => {
  if (share === 1) lap(stage);
});
lap("rest");
const bytes = JSON.stringify([results.stages, results.open]).length;
lap("json");
if (process.argv.includes("--files")) {
  await allFiles(results);
  lap("files");
}
console.log(
  JSON.stringify({
    name,
    inMB: +(text.length / 1e6).toFixed(1),
    ms: times,
    open: results.open.length,
    outMB: +(bytes / 1e6).toFixed(1),
    peakMB: Math.round(process.resourceUsage().maxRSS / 1024),
  }),
);
