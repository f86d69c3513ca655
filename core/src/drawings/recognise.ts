import type { KeptDrawing, KeptMatching } from "../tables/kept";
import type { Drawing } from "./read";
import { firstSaid, saidOfNext, type DrawingSaid } from "./said";

/** Of the layers of a kept drawing so many must be there for another one to be drawn in the same way. */
const ALIKE = 0.6;

/**
 * What a drawing is taken for: as one of the same name was, whole; else its layers and the parts of its ducts as one that has most of its
 * layers; else by the names of its layers. O(kept drawings · layers)
 * @returns `by`: name of the kept matching, null where there was none
 */
export function saidFor(
  drawing: Drawing,
  name: string,
  kept: readonly KeptMatching[],
): { said: DrawingSaid; by: string | null } {
  const all = kept.flatMap((k) => (k.drawings ?? []).map((d) => ({ ...d, by: k.name })));
  const same = all.find((d) => d.name.toLowerCase() === name.toLowerCase());
  if (same) return { said: saidOfNext(same.said, drawing), by: same.by };
  const there = new Set(drawing.layers.map((l) => l.name));
  let best: (KeptDrawing & { by: string }) | null = null;
  let most = 0;
  for (const d of all) {
    const layers = Object.keys(d.said.layers);
    const shared = layers.filter((l) => there.has(l)).length;
    if (shared > most && shared >= ALIKE * layers.length) [best, most] = [d, shared];
  }
  if (!best) return { said: firstSaid(drawing), by: null };
  const { layers, bars } = best.said;
  return { said: saidOfNext({ layers, bars, views: [], enclosures: [] }, drawing), by: best.by };
}
