import Flatbush from "flatbush";
import type { SetAside } from "./groups";
import type { Laid } from "./lay";
import { knownFrom, type Listed } from "./lay";
import type { Box, Drawing } from "./read";
import { meaningIn, type DrawingSaid, type Meaning } from "./said";
import type { NotTaken } from "./view";

/** A drawing to be looked at: what is drawn as paths by layer, and what it is taken for. All boxes are in units of the drawing. */
export interface DrawingLook {
  version: string;
  unitMm: number | null;
  /** Around all that is drawn. */
  box: Box;
  layers: LayerLook[];
  /** Not all that is drawn is in the paths: there is too much of it to be seen. */
  partly: boolean;
  /** Frames that could be the edge of a face, the largest first. */
  frames: { box: Box; tags: number }[];
  /** What each view shows. */
  views: ViewLook[];
  notTaken: NotTaken[];
  moreNotTaken: number;
  setAside: SetAside[];
  /** Enclosures that lists name, the one named most first. */
  enclosures: string[];
}

export interface LayerLook {
  name: string;
  count: number;
  hidden: boolean;
  meaning: Meaning;
  /** An SVG path: units of the drawing × `pathScale` of its box, from the upper left corner of the box, y down. */
  path: string;
}

export interface ViewLook {
  /** Of the face, mm. */
  w: number;
  h: number;
  bars: { kind: "duct" | "rail"; across: number; box: Box }[];
  devices: { tag: string; strip: boolean; box: Box }[];
  holes: number;
}

const MOST_FRAMES = 60;
const MOST_NOT_TAKEN = 200;
const MOST_ENCLOSURES = 20;
/** Frames of a smaller share of the sheet are no faces. */
const LEAST_SHARE = 0.002;
/** A hundred thousand lines: what lies beyond would be black. */
const MOST_PATH_SIGNS = 3_000_000;
/** Paths are given in so many steps over the longer side of the sheet. */
const PATH_STEPS = 30_000;

/** How far paths are scaled: units of a path for one of the drawing. */
export const pathScale = ({ w, h }: Box): number => PATH_STEPS / Math.max(w, h, 1e-9);

/** @param laid what a layout made of it, as the drawing of that name. */
export function lookAtDrawing(
  drawing: Drawing,
  said: DrawingSaid,
  listed: Listed,
  laid: Laid,
  name: string,
): DrawingLook {
  const box = around(drawing);
  const views = laid.views.get(name) ?? [];
  const notTaken = laid.notTaken.flatMap(({ name: of, ...n }) => (of === name ? [n] : []));
  return {
    version: drawing.version,
    unitMm: drawing.unitMm,
    box,
    ...layersOf(drawing, said, box),
    frames: framesOf(drawing, listed, box),
    views: views.map(({ view, read }): ViewLook => {
      const back = (b: Box): Box => {
        const { frame, mm, mirrored } = view;
        const [w, h] = [b.w / mm, b.h / mm];
        return { x: mirrored ? frame.x + frame.w - b.x / mm - w : frame.x + b.x / mm, y: frame.y + b.y / mm, w, h };
      };
      return {
        w: read.w,
        h: read.h,
        bars: read.bars.map(({ kind, run, x, y, length, across }) => ({
          kind,
          across,
          box: back(run === "right" ? { x, y, w: length, h: across } : { x, y, w: across, h: length }),
        })),
        devices: read.devices.map(({ tag, strip, box: b }) => ({ tag, strip, box: back(b) })),
        holes: read.holes.length,
      };
    }),
    notTaken: notTaken.slice(0, MOST_NOT_TAKEN),
    moreNotTaken: Math.max(0, notTaken.length - MOST_NOT_TAKEN),
    setAside: drawing.setAside,
    enclosures: laid.named.slice(0, MOST_ENCLOSURES),
  };
}

function around({ outlines, open, circles, texts }: Drawing): Box {
  let [left, low, right, high] = [Infinity, Infinity, -Infinity, -Infinity];
  const add = (x: number, y: number): void => {
    left = Math.min(left, x);
    right = Math.max(right, x);
    low = Math.min(low, y);
    high = Math.max(high, y);
  };
  for (const { box: b } of outlines) {
    add(b.x, b.y);
    add(b.x + b.w, b.y + b.h);
  }
  for (const { points } of open) for (let i = 0; i < points.length; i += 2) add(points[i]!, points[i + 1]!);
  for (const { x, y, r } of circles) {
    add(x - r, y - r);
    add(x + r, y + r);
  }
  for (const { x, y } of texts) add(x, y);
  return left > right ? { x: 0, y: 0, w: 0, h: 0 } : { x: left, y: low, w: right - left, h: high - low };
}

function layersOf(drawing: Drawing, said: DrawingSaid, box: Box): Pick<DrawingLook, "layers" | "partly"> {
  const paths = new Map<string, string[]>();
  const scale = pathScale(box);
  let signs = 0;
  const pen = (layer: string, text: string): void => {
    if (signs > MOST_PATH_SIGNS) return;
    signs += text.length;
    const there = paths.get(layer);
    if (there) there.push(text);
    else paths.set(layer, [text]);
  };
  const px = (x: number): number => Math.round((x - box.x) * scale);
  const py = (y: number): number => Math.round((box.y + box.h - y) * scale);
  const line = (points: readonly number[]): string => {
    let d = "";
    for (let i = 0; i < points.length; i += 2) d += `${i === 0 ? "M" : "L"}${px(points[i]!)} ${py(points[i + 1]!)}`;
    return d;
  };
  for (const { layer, points, around: made } of drawing.outlines) if (!made) pen(layer, `${line(points)}z`);
  for (const { layer, points } of drawing.open) pen(layer, line(points));
  for (const { layer, x, y, r } of drawing.circles) {
    const q = Math.round(r * scale);
    pen(layer, `M${px(x) - q} ${py(y)}a${q} ${q} 0 1 0 ${2 * q} 0a${q} ${q} 0 1 0 ${-2 * q} 0`);
  }
  const layers = drawing.layers.map(({ name, count, hidden }) => ({
    name,
    count,
    hidden,
    meaning: meaningIn(said, name),
    path: (paths.get(name) ?? []).join(""),
  }));
  return { layers, partly: signs > MOST_PATH_SIGNS };
}

/** Rectangles large enough to be a face, with how many tags each has. */
function framesOf(drawing: Drawing, listed: Listed, whole: Box): DrawingLook["frames"] {
  const { thing } = knownFrom(listed, "");
  const named = [
    ...drawing.texts.filter((t) => thing(t.text.replace(/^(?:[=+][^-:\s]+)+/, "")) !== null),
    ...drawing.blocks.filter((b) => Object.values(b.attributes).some((v) => thing(v) !== null)),
  ];
  const index = named.length > 0 ? new Flatbush(named.length) : null;
  for (const { x, y } of named) index?.add(x, y, x, y);
  index?.finish();
  const seen = new Set<string>();
  return drawing.outlines
    .filter((o) => o.rect && !o.around && o.box.w * o.box.h >= LEAST_SHARE * whole.w * whole.h)
    .sort((a, b) => b.box.w * b.box.h - a.box.w * a.box.h)
    .filter(({ box: { x, y, w, h } }) => {
      const key = [x, y, w, h].map((v) => Math.round(v * 10)).join(" ");
      return seen.size < MOST_FRAMES && !seen.has(key) && seen.add(key);
    })
    .map(({ box: b }) => ({ box: b, tags: index ? index.search(b.x, b.y, b.x + b.w, b.y + b.h).length : 0 }));
}
