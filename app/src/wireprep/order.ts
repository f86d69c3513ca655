import type { MadeBatch } from "@gray-bench/core/wireprep/batch";
import type { Lead } from "@gray-bench/core/wireprep/result";

/** A lead of a batch; of one at the bench why it is made there. */
export interface BatchLead {
  lead: Lead;
  why: string | null;
}

/** Leads of a batch in the order they are made: the machine's, then the bench's. */
export function leadsOfBatch({ plan, leads }: MadeBatch): BatchLead[] {
  const by = new Map(leads.map((l) => [l.wire, l]));
  return [
    ...plan.chains.flat().map((w) => ({ lead: by.get(w)!, why: null })),
    ...plan.bench.map(({ wire, why }) => ({ lead: by.get(wire)!, why })),
  ];
}
