import type { FaceKind } from "../design/model";
import type { Thing } from "../design/open-points";
import type { StageResult } from "../design/stage";

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
  | { kind: "knockout"; x: number; y: number; d: number };

/** Where a hole comes from: a device's pattern, a rail's or a duct's fixing, the face itself. */
export interface Origin {
  thing: Extract<Thing, "device" | "rail" | "duct" | "face">;
  of: string;
  /** Which of its pattern, from one. */
  nth: number;
}

export interface FaceHole {
  /** By place: from the lower edge up, then from left to right, from one. */
  number: number;
  cut: Cut;
  /** All that ask for it: two that ask for the same hole get one. */
  from: Origin[];
}

export interface FaceWork {
  face: string;
  enclosure: string;
  kind: FaceKind;
  w: number;
  h: number;
  thicknessMm: number | null;
  holes: FaceHole[];
}

export interface MetalworkResult extends StageResult {
  faces: FaceWork[];
}
