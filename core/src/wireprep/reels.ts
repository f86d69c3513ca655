import { Again } from "../frame/again";
import { cutList, type CutList } from "../solve/cuts";
import { byText, pushTo } from "../design/order";
import type { PrepRules } from "./rules";
import { settingOf } from "./changes";
import type { Lead } from "./result";

/** One reel, and what is cut from it. */
export interface ReelUse {
  /** Name of a rest; null for a full reel that is taken from the store. */
  reel: string | null;
  /** Wire: a part, or size and colour where there is none. */
  wire: string;
  part: string | null;
  metres: number;
  /** The library says no pack of this wire: its metres are assumed. */
  assumed?: true;
  leads: Lead[];
  /** Taken off it, with what the machine wastes. */
  usedM: number;
  restM: number;
}

export interface ReelPlan {
  reels: ReelUse[];
  /** Full reels to be there, by wire; no plan needs fewer than `least`. */
  full: { wire: string; part: string | null; reels: number; least: number; metres: number; assumed?: true }[];
  /** Longer than any reel. */
  tooLong: Lead[];
}

type ReelRules = Pick<PrepRules, "reels" | "reelEndM" | "reelWastePercent">;

/** How leads of one wire are cut, by the first of them. */
const cutOf = new Again<Lead, CutList>();

/** A full reel where the library says no pack. m */
const REEL_M = 100;

/** Whether any reel, a rest or a full one, holds the whole of a lead with what the machine wastes. */
export function holdsWhole(
  { reels, reelEndM, reelWastePercent }: ReelRules,
  packOf: (part: string) => number | undefined,
): (lead: Pick<Lead, "type" | "lengthMm">) => boolean {
  const longestOf = new Map<string | null, number>();
  return ({ type, lengthMm }) => {
    let longest = longestOf.get(type);
    if (longest === undefined) {
      const full = (type === null ? undefined : packOf(type)) ?? REEL_M;
      longest = Math.max(full, ...reels.flatMap((r) => (r.part === type ? r.metres : [])));
      longestOf.set(type, longest);
    }
    return lengthMm * (1 + reelWastePercent / 100) <= (longest - reelEndM) * 1000 + 1e-6;
  };
}

/**
 * Which reel for which lead: rests first, each as far as it goes, then full reels, as few as can be. No lead is begun on a reel that does
 * not hold the whole of it; the end the machine cannot feed stays. Within a reel leads keep their order. Cost as of a cut list
 * @param packOf metres of a full reel of a part
 */
export function reelsFor(
  leads: readonly Lead[],
  { reels, reelEndM, reelWastePercent }: ReelRules,
  packOf: (part: string) => number | undefined,
): ReelPlan {
  const byWire = new Map<string, Lead[]>();
  for (const lead of leads) pushTo(byWire, settingOf(lead).reel, lead);
  const at = new Map(leads.map((l, i) => [l.wire, i]));
  const plan: ReelPlan = { reels: [], full: [], tooLong: [] };
  const share = 1 + reelWastePercent / 100;
  const endMm = reelEndM * 1000;
  for (const [wire, own] of [...byWire].sort(([a], [b]) => byText(a, b))) {
    const part = own[0]!.type;
    const packM = part === null ? undefined : packOf(part);
    const pack = packM ?? REEL_M;
    const assumed = packM === undefined ? { assumed: true as const } : {};
    const rests = reels
      .filter((r) => part !== null && r.part === part && r.metres > reelEndM)
      .sort((a, b) => a.metres - b.metres || byText(a.reel, b.reel));
    const known = new Map(own.map((l) => [l.wire, l]));
    const shelf = rests.map((r) => r.metres * 1000 - endMm);
    const list = cutOf.of(own[0]!, [share, endMm, pack, shelf.join(" "), ...own], () =>
      cutList(
        own.map((l) => ({ of: l.wire, lengthMm: l.lengthMm * share })),
        { stockMm: pack * 1000 - endMm, kerfMm: 0, trimMm: 0, keepMm: 0 },
        shelf,
      ),
    );
    const left = [...rests];
    for (const bar of list.bars) {
      const which = bar.kept ? left.findIndex((r) => Math.abs(r.metres * 1000 - endMm - bar.lengthMm) < 1e-6) : -1;
      const rest = which < 0 ? undefined : left.splice(which, 1)[0];
      const metres = rest?.metres ?? pack;
      const usedM = bar.pieces.reduce((sum, p) => sum + p.lengthMm, 0) / 1000;
      plan.reels.push({
        reel: rest?.reel ?? null,
        wire,
        part,
        metres,
        ...(rest ? {} : assumed),
        leads: bar.pieces.map((p) => known.get(p.of)!).sort((a, b) => at.get(a.wire)! - at.get(b.wire)!),
        usedM,
        restM: metres - usedM,
      });
    }
    plan.tooLong.push(...list.tooLong.map((p) => known.get(p.of)!));
    if (list.fresh > 0)
      plan.full.push({ wire, part, reels: list.fresh, least: list.bound, metres: list.fresh * pack, ...assumed });
  }
  return plan;
}
