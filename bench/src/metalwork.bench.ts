import { byFirstFit, cutList, type Saw } from "@gray-bench/core/metalwork/cuts";
import { lengthOf, nearestNeighbours, straight, tourOf } from "@gray-bench/core/metalwork/tour";
import { seeded } from "@gray-bench/designs/random";

/** Order of 1,000 holes against nearest neighbours and the bound; cut lists of 200 pieces against first fit and the bound. */

const HOLES = 1000;
const MOST_GAP = 4;
const LISTS = 100;
const PIECES = 200;
const LEAST_PROVED = 95;
const SAW: Saw = { stockMm: 2000, kerfMm: 3, trimMm: 5, keepMm: 200 };

const random = seeded(10);
const holes = Array.from({ length: HOLES }, () => ({ x: random.whole(0, 2000), y: random.whole(0, 1200) }));
let start = performance.now();
const tour = tourOf(holes);
const took = performance.now() - start;
start = performance.now();
const near = lengthOf(nearestNeighbours(holes), holes, straight);
const nearTook = performance.now() - start;
const gap = 100 * (tour.length / tour.bound - 1);
console.log(
  `order of ${HOLES} holes: ${(tour.length / 1000).toFixed(2)} m, ${took.toFixed(0)} ms with its bound of ${(tour.bound / 1000).toFixed(2)} m, gap ${gap.toFixed(2)} %   bound: ${MOST_GAP} %`,
);
console.log(
  `  nearest neighbours: ${(near / 1000).toFixed(2)} m (${(near / tour.length).toFixed(2)} times as long), ${nearTook.toFixed(0)} ms`,
);

let proved = 0;
let ours = 0;
let plain = 0;
let [oursTook, plainTook, longest] = [0, 0, 0];
for (let i = 0; i < LISTS; i++) {
  const pieces = Array.from({ length: PIECES }, (_, n) => ({ of: `p${n}`, lengthMm: random.whole(60, 1160) }));
  start = performance.now();
  const { fresh, bound } = cutList(pieces, SAW);
  const ms = performance.now() - start;
  oursTook += ms;
  longest = Math.max(longest, ms);
  if (fresh === bound) proved++;
  ours += fresh;
  start = performance.now();
  plain += byFirstFit(
    pieces.map((p) => p.lengthMm + SAW.kerfMm).sort((a, b) => b - a),
    SAW.stockMm - 2 * SAW.trimMm + SAW.kerfMm,
  ).length;
  plainTook += performance.now() - start;
}
console.log(
  `cut lists of ${PIECES} pieces: ${proved} of ${LISTS} proved best, ${ours} bars, ${(oursTook / LISTS).toFixed(0)} ms each, the longest ${longest.toFixed(0)} ms   bound: ${LEAST_PROVED}`,
);
console.log(`  first fit, the longest first: ${plain} bars, ${(plainTook / LISTS).toFixed(1)} ms each`);
process.exitCode = gap <= MOST_GAP && proved >= LEAST_PROVED ? 0 : 1;
