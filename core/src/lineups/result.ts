import type { AccessoryKind, Colour, Side } from "../design/model";
import type { StageResult } from "../frame/stage";

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
  /** Not a terminal: a relay, a breaker, a supply between them. */
  other?: true;
}

export interface Accessory {
  kind: AccessoryKind;
  part: string | null;
  widthMm: number | null;
  /** Why it is there, in words. */
  why: string;
  /** A person said so. */
  byHand: boolean;
  /** Member behind which it hangs; null before the first. */
  behind: string | null;
}

/** A bridge as it is, or as it might be. */
export interface Jumper {
  row: number;
  /** Members it joins, in order of the strip. */
  members: string[];
  /** Members between them that it passes over. */
  over: string[];
  part: string | null;
  /** How many combs of its part it takes: where one is too short, each next one shares a member with the one before. */
  combs: number;
  /** Teeth of all of them as they are cut, those broken off included; 0 when there is no comb for it. */
  teeth: number;
  /** Why its comb, or any of the library, does not fit where it is to stand; absent where one does. */
  misfit?: string;
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

/** One end of a core, or of a wire that is one. */
export interface CoreEnd {
  device: string;
  pin: string;
  /** The strip it lands on, and the place of the member there; null elsewhere. */
  strip: string | null;
  position: number | null;
}

export interface CoreRun {
  core: string;
  colour: Colour | null;
  sizeMm2: number | null;
  net: string | null;
  from: CoreEnd | null;
  to: CoreEnd | null;
  /** Its far end in words, where it lands on no pin of the design. */
  far: string | null;
}

export interface CableRun {
  tag: string;
  type: string;
  outerMm: number | null;
  from: string | null;
  to: string | null;
  /** By name, as people count. */
  cores: CoreRun[];
}

/** How well an order of members does. */
export interface OrderScore {
  /** Pairs of cores that cross on their way to the strip. */
  crossings: number;
  /** Jumpers and lone members that it takes to join each net: one where its members stand side by side. */
  pieces: number;
}

/** Another order of the members that does better, or shows that none does. */
export interface OrderProposal {
  members: string[];
  now: OrderScore;
  then: OrderScore;
  /** No order can do better than this. */
  least: OrderScore;
  /** Compared with all orders that keep the groups. */
  proved: boolean;
}

export interface StripPlan {
  tag: string;
  rail: string;
  /** Distance of its first piece from the start of the rail; null while it is not laid. */
  at: number | null;
  /** In order of hanging on, accessories included. */
  items: (Member | Accessory)[];
  /** Null when a width is not known. */
  lengthMm: number | null;
  railMm: number | null;
  /** What of the rail other strips and devices take; null where there is no rail. */
  takenMm: number | null;
  jumpers: Jumper[];
  proposed: Jumper[];
  spares: Spare[];
  /** Members that stay side by side. */
  groups: string[][];
  /** Members behind which its drawing goes on on another sheet. */
  splitAfter: string[];
  /** Fewest crossings, then fewest pieces; the same with numbers ascending. */
  orders: Record<OrderKind, OrderProposal>;
}

export type OrderKind = "any" | "ascending";

/** The members of a strip, without what is hung between them. */
export const membersOf = ({ items }: Pick<StripPlan, "items">): Member[] =>
  items.filter((i): i is Member => i.kind === "member");

export interface LineupsResult extends StageResult {
  strips: StripPlan[];
  cables: CableRun[];
  /** Stands beside a member on which nothing lands; may be empty. */
  spareWord: string;
}

/** A strip as it is drawn on sheets. */
export interface DrawingOptions {
  /** Along the sheet, or from its top downwards. */
  stand: "lying" | "upright";
  /** Inside and outside change places. */
  swap: boolean;
  /** Paper to strip: 2 draws it twice as large. Null: as large as its texts need. */
  scale: number | null;
  /** The whole sheet turned by quarters. */
  turn: 0 | 90 | 180 | 270;
  /** On one sheet as long as it takes, whatever is said of splitting. */
  joined: boolean;
}

export const LARGEST_SCALE = 10;

/** A strip drawn on demand. */
export interface WantedDrawing extends DrawingOptions {
  strip: string;
  as: "pdf" | "svg" | "dxf";
}
