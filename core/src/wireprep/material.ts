import { byCount } from "../design/order";
import type { LeadEnd, WireprepResult } from "./result";

/** How many of a piece go on ends. */
export interface PieceCount {
  part: string;
  treatment: LeadEnd["treatment"];
  sleeve: string | null;
  count: number;
}

/** Pieces for all leads of a job: one that two leads share counts once. O(leads) */
export function piecesOf({ leads }: Pick<WireprepResult, "leads">): PieceCount[] {
  const counts = new Map<string, PieceCount>();
  const shared = new Set<string>();
  for (const lead of leads)
    for (const { part, treatment, sleeve, shared: crimp } of [lead.from, lead.to]) {
      if (part === null || (crimp !== null && shared.has(crimp))) continue;
      if (crimp !== null) shared.add(crimp);
      const known = counts.get(part);
      if (known) known.count++;
      else counts.set(part, { part, treatment, sleeve, count: 1 });
    }
  return [...counts.values()].sort((a, b) => byCount(a.part, b.part));
}
