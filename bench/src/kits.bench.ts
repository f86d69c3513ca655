import { coloursOf } from "@gray-bench/core/wiring/landings";
import { readDesign } from "@gray-bench/core/design/read";
import { DEFAULT_SHOP } from "@gray-bench/core/shop/shop";
import type { Aisle, StorePlace } from "@gray-bench/core/kits/rules";
import { compute } from "@gray-bench/core/kits/compute";
import { storeOf } from "@gray-bench/core/kits/walk";
import { compute as computeLineups } from "@gray-bench/core/lineups/compute";
import { compute as computeMetalwork } from "@gray-bench/core/metalwork/compute";
import { compute as computePanel } from "@gray-bench/core/panel/compute";
import { compute as computeRoutes } from "@gray-bench/core/routes/compute";
import { large } from "@gray-bench/designs/large";
import { seeded } from "@gray-bench/designs/random";
import { held, sized } from "./short";

/** Bill and kits of 5,000 devices against reading their design; a walk past 120 places against nearest neighbours and the bound. */

const SIZE = sized(
  { enclosures: 50, rows: 20, perRow: 5, wires: 10_000 },
  { enclosures: 2, rows: 4, perRow: 4, wires: 100 },
);
/** Of the time that reading the design takes. */
const MOST_TIMES = 2;
const ROUNDS = sized(5, 1);
const WALKS = sized(20, 1);
const PLACES = sized(120, 20);
const MOST_GAP = 4;

const median = (values: readonly number[]): number => [...values].sort((a, b) => a - b)[Math.floor(values.length / 2)]!;

const text = JSON.stringify(large(1, SIZE));
const reads: number[] = [];
let read = readDesign(text);
for (let i = 0; i < ROUNDS; i++) {
  const start = performance.now();
  read = readDesign(text);
  reads.push(performance.now() - start);
}
if (!read.ok) throw new Error(read.faults[0]!.path);
const { design } = read;
const { rules } = DEFAULT_SHOP;
const panel = computePanel(design);
const needs = {
  panel,
  routes: computeRoutes(design, rules, panel),
  lineups: computeLineups(design, rules),
  metalwork: computeMetalwork(design, rules.metalwork, panel),
};
const { pieces } = rules.wireprep;
const worked: number[] = [];
let result = compute(
  design,
  rules.kits,
  { colours: coloursOf(design, rules.classes), pieces, threads: rules.metalwork.threads },
  needs,
);
for (let i = 0; i < ROUNDS; i++) {
  const start = performance.now();
  result = compute(
    design,
    rules.kits,
    { colours: coloursOf(design, rules.classes), pieces, threads: rules.metalwork.threads },
    needs,
  );
  worked.push(performance.now() - start);
}
const times = median(worked) / median(reads);
console.log(
  `bill and kits of ${design.devices.length} devices and ${design.wires.length} wires: ${result.bill.length} lines, ${result.kits.length} kits with their walks, ${median(worked).toFixed(0)} ms, ${times.toFixed(2)} times reading the design (${median(reads).toFixed(0)} ms)   bound: ${MOST_TIMES}`,
);

// A hall of 15 aisles of 20 bays, joined at both ends and in the middle: 300 places of the ways, 120 of them wanted.
const [AISLES, BAYS] = [15, 20];
const at = (a: number, b: number): string => `${a}/${b}`;
const aisles: Aisle[] = [{ from: "desk", to: at(0, 0), metres: 5 }];
const places: StorePlace[] = [];
for (let a = 0; a < AISLES; a++)
  for (let b = 0; b < BAYS; b++) {
    places.push({ begins: `P${at(a, b)}/`, at: at(a, b), metres: 0 });
    if (b > 0) aisles.push({ from: at(a, b - 1), to: at(a, b), metres: 1.5 });
    if (a > 0 && [0, 10, BAYS - 1].includes(b)) aisles.push({ from: at(a - 1, b), to: at(a, b), metres: 3 });
  }
const store = storeOf({ aisles, places, start: "desk", end: "desk" });
const random = seeded(20);
let [ours, bound, near, list] = [0, 0, 0, 0];
const took: number[] = [];
for (let n = 0; n < WALKS; n++) {
  const left = places.map((p) => `${p.begins}x`);
  const wanted = Array.from({ length: PLACES }, () => left.splice(random.whole(0, left.length - 1), 1)[0]!);
  const start = performance.now();
  const walk = store.walk(wanted);
  took.push(performance.now() - start);
  ours += walk.metres;
  bound += walk.boundMetres!;
  list += walk.listMetres;
  near += nearest(wanted);
}

/** Always to the nearest place that is left, and back. */
function nearest(wanted: readonly string[]): number {
  const far = (a: string | null, b: string | null): number =>
    store.between(a ?? "P0/0/x", b ?? "P0/0/x")! + (a === null || b === null ? 5 : 0);
  const left = [...wanted];
  let [here, sum]: [string | null, number] = [null, 0];
  while (left.length > 0) {
    let best = 0;
    for (let i = 1; i < left.length; i++) if (far(here, left[i]!) < far(here, left[best]!)) best = i;
    const next = left.splice(best, 1)[0]!;
    sum += far(here, next);
    here = next;
  }
  return sum + far(here, null);
}

const gap = 100 * (ours / bound - 1);
console.log(
  `${WALKS} walks past ${PLACES} of ${places.length} places: ${(ours / WALKS).toFixed(0)} m each, ${median(took).toFixed(0)} ms, gap to the bound ${gap.toFixed(2)} %   bound: ${MOST_GAP} %`,
);
console.log(
  `  nearest neighbours: ${(near / WALKS).toFixed(0)} m (${(near / ours).toFixed(2)} times as long); in the order of a list: ${(list / WALKS).toFixed(0)} m (${(list / ours).toFixed(1)} times)`,
);
held(times <= MOST_TIMES && gap <= MOST_GAP);
