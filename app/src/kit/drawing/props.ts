import type { ReactNode } from "react";
import type { Box, View as Place } from "./useZoom";

/** What is dragged on a drawing, all in sheet millimetres. */
export interface Dragger {
  /** Whether a press there takes hold of something: then the drawing itself stays. @param k pixels a millimetre */
  takes(x: number, y: number, k: number): boolean;
  /** How far it has come since the press. @param free it is to catch nothing */
  move(dx: number, dy: number, k: number, free: boolean): void;
  /** Let go where it is. */
  drop(): void;
  /** It goes back to where it was. */
  cancel(): void;
}

export interface DrawingProps {
  /** What is drawn, sheet millimetres, y down. */
  sheet: Box;
  /** Brought into view whenever it changes; null: all of the sheet, undefined: the view stays where it is. */
  show: Box | null | undefined;
  label: string;
  /** Boxes that tell where one is, drawn in the small map that is there when little is seen; without them there is none. */
  landmarks?: readonly Box[];
  /** It is no drawing to scale: it has no scale bar. */
  plain?: boolean;
  /** In sheet millimetres, lines with a constant weight on the screen. */
  children: ReactNode;
  /** In pixels: text and what keeps its size. `visible` is the drawn part of the sheet, `seen` what the view shows. */
  overlay(view: Place, visible: Box, seen: Box): ReactNode;
  /** @param k pixels a millimetre at the moment of the tap */
  tap(x: number, y: number, k: number): void;
  /** Without one a press that moves moves the drawing. */
  drag?: Dragger;
}
