import { pushTo } from "../design/order";
import { standing, type Happened } from "../frame/events";

export const LEAD_WHAT = ["made", "failed", "scrapped", "again", "undone"] as const;
export type LeadWhat = (typeof LEAD_WHAT)[number];

/** What became of leads. Each lead is made in attempts, counted from one. */
export interface LeadEvent extends Happened<LeadWhat> {
  batch: string;
  lead: string;
  /** The attempt it speaks of. */
  attempt: number;
  /** Of one that failed, was scrapped, or is wanted again. */
  why?: string;
  /** File of the machine that made it. */
  run?: string;
}

export interface LeadState {
  /** The attempt that counts now. */
  attempt: number;
  made: { who: string; at: string; id: string } | null;
  /** Why it is made again; null at the first attempt. */
  why: string | null;
}

const spoils = (what: LeadWhat): boolean => what === "failed" || what === "scrapped" || what === "again";

/**
 * How each lead of a batch stands. Leads that share a crimp stand and fall together: what spoils one opens the next attempt of all of
 * them, once, however many say so. O(events log events)
 * @param chains leads that share crimps, in their order
 */
export function leadStates(
  chains: readonly (readonly string[])[],
  events: readonly LeadEvent[],
): Map<string, LeadState> {
  const byLead = new Map<string, LeadEvent[]>();
  for (const e of standing(events)) pushTo(byLead, e.lead, e);
  const states = new Map<string, LeadState>();
  for (const chain of chains) {
    let last: LeadEvent | null = null;
    for (const lead of chain)
      for (const e of byLead.get(lead) ?? []) if (spoils(e.what) && (!last || e.attempt > last.attempt)) last = e;
    const attempt = (last?.attempt ?? 0) + 1;
    for (const lead of chain) {
      const made = byLead.get(lead)?.find((e) => e.what === "made" && e.attempt === attempt);
      states.set(lead, {
        attempt,
        made: made ? { who: made.who, at: made.at, id: made.id } : null,
        why: last === null ? null : last.lead === lead ? whyText(last) : `crimped with ${last.lead}: ${whyText(last)}`,
      });
    }
  }
  return states;
}

const whyText = ({ what, why }: LeadEvent): string => why ?? what;

export interface BatchCount {
  leads: number;
  made: number;
  /** Being made again. */
  again: number;
}

export function countStates(states: Iterable<LeadState>): BatchCount {
  const count: BatchCount = { leads: 0, made: 0, again: 0 };
  for (const s of states) {
    count.leads++;
    if (s.made) count.made++;
    else if (s.attempt > 1) count.again++;
  }
  return count;
}
