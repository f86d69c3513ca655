import type { Lookup } from "../design/lookup";
import type { BarKind, MetalworkRules } from "./rules";
import type { BarEnd, Rail } from "../design/model";
import { Outlines } from "../solve/near";
import { byText, pushTo } from "../design/order";
import type { PanelResult, PlacedBar } from "../panel/result";
import { cutList, type Piece } from "../solve/cuts";
import type { BarList } from "./result";

export type BarRules = Pick<MetalworkRules, "kerfMm" | "trimMm" | "keepMm" | "coverShorterMm" | "offcuts">;

/** Ducts that come so near meet. mm */
const MEETS_MM = 5;
const MOST_NEAR = 32;

const r = (v: number): string => String(Math.round(v * 10) / 10);

/** Where other ducts come in from the side, or cross, along a duct. */
function notchesOf(duct: PlacedBar, others: readonly PlacedBar[]): { base: string[]; cover: string[] } {
  const up = duct.run === "up";
  const o = duct.outline;
  const [a0, b0, a1, b1] = up ? [o.y, o.x, o.y + o.h, o.x + o.w] : [o.x, o.y, o.x + o.w, o.y + o.h];
  const base: string[] = [];
  const cover: string[] = [];
  for (const other of others) {
    if (other.run === duct.run) continue;
    const p = other.outline;
    // Along this duct: the other one's breadth. Across it: where the other one begins and ends.
    const [from, to, low, high] = up ? [p.y, p.y + p.h, p.x, p.x + p.w] : [p.x, p.x + p.w, p.y, p.y + p.h];
    const [start, end] = [Math.max(from, a0), Math.min(to, a1)];
    if (end - start < 1) continue;
    const place = `${r(end - start)} mm at ${r(start - a0)} mm for ${other.tag}`;
    if (low < b0 - MEETS_MM && high > b1 + MEETS_MM) {
      base.push(`both sides notched ${place}`);
      cover.push(`both sides notched ${place}`);
    } else if (Math.abs(high - b0) <= MEETS_MM) base.push(`${up ? "left" : "lower"} side notched ${place}`);
    else if (Math.abs(low - b1) <= MEETS_MM) base.push(`${up ? "right" : "upper"} side notched ${place}`);
  }
  return { base, cover };
}

const mitreText = (ends: readonly BarEnd[] = []): string[] => ends.map((end) => `${end} cut at 45°`);

/** Rails, ducts and covers of a panel as pieces, by kind and part. O(ducts · near) */
export function piecesOf(
  look: Lookup,
  { rails, ducts }: Pick<PanelResult, "rails" | "ducts">,
  { coverShorterMm }: Pick<BarRules, "coverShorterMm">,
): { kind: BarKind; part: string; pieces: Piece[] }[] {
  const lists = new Map<string, Piece[]>();
  const piece = (kind: BarKind, part: string, of: string, lengthMm: number, also: string[]): void => {
    pushTo(lists, `${kind}\u0000${part}`, { of, lengthMm, ...(also.length > 0 ? { also } : {}) });
  };
  const mitres = (bar: Rail | undefined): string[] => mitreText(bar?.mitre);
  for (const rail of rails) piece("rail", rail.part, rail.tag, rail.length, mitres(look.rails.get(rail.tag)));
  const byFace = new Map<string, PlacedBar[]>();
  for (const duct of ducts) pushTo(byFace, duct.face, duct);
  for (const here of byFace.values()) {
    const index = new Outlines(here.map((d) => d.outline));
    for (const duct of here) {
      const near = index.touching(duct.outline, MEETS_MM, MOST_NEAR).map((i) => here[i]!);
      const { base, cover } = notchesOf(duct, near);
      const mitred = mitres(look.ducts.get(duct.tag));
      piece("duct", duct.part, duct.tag, duct.length, [...mitred, ...base]);
      piece("cover", duct.part, duct.tag, Math.max(1, duct.length - coverShorterMm), [...mitred, ...cover]);
    }
  }
  const order: BarKind[] = ["rail", "duct", "cover"];
  return [...lists]
    .map(([key, pieces]) => {
      const [kind, part] = key.split("\u0000") as [BarKind, string];
      return { kind, part, pieces };
    })
    .sort((a, b) => order.indexOf(a.kind) - order.indexOf(b.kind) || byText(a.part, b.part));
}

/** Lists for pieces of one part, from bars of its stock length (mm) and what lies on the shelf. */
export function barLists(
  groups: readonly { kind: BarKind; part: string; pieces: Piece[] }[],
  stockOf: (part: string) => number,
  { kerfMm, trimMm, keepMm, offcuts }: BarRules,
): BarList[] {
  return groups.map(({ kind, part, pieces }) => {
    const stockMm = stockOf(part);
    const shelf = offcuts
      .filter((o) => o.kind === kind && o.part === part)
      .flatMap((o) => Array.from({ length: o.count }, () => o.lengthMm));
    return { kind, part, stockMm, list: cutList(pieces, { stockMm, kerfMm, trimMm, keepMm }, shelf) };
  });
}
