import type { Colour, Side } from "../design/model";
import type { StageResult } from "../design/stage";

/** What lands on one clamp of a member. */
export interface Connection {
  /** `wire 214`, `core 3 of -W7` */
  conductor: string;
  /** Number of the wire; null for a core that is listed with its cable only. */
  wire: string | null;
  cable: string | null;
  core: string | null;
  colour: Colour | null;
  sizeMm2: number | null;
  net: string | null;
  pin: string;
  /** Its other end: `-K1:A1`, or a place in words; null when nobody says. */
  far: string | null;
  side: Side;
  /** A person said so. */
  decided: boolean;
}

/** Why it is not known what lies inside and what outside. */
export type Undecided = "too many" | "one of two" | "left open";

/** One channel of a member: what is joined inside the terminal. */
export interface Level {
  /** 1 is the first channel by name. */
  level: number;
  /** Its clamps by name. */
  clamps: string[];
  inside: Connection[];
  outside: Connection[];
  undecided: Undecided | null;
  /** The one net of what lands there; null when there is none, or more than one. */
  net: string | null;
}

export interface Member {
  kind: "member";
  tag: string;
  /** From 1, without accessories. */
  position: number;
  part: string | null;
  widthMm: number | null;
  levels: Level[];
  /** What the marker shows. */
  print: string;
  /** Fuse that is fitted, A; null in one that takes a fuse and has none; absent in all others. */
  fuseA?: number | null;
}

export interface Accessory {
  kind: "end stop" | "end plate" | "separator";
  part: string | null;
  widthMm: number | null;
  /** Why it is there, in words. */
  why: string;
}

/** A bridge as it is, or as it might be. */
export interface Jumper {
  row: number;
  /** Members it joins, in order of the strip. */
  members: string[];
  /** Members between them that it passes over. */
  over: string[];
  part: string | null;
  /** Teeth of the comb as it is cut, those broken off included; 0 when there is no comb for it. */
  teeth: number;
  net: string | null;
  currentA: number | null;
  /** Wires between two of its members, which it makes needless. */
  needless: string[];
}

/** Clamps of one size range, and how many of them are free. */
export interface Spare {
  sizeMaxMm2: number | null;
  clamps: number;
  free: number;
}

export interface StripPlan {
  tag: string;
  rail: string;
  /** In order of hanging on, accessories included. */
  items: (Member | Accessory)[];
  /** Null when a width is not known. */
  lengthMm: number | null;
  railMm: number | null;
  jumpers: Jumper[];
  proposed: Jumper[];
  spares: Spare[];
}

/** The members of a strip, without what is hung between them. */
export const membersOf = ({ items }: Pick<StripPlan, "items">): Member[] =>
  items.filter((i): i is Member => i.kind === "member");

export interface LineupsResult extends StageResult {
  strips: StripPlan[];
}
