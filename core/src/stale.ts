import { shopHashFor } from "./frame/reads";
import type { Shop } from "./shop/shop";
import type { StageName } from "./stage-names";
import { STAGES } from "./stages";

/** Stages whose results may be others with another shop: those that read what differs, and those that need them. */
export function staleStages(before: Shop, after: Shop): StageName[] {
  const stale: StageName[] = [];
  for (const { name, needs, reads } of STAGES) {
    if (needs.some((n) => stale.includes(n)) || shopHashFor(reads, before) !== shopHashFor(reads, after))
      stale.push(name);
  }
  return stale;
}
