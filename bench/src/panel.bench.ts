import { facesOf, type Face } from "@gray-bench/core/design/geometry";
import { lookUp } from "@gray-bench/core/design/lookup";
import type { Design } from "@gray-bench/core/design/model";
import { findClashes } from "@gray-bench/core/panel/clashes";
import { boxOf, sharedBy, type Solid } from "@gray-bench/core/panel/solids";
import { seeded } from "@gray-bench/designs/random";
import { held, sized } from "./short";

/** Clashes of 5,000 bodies on plates and doors against looking at all pairs: same answer. */

const BODIES = sized(5000, 300);
const ROUNDS = sized(5, 1);
const LEAST_RATIO = 20;
const TOUCHING_MM = 0.2;

const random = seeded(28);
const enclosures = Array.from({ length: 5 }, (_, i) => ({
  tag: `+A${i + 1}`,
  w: 1200,
  h: 2000,
  d: 500,
  plate: { w: 1100, h: 1900, setback: 420, thickness: 3, material: "aluminium" as const },
  ...(i < 4 ? { neighbourRight: `+A${i + 2}` } : {}),
}));
const look = lookUp({
  enclosures,
  faces: [],
  rails: [],
  ducts: [],
  parts: [],
  devices: [],
  options: [],
  wires: [],
  cables: [],
} as unknown as Design);
const faces = [...facesOf({ enclosures, faces: [] }).values()].filter((f) => f.kind === "plate" || f.kind === "door");

const solids: Solid[] = Array.from({ length: BODIES }, (_, i) => {
  const face: Face = faces[random.whole(0, faces.length - 1)]!;
  const outline = {
    x: random.whole(0, face.w - 60),
    y: random.whole(0, face.h - 100),
    w: random.whole(6, 24),
    h: random.whole(20, 70),
  };
  const top = random.whole(30, 140);
  return {
    thing: "device",
    of: `-K${i}`,
    face,
    outline,
    z: 0,
    top,
    box: boxOf(face, outline, 0, top),
    carrier: null,
    rail: null,
    turn: 0,
  };
});

function allPairs(): Set<string> {
  const found = new Set<string>();
  for (let i = 0; i < solids.length; i++)
    for (let j = i + 1; j < solids.length; j++)
      if (sharedBy(solids[i]!.box, solids[j]!.box, TOUCHING_MM))
        found.add([solids[i]!.of, solids[j]!.of].sort().join(" "));
  return found;
}

const median = (values: number[]): number => [...values].sort((a, b) => a - b)[Math.floor(values.length / 2)]!;
const times: number[] = [];
let ours = new Set<string>();
for (let i = 0; i < ROUNDS; i++) {
  const start = performance.now();
  const { clashes } = findClashes(solids, look, { doorOpenDeg: 120, frameMm: 25 });
  times.push(performance.now() - start);
  ours = new Set(clashes.filter((c) => c.kind === "bodies overlap").map((c) => [c.a.of, c.b.of].sort().join(" ")));
}
const start = performance.now();
const theirs = allPairs();
const rival = performance.now() - start;
const same = ours.size === theirs.size && [...ours].every((pair) => theirs.has(pair));
const ratio = rival / median(times);
console.log(
  `clashes of ${BODIES} bodies: ${median(times).toFixed(1)} ms, ${ours.size} found; all pairs: ${rival.toFixed(0)} ms, ${same ? "the same" : "OTHERS"}; ratio ${ratio.toFixed(1)}   bound: ${LEAST_RATIO}`,
);
held(same && ratio >= LEAST_RATIO);
