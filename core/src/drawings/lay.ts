import { groupBy } from "../design/grouped";
import {
  NOT_TOLD,
  type Crossing,
  type Device,
  type Duct,
  type Enclosure,
  type FaceOverride,
  type Part,
  type Rail,
  type Strip,
  type Turn,
} from "../design/model";
import type { Box, Drawing } from "./read";
import { meaningIn, type DrawingSaid, type EnclosureSaid, type ViewSaid } from "./said";
import { readView, type BarDrawn, type DeviceDrawn, type Known, type NotTaken, type ViewRead } from "./view";

/** A drawing of which it is known what it shows. */
export interface MatchedDrawing {
  /** As the file is called. */
  name: string;
  drawing: Drawing;
  said: DrawingSaid;
}

/** What drawings add to a design, and what of them was not taken. */
export interface Laid {
  enclosures: Enclosure[];
  faces: FaceOverride[];
  rails: Rail[];
  ducts: Duct[];
  crossings: Crossing[];
  /** Devices that no list has. */
  devices: Device[];
  notTaken: (NotTaken & { name: string })[];
  /** By the names of drawings what their views show, in their order. */
  views: Map<string, { view: ViewSaid; read: ViewRead }[]>;
  /** Enclosures that lists name, the one named most first. */
  named: string[];
}

/** What lists say: devices and strips are placed in it. */
export interface Listed {
  devices: ReadonlyMap<string, Device>;
  strips: ReadonlyMap<string, Strip>;
  parts: ReadonlyMap<string, Part>;
  /** Whether lists say all devices there are. */
  whole: boolean;
}

/** A tag as it is written in drawings, with its sign or without it, with what stands before it or without. */
const WRITTEN = /^((?:[=+][^-:\s]+)*)(-?)([^-:=+\s]\S*)$/;

/** Who a text in a drawing means. */
export function knownFrom({ devices, strips, parts, whole }: Listed, enclosure: string): Known {
  // Of several with one tag, those that stand in this enclosure.
  const here = new Map<string, string>();
  for (const full of [...devices.keys(), ...strips.keys()]) {
    const [, before = "", , name] = WRITTEN.exec(full) ?? [];
    if (before === "" || name === undefined) continue;
    const [stands] = /\+[^=+]+/.exec(before) ?? [];
    if ((stands ?? devices.get(full)?.enclosure) === enclosure) here.set(`-${name}`, here.has(`-${name}`) ? "" : full);
  }
  return {
    thing(text) {
      const [, before = "", sign = "", name] = WRITTEN.exec(text) ?? [];
      if (name === undefined) return null;
      const [stands] = /\+[^=+]+/.exec(before) ?? [];
      // `+A2-K1` written on the plate of +A1 is another one.
      if (stands !== undefined && stands !== enclosure) return null;
      const written = `${before}-${name}`;
      const bare = `-${name}`;
      const inFull = before !== "" && (devices.has(written) || strips.has(written));
      const tag = inFull ? written : here.get(bare) || bare;
      if (strips.has(tag)) return { tag, strip: true };
      if (devices.has(tag)) return { tag, strip: false };
      return !whole && sign === "-" && /^\p{L}+\d/u.test(name) ? { tag, strip: false } : null;
    },
    whole,
    isPart: (text) => parts.has(text) || [...devices.values()].some((d) => d.part === text),
  };
}

/** A body may be drawn so much larger or smaller than its part says. mm */
const SIZE_OFF = 1;
/** A duct or rail may be drawn so much wider or narrower than its part says. mm */
const ACROSS_OFF = 1;

/**
 * Lays out a design by drawings. What lists say of devices and strips is changed in place: where they stand.
 * @param drawings in the order in which they count: a face that two of them show is that of the first
 */
export function layOut(drawings: readonly MatchedDrawing[], listed: Listed): Laid {
  const laying = new Laying(listed, drawings);
  for (const one of drawings) laying.drawing(one);
  return laying.laid;
}

class Laying {
  readonly laid: Laid = {
    enclosures: [],
    faces: [],
    rails: [],
    ducts: [],
    crossings: [],
    devices: [],
    notTaken: [],
    views: new Map(),
    named: [],
  };
  private readonly listed: Listed;
  /** Of all drawings. */
  private readonly views: readonly ViewSaid[];
  private readonly said = new Map<string, EnclosureSaid>();
  /** Faces that a view shows already. */
  private readonly faces = new Set<string>();
  private readonly placed = new Set<string>();
  private readonly names = new Set<string>();

  constructor(listed: Listed, drawings: readonly MatchedDrawing[]) {
    this.listed = listed;
    this.laid.named = namedMost([...listed.devices.values()].flatMap((d) => d.enclosure ?? []));
    // What one drawing does not say of an enclosure another one may.
    for (const { said } of drawings)
      for (const e of said.enclosures) this.said.set(e.tag, { ...e, ...without(this.said.get(e.tag) ?? {}) });
    const views = drawings.flatMap(({ said }) => said.views);
    this.views = views;
    for (const tag of new Set(views.map((v) => v.enclosure))) {
      const made = enclosureOf(tag, this.said.get(tag), views);
      if (made) {
        this.laid.enclosures.push(made);
        this.laid.crossings.push(...crossingsOf(made, this.said.get(tag)?.crossings ?? []));
      }
    }
  }

  drawing({ name, drawing, said }: MatchedDrawing): void {
    const miss = (n: NotTaken): void => void this.laid.notTaken.push({ name, ...n });
    const views: { view: ViewSaid; read: ViewRead }[] = [];
    for (const view of said.views) {
      const read = readView(drawing, said, view, knownFrom(this.listed, view.enclosure));
      views.push({ view, read });
      const { enclosure, face: kind, frame } = view;
      const face = `${enclosure}/${kind}`;
      const refused = this.refusal(view, face);
      if (refused) {
        miss({ layer: "", x: frame.x, y: frame.y, ...refused });
        continue;
      }
      this.faces.add(face);
      for (const n of read.notTaken) miss(n);
      if (read.holes.length > 0) this.laid.faces.push({ enclosure, kind, holes: read.holes });
      const rails = this.bars(face, read, said);
      for (const d of read.devices) {
        const found = this.place(d, face, rails);
        if (found !== null) miss({ layer: "", ...this.at(view, d.box), ...found });
      }
    }
    for (const s of drawing.setAside.filter((one) => one.matters)) {
      const inView = s.at && said.views.some(({ frame: f }) => inside(f, s.at!));
      if ((inView || (s.block !== null && said.views.length > 0)) && meaningIn(said, s.layer) !== "nothing")
        miss({
          layer: s.layer,
          x: s.at?.x ?? 0,
          y: s.at?.y ?? 0,
          found: `${s.what}${s.count > 1 ? `, ${s.count} times` : ""}${s.block === null ? "" : `, in the block ${s.block}`}`,
          wanted: "lines, polylines, circles and texts: break it up, or say that its layer is nothing",
        });
    }
    this.laid.views.set(name, views);
  }

  /** Why a view cannot be taken; null where it can. */
  private refusal({ enclosure, face: kind }: ViewSaid, face: string): { found: string; wanted: string } | null {
    if (this.faces.has(face)) return { found: `${face} again`, wanted: "one view of each face" };
    const e = this.laid.enclosures.find((one) => one.tag === enclosure);
    const said = this.said.get(enclosure);
    if (!e) {
      const front = this.views.some((v) => v.enclosure === enclosure && isFront(v));
      const lacks = (["w", "h", "d"] as const)
        .filter((k) => said?.[k] === undefined && !(front && k !== "d"))
        .map((k) => MEASURES[k]);
      return { found: face, wanted: `of ${enclosure} its ${lacks.join(", ")}` };
    }
    if (kind === "plate" && !e.plate)
      return {
        found: face,
        wanted: `of ${enclosure} how far its plate stands behind the door, how thick it is and of what`,
      };
    return null;
  }

  /** Ducts and rails of a view; each has a name of its own. */
  private bars(face: string, { bars }: ViewRead, said: DrawingSaid): Rail[] {
    // As one reads a plate: from the top, from the left.
    const order = [...bars].sort((a, b) => b.y - a.y || a.x - b.x);
    const rails: Rail[] = [];
    for (const bar of order) {
      const made: Rail = {
        tag: this.name(bar),
        face,
        x: bar.x,
        y: bar.y,
        run: bar.run,
        length: bar.length,
        part: partOfBar(bar, said) ?? NOT_TOLD,
      };
      if (bar.kind === "rail") {
        rails.push(made);
        this.laid.rails.push(made);
      } else this.laid.ducts.push(made);
    }
    return rails;
  }

  private name({ kind, name }: BarDrawn): string {
    if (name !== null && !this.names.has(name)) {
      this.names.add(name);
      return name;
    }
    const begin = kind === "rail" ? "R" : "D";
    let n = 1;
    while (this.names.has(`${begin}${n}`)) n++;
    this.names.add(`${begin}${n}`);
    return `${begin}${n}`;
  }

  /** Puts a device, or a strip, where it is drawn. @returns what of it is not as its part says */
  private place(
    { tag, strip, part, box }: DeviceDrawn,
    face: string,
    rails: readonly Rail[],
  ): { found: string; wanted: string } | null {
    if (this.placed.has(tag)) return { found: `${tag} again`, wanted: "each device once" };
    this.placed.add(tag);
    const rail = railUnder(box, rails, this.listed.parts);
    if (strip) {
      const s = this.listed.strips.get(tag)!;
      if (!rail) return { found: `strip ${tag} on no rail`, wanted: "a rail under it" };
      s.rail = rail.tag;
      s.at = along(box, rail);
      return null;
    }
    const there = this.listed.devices.get(tag);
    const device: Device = there ?? { tag, part: part ?? NOT_TOLD };
    if (!there) this.laid.devices.push(device);
    if (device.part === NOT_TOLD && part !== null) device.part = part;
    const known = this.listed.parts.get(device.part);
    const { turn, off } = known ? turnOf(box, known) : { turn: 0 as Turn, off: null };
    if (turn !== 0) device.turn = turn;
    device.on = rail ? { rail: rail.tag, x: along(box, rail) } : { face, x: box.x, y: box.y };
    // Where it stands says in which enclosure.
    delete device.enclosure;
    return off === null ? null : { found: `${tag}: ${off}`, wanted: "the size of its part" };
  }

  /** The middle of a box of the face, on the sheet. */
  private at({ frame, mm, mirrored }: ViewSaid, { x, y, w, h }: Box): { x: number; y: number } {
    const [u, v] = [(x + w / 2) / mm, (y + h / 2) / mm];
    return { x: mirrored ? frame.x + frame.w - u : frame.x + u, y: frame.y + v };
  }
}

/** Each text once, the one that stands there most first. */
function namedMost(texts: readonly string[]): string[] {
  const counts = groupBy(texts, (t) => t);
  return [...counts].sort((a, b) => b[1].length - a[1].length).map(([text]) => text);
}

const MEASURES = { w: "width", h: "height", d: "depth" } as const;

const inside = (f: Box, { x, y }: { x: number; y: number }): boolean =>
  x >= f.x && x <= f.x + f.w && y >= f.y && y <= f.y + f.h;

/** Without what is undefined: it says nothing. */
function without<T extends object>(values: T): T {
  return Object.fromEntries(Object.entries(values).filter(([, v]) => v !== undefined)) as T;
}

/** As wide and high as its enclosure. */
const isFront = ({ face }: ViewSaid): boolean => face === "door" || face === "rear";

/** An enclosure as it is said; its width and height may be those of a view of its door or back. */
function enclosureOf(tag: string, said: EnclosureSaid | undefined, views: readonly ViewSaid[]): Enclosure | null {
  const front = views.find((v) => v.enclosure === tag && isFront(v));
  const size = (of: "w" | "h"): number | undefined =>
    said?.[of] ?? (front && Math.round(front.frame[of] * front.mm * 100) / 100);
  const [w, h] = [size("w"), size("h")];
  if (!said || w === undefined || h === undefined || said.d === undefined) return null;
  const { d, setback, thickness, material, sheet, hinge } = said;
  const plate = views.find((v) => v.enclosure === tag && v.face === "plate");
  const whole = plate && setback !== undefined && thickness !== undefined && material !== undefined;
  return {
    tag,
    w,
    h,
    d,
    ...(whole
      ? {
          plate: {
            w: Math.round(plate.frame.w * plate.mm * 100) / 100,
            h: Math.round(plate.frame.h * plate.mm * 100) / 100,
            setback,
            thickness,
            material,
          },
        }
      : {}),
    ...(sheet ? { sheet } : {}),
    ...(hinge ? { hinge } : {}),
  };
}

/** Where wires are held on both sides of the hinge: so far in from the edge of door and plate, and off them. mm */
const HELD_IN = 30;
const HELD_OFF = 25;

/** Wires cross beside the hinge, at the heights that are said, from the nearest duct of the plate to that of the door. */
function crossingsOf({ tag, w, plate, hinge }: Enclosure, heights: readonly number[]): Crossing[] {
  if (!plate) return [];
  const side = (w - plate.w) / 2;
  const across = (x: number): number => (hinge === "right" ? w - x : x);
  return heights.map((y, i) => ({
    tag: `${tag}/hinge${heights.length > 1 ? ` ${i + 1}` : ""}`,
    kind: "hinge",
    from: { face: `${tag}/door` },
    to: { face: `${tag}/plate` },
    enclosure: tag,
    points: [
      { x: across(HELD_IN), y, z: HELD_OFF },
      { x: across(side + HELD_IN), y, z: plate.setback - HELD_OFF },
    ],
  }));
}

export const partOfBar = ({ kind, across }: BarDrawn, { bars }: DrawingSaid): string | undefined =>
  bars.find((b) => b.kind === kind && Math.abs(b.across - across) <= ACROSS_OFF)?.part;

/** Of the rails that run behind a body the one that has most of it. A rail that only touches its edge carries it not. */
function railUnder(box: Box, rails: readonly Rail[], parts: ReadonlyMap<string, Part>): Rail | null {
  let best: Rail | null = null;
  let most = 0;
  for (const rail of rails) {
    const across = parts.get(rail.part)?.h ?? 35;
    const right = rail.run === "right";
    const middle = (right ? rail.y : rail.x) + across / 2;
    const [low, high] = right ? [box.y, box.y + box.h] : [box.x, box.x + box.w];
    const [from, until] = right ? [box.x, box.x + box.w] : [box.y, box.y + box.h];
    const start = right ? rail.x : rail.y;
    const shared = Math.min(until, start + rail.length) - Math.max(from, start);
    if (middle > low && middle < high && shared > (until - from) / 2 && shared > most) [best, most] = [rail, shared];
  }
  return best;
}

/** How far along a rail a body begins. */
const along = (box: Box, rail: Rail): number =>
  Math.round((rail.run === "right" ? box.x - rail.x : box.y - rail.y) * 100) / 100;

/** How a body is turned, by its size; `off`: it is drawn in another one. */
function turnOf({ w, h }: Box, part: Part): { turn: Turn; off: string | null } {
  // A list of parts may leave sizes out.
  const [pw, ph] = [part.w, part.h] as (number | undefined)[];
  if (pw === undefined || ph === undefined) return { turn: 0, off: null };
  const fits = (a: number, b: number): boolean => Math.abs(a - w) <= SIZE_OFF && Math.abs(b - h) <= SIZE_OFF;
  if (fits(pw, ph)) return { turn: 0, off: null };
  if (fits(ph, pw)) return { turn: 90, off: null };
  const on = Math.abs(pw - w) + Math.abs(ph - h) <= Math.abs(ph - w) + Math.abs(pw - h) ? 0 : 90;
  return { turn: on, off: `drawn ${w} × ${h} mm, its part ${part.number} has ${pw} × ${ph}` };
}
