/**
 * A drawing as plain data, in millimetres from its upper left corner, y down. Every document is drawn from it: as PDF,
 * SVG and DXF they show the same. All text is of one font whose signs are equally wide, so that the place a text takes is
 * known exactly.
 */

export const LAYERS = ["outline", "body", "conductor", "jumper", "text", "frame", "cut", "mark"] as const;
export type Layer = (typeof LAYERS)[number];

/** Quarter turns in degrees, counter-clockwise: a text at 90 reads upward. */
export type TextTurn = 0 | 90 | 180 | 270;

export interface SceneText {
  kind: "text";
  /** Where the text begins, ends, or has its middle; half its height up. */
  x: number;
  y: number;
  text: string;
  /** Height of a line, mm. */
  size: number;
  anchor: "start" | "middle" | "end";
  turn: TextTurn;
  layer: Layer;
  colour?: string;
}

export type SceneItem =
  | SceneText
  | {
      kind: "line";
      x1: number;
      y1: number;
      x2: number;
      y2: number;
      width: number;
      layer: Layer;
      colour?: string;
      dash?: number;
    }
  | {
      kind: "rect";
      x: number;
      y: number;
      w: number;
      h: number;
      width: number;
      layer: Layer;
      colour?: string;
      fill?: string;
      dash?: number;
    }
  | { kind: "circle"; x: number; y: number; r: number; width: number; layer: Layer; colour?: string; fill?: string }
  | {
      /** A line through points, closed to a ring where it says so. */
      kind: "poly";
      points: readonly { x: number; y: number }[];
      closed: boolean;
      width: number;
      layer: Layer;
      colour?: string;
      fill?: string;
      dash?: number;
    };

export interface Scene {
  name: string;
  w: number;
  h: number;
  items: SceneItem[];
}

/** A text that begins at a place, lying, unless `more` says otherwise. */
export const textAt = (x: number, y: number, text: string, size: number, more: Partial<SceneText> = {}): SceneText => ({
  kind: "text",
  x,
  y,
  text,
  size,
  anchor: "start",
  turn: 0,
  layer: "text",
  ...more,
});

/** Width of every sign, as a share of the height of the line. */
export const SIGN_WIDTH = 0.6;

/** Signs as they are seen: one for a pair of halves. */
const signs = (text: string): number => [...text].length;

/** Width of a text, mm. */
export const textWidth = (text: string, size: number): number => signs(text) * size * SIGN_WIDTH;

/** A text as it fits a place: as large as wanted, smaller down to the least, then cut. */
export function fitted(text: string, length: number, size: number, least: number): { text: string; size: number } {
  const n = signs(text);
  if (n === 0) return { text, size };
  const fits = length / (n * SIGN_WIDTH);
  if (fits >= least) return { text, size: Math.min(size, fits) };
  const room = Math.max(1, Math.floor(length / (least * SIGN_WIDTH) + 1e-9));
  return { text: `${[...text].slice(0, room - 1).join("")}…`, size: Math.min(least, length / SIGN_WIDTH) };
}

export interface Box {
  x: number;
  y: number;
  w: number;
  h: number;
}

/** The place a text takes. */
export function textBox({ x, y, text, size, anchor, turn }: SceneText): Box {
  const w = textWidth(text, size);
  const from = anchor === "start" ? 0 : anchor === "middle" ? -w / 2 : -w;
  switch (turn) {
    case 0:
      return { x: x + from, y: y - size / 2, w, h: size };
    case 180:
      return { x: x - from - w, y: y - size / 2, w, h: size };
    case 90:
      return { x: x - size / 2, y: y - from - w, w: size, h: w };
    case 270:
      return { x: x - size / 2, y: y + from, w: size, h: w };
  }
}

/** The scene turned by quarter turns, counter-clockwise. */
export function turned(scene: Scene, turn: TextTurn): Scene {
  if (turn === 0) return scene;
  const { w, h } = scene;
  const at = (x: number, y: number): [number, number] =>
    turn === 90 ? [y, w - x] : turn === 180 ? [w - x, h - y] : [h - y, x];
  const items = scene.items.map((item): SceneItem => {
    switch (item.kind) {
      case "line": {
        const [x1, y1] = at(item.x1, item.y1);
        const [x2, y2] = at(item.x2, item.y2);
        return { ...item, x1, y1, x2, y2 };
      }
      case "rect": {
        const [ax, ay] = at(item.x, item.y);
        const [bx, by] = at(item.x + item.w, item.y + item.h);
        return { ...item, x: Math.min(ax, bx), y: Math.min(ay, by), w: Math.abs(ax - bx), h: Math.abs(ay - by) };
      }
      case "poly":
        return {
          ...item,
          points: item.points.map((p) => {
            const [x, y] = at(p.x, p.y);
            return { x, y };
          }),
        };
      default: {
        const [x, y] = at(item.x, item.y);
        return item.kind === "text"
          ? { ...item, x, y, turn: ((item.turn + turn) % 360) as TextTurn }
          : { ...item, x, y };
      }
    }
  });
  return turn === 180 ? { ...scene, items } : { ...scene, w: h, h: w, items };
}

/** Scenes one below the other, as one. */
export function stacked(name: string, scenes: readonly Scene[], gap = 20): Scene {
  let y = 0;
  const items: SceneItem[] = [];
  for (const scene of scenes) {
    for (const item of scene.items)
      items.push(
        item.kind === "line"
          ? { ...item, y1: item.y1 + y, y2: item.y2 + y }
          : item.kind === "poly"
            ? { ...item, points: item.points.map((p) => ({ x: p.x, y: p.y + y })) }
            : { ...item, y: item.y + y },
      );
    y += scene.h + gap;
  }
  return { name, w: Math.max(0, ...scenes.map((s) => s.w)), h: Math.max(0, y - gap), items };
}

/** From the middle of a line of text down to where its letters stand, as a share of its height. */
export const BASELINE = 0.28;

export const INK = "#2B2E31";
/** What is white stays white where something lies under it; two greys tell bodies apart in black and white. */
export const PAPER = "#FFFFFF";
export const PALE = "#E6E3DB";
export const DIM = "#CFCABD";
