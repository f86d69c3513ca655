import type { Box, Face, Point, Rect } from "../design/geometry";
import type { AccessoryKind, Run, Turn } from "../design/model";
import type { OpenPoint, Thing } from "../design/open-points";

/** Why the place of a device is not certain. */
export const PLACE_FALLBACKS = {
  "no-rail-datum": "its part states no rail datum; the rail is taken to run through its middle",
  "no-slot-datum": "its part states no slot datum; its lower left corner is taken",
  "turned-across": "it is turned across its rail; the rail is taken to run through its middle",
} as const;
export type PlaceFallback = keyof typeof PLACE_FALLBACKS;

/** A device where it stands. Lengths in mm, in the coordinates of its face. */
export interface PlacedDevice {
  tag: string;
  part: string;
  text: string;
  category: string;
  texts: string[];
  face: string;
  /** Rail or parent device that carries it. */
  carrier: string | null;
  centre: Point;
  turn: Turn;
  /** Unturned body. */
  w: number;
  h: number;
  /** Turned outline. */
  outline: Rect;
  /** Underside and top above the face. */
  z: number;
  top: number;
  sheet: string | null;
  item: number | null;
  /** What its place rests on; those of the device that carries it included. */
  fallbacks: PlaceFallback[];
}

export interface PlacedBar {
  tag: string;
  part: string;
  face: string;
  run: Run;
  outline: Rect;
  length: number;
  /** Height above the face: a rail's top, a duct's outside height. */
  height: number;
}

/** An accessory of a strip that is laid: an end stop, an end plate, a separator. */
export interface PlacedPiece {
  strip: string;
  kind: AccessoryKind;
  part: string;
  face: string;
  outline: Rect;
  /** Underside and top above the face. */
  z: number;
  top: number;
}

/** What is wrong where two things want the same room. */
export const CLASH_KINDS = ["bodies overlap", "too deep", "too near", "meets as the door opens"] as const;
export type ClashKind = (typeof CLASH_KINDS)[number];

/** What stands in a cabinet and may be in the way of something. */
export interface ClashSide {
  thing: Extract<Thing, "device" | "rail" | "duct" | "strip" | "face">;
  of: string;
  face: string;
}

/** Two things that want the same room. Lengths in mm. */
export interface Clash {
  kind: ClashKind;
  /** What is asked to move, and what it meets. */
  a: ClashSide;
  b: ClashSide;
  /** How far they reach into each other the shortest way, or how much of what is asked for is missing. */
  missingMm: number;
  /** The room both want, in the space of the row of enclosures, and as it lies on the face of `a`. */
  row: string;
  box: Box;
  on: Rect;
  /** The shortest way on its face on which `a` comes free of `b`; null where there is none. */
  move: { way: "left" | "right" | "up" | "down"; mm: number } | null;
}

export interface PanelResult {
  faces: Face[];
  devices: PlacedDevice[];
  rails: PlacedBar[];
  ducts: PlacedBar[];
  hung: PlacedPiece[];
  /** Tags of devices without a place. */
  loose: string[];
  /** In the order of what is asked to move. */
  clashes: Clash[];
  open: OpenPoint[];
}
