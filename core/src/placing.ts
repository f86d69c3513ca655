import type { Design } from "./design/model";
import { EDITS } from "./edits";
import { fitRules } from "./panel/clashes";
import { compute as panelOf } from "./panel/compute";
import type { Clash } from "./panel/result";
import { compute as routesOf } from "./routes/compute";
import type { RoutesResult } from "./routes/result";
import type { Rules } from "./shop/rules";

/** What a computed design is worked out from. */
export interface PlacingBase {
  design: Design;
  rules: Rules;
}

/** What becomes of a design with an edit, told before it is laid. */
export interface Placing {
  /** Of the thing that is moved. */
  clashes: Clash[];
  /** All wire to cut, mm, now and then; wires that have a length. */
  wireMm: { now: number; then: number };
  wires: { now: number; then: number };
  /** The fullest piece of a duct then, per cent; null where there is none. */
  fullest: { of: string; percent: number } | null;
}

interface Sums {
  mm: number;
  wires: number;
  fullest: Placing["fullest"];
}

function sumsOf({ totalMm, wires, edges }: RoutesResult): Sums {
  let fullest: Placing["fullest"] = null;
  for (const e of edges)
    if (e.kind === "piece" && e.fillPercent > (fullest?.percent ?? 0)) fullest = { of: e.id, percent: e.fillPercent };
  return {
    mm: totalMm,
    wires: wires.filter((w) => w.lengthMm !== null).length,
    fullest,
  };
}

/**
 * Works out places that are only tried, beside what is laid. Each costs a panel and its routes; what holds now is worked
 * out once.
 */
export class Placings {
  readonly #base: PlacingBase;
  #now: Sums | null = null;

  constructor(base: PlacingBase) {
    this.#base = base;
  }

  /** @throws Error when the edit does not fit the design */
  run(edit: { kind: string; payload: object }, of: string): Placing {
    this.#now ??= this.#sums(this.#base.design).sums;
    const applied = EDITS.apply(this.#base.design, edit);
    if (!applied.ok) throw new Error(applied.reason);
    const { clashes, sums } = this.#sums(applied.design);
    return {
      clashes: clashes.filter((c) => c.a.of === of || c.b.of === of),
      wireMm: { now: this.#now.mm, then: sums.mm },
      wires: { now: this.#now.wires, then: sums.wires },
      fullest: sums.fullest,
    };
  }

  #sums(design: Design): { clashes: Clash[]; sums: Sums } {
    const { rules } = this.#base;
    const panel = panelOf(design, rules.lineups, fitRules(rules));
    return { clashes: panel.clashes, sums: sumsOf(routesOf(design, rules, panel)) };
  }
}
