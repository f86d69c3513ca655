// eslint-disable-next-line @typescript-eslint/triple-slash-reference
/// <reference path="./dxf.d.ts" />
import parseModule from "dxf/lib/parseString";
import { groupBy } from "../design/grouped";
import { groupsOf, type SetAside } from "./groups";
import { otherForm } from "./kind";
import { closedLoops } from "./loops";
import { rectanglesOf } from "./rectangles";
import { plainLines, textOfDxf } from "./text";
import { Unreadable } from "./unreadable";

/**
 * A drawing as it comes, unfolded: blocks are laid where they are inserted, however deep, so that everything lies in the coordinates of
 * the sheet, in units of the drawing.
 */
export interface Drawing {
  /** Version of the form as its header names it; empty where it does not. */
  version: string;
  /** Millimetres of a unit; null where the file does not say. */
  unitMm: number | null;
  /** In the order of their names. */
  layers: LayerIn[];
  outlines: Outline[];
  /** Lines that close to no loop by themselves; `side`: they are sides of rectangles among the outlines. */
  open: (Stroke & { side: boolean })[];
  circles: CircleIn[];
  texts: TextIn[];
  blocks: BlockIn[];
  /** What is not read, with its place. */
  setAside: SetAside[];
}

export interface LayerIn {
  name: string;
  /** Things on it. */
  count: number;
  /** Frozen or off in the file. */
  hidden: boolean;
}

export interface Box {
  x: number;
  y: number;
  w: number;
  h: number;
}

/** Points one after the other: x, y, x, y … */
export interface Stroke {
  layer: string;
  points: number[];
}

/** Closed: the last point joins the first. */
export interface Outline extends Stroke {
  box: Box;
  /** Its four sides are those of its box. */
  rect: boolean;
  /** It is the box around all that a block draws, not something drawn. */
  around: boolean;
  /** It is one of all rectangles that lines make, which share their sides: it may be put together of others. */
  among: boolean;
}

export interface CircleIn {
  layer: string;
  x: number;
  y: number;
  r: number;
}

export interface TextIn {
  layer: string;
  /** The middle of the line, about: fonts are not measured. */
  x: number;
  y: number;
  h: number;
  text: string;
}

/** A block with attributes where it is inserted. */
export interface BlockIn {
  layer: string;
  name: string;
  /** By their names. */
  attributes: Record<string, string>;
  /** Around all that it draws, without its texts; null where it draws nothing. */
  box: Box | null;
  x: number;
  y: number;
}

export type DrawingRead = { ok: true; drawing: Drawing } | { ok: false; found: string; remedy: string };

/** Millimetres of a unit, by the number in the header ($INSUNITS). */
const UNITS: Record<number, number> = {
  1: 25.4,
  2: 304.8,
  4: 1,
  5: 10,
  6: 1000,
  8: 0.0000254,
  9: 0.0254,
  10: 914.4,
  13: 0.001,
  14: 100,
};

/** Beyond it nothing can be meant: the earth around, in millimetres, is 4e10. */
const FARTHEST = 1e9;
const MOST_THINGS = 500_000;
const DEEPEST = 16;
const MOST_TEXT = 500;
/** Ends of one line nearer than this meet, in units of the drawing. */
const MEETS = 1e-3;
/** Steps of a full turn when an arc becomes corners: what lies between them is off by a thousandth of the radius. */
const TURN_STEPS = 72;

/** @param bytes of an ASCII DXF file, R12 to 2018. Never throws on any bytes. O(bytes + what is drawn) */
export function readDrawing(bytes: Uint8Array): DrawingRead {
  const other = otherForm(bytes);
  if (other !== null)
    return { ok: false, found: other, remedy: "Save it as DXF in text form (ASCII), of R12 to 2018." };
  try {
    return { ok: true, drawing: unfold(textOfDxf(bytes)) };
  } catch (error) {
    if (error instanceof Unreadable) return { ok: false, found: error.message, remedy: error.remedy };
    return {
      ok: false,
      found: `a drawing that is broken (${(error as Error).message.slice(0, 100)})`,
      remedy: "Save it as DXF again.",
    };
  }
}

type Parsed = ReturnType<typeof parseDxf>;
type Entity = Parsed["entities"][number];
type Block = Parsed["blocks"][number];
/** The package that reads DXF. Bundled it is the module, under the tests what that exports. */
export const parseDxf =
  typeof parseModule === "function" ? parseModule : (parseModule as { default: typeof parseModule }).default;

/** x' = a·x + c·y + e, y' = b·x + d·y + f */
type Affine = readonly [number, number, number, number, number, number];
const SAME: Affine = [1, 0, 0, 1, 0, 0];
const within = ([a, b, c, d, e, f]: Affine, [g, h, i, j, k, l]: Affine): Affine => [
  a * g + c * h,
  b * g + d * h,
  a * i + c * j,
  b * i + d * j,
  a * k + c * l + e,
  b * k + d * l + f,
];
const at = ([a, b, c, d, e, f]: Affine, x: number, y: number): [number, number] => [
  a * x + c * y + e,
  b * x + d * y + f,
];
const MIRRORED: Affine = [-1, 0, 0, 1, 0, 0];

const number = (e: Entity, name: string, otherwise = 0): number => {
  const value = e[name];
  return typeof value === "number" ? value : otherwise;
};
const textOf = (value: unknown): string => (typeof value === "string" ? value : "");
const layerOf = (e: Entity): string => textOf(e.layer).trim() || "0";

/** Where an entity is drawn in: who sits in a block on the layer 0 lies on that of the block. */
interface Where {
  to: Affine;
  layer: string | null;
  block: string | null;
  depth: number;
  /** Blocks that are being unfolded. */
  inside: readonly string[];
}

function unfold(text: string): Drawing {
  const { text: groups, setAside, version } = groupsOf(text);
  const parsed = parseDxf(groups);
  const unfolding = new Unfolding(parsed, setAside);
  // What lies on the paper, not in the model, is a frame with titles; a file that has only that is meant so.
  const onPaper = (e: Entity): boolean => Boolean(e.paperSpace);
  const model = parsed.entities.filter((e) => !onPaper(e));
  unfolding.all(model.length > 0 ? model : parsed.entities, {
    to: SAME,
    layer: null,
    block: null,
    depth: 0,
    inside: [],
  });
  return unfolding.drawing(version);
}

class Unfolding {
  private readonly blocks: Map<string, Block>;
  private readonly hidden: ReadonlySet<string>;
  private readonly unitMm: number | null;
  private readonly setAside: SetAside[];
  private readonly outlines: Outline[] = [];
  private readonly strokes: Stroke[] = [];
  private readonly circles: CircleIn[] = [];
  private readonly texts: TextIn[] = [];
  private readonly inserted: BlockIn[] = [];
  private readonly counts = new Map<string, number>();
  private things = 0;
  /** Boxes of blocks that are being unfolded, the outermost first. */
  private readonly boxes: Bounds[] = [];

  constructor({ blocks, tables, header }: Parsed, setAside: SetAside[]) {
    this.blocks = new Map(blocks.map((b) => [textOf(b.name).trim().toLowerCase(), b]));
    const layers = Object.values(tables.layers ?? {});
    this.hidden = new Set(
      layers.filter((l) => (l.colorNumber ?? 0) < 0 || ((l.flags ?? 0) & 1) === 1).map((l) => textOf(l.name).trim()),
    );
    this.unitMm = UNITS[header.insUnits ?? 0] ?? null;
    this.setAside = setAside;
  }

  drawing(version: string): Drawing {
    const tolerance = 0.05 / (this.unitMm ?? 1);
    const open: Drawing["open"] = [];
    const byLayer = groupBy(this.strokes, (s) => s.layer);
    for (const [layer, strokes] of byLayer) {
      const { closed, rest } = closedLoops(
        strokes.map((s) => s.points),
        tolerance,
      );
      for (const points of closed) this.outlines.push(outlineOf(layer, points));
      const { found, used } = rectanglesOf(rest, tolerance);
      for (const { x, y, w, h } of found)
        this.outlines.push({ ...outlineOf(layer, [x, y, x + w, y, x + w, y + h, x, y + h]), among: true });
      for (const [i, points] of rest.entries()) open.push({ layer, points, side: used[i]! });
    }
    return {
      version,
      unitMm: this.unitMm,
      layers: [...this.counts]
        .map(([name, count]) => ({ name, count, hidden: this.hidden.has(name) }))
        .sort((a, b) => (a.name < b.name ? -1 : 1)),
      outlines: this.outlines,
      open,
      circles: this.circles,
      texts: this.texts,
      blocks: this.inserted,
      setAside: this.setAside,
    };
  }

  all(entities: readonly Entity[], where: Where): void {
    for (let i = 0; i < entities.length; i++) {
      const e = entities[i]!;
      if (e.visible === false) continue;
      if (e.type === "INSERT") {
        // Its attributes follow it.
        const attributes: Entity[] = [];
        while (entities[i + 1]?.type === "ATTRIB") attributes.push(entities[++i]!);
        this.insert(e, attributes, where);
      } else this.one(e, where);
    }
  }

  private aside(e: Entity, what: string, { block }: Where, place: [number, number] | null): void {
    const layer = layerOf(e);
    const known = this.setAside.find((s) => s.what === what && s.layer === layer && s.block === block);
    if (known) known.count++;
    else this.setAside.push({ what, layer, block, count: 1, at: place && { x: place[0], y: place[1] }, matters: true });
  }

  /** The plane an entity is drawn in: mirrored where it is seen from behind, null where it stands aslant. */
  private plane(e: Entity, where: Where): Affine | null {
    const z = number(e, "extrusionZ", 1);
    const [x, y] = [number(e, "extrusionX"), number(e, "extrusionY")];
    if (Math.abs(x) > 1e-6 || Math.abs(y) > 1e-6 || z === 0) return null;
    return z > 0 ? where.to : within(where.to, MIRRORED);
  }

  private count(e: Entity, where: Where): string {
    if (++this.things > MOST_THINGS)
      throw new Unreadable(
        `more than ${MOST_THINGS} things when its blocks are unfolded`,
        "Draw the layout alone, without what stands around it.",
      );
    const own = layerOf(e);
    const layer = own === "0" && where.layer !== null ? where.layer : own;
    this.counts.set(layer, (this.counts.get(layer) ?? 0) + 1);
    return layer;
  }

  private one(e: Entity, where: Where): void {
    const layer = this.count(e, where);
    const to = e.type === "LINE" || e.type === "MTEXT" ? where.to : this.plane(e, where);
    if (!to) return this.aside(e, `${e.type} aslant`, where, null);
    switch (e.type) {
      case "LINE": {
        const { start, end } = e as unknown as Record<"start" | "end", { x?: number; y?: number }>;
        this.stroke(
          e,
          layer,
          [at(to, start.x ?? NaN, start.y ?? NaN), at(to, end.x ?? NaN, end.y ?? NaN)],
          false,
          where,
        );
        break;
      }
      case "LWPOLYLINE":
      case "POLYLINE": {
        if (e.polygonMesh === true || e.polyfaceMesh === true) return this.aside(e, "a mesh", where, null);
        const corners = (e.vertices as { x?: number; y?: number; bulge?: number }[]).map((v) => ({
          x: v.x ?? 0,
          y: v.y ?? 0,
          bulge: v.bulge ?? 0,
        }));
        const { points, closed } = bent(corners, e.closed === true);
        this.stroke(
          e,
          layer,
          points.map(([x, y]) => at(to, x, y)),
          closed,
          where,
        );
        break;
      }
      case "ARC": {
        const r = number(e, "r");
        const [from, until] = [number(e, "startAngle"), number(e, "endAngle")];
        const sweep = (((until - from) % TURN) + TURN) % TURN || TURN;
        const steps = Math.max(2, Math.ceil((sweep / TURN) * TURN_STEPS));
        const points = Array.from({ length: steps + 1 }, (_, i) => {
          const angle = from + (sweep * i) / steps;
          return at(to, number(e, "x") + r * Math.cos(angle), number(e, "y") + r * Math.sin(angle));
        });
        this.stroke(e, layer, points, false, where);
        break;
      }
      case "CIRCLE":
        this.circle(e, layer, to, where);
        break;
      case "TEXT":
        this.text(layer, to, lineOf(e));
        break;
      case "MTEXT":
        for (const line of longText(e)) this.text(layer, to, line);
        break;
      default:
        break;
    }
  }

  private circle(e: Entity, layer: string, to: Affine, where: Where): void {
    const [x, y] = at(to, number(e, "x", NaN), number(e, "y", NaN));
    const [a, b, c, d] = to;
    const [across, up] = [Math.hypot(a, b), Math.hypot(c, d)];
    const r = number(e, "r") * across;
    if (![x, y, r].every((v) => Math.abs(v) < FARTHEST) || r <= 0)
      return this.aside(e, "a circle without a size or place", where, null);
    if (Math.abs(across - up) > 1e-6 * across) return this.aside(e, "a circle that a block makes oval", where, [x, y]);
    this.circles.push({ layer, x, y, r });
    this.reach(x - r, y - r);
    this.reach(x + r, y + r);
  }

  private stroke(e: Entity, layer: string, points: [number, number][], closed: boolean, where: Where): void {
    if (points.some(([x, y]) => !(Math.abs(x) < FARTHEST && Math.abs(y) < FARTHEST)))
      return this.aside(e, `${e.type}: a point beyond ${FARTHEST} units, or none`, where, null);
    if (points.length < 2) return;
    for (const [x, y] of points) this.reach(x, y);
    const first = points[0]!;
    const last = points.at(-1)!;
    // Many draw a frame as a line that comes back to where it began.
    const meets = points.length > 3 && Math.hypot(first[0] - last[0], first[1] - last[1]) < MEETS;
    const flat = points.flat();
    if (closed || meets) {
      if (points.length > 2) this.outlines.push(outlineOf(layer, flat));
    } else this.strokes.push({ layer, points: flat });
  }

  private text(layer: string, to: Affine, { x, y, h, text }: Omit<TextIn, "layer">): void {
    const [px, py] = at(to, x, y);
    const [, , c, d] = to;
    const high = h * Math.hypot(c, d);
    if (text === "" || ![px, py, high].every((v) => Math.abs(v) < FARTHEST)) return;
    this.texts.push({ layer, x: px, y: py, h: high, text: text.slice(0, MOST_TEXT) });
  }

  private reach(x: number, y: number): void {
    this.boxes.at(-1)?.add(x, y);
  }

  private insert(e: Entity, attributes: readonly Entity[], where: Where): void {
    const layer = this.count(e, where);
    const name = textOf(e.block).trim();
    const key = name.toLowerCase();
    const block = this.blocks.get(key);
    const plane = this.plane(e, where);
    const place: [number, number] = [number(e, "x"), number(e, "y")];
    const told = Object.fromEntries(
      attributes.flatMap((a) => {
        const text =
          textOf((a.text as { string?: string } | undefined)?.string) ||
          textOf((a.mtext as { string?: string } | undefined)?.string);
        const [line] = plainLines(text, false);
        const tag = textOf(a.tag).trim();
        return line !== undefined && tag !== "" && tag !== "__proto__" ? [[tag, line.slice(0, MOST_TEXT)]] : [];
      }),
    );
    if (!plane) return this.aside(e, "a block aslant", where, null);
    if (!block) return this.aside(e, `the block ${name}, which is not in the file`, where, at(plane, ...place));
    if (typeof block.xref === "string" && block.xref !== "" && block.entities.length === 0)
      return this.aside(e, `the block ${name}, which is in another file`, where, at(plane, ...place));
    if (where.inside.includes(key)) return this.aside(e, `the block ${name} in itself`, where, at(plane, ...place));
    if (where.depth >= DEEPEST)
      return this.aside(e, `a block within more than ${DEEPEST} others`, where, at(plane, ...place));
    const columns = Math.max(1, number(e, "columnCount", 1));
    const rows = Math.max(1, number(e, "rowCount", 1));
    const [sx, sy] = [number(e, "scaleX", 1) || 1, number(e, "scaleY", 1) || 1];
    const turn = (number(e, "rotation") / 360) * TURN;
    const [cos, sin] = [round(Math.cos(turn)), round(Math.sin(turn))];
    // Empty blocks in endless rows would never be counted by what they draw.
    for (let r = 0; r < rows; r++)
      for (let c = 0; c < columns; c++) {
        if (r + c > 0) this.count(e, where);
        const [ox, oy] = [c * number(e, "columnSpacing"), r * number(e, "rowSpacing")];
        const here: Affine = [cos, sin, -sin, cos, place[0] + ox * cos - oy * sin, place[1] + ox * sin + oy * cos];
        const scaled = within(within(plane, here), [sx, 0, 0, sy, -(block.x ?? 0) * sx, -(block.y ?? 0) * sy]);
        const bounds = new Bounds();
        this.boxes.push(bounds);
        this.all(block.entities, {
          to: scaled,
          layer,
          block: name,
          depth: where.depth + 1,
          inside: [...where.inside, key],
        });
        this.boxes.pop();
        const box = bounds.box();
        // What a block within draws, the one around draws too.
        if (box) {
          this.reach(box.x, box.y);
          this.reach(box.x + box.w, box.y + box.h);
        }
        const [x, y] = at(plane, place[0] + ox * cos - oy * sin, place[1] + ox * sin + oy * cos);
        if (!(Math.abs(x) < FARTHEST && Math.abs(y) < FARTHEST)) continue;
        if (Object.keys(told).length > 0) this.inserted.push({ layer, name, attributes: told, box, x, y });
        if (box && box.w > 0 && box.h > 0) {
          const { x: l, y: b, w, h } = box;
          this.outlines.push({
            layer,
            points: [l, b, l + w, b, l + w, b + h, l, b + h],
            box,
            rect: true,
            around: true,
            among: false,
          });
        }
      }
  }
}

const TURN = 2 * Math.PI;
/** Quarter turns without the dust that sines leave. */
const round = (v: number): number => (Math.abs(v - Math.round(v)) < 1e-12 ? Math.round(v) : v);

class Bounds {
  private left = Infinity;
  private right = -Infinity;
  private low = Infinity;
  private high = -Infinity;

  add(x: number, y: number): void {
    this.left = Math.min(this.left, x);
    this.right = Math.max(this.right, x);
    this.low = Math.min(this.low, y);
    this.high = Math.max(this.high, y);
  }

  box(): Box | null {
    if (this.left > this.right) return null;
    return { x: this.left, y: this.low, w: this.right - this.left, h: this.high - this.low };
  }
}

/** An outline with its box, and whether it is just that. */
export function outlineOf(layer: string, points: number[]): Outline {
  const bounds = new Bounds();
  for (let i = 0; i < points.length; i += 2) bounds.add(points[i]!, points[i + 1]!);
  const box = bounds.box()!;
  return { layer, points, box, rect: isBox(points, box), around: false, among: false };
}

/** Every point lies on the box, and its sides run along it: the area they enclose is that of the box. */
function isBox(points: readonly number[], { w, h }: Box): boolean {
  let twice = 0;
  for (let i = 0; i < points.length; i += 2) {
    const j = (i + 2) % points.length;
    twice += points[i]! * points[j + 1]! - points[j]! * points[i + 1]!;
  }
  return w > 0 && h > 0 && Math.abs(Math.abs(twice) / 2 - w * h) <= 1e-3 * w * h;
}

/** Corners of a polyline with the arcs between them made corners. `bulge`: tangent of a quarter of the angle of the arc to the next corner. */
function bent(corners: readonly { x: number; y: number; bulge: number }[], closed: boolean) {
  const points: [number, number][] = [];
  const last = corners.length - (closed ? 0 : 1);
  for (const [i, { x, y, bulge }] of corners.entries()) {
    points.push([x, y]);
    const next = corners[(i + 1) % corners.length]!;
    if (bulge === 0 || !Number.isFinite(bulge) || i >= last) continue;
    const angle = 4 * Math.atan(bulge);
    const chord = Math.hypot(next.x - x, next.y - y);
    if (chord === 0) continue;
    const r = chord / 2 / Math.sin(angle / 2);
    // The middle lies beside the chord, on its left where the arc turns left by less than half.
    const off = r * Math.cos(angle / 2);
    const cx = (x + next.x) / 2 - (off * (next.y - y)) / chord;
    const cy = (y + next.y) / 2 + (off * (next.x - x)) / chord;
    const from = Math.atan2(y - cy, x - cx);
    const steps = Math.max(2, Math.ceil((Math.abs(angle) / TURN) * TURN_STEPS));
    for (let s = 1; s < steps; s++) {
      const a = from + (angle * s) / steps;
      points.push([cx + Math.abs(r) * Math.cos(a), cy + Math.abs(r) * Math.sin(a)]);
    }
  }
  return { points, closed };
}

/** Letters are about so wide, in heights. */
const LETTER = 0.8;

/** A text of one line, with its middle: from where it is aligned. */
function lineOf(e: Entity): Omit<TextIn, "layer"> {
  const [text = ""] = plainLines(textOf(e.string), false);
  const h = number(e, "textHeight", 1);
  const turn = (number(e, "rotation") / 360) * TURN;
  const [align, rise] = [number(e, "hAlign"), number(e, "vAlign")];
  const second = (align !== 0 || rise !== 0) && typeof e.x2 === "number";
  const [x, y] = second ? [number(e, "x2"), number(e, "y2")] : [number(e, "x", NaN), number(e, "y", NaN)];
  const wide = text.length * h * LETTER * number(e, "relScaleX", 1);
  // Left, middle, right; aligned and fitted texts (3, 5) run from the one point to the other.
  const along = align === 2 ? -wide / 2 : align === 0 ? wide / 2 : 0;
  const up = align === 4 || rise === 2 ? 0 : rise === 3 ? -h / 2 : h / 2;
  const between = second && (align === 3 || align === 5);
  const [bx, by] = between ? [(x + number(e, "x")) / 2, (y + number(e, "y")) / 2] : [x, y];
  const [cos, sin] = [Math.cos(turn), Math.sin(turn)];
  return { x: bx + along * cos - up * sin, y: by + along * sin + up * cos, h, text };
}

/** The lines of a long text, each with its middle. */
function longText(e: Entity): Omit<TextIn, "layer">[] {
  const lines = plainLines(textOf(e.string), true);
  const h = number(e, "nominalTextHeight", 1);
  const place = number(e, "attachmentPoint", 1);
  const turned = typeof e.columnHeights === "number" ? (e.columnHeights / 360) * TURN : null;
  const turn = turned ?? Math.atan2(number(e, "xAxisY"), number(e, "xAxisX", 1));
  const step = h * 1.6 * number(e, "lineSpacingFactor", 1);
  const whole = (lines.length - 1) * step + h;
  // Attached by the top, the middle or the foot; on the left, in the middle, on the right.
  const top = place <= 3 ? 0 : place <= 6 ? whole / 2 : whole;
  const column = (place - 1) % 3;
  const [cos, sin] = [Math.cos(turn), Math.sin(turn)];
  return lines.map((text, i) => {
    const wide = text.length * h * LETTER;
    const along = column === 0 ? wide / 2 : column === 2 ? -wide / 2 : 0;
    const up = top - h / 2 - i * step;
    return {
      x: number(e, "x", NaN) + along * cos - up * sin,
      y: number(e, "y", NaN) + along * sin + up * cos,
      h,
      text,
    };
  });
}
