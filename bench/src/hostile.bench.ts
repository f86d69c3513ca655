import { contentHash } from "@gray-bench/core/design/hash";
import { readDesign } from "@gray-bench/core/design/read";
import { runStages } from "@gray-bench/core/run";
import { HOSTILE, type Hostile } from "@gray-bench/designs/hostile";

/** Computes one hostile design in a process of its own, and says what it took: `NAME [N]`; `--names` lists them. */
const [name, size] = process.argv.slice(2);
if (name === "--names") console.log(JSON.stringify(HOSTILE.map((h) => h.name)));
else
  measure(
    HOSTILE.find((h) => h.name === name)!,
    size,
  );

function measure({ name: called, full, make }: Hostile, given: string | undefined): void {
  const n = given === undefined ? full : Number(given);
  const text = JSON.stringify(make(n));
  const ms: Record<string, number> = {};
  let last = performance.now();
  const lap = (what: string): void => {
    const now = performance.now();
    ms[what] = Math.round(now - last);
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
  const open = results.open.length;
  const bytes = JSON.stringify(results.open).length + sizeOf(results.stages);
  lap("written");
  console.log(
    JSON.stringify({
      name: called,
      n,
      inMB: +(text.length / 1e6).toFixed(1),
      ms,
      open,
      outMB: +(bytes / 1e6).toFixed(1),
      peakMB: Math.round(process.resourceUsage().maxRSS / 1024),
    }),
  );
}

/** Stage by stage, as they are kept. */
function sizeOf(stages: object): number {
  return Object.values(stages).reduce<number>((sum, result) => sum + JSON.stringify(result).length, 0);
}
