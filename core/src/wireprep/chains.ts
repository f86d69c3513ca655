import { Again } from "../frame/again";
import { byText, pushTo } from "../design/order";
import type { Chain, Lead } from "./result";

const chainsKept = new Again<Lead, Chain>();

/** Of the very same leads it is the very same chain. */
const keptChain = (leads: readonly Lead[]): Chain => chainsKept.of(leads[0]!, leads, () => ({ leads: [...leads] }));

/** All leads of chains, one after the other. */
export function leadsIn(chains: readonly Chain[]): Lead[] {
  const all: Lead[] = [];
  for (const { leads } of chains) for (const lead of leads) all.push(lead);
  return all;
}

/**
 * Leads that share a crimp stand together, in the order they hang on each other: a daisy chain begins at one of its ends. Everything
 * else stands alone. Each lead is in just one chain. O(leads)
 */
export const chainsOf = (leads: readonly Lead[]): Chain[] => hungTogether(leads, keptChain);

const hangs = (lead: Lead): boolean => lead.from.shared !== null || lead.to.shared !== null;

/** Of `chainsOf` those of several leads, before it is settled which of them stay together. O(leads) */
export const stringsOf = (leads: readonly Lead[]): Chain[] =>
  hungTogether(leads.filter(hangs), (one) => ({ leads: one }));

function hungTogether(leads: readonly Lead[], made: (leads: Lead[]) => Chain): Chain[] {
  const at = new Map<string, Lead[]>();
  for (const lead of leads)
    for (const end of [lead.from, lead.to]) if (end.shared !== null) pushTo(at, end.shared, lead);
  const next = (lead: Lead): Lead[] =>
    [lead.from, lead.to].flatMap((e) => (e.shared === null ? [] : at.get(e.shared)!.filter((l) => l !== lead)));
  const hanging = leads.filter(hangs);
  const done = new Set<Lead>();
  /** By each of its leads. */
  const chains = new Map<Lead, Chain>();
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
    const one = made(chain);
    for (const lead of chain) chains.set(lead, one);
  };
  // Chains begin where they end: at a lead that hangs on one other only. Rings, and whatever else there is, where they stand first.
  for (const lead of hanging) if (next(lead).length < 2 && !done.has(lead)) walk(lead);
  for (const lead of hanging) if (!done.has(lead)) walk(lead);
  // In the order of the first of their leads.
  const told = new Set<Chain>();
  const list: Chain[] = [];
  for (const lead of leads) {
    const chain = chains.get(lead);
    if (chain && told.has(chain)) continue;
    if (chain) told.add(chain);
    list.push(chain ?? made([lead]));
  }
  return list;
}

/** The face a chain is wired on: of several the first in the order of work. */
export const faceOf = ({ leads }: Chain): string =>
  leads.reduce((first, l) => (byText(l.face, first) < 0 ? l.face : first), leads[0]!.face);

/** A shared crimp that a machine leaves open: the bench puts it on when both leads are there. */
export interface Parted {
  /** Name of the crimp. */
  at: string;
  wires: [string, string];
}

/**
 * Where strings of shared crimps are parted, so that no more than `most` leads hang together: into the fewest pieces, and of these those
 * that lie in the fewest bundles. A ring is opened first. O(leads · most)
 */
export function partedAt(chains: readonly Chain[], most: number): Parted[] {
  const parted: Parted[] = [];
  for (const { leads } of chains) {
    if (leads.length <= most) continue;
    const crimps = leads.map((l, i) => (i === 0 ? null : crimpOf(leads[i - 1]!, l)));
    // What joins the last lead to the first, in a ring of three and more.
    const closing = leads.length > 2 ? crimpOf(leads[leads.length - 1]!, leads[0]!) : null;
    if (closing !== null) parted.push({ at: closing, wires: [leads[leads.length - 1]!.wire, leads[0]!.wire] });
    // The least of pieces, then of bundles, for the first leads of the string.
    const best: { pieces: number; bundles: number; from: number }[] = [{ pieces: 0, bundles: 0, from: 0 }];
    for (let to = 1; to <= leads.length; to++) {
      for (let from = Math.max(0, to - most); from < to; from++) {
        const { pieces, bundles } = best[from]!;
        const more = new Set(leads.slice(from, to).map((l) => l.bundle)).size;
        const one = { pieces: pieces + 1, bundles: bundles + more, from };
        const known = best[to];
        if (!known || one.pieces < known.pieces || (one.pieces === known.pieces && one.bundles < known.bundles))
          best[to] = one;
      }
    }
    for (let to = best[leads.length]!.from; to > 0; to = best[to]!.from)
      parted.push({ at: crimps[to]!, wires: [leads[to - 1]!.wire, leads[to]!.wire] });
  }
  return parted;
}

/** The crimp that two leads share; null where they share none. */
function crimpOf(a: Lead, b: Lead): string | null {
  const own = [a.from.shared, a.to.shared];
  return [b.from.shared, b.to.shared].find((s) => s !== null && own.includes(s)) ?? null;
}
