import { NET_CLASSES, type NetClass } from "../design/model";
import type { RouteRules } from "./rules";
import { Raised, type Cells } from "./cells";
import type { Access, Way } from "./search";

/** A wire as the choice of ways sees it. */
export interface Trip {
  id: string;
  class: NetClass | null;
  /** Area its outer diameter fills, whole µm²; 0 when the size is not known. */
  areaUm2: number;
  /**
   * Sets of places at both ends, to be tried in this order until one leads to a way. In each the end that
   * comes first in the network stands first, so that a wire and the same wire turned round agree.
   */
  tries: { starts: readonly Access[]; goals: readonly Access[] }[];
  /** The wire runs from its `goals` to its `starts`. */
  turned: boolean;
}

export interface Chosen {
  /** From the trip's starts to its goals. */
  way: Way;
  /** Which of the trip's tries it is. */
  taken: number;
  /** Pairs of cell boundaries it lies between. */
  ranges: number[];
  /** The shortest way there is; costs less than `way` only after a detour. */
  shortest: Way;
  why: "shortest" | "class" | "fill";
  /** It lies beside a class that goes before its own and may not lie with it. */
  shared: boolean;
  /** It lies in a duct kept for other classes. */
  excluded: boolean;
}

/** Classes a class stays apart from, and of those the ones that go before it. */
export const apartFrom = (cls: NetClass, apart: RouteRules["apart"]): NetClass[] =>
  NET_CLASSES.filter((c) => c !== cls && apart.some(([a, b]) => (a === cls && b === c) || (b === cls && a === c)));

/** Number of wires of each class in every cell. */
export function holdersOf(
  cells: Cells,
  trips: readonly (Trip | null)[],
  chosen: readonly (Chosen | null)[],
): Map<NetClass, Float64Array> {
  const raised = new Map<NetClass, Raised>();
  chosen.forEach((c, i) => {
    const cls = trips[i]?.class;
    if (!c || !cls) return;
    let mine = raised.get(cls);
    if (!mine) raised.set(cls, (mine = new Raised(cells)));
    mine.raise(c.ranges, 1);
  });
  return new Map([...raised].map(([cls, r]) => [cls, r.total()]));
}

/** Area that lies in every cell, µm². */
export function loadOf(
  cells: Cells,
  trips: readonly (Trip | null)[],
  chosen: readonly (Chosen | null)[],
): Float64Array {
  const raised = new Raised(cells);
  chosen.forEach((c, i) => {
    if (c) raised.raise(c.ranges, trips[i]!.areaUm2);
  });
  return raised.total();
}
