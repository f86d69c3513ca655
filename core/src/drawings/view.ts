import Flatbush from "flatbush";
import { groupBy } from "../design/grouped";
import type { Hole, Run } from "../design/model";
import type { Box, CircleIn, Drawing, Outline, TextIn } from "./read";
import { meaningIn, type DrawingSaid, type Meaning, type ViewSaid } from "./said";

/**
 * What one view of a drawing shows, in millimetres of its face: ducts, rails, devices, holes. Who stands where is decided by frames and
 * the tags in them:
 * - a duct or rail is a frame on a layer of such, or one much longer than wide, told apart by its width, where the layer says nothing;
 * - a device is the largest frame that holds its tag, no other one, and no duct or rail; where no frame holds a tag, the nearest one
 *   without a tag within two heights of its letters;
 * - a hole is a circle or a frame on a layer of holes.
 */

/** A duct or a rail. */
export interface BarDrawn {
  kind: "duct" | "rail";
  /** What is written in it; null where nothing is. */
  name: string | null;
  run: Run;
  x: number;
  y: number;
  length: number;
  across: number;
}

/** A device, or a whole strip of terminals. */
export interface DeviceDrawn {
  tag: string;
  strip: boolean;
  /** As the drawing names its part; null where it does not. */
  part: string | null;
  /** Its frame on the face. */
  box: Box;
}

/** What was not taken, with its place on the sheet. */
export interface NotTaken {
  layer: string;
  x: number;
  y: number;
  found: string;
  wanted: string;
}

export interface ViewRead {
  w: number;
  h: number;
  bars: BarDrawn[];
  devices: DeviceDrawn[];
  holes: Hole[];
  notTaken: NotTaken[];
}

/** Who is known from lists. */
export interface Known {
  /** The device or strip that a text means; null: none. */
  thing(text: string): { tag: string; strip: boolean } | null;
  /** Whether lists say all devices there are. */
  whole: boolean;
  isPart(text: string): boolean;
}

/** A frame so many times longer than wide, and so long, may be a duct or a rail where its layer does not say it. mm */
const LONG = 4;
const LEAST_LONG = 150;
const RAIL_ACROSS: readonly [number, number][] = [
  [34, 36.5],
  [14, 16],
];
const DUCT_ACROSS = [15, 150] as const;
/** A tag outside of all frames means one as near as this, in heights of its letters. */
const NEAR = 2;
/** Rounded so that what drawings add by lengths of their own does not show. mm */
const STEP = 0.01;
/** A frame that fills so much of the face is the face, or a border in it. */
const FACE_SHARE = 0.9;
/** A frame that belongs to another reaches beyond it by no more. mm */
const BEYOND = 0.5;

const mm2 = (v: number): number => Math.round(v / STEP) / Math.round(1 / STEP) + 0;

const middle = ({ x, y, w, h }: Box): [number, number] => [x + w / 2, y + h / 2];
const holds = (b: Box, x: number, y: number): boolean => x >= b.x && x <= b.x + b.w && y >= b.y && y <= b.y + b.h;
const covers = (outer: Box, inner: Box, by = 0): boolean =>
  inner.x >= outer.x - by &&
  inner.y >= outer.y - by &&
  inner.x + inner.w <= outer.x + outer.w + by &&
  inner.y + inner.h <= outer.y + outer.h + by;

/** A frame of the sheet on the face. */
interface Framed {
  outline: Outline;
  meaning: Meaning;
  box: Box;
}

/** A tag where it is written. */
interface Tagged {
  tag: string;
  strip: boolean;
  part: string | null;
  x: number;
  y: number;
  h: number;
  layer: string;
  /** The block it is an attribute of draws this. */
  box: Box | null;
}

/** Boxes that can be asked for. */
function indexOf(boxes: readonly Box[]): (x0: number, y0: number, x1: number, y1: number) => number[] {
  if (boxes.length === 0) return () => [];
  const index = new Flatbush(boxes.length);
  for (const b of boxes) index.add(b.x, b.y, b.x + b.w, b.y + b.h);
  index.finish();
  return (x0, y0, x1, y1) => index.search(x0, y0, x1, y1);
}

/** Reads a view. O(n log n) for n things drawn, where frames do not lie in one another by the thousand. */
export function readView(drawing: Drawing, said: DrawingSaid, view: ViewSaid, known: Known): ViewRead {
  const reading = new Reading(drawing, said, view, known);
  const tags = reading.tags();
  const bars = reading.bars(tags);
  const devices = reading.devices(tags, bars);
  return {
    w: mm2(view.frame.w * view.mm),
    h: mm2(view.frame.h * view.mm),
    bars: reading.named(bars, tags),
    devices,
    holes: reading.holes(),
    notTaken: reading.notTaken,
  };
}

class Reading {
  readonly notTaken: NotTaken[] = [];
  private readonly drawing: Drawing;
  private readonly said: DrawingSaid;
  private readonly view: ViewSaid;
  private readonly known: Known;
  private readonly frames: Framed[];
  private readonly texts: (TextIn & { u: number; v: number })[];

  constructor(drawing: Drawing, said: DrawingSaid, view: ViewSaid, known: Known) {
    this.drawing = drawing;
    this.said = said;
    this.view = view;
    this.known = known;
    const [w, h] = [view.frame.w * view.mm, view.frame.h * view.mm];
    this.frames = drawing.outlines.flatMap((outline): Framed[] => {
      const meaning = this.meaning(outline.layer);
      if (meaning === "nothing" || !this.inView(...middle(outline.box))) return [];
      const box = this.boxOf(outline.box);
      return box.w > FACE_SHARE * w && box.h > FACE_SHARE * h ? [] : [{ outline, meaning, box }];
    });
    this.texts = drawing.texts.flatMap((t) => {
      if (this.meaning(t.layer) === "nothing" || !this.inView(t.x, t.y)) return [];
      const [u, v] = this.on(t.x, t.y);
      return [{ ...t, u, v }];
    });
  }

  private meaning(layer: string): Meaning {
    return meaningIn(this.said, layer);
  }

  private inView(x: number, y: number): boolean {
    return holds(this.view.frame, x, y);
  }

  /** A point of the sheet on the face. */
  private on(x: number, y: number): [number, number] {
    const { frame, mm, mirrored } = this.view;
    return [(mirrored ? frame.x + frame.w - x : x - frame.x) * mm, (y - frame.y) * mm];
  }

  private boxOf(box: Box): Box {
    const { mm, mirrored } = this.view;
    const [x, y] = this.on(mirrored ? box.x + box.w : box.x, box.y);
    return { x, y, w: box.w * mm, h: box.h * mm };
  }

  private miss(layer: string, x: number, y: number, found: string, wanted: string): void {
    this.notTaken.push({ layer, x, y, found, wanted });
  }

  /** Circles as frames: what is round on a door is drawn so. */
  private rounds(): Framed[] {
    return this.drawing.circles.flatMap(({ layer, x, y, r }): Framed[] => {
      if (!this.inView(x, y)) return [];
      const box = { x: x - r, y: y - r, w: 2 * r, h: 2 * r };
      const outline: Outline = { layer, points: [], box, rect: false, around: false, among: false };
      return [{ outline, meaning: this.meaning(layer), box: this.boxOf(box) }];
    });
  }

  /** Ducts and rails, of those that lie in one another the outer one. */
  bars(tags: readonly Tagged[]): (BarDrawn & { box: Box; layer: string })[] {
    const found: (BarDrawn & { box: Box; layer: string })[] = [];
    const tagged = this.tagsOwnedBy(tags);
    const order = [...this.frames].sort((a, b) => b.box.w * b.box.h - a.box.w * a.box.h);
    for (const { outline, meaning, box } of order) {
      const kind = this.kindOf(outline, meaning, box, tagged);
      if (kind === null) continue;
      if (found.some((f) => f.kind === kind && covers(f.box, box, BEYOND))) continue;
      if (!outline.rect) {
        const [x, y] = middle(outline.box);
        this.miss(outline.layer, x, y, `a ${kind} that is no rectangle`, "Draw it as rectangles that meet.");
        continue;
      }
      const run: Run = box.w >= box.h ? "right" : "up";
      const [length, across] = run === "right" ? [box.w, box.h] : [box.h, box.w];
      const { layer } = outline;
      found.push({
        kind,
        name: null,
        run,
        x: mm2(box.x),
        y: mm2(box.y),
        length: mm2(length),
        across: mm2(across),
        box,
        layer,
      });
    }
    const bodies = indexOf(found.map((f) => f.box));
    this.openOn(["ducts", "rails"], (x, y) => bodies(x - BEYOND, y - BEYOND, x + BEYOND, y + BEYOND).length > 0);
    return found;
  }

  /** Whether a long frame holds a tag that is its own: on a rail lie tags of devices, each in a smaller frame that reaches beyond it. */
  private tagsOwnedBy(tags: readonly Tagged[]): (frame: Box) => boolean {
    const tagsIn = indexOf(tags.map(({ x, y }) => ({ x, y, w: 0, h: 0 })));
    const boxes = this.frames.map((f) => f.box);
    const framesAt = indexOf(boxes);
    return (frame) => {
      const area = frame.w * frame.h;
      const smaller = (i: number): boolean => boxes[i]!.w * boxes[i]!.h < area && !covers(frame, boxes[i]!, BEYOND);
      return tagsIn(frame.x, frame.y, frame.x + frame.w, frame.y + frame.h).some((i) => {
        const { x, y } = tags[i]!;
        return !framesAt(x, y, x, y).some(smaller);
      });
    };
  }

  private kindOf(
    { around, among }: Outline,
    meaning: Meaning,
    box: Box,
    tagged: (frame: Box) => boolean,
  ): "duct" | "rail" | null {
    const [length, across] = [Math.max(box.w, box.h), Math.min(box.w, box.h)];
    // The room between ducts is a rectangle of their sides too, and so is all of them together.
    if (among && (across > DUCT_ACROSS[1] || length < 2 * across)) return null;
    if (meaning === "ducts") return "duct";
    if (meaning === "rails") return "rail";
    if (meaning !== "by shape" || around) return null;
    if (length < LONG * across || length < LEAST_LONG) return null;
    // A strip of terminals is long too: its tag, or that of a device, says so.
    if (tagged(box)) return null;
    if (RAIL_ACROSS.some(([least, most]) => across >= least && across <= most)) return "rail";
    return across >= DUCT_ACROSS[0] && across <= DUCT_ACROSS[1] ? "duct" : null;
  }

  /** Lines on layers of ducts or rails that close to nothing. */
  private openOn(meanings: readonly Meaning[], inside: (x: number, y: number) => boolean): void {
    const byLayer = new Map<string, { x: number; y: number; count: number }>();
    for (const { layer, points, side } of this.drawing.open) {
      const missed = !side && meanings.includes(this.meaning(layer)) && this.inView(points[0]!, points[1]!);
      // Lines drawn in a body only show what it looks like.
      if (!missed || inside(...this.on(points[0]!, points[1]!))) continue;
      const known = byLayer.get(layer);
      if (known) known.count++;
      else byLayer.set(layer, { x: points[0]!, y: points[1]!, count: 1 });
    }
    for (const [layer, { x, y, count }] of byLayer)
      this.miss(
        layer,
        x,
        y,
        count === 1 ? "a line that closes to no frame" : `${count} lines that close to no frame`,
        "Close them, or say that the layer is nothing.",
      );
  }

  /** Tags of devices: attributes of blocks first, then texts. */
  tags(): Tagged[] {
    const tags: Tagged[] = [];
    for (const { layer, attributes, box, x, y } of this.drawing.blocks) {
      const [cx, cy] = box ? middle(box) : [x, y];
      if (this.meaning(layer) === "nothing" || !this.inView(cx, cy)) continue;
      const values = Object.entries(attributes);
      const thing = values.map(([, v]) => this.known.thing(v)).find((t) => t !== null);
      const [u, v] = this.on(cx, cy);
      if (thing) {
        const part = values.map(([, t]) => t).find((t) => this.known.isPart(t)) ?? null;
        tags.push({ ...thing, part, x: u, y: v, h: 0, layer, box: box && this.boxOf(box) });
      } else {
        const told = values.map(([name, t]) => `${name} ${t}`).join(", ");
        this.miss(layer, cx, cy, `a block with ${told}`, this.wantedTag());
      }
    }
    const blocks = tags.length;
    for (const { text, u, v, h, layer, x, y } of this.texts) {
      const thing = this.known.thing(text);
      if (thing) tags.push({ ...thing, part: null, x: u, y: v, h: h * this.view.mm, layer, box: null });
      // Only what is surely a tag is missed: a drawing has many words.
      else if (/^[-+=][-+=\p{L}\d.]*\p{L}+[\d.]+[\p{L}\d.]*$/u.test(text))
        this.miss(layer, x, y, text, this.wantedTag());
    }
    return once(tags, blocks, (t) => this.again(t));
  }

  private wantedTag(): string {
    return this.known.whole ? "a tag that stands in the lists" : "the tag of a device, such as -K1";
  }

  private again({ tag, layer, x, y }: Tagged): void {
    this.miss(layer, ...this.back(x, y), `${tag} again`, "each device once on a face");
  }

  /** A point of the face on the sheet. */
  private back(u: number, v: number): [number, number] {
    const { frame, mm, mirrored } = this.view;
    return [mirrored ? frame.x + frame.w - u / mm : frame.x + u / mm, frame.y + v / mm];
  }

  devices(tags: readonly Tagged[], bars: readonly { box: Box }[]): DeviceDrawn[] {
    const bodies = [...this.frames, ...this.rounds()].filter(
      (f) => f.meaning === "by shape" || f.meaning === "devices",
    );
    const barBoxes = bars.map((b) => b.box);
    const barsIn = indexOf(barBoxes);
    const places = tags.map(({ x, y }) => ({ x, y, w: 0, h: 0 }));
    const tagsIn = indexOf(places);
    // A frame that holds a duct, or is one, or holds two devices, is no device.
    const lone = bodies.flatMap((f) => {
      const [x0, y0, x1, y1] = [f.box.x, f.box.y, f.box.x + f.box.w, f.box.y + f.box.h];
      if (barsIn(x0, y0, x1, y1).some((i) => covers(f.box, barBoxes[i]!, BEYOND))) return [];
      const inside = new Set(tagsIn(x0, y0, x1, y1).map((i) => tags[i]!.tag));
      return inside.size <= 1 ? [{ ...f, tag: [...inside][0] ?? null }] : [];
    });
    const byTag = groupBy(lone, (f) => f.tag);
    const found: DeviceDrawn[] = [];
    const taken = new Set<Framed>();
    const unframed: Tagged[] = [];
    for (const t of tags) {
      const own = byTag.get(t.tag)?.sort((a, b) => b.box.w * b.box.h - a.box.w * a.box.h)[0];
      const box = own?.box ?? t.box;
      if (!box || box.w <= 0 || box.h <= 0) {
        unframed.push(t);
        continue;
      }
      found.push(drawn(t, box));
    }
    // Those whose tag stands beside them: outermost frames, the nearest pair first.
    const free = (byTag.get(null) ?? []).filter((f) => !f.outline.around || f.meaning === "devices");
    const boxes = free.map((f) => f.box);
    const freeIn = indexOf(boxes);
    const pairs = unframed.flatMap((t) => {
      const reach = NEAR * t.h + t.h / 2;
      return freeIn(t.x - reach, t.y - reach, t.x + reach, t.y + reach)
        .map((i) => ({ t, f: free[i]!, off: away(boxes[i]!, t), size: boxes[i]!.w * boxes[i]!.h }))
        .filter(({ off, f }) => off <= reach && Math.min(f.box.w, f.box.h) >= t.h);
    });
    pairs.sort((a, b) => a.off - b.off || b.size - a.size);
    const done = new Set<Tagged>();
    for (const { t, f } of pairs) {
      if (done.has(t) || taken.has(f)) continue;
      done.add(t);
      taken.add(f);
      // With the largest frame around that holds no tag either.
      const outer = freeIn(...middle(f.box), ...middle(f.box))
        .map((i) => free[i]!)
        .filter((o) => !taken.has(o) && covers(o.box, f.box))
        .sort((a, b) => b.box.w * b.box.h - a.box.w * a.box.h)[0];
      if (outer) taken.add(outer);
      found.push(drawn(t, (outer ?? f).box));
    }
    for (const t of unframed)
      if (!done.has(t))
        this.miss(
          t.layer,
          ...this.back(t.x, t.y),
          `${t.tag} without a frame`,
          "a closed frame around it, or the layer it is on",
        );
    const bodyAt = indexOf(found.map((d) => d.box));
    this.openOn(["devices"], (x, y) => bodyAt(x - BEYOND, y - BEYOND, x + BEYOND, y + BEYOND).length > 0);
    return found;
  }

  /** What is written in ducts and rails: a name of their own. */
  named(bars: readonly (BarDrawn & { box: Box; layer: string })[], tags: readonly Tagged[]): BarDrawn[] {
    const devices = new Set(tags.map((t) => t.tag));
    const index = indexOf(this.texts.map(({ u, v }) => ({ x: u, y: v, w: 0, h: 0 })));
    return bars.map(({ box, layer: _, ...bar }) => {
      const inside = index(box.x, box.y, box.x + box.w, box.y + box.h).map((i) => this.texts[i]!.text);
      const name = inside.find((t) => NAME.test(t) && !devices.has(t) && this.known.thing(t) === null);
      return { ...bar, name: name ?? null };
    });
  }

  holes(): Hole[] {
    const circles = this.drawing.circles.filter((c) => this.meaning(c.layer) === "holes" && this.inView(c.x, c.y));
    const round = new Map<string, Hole>();
    for (const c of circles) {
      const hole = this.round(c);
      round.set(JSON.stringify(hole), hole);
    }
    const frames = this.frames.filter((f) => f.meaning === "holes" && !f.outline.around);
    const boxes = frames.map((f) => f.box);
    const framesIn = indexOf(boxes);
    // Cutouts side by side are not one large one.
    const together = ({ outline, box: b }: Framed): boolean =>
      outline.among && framesIn(b.x, b.y, b.x + b.w, b.y + b.h).some((i) => boxes[i] !== b && covers(b, boxes[i]!));
    const cut = frames.filter((f) => !together(f)).map((f) => this.cut(f));
    return [...round.values(), ...cut];
  }

  private round({ x, y, r }: CircleIn): Hole {
    const [u, v] = this.on(x, y);
    return { kind: "round", x: mm2(u), y: mm2(v), d: mm2(2 * r * this.view.mm) };
  }

  private cut({ outline, box }: Framed): Hole {
    if (outline.rect) return { kind: "rect", x: mm2(box.x), y: mm2(box.y), w: mm2(box.w), h: mm2(box.h) };
    const points: { x: number; y: number }[] = [];
    for (let i = 0; i < outline.points.length; i += 2) {
      const [u, v] = this.on(outline.points[i]!, outline.points[i + 1]!);
      points.push({ x: mm2(u), y: mm2(v) });
    }
    // Seen from the other side it runs the other way round.
    return { kind: "polygon", points: this.view.mirrored ? points.reverse() : points };
  }
}

/** A name of a duct or rail: letters and a number. */
const NAME = /^\p{L}{1,4}[-. ]?\d{1,4}\p{L}?$/u;

const drawn = ({ tag, strip, part }: Tagged, { x, y, w, h }: Box): DeviceDrawn => ({
  tag,
  strip,
  part,
  box: { x: mm2(x), y: mm2(y), w: mm2(w), h: mm2(h) },
});

/** How far a text stands off a frame. */
function away({ x, y, w, h }: Box, t: { x: number; y: number }): number {
  const [dx, dy] = [Math.max(x - t.x, t.x - x - w, 0), Math.max(y - t.y, t.y - y - h, 0)];
  return Math.hypot(dx, dy);
}

/** Each tag once: a block and a text in it may both say it. */
function once(tags: readonly Tagged[], blocks: number, again: (tag: Tagged) => void): Tagged[] {
  const seen = new Map<string, Tagged>();
  for (const [i, t] of tags.entries()) {
    const before = seen.get(t.tag);
    if (!before) seen.set(t.tag, t);
    else if (i < blocks || !before.box || !holds(before.box, t.x, t.y)) again(t);
  }
  return [...seen.values()];
}
