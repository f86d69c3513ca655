import { mkdtempSync, rmSync, writeFileSync } from "node:fs";
import { tmpdir } from "node:os";
import { join } from "node:path";
import { PREP_RULES, type PrepRules } from "@gray-bench/core/wireprep/rules";
import { defaultsOf } from "@gray-bench/core/shop/rule-kinds";
import { leastChange } from "@gray-bench/core/wireprep/order";
import { machineFile } from "@gray-bench/core/wireprep/profile";
import type { Chain, Lead, LeadEnd } from "@gray-bench/core/wireprep/result";
import { seeded } from "@gray-bench/designs/random";
import { stringify } from "csv-stringify/sync";
import { held, sized } from "./short";

/** Order of 2,000 leads against the order of the list and the bound; files of 10,000 leads against a library for tables. */

const LEADS = sized(2000, 60);
const FILED = sized(10_000, 100);
const MOST_GAP = 10;
/** Of the time that a library for tables takes for the same leads. */
const MOST_TIMES = 6;
const ROUNDS = sized(5, 1);

const rules = defaultsOf(PREP_RULES) as unknown as PrepRules;
const random = seeded(12);
const SIZES = [0.5, 0.75, 1, 1.5, 2.5, 4, 6];
const COLOURS = ["BK", "BU", "RD", "WH", "BN", "GNYE"];

const end = (size: number, shared: string | null): LeadEnd => {
  const bare = shared === null && random.whole(0, 9) === 0;
  const treatment = bare ? "bare" : shared !== null ? "twin ferrule" : random.whole(0, 7) === 0 ? "ring" : "ferrule";
  return {
    device: `-K${random.whole(1, 400)}`,
    pin: String(random.whole(1, 14)),
    treatment,
    part: bare ? null : `${treatment} ${size}`,
    sleeve: null,
    stripMm: 10,
    stripWhy: null,
    label: String(random.whole(1, 9999)),
    labelOn: "sleeve",
    shared,
  };
};
let wires = 0;
const lead = (size: number, colour: string, from: string | null, to: string | null): Lead => ({
  wire: String(++wires),
  net: null,
  colour,
  sizeMm2: size,
  strand: "fine",
  type: `BL-W${size}${colour}`,
  lengthMm: random.whole(100, 4000),
  fallback: false,
  from: end(size, from),
  to: end(size, to),
  enclosure: "+A1",
  face: "+A1/plate",
  bundle: `-K${random.whole(1, 400)}`,
});

/** One in four leads hangs on another by a crimp, some in daisy chains. */
function drawn(count: number): Chain[] {
  const chains: Chain[] = [];
  let left = count;
  while (left > 0) {
    const [size, colour] = [SIZES[random.whole(0, SIZES.length - 1)]!, COLOURS[random.whole(0, COLOURS.length - 1)]!];
    const long = Math.min(left, random.whole(0, 7) === 0 ? random.whole(2, 4) : 1);
    const crimps = Array.from({ length: long - 1 }, (_, i) => `${wires + i}`);
    chains.push({
      leads: Array.from({ length: long }, (_, i) => lead(size, colour, crimps[i - 1] ?? null, crimps[i] ?? null)),
    });
    left -= long;
  }
  return chains;
}

const machine = rules.machines[1]!;
const chains = drawn(LEADS);
const took: number[] = [];
let ordered = leastChange(chains, machine);
for (let i = 0; i < 3; i++) {
  const start = performance.now();
  ordered = leastChange(chains, machine);
  took.push(performance.now() - start);
}
const gap = 100 * (ordered.changeS / ordered.boundS - 1);
const minutes = (s: number): string => (s / 60).toFixed(0);
console.log(
  `order of ${LEADS} leads in ${chains.length} chains: ${minutes(ordered.changeS)} min of changing over, ${Math.min(...took).toFixed(0)} ms, gap to the bound of ${minutes(ordered.boundS)} min ${gap.toFixed(2)} %   bound: ${MOST_GAP} %`,
);
console.log(
  `  in the order of the list: ${minutes(ordered.listS)} min (${(ordered.listS / ordered.changeS).toFixed(1)} times as much)`,
);

const many = drawn(FILED);
const cells = ({ device, pin, part, stripMm, label }: LeadEnd): unknown[] => [device, pin, part, stripMm, label];
const folder = mkdtempSync(join(tmpdir(), "gray-bench-wireprep-"));
const median = (values: readonly number[]): number => [...values].sort((a, b) => a - b)[Math.floor(values.length / 2)]!;
let worst = 0;
try {
  for (const { profile } of rules.profiles) {
    const [made, plain]: [number[], number[]] = [[], []];
    let bytes = 0;
    for (let i = 0; i < ROUNDS; i++) {
      let start = performance.now();
      const file = machineFile(profile, "B", many, rules);
      if (!file.ok) throw new Error(file.reasons.join("; "));
      const path = join(folder, file.name);
      writeFileSync(path, file.bytes);
      made.push(performance.now() - start);
      bytes = file.bytes.length;
      // Beside it, work of the same kind: a row of as many cells for each lead.
      start = performance.now();
      const rows = many
        .flatMap((c) => c.leads)
        .map((l) => [l.wire, l.type, l.sizeMm2, l.lengthMm, ...cells(l.from), ...cells(l.to), l.bundle]);
      writeFileSync(path, stringify(rows));
      plain.push(performance.now() - start);
    }
    const times = median(made) / median(plain);
    worst = Math.max(worst, times);
    console.log(
      `${profile} of ${FILED} leads: ${(bytes / 1000).toFixed(0)} kB in ${median(made).toFixed(0)} ms, a library for tables ${median(plain).toFixed(0)} ms: ${times.toFixed(1)} times   bound: ${MOST_TIMES}`,
    );
  }
} finally {
  rmSync(folder, { recursive: true, force: true });
}
held(gap <= MOST_GAP && worst <= MOST_TIMES);
