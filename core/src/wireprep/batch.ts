import { chainsOf } from "./chains";
import type { BatchPlan, Lead, Way } from "./result";

/** What somebody wants made now. */
export interface BatchAsked {
  name: string;
  /** Faces whose bundles it is of; all where none is named. */
  faces: string[];
  /** So many equal panels at once. */
  panels: number;
  /** Null: at the bench. */
  machine: string | null;
  way: Way;
  /** Takes leads on fallback lengths on. */
  fallbacks: { who: string; why: string } | null;
}

/** A batch as it is made, whatever becomes of design and shop. */
export interface MadeBatch {
  plan: BatchPlan;
  panels: number;
  fallbacks: BatchAsked["fallbacks"];
  /** Every lead of it, on the machine and at the bench. */
  leads: Lead[];
}

export const MOST_PANELS = 100;

/** Name of a lead of one of several equal panels. */
export const panelLead = (wire: string, panel: number): string => (panel === 1 ? wire : `${wire} (${panel})`);

/** All leads of a batch that share crimps, in their order: on the machine as they are made, then at the bench. */
export function chainsIn({ plan, leads }: Pick<MadeBatch, "plan" | "leads">): string[][] {
  const bench = new Set(plan.bench.map((b) => b.wire));
  return [...plan.chains, ...chainsOf(leads.filter((l) => bench.has(l.wire))).map((c) => c.leads.map((l) => l.wire))];
}

const PANEL = / \(\d+\)$/;

/** Leads of a batch that the design of now makes otherwise, or not at all. O(leads) */
export function madeOtherwise({ leads }: Pick<MadeBatch, "leads">, current: readonly Lead[]): string[] {
  const said = (l: Lead): string =>
    JSON.stringify([
      l.type,
      l.colour,
      l.sizeMm2,
      l.lengthMm,
      ...[l.from, l.to].map((e) => [e.device, e.pin, e.part, e.label, e.stripMm]),
    ]);
  const now = new Map(current.map((l) => [l.wire, said(l)]));
  // Batches of before leads of further panels said whose they are: where no wire has the name, its end is the panel's.
  const wireOf = ({ of, wire }: Lead): string => of ?? (now.has(wire) ? wire : wire.replace(PANEL, ""));
  return leads.filter((l) => now.get(wireOf(l)) !== said(l)).map((l) => l.wire);
}
