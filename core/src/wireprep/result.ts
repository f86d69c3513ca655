import type { EndTreatment } from "../design/model";
import type { StageResult } from "../frame/stage";
import type { LabelOn } from "./rules";

/** One end of a lead, as it is made. */
export interface LeadEnd {
  device: string;
  pin: string;
  treatment: EndTreatment;
  /** What is put on; null for a bare end, or where the shop has no row for it. */
  part: string | null;
  sleeve: string | null;
  stripMm: number | null;
  /** The pin and what is put on want different lengths: the longer one is taken. */
  stripWhy: string | null;
  label: string;
  labelOn: LabelOn;
  /** Name of the crimp it shares with another lead; null for an end of its own. */
  shared: string | null;
  /** A twin ferrule that no machine can put on: why. */
  alone?: string;
  /** Only stripped, because the bench puts a twin ferrule on it and another lead: its name, that lead, and the part. */
  later?: { at: string; with: string; part: string | null };
}

/** A wire as it is cut, with both ends. */
export interface Lead {
  wire: string;
  /** Of a batch for several equal panels, on all but the first: the wire of the design it is made for. */
  of?: string;
  net: string | null;
  colour: string | null;
  sizeMm2: number;
  strand: string;
  /** Library part it is cut from; null where there is none. */
  type: string | null;
  lengthMm: number;
  /** Its length rests on a fallback. */
  fallback: boolean;
  from: LeadEnd;
  to: LeadEnd;
  /** Enclosure of the end it comes from. */
  enclosure: string;
  /** Face its bundle is wired on: `+A1/plate`. */
  face: string;
  /** No reel of the store holds the whole of it. */
  noReel?: true;
  /** What is wired together: of its two devices the one that comes first in the order of work. */
  bundle: string;
}

/** A wire that cannot be made into a lead yet, and why. */
export interface NotMade {
  wire: string;
  why: string;
}

/** Leads joined by crimps: made and landed together, in this order. */
export interface Chain {
  leads: Lead[];
}

/** How leads of a batch may come: as listed, bundle by bundle, so many bundles mixed, or with the least changing over. */
export const WAYS = ["list", "bundles", "mixed", "least"] as const;
export type Way = (typeof WAYS)[number];

/** A lead that does not go on the machine, and why. */
export interface WireWhy {
  wire: string;
  why: string;
}

export interface Minutes {
  machine: number;
  bench: number;
  hand: number;
}

/** A batch as it is proposed: leads by their wires. */
export interface BatchPlan {
  name: string;
  enclosure: string;
  machine: string | null;
  way: Way;
  /** On the machine, in this order; wires that share a crimp stand together. */
  chains: string[][];
  /** At the bench, and left for later: with the reason. */
  bench: WireWhy[];
  left: WireWhy[];
  /** Minutes on the machine, each way; no order takes less than the bound. */
  ways: Record<Way, number>;
  boundMinutes: number;
  /** What is made of it: with the machine, all at the bench, all by hand. */
  minutes: Minutes;
  metres: number;
}

/** A reel, and what is cut from it. */
export interface ReelLine {
  /** Name of a rest; null for a full reel that is taken from the store. */
  reel: string | null;
  wire: string;
  part: string | null;
  metres: number;
  /** The library says no pack of this wire: its metres are assumed. */
  assumed?: true;
  wires: string[];
  usedM: number;
  restM: number;
}

/** Full reels that have to be there. */
export interface FullReels {
  wire: string;
  part: string | null;
  reels: number;
  /** No plan needs fewer. */
  least: number;
  metres: number;
  /** The library says no pack of this wire: its metres are assumed. */
  assumed?: true;
}

export interface Saved {
  machine: number;
  bench: number;
  hand: number;
  thanBench: { hours: number; money: number };
  thanHand: { hours: number; money: number };
}

export interface WireprepResult extends StageResult {
  job: string;
  leads: Lead[];
  notMade: NotMade[];
  batches: BatchPlan[];
  reels: ReelLine[];
  full: FullReels[];
  /** Longer than any reel. */
  tooLong: string[];
  /** In the order they are wired. */
  bundles: string[];
  saved: Saved;
}

/** What a number of this stage may be asked for by. */
export type WireprepSubject =
  | { of: "strip"; wire: string; end: "from" | "to" }
  | { of: "minutes"; batch: string; by: keyof Minutes }
  | { of: "reel"; nth: number }
  | { of: "saved"; than: "bench" | "hand" };
