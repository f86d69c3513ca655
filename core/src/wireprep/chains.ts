import { pushTo } from "../design/order";
import type { Chain, Lead } from "./result";

/** All leads of chains, one after the other. */
export const leadsIn = (chains: readonly Chain[]): Lead[] => chains.flatMap((c) => c.leads);

/**
 * Leads that share a crimp stand together, in the order they hang on each other: a daisy chain begins at one of its ends. Everything
 * else stands alone. Each lead is in just one chain. O(leads)
 */
export function chainsOf(leads: readonly Lead[]): Chain[] {
  const at = new Map<string, Lead[]>();
  for (const lead of leads)
    for (const end of [lead.from, lead.to]) if (end.shared !== null) pushTo(at, end.shared, lead);
  const next = (lead: Lead): Lead[] =>
    [lead.from, lead.to].flatMap((e) => (e.shared === null ? [] : at.get(e.shared)!.filter((l) => l !== lead)));
  const done = new Set<Lead>();
  const chains: Chain[] = [];
  const walk = (start: Lead): void => {
    const chain: Lead[] = [];
    const stack = [start];
    while (stack.length > 0) {
      const lead = stack.pop()!;
      if (done.has(lead)) continue;
      done.add(lead);
      chain.push(lead);
      stack.push(...next(lead).reverse());
    }
    chains.push({ leads: chain });
  };
  // Chains begin where they end: at a lead that hangs on one other only. Rings, and whatever else there is, where they stand first.
  for (const lead of leads) if (next(lead).length < 2 && !done.has(lead)) walk(lead);
  for (const lead of leads) if (!done.has(lead)) walk(lead);
  const first = new Map(leads.map((l, i) => [l, i]));
  return chains.sort((a, b) => least(a, first) - least(b, first));
}

const least = ({ leads }: Chain, at: ReadonlyMap<Lead, number>): number =>
  leads.reduce((m, l) => Math.min(m, at.get(l)!), Infinity);
