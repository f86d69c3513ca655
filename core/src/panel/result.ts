import type { Face, Point, Rect } from "../design/geometry";
import type { Run, Turn } from "../design/model";
import type { OpenPoint } from "../design/open-points";

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

export interface PanelResult {
  faces: Face[];
  devices: PlacedDevice[];
  rails: PlacedBar[];
  ducts: PlacedBar[];
  /** Tags of devices without a place. */
  loose: string[];
  open: OpenPoint[];
}
