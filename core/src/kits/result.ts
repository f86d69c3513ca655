import type { StageResult } from "../frame/stage";

/** One reason for a quantity: what asks for it, by which rule. */
export interface BillTerm {
  text: string;
  quantity: number;
  /** What it is for. */
  tags: string[];
  /** It rests on lengths that rest on fallbacks. */
  fallback?: true;
}

export type Unit = "pcs" | "m";

/** A piece of a bar: whose it is, and how long. */
export interface Piece {
  of: string;
  mm: number;
}

/** One line of the bill of material: one part, for one enclosure and one build step. */
export interface BillLine {
  enclosure: string;
  step: string;
  /** Number in the library, or that of an article of the shop; null for what has none: then the text names it. */
  part: string | null;
  maker: string | null;
  text: string;
  quantity: number;
  unit: Unit;
  place: string | null;
  pack: number | null;
  /** Of one piece. */
  weightKg: number | null;
  /** Of one piece, along its longest side; null for what is measured, or not known. */
  longestMm: number | null;
  tags: string[];
  /** They add up to the quantity. */
  terms: BillTerm[];
  /** Of rails and ducts: as they are cut. */
  pieces?: Piece[];
}

/** What is not in an enclosure at all. */
export const NOWHERE = "";

/** How a quantity leaves the store where it goes out in whole packs. */
export interface Issued {
  packs: number;
  quantity: number;
  /** Comes back. */
  back: number;
}

export interface KitLine {
  part: string | null;
  text: string;
  quantity: number;
  unit: Unit;
  place: string | null;
  tags: string[];
  fallback?: true;
  /** In whole packs of so many. */
  pack?: { size: number } & Issued;
  /** Cut from a reel of so many metres. */
  reel?: number;
  pieces?: Piece[];
}

/** A ticket: what is picked together. */
export interface Kit {
  /** `LARK-2601 +A1 plate` */
  code: string;
  enclosures: string[];
  step: string;
  /** Why it is apart: `long`, `heavy`; null for an ordinary one. */
  apart: "long" | "heavy" | null;
  /** In the order of its walk. */
  lines: KitLine[];
  weightKg: number;
  /** Lines whose part states no weight. */
  unweighed: number;
  walk: Walk;
}

/** Places of the store in the order of a walk. */
export interface Walk {
  stops: string[];
  metres: number;
  /** No walk is shorter; null where nobody looked. */
  boundMetres: number | null;
  /** In the order of the list. */
  listMetres: number;
  /** Places that no row of the shop leads to, or that no way leads to. They come last. */
  unknown: string[];
}

export interface KitsResult extends StageResult {
  bill: BillLine[];
  kits: Kit[];
  /** All kits in one walk. */
  together: Walk;
}

/** What a figure of this stage is asked for by. */
export type KitsSubject =
  | { of: "quantity"; enclosure: string; step: string; line: string }
  | { of: "walk"; kit?: string }
  | { of: "weight"; kit: string };

/** A line's name among others: its part, or its text where it has none, with its unit. */
export const lineKey = ({ part, text, unit }: Pick<KitLine, "part" | "text" | "unit">): string =>
  `${part ?? text} (${unit})`;

/** What the store knows it by. */
export const stockKey = ({ part, text }: Pick<KitLine, "part" | "text">): string => part ?? text;

/** Sums without the noise of binary fractions: tenths of millimetres of wire. */
export const even = (v: number): number => Math.round(v * 10_000) / 10_000;
