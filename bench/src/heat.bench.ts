import { potentialFlow, type FlowGrid } from "@gray-bench/core/heat/flow";
import { heatMap, integralOf, type Source } from "@gray-bench/core/heat/map";
import { seeded } from "@gray-bench/designs/random";
import { held, sized } from "./short";

/** Map of losses and way of the air on a plate of 2000 × 1200 mm in cells of 10 mm, against a plain Gauss-Seidel solve. */

const [W, H, CELL] = [2000, 1200, 10];
const [NX, NY] = [W / CELL, H / CELL];
const ENOUGH = sized(1e-4, 1e-2);
const LEAST_RATIO = 10;
const ROUNDS = sized(5, 1);

const random = seeded(9);
const bodies: Source[] = Array.from({ length: 60 }, () => ({
  x: random.whole(0, 180) * CELL,
  y: random.whole(0, 100) * CELL,
  w: random.whole(4, 16) * CELL,
  h: random.whole(6, 20) * CELL,
  lossW: random.whole(2, 200),
}));
const grid: FlowGrid = {
  columns: NX,
  rows: NY,
  cellMm: CELL,
  blocked: new Uint8Array(NX * NY),
  source: new Float64Array(NX * NY),
};
for (const b of bodies)
  for (let y = b.y / CELL; y < Math.min(NY, (b.y + b.h) / CELL); y++)
    for (let x = b.x / CELL; x < Math.min(NX, (b.x + b.w) / CELL); x++) grid.blocked[y * NX + x] = 1;
for (let x = 90; x < 110; x++) {
  for (const [y, flow] of [
    [100, 30],
    [20, -30],
  ] as const) {
    grid.blocked[y * NX + x] = 0;
    grid.source[y * NX + x] = flow;
  }
}

/** Sweeps until the largest imbalance of a cell is as small as ours. */
function gaussSeidel(): { sweeps: number } {
  const p = new Float64Array(NX * NY);
  const total = grid.source.reduce((sum, v) => sum + Math.max(0, v), 0);
  const free = (i: number): boolean => grid.blocked[i] === 0;
  for (let sweeps = 1; ; sweeps++) {
    for (let y = 0; y < NY; y++) {
      for (let x = 0; x < NX; x++) {
        const i = y * NX + x;
        if (!free(i)) continue;
        let [sum, n] = [grid.source[i]!, 0];
        if (x > 0 && free(i - 1)) [sum, n] = [sum + p[i - 1]!, n + 1];
        if (x + 1 < NX && free(i + 1)) [sum, n] = [sum + p[i + 1]!, n + 1];
        if (y > 0 && free(i - NX)) [sum, n] = [sum + p[i - NX]!, n + 1];
        if (y + 1 < NY && free(i + NX)) [sum, n] = [sum + p[i + NX]!, n + 1];
        if (n > 0) p[i] = sum / n;
      }
    }
    if (sweeps % 50 !== 0) continue;
    let worst = 0;
    for (let y = 0; y < NY; y++) {
      for (let x = 0; x < NX; x++) {
        const i = y * NX + x;
        if (!free(i)) continue;
        let [out, n] = [-grid.source[i]!, 0];
        for (const j of [x > 0 ? i - 1 : -1, x + 1 < NX ? i + 1 : -1, i - NX, y + 1 < NY ? i + NX : -1])
          if (j >= 0 && free(j)) [out, n] = [out + p[i]! - p[j]!, n + 1];
        if (n > 0) worst = Math.max(worst, Math.abs(out));
      }
    }
    if (worst / total <= ENOUGH || sweeps > 200_000) return { sweeps };
  }
}

const median = (values: number[]): number => [...values].sort((a, b) => a - b)[Math.floor(values.length / 2)]!;
const times: number[] = [];
let iterations = 0;
let off = 0;
for (let i = 0; i < ROUNDS; i++) {
  const start = performance.now();
  const map = heatMap(W, H, bodies, 60, CELL);
  const flow = potentialFlow(grid, 400, ENOUGH);
  times.push(performance.now() - start);
  iterations = flow.iterations;
  off = Math.abs(integralOf(map, W, H) / bodies.reduce((sum, b) => sum + b.lossW, 0) - 1);
}
const start = performance.now();
const { sweeps } = gaussSeidel();
const rival = performance.now() - start;
const ratio = rival / median(times);
console.log(
  `map and flow of ${W} × ${H} mm in cells of ${CELL} mm: ${median(times).toFixed(0)} ms (${iterations} steps); Gauss-Seidel, the flow alone to the same residual: ${rival.toFixed(0)} ms (${sweeps} sweeps); ratio ${ratio.toFixed(1)}   bound: ${LEAST_RATIO}`,
);
console.log(`  the map's integral is off the loss by ${(100 * off).toExponential(1)} %   bound: 0.1 %`);
held(ratio >= LEAST_RATIO && off < 1e-3);
