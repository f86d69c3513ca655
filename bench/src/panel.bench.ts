import { readFileSync } from "node:fs";
import { facesOf, type Face } from "@gray-bench/core/design/geometry";
import { lookUp } from "@gray-bench/core/design/lookup";
import type { Design } from "@gray-bench/core/design/model";
import { findClashes } from "@gray-bench/core/panel/clashes";
import { boxOf, sharedBy, type Solid } from "@gray-bench/core/panel/solids";
import { holdDevice } from "@gray-bench/core/panel/catching";
import { compute as panelOf } from "@gray-bench/core/panel/compute";
import { Placings } from "@gray-bench/core/placing";
import { SHOP_RULES } from "@gray-bench/core/shop/rules";
import { LARGE, large } from "@gray-bench/designs/large";
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

// A device is dragged on a panel of 1,000: where it takes hold, for each frame, and what becomes of it, beside the page.
const MOST_BEHIND_MS = 100;
const design = large(1, sized({ ...LARGE, wires: 2000 }, { ...LARGE, enclosures: 2, wires: 100 }));
const panel = panelOf(design);
const some = design.devices.filter((d) => d.on?.rail !== undefined);
const timed = (work: () => void): number => {
  const begin = performance.now();
  work();
  return performance.now() - begin;
};
const placings = new Placings({ design, rules: SHOP_RULES });
const [holds, met, behind]: [number[], number[], number[]] = [[], [], []];
for (let i = 0; i < sized(40, 4); i++) {
  const { tag } = some[random.whole(0, some.length - 1)]!;
  const { face, outline } = panel.devices.find((d) => d.tag === tag)!;
  const raw = { ...outline, x: outline.x + random.whole(-200, 200), y: outline.y + random.whole(-150, 150) };
  let hold = holdDevice(design, panel, tag, face, raw, 10);
  holds.push(timed(() => (hold = holdDevice(design, panel, tag, face, raw, 10))));
  const { edit } = hold;
  if (!edit) continue;
  met.push(timed(() => placings.clashes(edit, tag)));
  behind.push(met.at(-1)! + timed(() => placings.wires(edit)));
}
// The first also works out what holds now.
const late = median(behind.slice(1));
console.log(
  `a device dragged among ${design.devices.length}, ${design.wires.length} wires: takes hold in ${median(holds).toFixed(2)} ms; clashes ${median(met).toFixed(0)} ms behind, metres and fill ${late.toFixed(0)} ms   wanted: ${MOST_BEHIND_MS} ms`,
);

// Sixty devices of the theatre's main plate, taken off their rails and furnished anew.
const theatre = JSON.parse(readFileSync("designs/whole/larkmoor.bench.json", "utf8")) as Design;
const rails = theatre.rails.filter((r) => r.face === "+A1/plate").map((r) => r.tag);
const onStrips = new Set(theatre.strips.flatMap((s) => s.members));
const chosen = theatre.devices
  .filter((d) => rails.includes(d.on?.rail ?? "") && !onStrips.has(d.tag))
  .map((d) => d.tag)
  .slice(0, sized(60, 8));
const all = new Placings({ design: theatre, rules: SHOP_RULES });
let furnished = all.furnish({ devices: [], rails: [], keepRows: false, sparePercent: 0 });
const tookMs = timed(() => {
  furnished = all.furnish({ devices: chosen, rails, keepRows: false, sparePercent: 0 });
});
const { proposal, then, listed } = furnished;
const metres = (mm: number): string => `${(mm / 1000).toFixed(1)} m`;
const found = proposal.ok && then !== null;
if (found)
  console.log(
    `${chosen.length} devices furnished in ${(tookMs / 1000).toFixed(1)} s: from pin to pin ${metres(proposal.spanMm)}, in the order of the list ${proposal.listMm === null ? "no room" : metres(proposal.listMm)}, no order below ${metres(proposal.boundMm)}; all wire ${metres(then.wireMm.then)}, as drawn ${metres(then.wireMm.now)}, in the order of the list ${listed ? metres(listed.wireMm.then) : "no room"}`,
  );
held(same && ratio >= LEAST_RATIO && found && proposal.spanMm <= (proposal.listMm ?? Infinity));
