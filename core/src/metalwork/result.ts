import type { BarKind } from "./rules";
import type { FaceKind, Fixing, Material, Seen, Turn } from "../design/model";
import type { Thing } from "../design/open-points";
import type { StageResult } from "../frame/stage";
import type { CutList } from "../solve/cuts";

/** What is made in a sheet, in the coordinates of its face as seen from outside. Lengths in mm, angles in degrees. */
export type Cut =
  /** `notch`: a key beside it, its middle at an angle from x counter-clockwise. */
  | { kind: "round"; x: number; y: number; d: number; notch?: { to: number; w: number; angle: number } }
  /** `d`: of the core hole. */
  | { kind: "thread"; x: number; y: number; d: number; thread: string }
  | { kind: "countersunk"; x: number; y: number; d: number; head: number }
  /** `x`, `y`: its middle; w along the angle, its ends round. */
  | { kind: "slot"; x: number; y: number; w: number; h: number; angle: number }
  /** `x`, `y`: its lower left corner. */
  | { kind: "rect"; x: number; y: number; w: number; h: number; r: number }
  | { kind: "polygon"; points: { x: number; y: number }[] }
  | { kind: "knockout"; x: number; y: number; d: number }
  /** A point for a screw that drills its own hole; `d` of the dimple. */
  | { kind: "mark"; x: number; y: number; d: number };

/** What is done in one place with one tool. */
export type Operation =
  | {
      kind: "drill" | "tap" | "countersink" | "punch";
      tool: string;
      hole: number;
      x: number;
      y: number;
      depth: "through" | number;
    }
  | { kind: "mill"; tool: string; hole: number; x: number; y: number; path: Move[] };

/** One leg of a path of a cutter's middle: straight, or round about a middle, to the left unless it says `right`. */
export type Move =
  | {
      x: number;
      y: number;
      /** Above the sheet: what is left below holds the piece. */
      over?: true;
    }
  | { x: number; y: number; cx: number; cy: number; right?: true };

/** Why a cut cannot be made on its machine. */
export interface Lack {
  hole: number;
  kind: (typeof LACKS)[number];
  why: string;
}

export const LACKS = [
  "tool missing",
  "corner too sharp",
  "sheet too thick",
  "in a clamp",
  "off the machine",
  "beyond the sheet",
  "no room below",
  "sunk too deep",
  "no machine",
] as const;

/** Where a hole comes from: a device's pattern, a rail's or a duct's fixing, the face itself. */
export interface Origin {
  thing: Extract<Thing, "device" | "rail" | "duct" | "face">;
  of: string;
  /** Which of its pattern, from one. */
  nth: number;
  /** Of a fixing that stepped aside along its bar, mm. */
  asideMm?: number;
  /** Of a fixing: which slot of its bar it takes, from one; absent where its part states none, or none is near. */
  slot?: number;
  /** Made so because a person said so. */
  fixing?: Fixing;
}

export interface FaceHole {
  /** By place: from the lower edge up, then from left to right, from one. */
  number: number;
  cut: Cut;
  /** All that ask for it: two that ask for the same hole get one. */
  from: Origin[];
}

/** A pattern that somebody switched off. */
export interface NotDrilled {
  thing: "device" | "rail" | "duct";
  of: string;
  holes: number;
}

/** The holes of one face. */
export interface Drilled {
  face: string;
  enclosure: string;
  kind: FaceKind;
  w: number;
  h: number;
  thicknessMm: number | null;
  material: Material | null;
  /** How it lies on the machine. */
  seen: Seen;
  holes: FaceHole[];
  notDrilled: NotDrilled[];
}

/** What one tool does, from the place where tools are changed round and back to it. */
export interface Step {
  tool: string;
  operations: Operation[];
  /** Of the moves between, and what no order falls below. mm */
  moveMm: number;
  boundMm: number;
  /** The same operations in the order of the list. */
  listMm: number;
  /** At work in the sheet, without moves. */
  workS: number;
}

/** What is made without moving the sheet. */
export interface SetUp {
  /** From the datum corner of the sheet to the datum of the machine, along the machine's axes. mm */
  shift: { x: number; y: number };
  steps: Step[];
  minutes: number;
  /** No order takes less. */
  boundMinutes: number;
  /** In the order of the list. */
  listMinutes: number;
}

/** A face, and how its machine makes it. */
export interface FaceWork extends Drilled {
  /** Null where the shop has no machine of the name that is asked for. */
  machine: string | null;
  /** How far round the sheet lies, counter-clockwise, as the one before the machine sees it. */
  turn: Turn;
  setUps: SetUp[];
  lacks: Lack[];
}

/** Bars of one part, and how its pieces come from them. */
export interface BarList {
  kind: BarKind;
  part: string;
  stockMm: number;
  list: CutList;
}

/** A gland where it would go; without a cable it is a spare one with its blind plug. */
export interface ProposedGland {
  part: string;
  cable: string | null;
  face: string;
  x: number;
  y: number;
}

/** The cables of an enclosure that have no gland yet, and where glands for them go. */
export interface EntryPlan {
  enclosure: string;
  /** The first of its faces for glands, and all of them. */
  face: string;
  faces: string[];
  /** Cables that come in, and glands without one: each has a blind plug. */
  cables: number;
  spare: string[];
  proposed: ProposedGland[];
  rows: number;
  /** Cables for which nothing could be proposed, and why. */
  without: { cable: string; why: string }[];
  /** Spare ones that found no room. */
  spareWithout: number;
}

export interface MetalworkResult extends StageResult {
  faces: FaceWork[];
  bars: BarList[];
  entries: EntryPlan[];
}

/** What a number is asked for by. */
export type MetalworkSubject =
  | { of: "x" | "y"; face: string; hole: number }
  | { of: "minutes"; face: string }
  | { of: "bars"; kind: BarKind; part: string };

/** One face, drawn as somebody asks for it. */
export interface WantedFace {
  face: string;
  as: "pdf" | "svg" | "dxf" | "nc";
  /** At 1:1 on several sheets. */
  full: boolean;
  /** Of a program: which set-up, from one. */
  setUp: number;
}
