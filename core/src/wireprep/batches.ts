import type { PrepMachine, PrepRules } from "./rules";
import { changesOf } from "./changes";
import { countsOf } from "./counts";
import { faceOf } from "./chains";
import { leadFaults, type ProfileRules } from "./profile";
import type { Chain, Lead, LeadEnd, Minutes } from "./result";

/** What is made now. */
export interface Wanted {
  /** Faces their bundles are wired on: a step of the work. Any where absent. */
  faces?: readonly string[];
  /** In other batches already. */
  taken?: ReadonlySet<string>;
  /** Leads on fallback lengths are left out unless somebody takes them on, with name and reason. */
  fallbacks?: { who: string; why: string };
}

/** A lead that does not go on the machine, and why. */
export interface Apart {
  lead: Lead;
  why: string;
}

export interface Batch {
  /** On the machine, in chains. */
  machine: Chain[];
  /** At the bench, with the reason. */
  bench: Apart[];
  /** Wanted, and left for later all the same. */
  left: Apart[];
  /** Not wanted now, or in another batch. */
  elsewhere: Apart[];
}

const CAN: Record<LeadEnd["treatment"], keyof PrepMachine | null> = {
  ferrule: "ferrules",
  "twin ferrule": "twins",
  ring: "rings",
  fork: "forks",
  plug: "plugs",
  bare: null,
};

/** Why a machine cannot make a lead; null where it can. */
export function lackOf(lead: Lead, m: PrepMachine): string | null {
  if (lead.sizeMm2 < m.sizeMinMm2 || lead.sizeMm2 > m.sizeMaxMm2)
    return `${m.name} takes ${m.sizeMinMm2} to ${m.sizeMaxMm2} mm²`;
  if (lead.lengthMm < m.shortestMm || lead.lengthMm > m.longestMm)
    return `${m.name} cuts ${m.shortestMm} to ${m.longestMm} mm`;
  if (lead.type === null) return "the library has no wire to cut it from";
  if (lead.noReel) return "no reel holds the whole of it";
  for (const end of [lead.from, lead.to]) {
    const at = `${end.device}:${end.pin}`;
    if (end.alone !== undefined) return `its twin ferrule at ${at} would be closed over one wire: ${end.alone}`;
    if (end.stripMm === null) return `nobody says how far it is stripped at ${at}`;
    if (end.stripMm < (m.stripMinMm ?? 0) || end.stripMm > (m.stripMaxMm ?? Infinity))
      return `${m.name} strips ${m.stripMinMm ?? 0} to ${m.stripMaxMm ?? "any"} mm; ${at} wants ${end.stripMm} mm`;
    const can = CAN[end.treatment];
    if (can !== null && !m[can]) return `${m.name} puts on no ${end.treatment}`;
    if (end.treatment !== "bare" && end.part === null)
      return `the shop has no ${end.treatment} for ${lead.sizeMm2} mm²`;
    if (end.labelOn === "printed" && !m.prints) return `${m.name} does not print`;
  }
  return null;
}

/**
 * What goes on a machine, what to the bench, what is left for later. Leads that share a crimp go the same way: where one cannot, none
 * does. Each lead is in just one place. O(leads)
 */
export function batchOf(
  chains: readonly Chain[],
  wanted: Wanted,
  machine: PrepMachine | null,
  rules: ProfileRules,
  /** As it is named in the file. */
  name = "",
): Batch {
  const profile = machine?.profile;
  const unwritable = profile === undefined ? () => null : leadFaults(profile, rules, name);
  const batch: Batch = { machine: [], bench: [], left: [], elsewhere: [] };
  for (const chain of chains) {
    const one = chain.leads.length === 1;
    const with_ = (why: string, lead: Lead): string => (one ? why : `${why}, as for ${lead.wire} it is crimped with`);
    const leave = (why: string): void => chain.leads.forEach((lead) => batch.elsewhere.push({ lead, why }));
    // A pair that leads to two faces is made with the first of them.
    const { faces, taken } = wanted;
    if (faces && !faces.includes(faceOf(chain))) {
      leave("of another face");
      continue;
    }
    if (taken && chain.leads.some((l) => taken.has(l.wire))) {
      leave("in another batch");
      continue;
    }
    const doubted = wanted.fallbacks ? undefined : chain.leads.find((l) => l.fallback);
    if (doubted) {
      const why = "its length rests on a fallback";
      for (const lead of chain.leads) batch.left.push({ lead, why: lead === doubted ? why : with_(why, doubted) });
      continue;
    }
    const lacks = chain.leads.map((lead) => ({
      lead,
      why: machine ? (lackOf(lead, machine) ?? unwritable(lead)) : "it goes on no machine",
    }));
    const first = lacks.find((l) => l.why !== null);
    if (!first) batch.machine.push(chain);
    else for (const { lead, why } of lacks) batch.bench.push({ lead, why: why ?? with_(first.why!, first.lead) });
  }
  return batch;
}

/** Minutes for leads, made in this order on a machine, at the bench, or by hand: by the shop's own times. O(leads) */
export function minutesOf(leads: readonly Lead[], rules: PrepRules, machine: PrepMachine | null): Minutes {
  const { n, crimps, labels, later } = countsOf(leads);
  const metres = leads.reduce((sum, l) => sum + l.lengthMm, 0) / 1000;
  return {
    machine: machine
      ? (changesOf(leads, machine) +
          n * machine.leadS +
          metres * machine.metreS +
          countsOf(leads, machine).labels * rules.markS +
          later * rules.crimpS) /
        60
      : 0,
    bench: (n * (rules.cutS + 2 * rules.stripS) + (crimps + later) * rules.crimpS + labels * rules.markS) / 60,
    hand:
      (n * (rules.handCutS + 2 * rules.handStripS) + (crimps + later) * rules.handCrimpS + labels * rules.handMarkS) /
      60,
  };
}
