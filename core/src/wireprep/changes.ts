import type { Lead, LeadEnd } from "./result";

/** What stands in the machine while a lead is made. */
export interface Setting {
  /** Wire it is cut from. */
  reel: string;
  /** What is put on either end; null for a bare one. */
  from: string | null;
  to: string | null;
}

/** Times of a machine for changing over, s. */
export interface ChangeTimes {
  reelS: number;
  endS: number;
}

/** What the bench crimps later is passed by on the machine with its twin ferrule standing there: it is wanted for the next pair again. */
const standing = ({ part, later }: LeadEnd): string | null => part ?? later?.part ?? null;

export const settingOf = (lead: Pick<Lead, "type" | "sizeMm2" | "colour" | "from" | "to">): Setting => ({
  reel: lead.type ?? `${lead.sizeMm2} mm² ${lead.colour ?? "colour open"}`,
  from: standing(lead.from),
  to: standing(lead.to),
});

/**
 * Seconds to change over from one lead to the next, or from an empty machine. What a bare end leaves standing counts as gone: the next
 * one that is not bare is set anew.
 */
export function changeS(before: Setting | null, next: Setting, { reelS, endS }: ChangeTimes): number {
  const side = (a: string | null, b: string | null): number => (b !== null && a !== b ? endS : 0);
  return (
    (before?.reel === next.reel ? 0 : reelS) + side(before?.from ?? null, next.from) + side(before?.to ?? null, next.to)
  );
}

/** Changing over in all, s, of leads one after the other. O(leads) */
export function changesOf(leads: readonly Lead[], times: ChangeTimes): number {
  let before: Setting | null = null;
  let sum = 0;
  for (const lead of leads) {
    const now = settingOf(lead);
    sum += changeS(before, now, times);
    before = now;
  }
  return sum;
}

/** Reels and pieces for ends that are changed, leads one after the other. O(leads) */
export const changeCounts = (leads: readonly Lead[]): { reels: number; ends: number } => ({
  reels: changesOf(leads, { reelS: 1, endS: 0 }),
  ends: changesOf(leads, { reelS: 0, endS: 1 }),
});
