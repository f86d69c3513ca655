import { byFirstFit, cutList, type Saw } from "@gray-bench/core/solve/cuts";
import { readDesign } from "@gray-bench/core/design/read";
import { DEFAULT_SHOP } from "@gray-bench/core/shop/shop";
import { compute } from "@gray-bench/core/metalwork/compute";
import type { Hole } from "@gray-bench/core/design/model";
import { compute as computePanel } from "@gray-bench/core/panel/compute";
import { large, LARGE } from "@gray-bench/designs/large";
import { lengthOf, nearestNeighbours, straight, tourOf } from "@gray-bench/core/solve/tour";
import { seeded } from "@gray-bench/designs/random";
import { held, sized } from "./short";

/** Order of 1,000 holes against nearest neighbours and the bound; cut lists of 200 pieces against first fit and the bound. */

const HOLES = sized(1000, 60);
const MOST_GAP = 4;
const LISTS = sized(100, 2);
/** Of the time that the nearest neighbours of as many holes take, face by face. */
const MOST_TIMES = 150;
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

// The synthetic panel without its rails: every device is screwed on, where it stands, with four screws.
const synthetic = large(1, sized(LARGE, { ...LARGE, enclosures: 1, wires: 50 }));
const corners = (w: number, h: number): Hole[] =>
  [
    [4, 4],
    [w - 4, 4],
    [4, h - 4],
    [w - 4, h - 4],
  ].map(([x, y]) => ({ kind: "thread", x: x!, y: y!, thread: "M4" }));
const onRails = new Map(computePanel(synthetic).devices.map((d) => [d.tag, d]));
const devices = synthetic.devices.map((d) => {
  const placed = onRails.get(d.tag);
  return placed ? { ...d, on: { face: placed.face, x: placed.outline.x, y: placed.outline.y } } : d;
});
const text = JSON.stringify({
  ...synthetic,
  devices,
  rails: [],
  parts: synthetic.parts.map((p) => ({ ...p, holes: corners(p.w, p.h) })),
});
const read = readDesign(text);
if (!read.ok) throw new Error(read.faults[0]!.path);
const panel = computePanel(read.design);
start = performance.now();
const { faces } = compute(read.design, DEFAULT_SHOP.rules.metalwork, panel);
const worked = performance.now() - start;
// Beside it, work of the same kind: the nearest neighbour of each hole of each face.
start = performance.now();
for (const { holes: drilled } of faces) {
  const points = drilled.map(({ cut }) => ("x" in cut ? { x: cut.x, y: cut.y } : cut.points[0]!));
  lengthOf(nearestNeighbours(points), points, straight);
}
const besideTook = performance.now() - start;
const count = faces.reduce((sum, f) => sum + f.holes.length, 0);
const [minutes, least] = faces
  .flatMap((f) => f.setUps)
  .reduce(([m, b], s) => [m + s.minutes, b + s.boundMinutes], [0, 0]);
console.log(
  `metalwork of ${read.design.devices.length} devices: ${count} holes on ${faces.length} faces in ${worked.toFixed(0)} ms, ${(worked / besideTook).toFixed(0)} times the nearest neighbours of the same (${besideTook.toFixed(1)} ms; bound: ${MOST_TIMES}); ${minutes!.toFixed(0)} min on the machine, ${(100 * (minutes! / least! - 1)).toFixed(2)} % above the bound`,
);
held(worked / besideTook <= MOST_TIMES && gap <= MOST_GAP && proved >= LEAST_PROVED);
