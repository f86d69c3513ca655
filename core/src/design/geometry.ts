import type { Design, Enclosure, Exit, FaceKind, Turn } from "./model";
import { byText, mapBy, pushTo } from "./order";

export interface Point {
  x: number;
  y: number;
}

export interface Point3 extends Point {
  z: number;
}

export interface Rect extends Point {
  w: number;
  h: number;
}

/** A block with its edges along the axes of the space of a row of enclosures. */
export interface Box {
  min: Point3;
  max: Point3;
}

/** A flat surface. Its frame is given in the space shared by a row of neighbouring enclosures. */
export interface Face {
  /** `+A1/door` */
  id: string;
  enclosure: string;
  kind: FaceKind;
  w: number;
  h: number;
  /** Tag of the leftmost enclosure of the row: points of two faces compare only within one row. */
  row: string;
  origin: Point3;
  /** Unit vectors of the face's x and y, and of z: off the surface, to where the wires run. */
  u: Point3;
  v: Point3;
  n: Point3;
}

export const faceId = (enclosure: string, kind: FaceKind): string => `${enclosure}/${kind}`;

/** What a face is of: of `+A1/plate` what stands before the last stroke. */
export const enclosureOf = (face: string): string => face.slice(0, Math.max(0, face.lastIndexOf("/")));

const parted = new WeakMap<readonly { face: string }[], Map<string, { face: string }[]>>();

/** Of things on faces those of one enclosure, in their order. A list must not change; it is gone through once, whoever asks how often. */
export function inEnclosure<T extends { face: string }>(list: readonly T[], enclosure: string): readonly T[] {
  let by = parted.get(list);
  if (!by) {
    parted.set(list, (by = new Map()));
    for (const one of list) pushTo(by, enclosureOf(one.face), one);
  }
  return (by.get(enclosure) ?? []) as T[];
}

const vec = (x: number, y: number, z: number): Point3 => ({ x, y, z });

/**
 * Frames of the faces of a plain enclosure. The enclosure's own frame has its origin at the lower
 * left front corner of the body, x right, y up, z to the rear. Every face is drawn as seen from
 * outside (the plate: from the front), and its z points inwards (the plate's: to the front).
 *
 *          y  roof                 left: x runs from rear to front
 *          │ ╱     rear            right: x runs from front to rear
 *          │╱____________ x        roof: y runs to the rear, base: y runs to the front
 *          front (door)            rear: x runs from right to left
 */
function frame(
  e: Enclosure,
  kind: FaceKind,
): { w: number; h: number; o: Point3; u: Point3; v: Point3; n: Point3 } | null {
  const right = vec(1, 0, 0);
  const up = vec(0, 1, 0);
  switch (kind) {
    case "plate":
      return e.plate
        ? {
            w: e.plate.w,
            h: e.plate.h,
            o: vec((e.w - e.plate.w) / 2, (e.h - e.plate.h) / 2, e.plate.setback),
            u: right,
            v: up,
            n: vec(0, 0, -1),
          }
        : null;
    case "door":
      return { w: e.w, h: e.h, o: vec(0, 0, 0), u: right, v: up, n: vec(0, 0, 1) };
    case "left":
      return { w: e.d, h: e.h, o: vec(0, 0, e.d), u: vec(0, 0, -1), v: up, n: vec(1, 0, 0) };
    case "right":
      return { w: e.d, h: e.h, o: vec(e.w, 0, 0), u: vec(0, 0, 1), v: up, n: vec(-1, 0, 0) };
    case "roof":
      return { w: e.w, h: e.d, o: vec(0, e.h, 0), u: right, v: vec(0, 0, 1), n: vec(0, -1, 0) };
    case "base":
      return { w: e.w, h: e.d, o: vec(0, 0, e.d), u: right, v: vec(0, 0, -1), n: up };
    case "rear":
      return { w: e.w, h: e.h, o: vec(e.w, 0, e.d), u: vec(-1, 0, 0), v: up, n: vec(0, 0, -1) };
  }
}

export interface RowPlace {
  row: string;
  /** Distance of the enclosure's left side from the row's left side. */
  x: number;
}

/**
 * Where each enclosure stands in its row. A ring of neighbours is cut at the lowest tag; of two that
 * claim one neighbour the lower tag has it.
 */
export function rowPlaces(enclosures: readonly Enclosure[]): Map<string, RowPlace> {
  const byTag = mapBy(enclosures, (e) => e.tag);
  const ordered = [...byTag.values()].sort((a, b) => byText(a.tag, b.tag));
  const hasLeft = new Set(ordered.map((e) => e.neighbourRight).filter((t) => t !== undefined));
  const places = new Map<string, RowPlace>();
  const walk = (start: Enclosure): void => {
    let x = 0;
    for (let e: Enclosure | undefined = start; e && !places.has(e.tag);) {
      places.set(e.tag, { row: start.tag, x });
      x += e.w;
      e = e.neighbourRight === undefined ? undefined : byTag.get(e.neighbourRight);
    }
  };
  for (const e of ordered) if (!hasLeft.has(e.tag)) walk(e);
  for (const e of ordered) if (!places.has(e.tag)) walk(e);
  return places;
}

/** Every face of every enclosure, by id. Sizes follow the design's overrides. */
export function facesOf(design: Pick<Design, "enclosures" | "faces">): Map<string, Face> {
  const faces = new Map<string, Face>();
  const rows = rowPlaces(design.enclosures);
  const kinds: FaceKind[] = ["plate", "door", "left", "right", "roof", "base", "rear"];
  const overrides = mapBy(design.faces, (o) => faceId(o.enclosure, o.kind));
  for (const e of mapBy(design.enclosures, (e) => e.tag).values()) {
    const place = rows.get(e.tag)!;
    for (const kind of kinds) {
      const f = frame(e, kind);
      const id = faceId(e.tag, kind);
      if (!f) continue;
      const own = overrides.get(id);
      faces.set(id, {
        id,
        enclosure: e.tag,
        kind,
        w: own?.w ?? f.w,
        h: own?.h ?? f.h,
        row: place.row,
        origin: vec(f.o.x + place.x, f.o.y, f.o.z),
        u: f.u,
        v: f.v,
        n: f.n,
      });
    }
  }
  return faces;
}

const dot = (a: Point3, b: Point3): number => a.x * b.x + a.y * b.y + a.z * b.z;

/** From a face's coordinates to the space of its row. */
export function toSpace(face: Face, p: Point3): Point3 {
  const { origin: o, u, v, n } = face;
  return vec(
    o.x + u.x * p.x + v.x * p.y + n.x * p.z,
    o.y + u.y * p.x + v.y * p.y + n.y * p.z,
    o.z + u.z * p.x + v.z * p.y + n.z * p.z,
  );
}

/** From the space of a face's row to the face's own coordinates. */
export function toFace(face: Face, p: Point3): Point3 {
  const d = vec(p.x - face.origin.x, p.y - face.origin.y, p.z - face.origin.z);
  return vec(dot(d, face.u), dot(d, face.v), dot(d, face.n));
}

export const addTurns = (a: Turn, b: Turn): Turn => ((a + b) % 360) as Turn;

/** Rotates by quarter turns, counter-clockwise, about the origin. Exact. */
export function turnPoint(p: Point, turn: Turn): Point {
  switch (turn) {
    case 0:
      return { x: p.x, y: p.y };
    case 90:
      return { x: -p.y, y: p.x };
    case 180:
      return { x: -p.x, y: -p.y };
    case 270:
      return { x: p.y, y: -p.x };
  }
}

const ROUND: readonly Exit[] = ["right", "up", "left", "down"];

export function turnExit(exit: Exit, turn: Turn): Exit {
  return exit === "out" ? "out" : ROUND[(ROUND.indexOf(exit) + turn / 90) % 4]!;
}

/** A body on a face: centre, turn, unturned size, and the turned outline. */
export interface Body {
  centre: Point;
  turn: Turn;
  w: number;
  h: number;
  outline: Rect;
  /** Height of the body's underside above the face. */
  z: number;
}

export function bodyAt(centre: Point, w: number, h: number, turn: Turn, z: number): Body {
  const across = turn === 90 || turn === 270;
  const ow = across ? h : w;
  const oh = across ? w : h;
  return { centre, turn, w, h, z, outline: { x: centre.x - ow / 2, y: centre.y - oh / 2, w: ow, h: oh } };
}

/** A point given on the unturned body, from its lower left corner, in the face's coordinates. */
export function onBody(body: Body, p: Point3): Point3 {
  const r = turnPoint({ x: p.x - body.w / 2, y: p.y - body.h / 2 }, body.turn);
  return { x: body.centre.x + r.x, y: body.centre.y + r.y, z: body.z + p.z };
}

export const overlaps = (a: Rect, b: Rect, by = 0): boolean =>
  a.x + a.w > b.x + by && b.x + b.w > a.x + by && a.y + a.h > b.y + by && b.y + b.h > a.y + by;

export const within = (inner: Rect, outer: Rect, slack = 0): boolean =>
  inner.x >= outer.x - slack &&
  inner.y >= outer.y - slack &&
  inner.x + inner.w <= outer.x + outer.w + slack &&
  inner.y + inner.h <= outer.y + outer.h + slack;
