import type { Conductor } from "./landings";
import { sameSize } from "../design/tolerance";

/** Whether what lands under a clamp is a pair: two conductors of one cross-section. */
export function isTwin(conductors: readonly Conductor[]): boolean {
  const [one, two] = conductors;
  return (
    conductors.length === 2 && one!.sizeMm2 !== null && two!.sizeMm2 !== null && sameSize(one!.sizeMm2, two!.sizeMm2)
  );
}
