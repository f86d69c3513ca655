import type { Design } from "./design/model";
import { EDITS } from "./edits";
import { fitRules } from "./panel/clashes";
import { compute as panelOf } from "./panel/compute";
import { furnish, type FurnishAsk, type Proposal } from "./panel/furnish";
import type { Clash, PanelResult } from "./panel/result";
import { compute as routesOf } from "./routes/compute";
import type { RoutesResult } from "./routes/result";
import type { Rules } from "./shop/rules";

/** What a computed design is worked out from. */
export interface PlacingBase {
  design: Design;
  rules: Rules;
}

/** What becomes of the wires of a design with an edit. */
export interface WiresThen {
  /** All wire to cut, mm, now and then; wires that have a length. */
  wireMm: { now: number; then: number };
  wires: { now: number; then: number };
  /** The fullest piece of a duct then, per cent; null where there is none. */
  fullest: { of: string; percent: number } | null;
}

interface Edit {
  kind: string;
  payload: object;
}

interface Sums {
  mm: number;
  wires: number;
  fullest: WiresThen["fullest"];
}

function sumsOf({ totalMm, wires, edges }: RoutesResult): Sums {
  let fullest: WiresThen["fullest"] = null;
  for (const e of edges)
    if (e.kind === "piece" && e.fillPercent > (fullest?.percent ?? 0)) fullest = { of: e.id, percent: e.fillPercent };
  return {
    mm: totalMm,
    wires: wires.filter((w) => w.lengthMm !== null).length,
    fullest,
  };
}

/**
 * Works out places that are only tried, beside what is laid: first what clashes, which costs a panel, then what it does to
 * wires, which costs their routes besides. What holds now is worked out once.
 */
export class Placings {
  readonly #base: PlacingBase;
  #now: Sums | null = null;
  #last: { key: string; design: Design; panel: PanelResult } | null = null;

  constructor(base: PlacingBase) {
    this.#base = base;
  }

  /**
   * What the thing that is moved would clash with.
   * @throws Error when the edit does not fit the design
   */
  clashes(edit: Edit, of: string): Clash[] {
    return this.#with(edit).panel.clashes.filter((c) => c.a.of === of || c.b.of === of);
  }

  /**
   * Places for devices on rails, with what becomes of all wires: by the proposal, and lined up in the order of the list.
   * The latter is null where they do not fit so.
   */
  furnish(ask: FurnishAsk): { proposal: Proposal; then: WiresThen | null; listed: WiresThen | null } {
    const { design } = this.#base;
    const proposal = furnish(design, this.#panelOf(design), ask);
    if (!proposal.ok) return { proposal, then: null, listed: null };
    const inOrder: Edit = { kind: "line up", payload: { devices: ask.devices, rails: ask.rails } };
    return {
      proposal,
      then: this.wires({ kind: "place many", payload: { places: proposal.places } }),
      listed: EDITS.apply(design, inOrder).ok ? this.wires(inOrder) : null,
    };
  }

  /** @throws Error when the edit does not fit the design */
  wires(edit: Edit): WiresThen {
    const { design, rules } = this.#base;
    const { design: then, panel } = this.#with(edit);
    this.#now ??= sumsOf(routesOf(design, rules, this.#panelOf(design)));
    const sums = sumsOf(routesOf(then, rules, panel));
    return {
      wireMm: { now: this.#now.mm, then: sums.mm },
      wires: { now: this.#now.wires, then: sums.wires },
      fullest: sums.fullest,
    };
  }

  #with(edit: Edit): { design: Design; panel: PanelResult } {
    const key = JSON.stringify(edit);
    if (this.#last?.key === key) return this.#last;
    const applied = EDITS.apply(this.#base.design, edit);
    if (!applied.ok) throw new Error(applied.reason);
    const last = { key, design: applied.design, panel: this.#panelOf(applied.design) };
    this.#last = last;
    return last;
  }

  #panelOf(design: Design): PanelResult {
    const { rules } = this.#base;
    return panelOf(design, rules.lineups, fitRules(rules));
  }
}
