/** One reason for a quantity: what asks for it, by which rule. */
export interface BillTerm {
  text: string;
  quantity: number;
  /** What it is for. */
  tags: string[];
}

export type Unit = "pcs" | "m";

/** One line of the bill of material: one part, for one enclosure and one build step. */
export interface BillLine {
  enclosure: string;
  step: string;
  /** Number in the library; null for what it does not hold, as screws: then the text names it. */
  part: string | null;
  maker: string | null;
  text: string;
  quantity: number;
  unit: Unit;
  place: string | null;
  pack: number | null;
  weightKg: number | null;
  tags: string[];
  /** They add up to the quantity. */
  terms: BillTerm[];
}

/** What is not in an enclosure at all. */
export const NOWHERE = "";

export interface KitLine {
  part: string | null;
  text: string;
  quantity: number;
  unit: Unit;
  place: string | null;
  tags: string[];
}

/** A ticket: what is picked together. */
export interface Kit {
  /** `LARK-2601 +A1 plate`, made unique. */
  code: string;
  enclosures: string[];
  step: string;
  /** Why it is apart: `long`, `heavy`; null for an ordinary one. */
  apart: "long" | "heavy" | null;
  lines: KitLine[];
  weightKg: number;
  /** Lines whose part states no weight. */
  unweighed: number;
}

/** Places of the store in the order of a walk. */
export interface Walk {
  stops: string[];
  metres: number;
  /** No walk is shorter. */
  boundMetres: number;
  /** In the order of the list. */
  listMetres: number;
  /** Places that no row of the shop leads to. */
  unknown: string[];
}
