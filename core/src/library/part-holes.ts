import { frameOfHole } from "../design/hole-frame";
import type { LibraryPart } from "./library";
import type { Hole, Slot } from "../design/model";
import { hundredths, nextName, shareOf, snap, type Snapped } from "./part-shape";

/** Setting holes and slots on the body of a part. Lengths in mm; a hole goes by its middle, whatever its kind. */

/** Kinds of holes that are set and changed here; any other shape is drawn and can be moved. */
export const HOLE_KINDS = ["round", "thread", "countersunk", "slot", "rect", "knockout"] as const;
export type HoleKind = (typeof HOLE_KINDS)[number];

/** A hole of a part without any: for a screw M4. */
const FIRST: Hole = { kind: "round", x: 0, y: 0, d: 4.5 };

export function middleOf(hole: Hole): { x: number; y: number } {
  const { x, y, w, h } = frameOfHole(hole);
  // A turned slot goes by the frame it says.
  if (hole.kind === "slot" || hole.kind === "rect")
    return { x: hundredths(hole.x + hole.w / 2), y: hundredths(hole.y + hole.h / 2) };
  return hole.kind === "polygon" ? { x: hundredths(x + w / 2), y: hundredths(y + h / 2) } : { x: hole.x, y: hole.y };
}

/** The same hole with its middle elsewhere. */
export function movedTo(hole: Hole, x: number, y: number): Hole {
  const from = middleOf(hole);
  const [dx, dy] = [x - from.x, y - from.y];
  if (hole.kind === "polygon")
    return { ...hole, points: hole.points.map((p) => ({ x: hundredths(p.x + dx), y: hundredths(p.y + dy) })) };
  return { ...hole, x: hundredths(hole.x + dx), y: hundredths(hole.y + dy) };
}

/** A hole of another kind at the same place, about as large. */
export function asKind(hole: Hole, kind: HoleKind): Hole {
  if (hole.kind === kind) return hole;
  const { x, y } = middleOf(hole);
  const f = frameOfHole(hole);
  const d = Math.max(0.1, hundredths(Math.min(f.w, f.h)));
  switch (kind) {
    case "round":
    case "knockout":
      return { kind, x, y, d };
    case "thread":
      return { kind, x, y, thread: `M${Math.max(1, Math.floor(d))}` };
    case "countersunk":
      return { kind, x, y, d, head: hundredths(2 * d) };
    case "slot":
    case "rect": {
      const w = f.w > f.h ? hundredths(f.w) : hundredths(2 * d);
      return { kind, x: hundredths(x - w / 2), y: hundredths(y - d / 2), w, h: d };
    }
  }
}

/** Holes lie beside a body too: its lugs. Drawn to edges and middles of the body, and into line with other holes. */
const snapHole = (part: LibraryPart, x: number, y: number, reach: number): Snapped =>
  snap(part, x, y, reach, {
    marks: (part.holes ?? []).map((hole, i) => ({ ...middleOf(hole), name: `hole ${i + 1}` })),
    outside: true,
  });

/** A hole where the front is tapped, like the one before it. @returns it is the last one of the part */
export function tapHole(part: LibraryPart, x: number, y: number, reach: number): { part: LibraryPart; at: Snapped } {
  const at = snapHole(part, x, y, reach);
  const before = (part.holes ?? []).findLast((h) => h.kind !== "polygon") ?? FIRST;
  return { part: { ...part, holes: [...(part.holes ?? []), movedTo(before, at.x, at.y)] }, at };
}

/** More holes like one, in a row. @param count how many there are then, the first among them */
export const holeRow = (first: Hole, count: number, dx: number, dy: number): Hole[] => {
  const { x, y } = middleOf(first);
  return Array.from({ length: Math.max(0, count - 1) }, (_, i) => movedTo(first, x + (i + 1) * dx, y + (i + 1) * dy));
};

/** Holes together with their mirror images, left for right; one that is its own image stays one. */
export function withMirrored({ w = 0, holes = [] }: LibraryPart): Hole[] {
  const there = new Set(holes.map((h) => JSON.stringify(middleOf(h))));
  const images = holes.flatMap((hole) => {
    const { x, y } = middleOf(hole);
    const to = { x: hundredths(w - x), y };
    if (there.has(JSON.stringify(to))) return [];
    there.add(JSON.stringify(to));
    if (hole.kind === "polygon")
      return [{ ...hole, points: hole.points.map((p) => ({ x: hundredths(w - p.x), y: p.y })) }];
    const turned = hole.kind === "slot" && hole.angle ? { ...hole, angle: -hole.angle } : hole;
    return [movedTo(turned, to.x, to.y)];
  });
  return [...holes, ...images];
}

/** Holes of a like part on another body: their middles in the same shares of width and height. */
export function holesOf(like: LibraryPart, { w, h }: LibraryPart): Hole[] {
  return (like.holes ?? []).map((hole) => {
    const { x, y } = middleOf(hole);
    return movedTo(hole, shareOf(x, like.w, w), shareOf(y, like.h, h));
  });
}

/** A slot for modules where the front is tapped: as high as the one before it, under the next name. */
export function tapSlot(
  part: LibraryPart,
  x: number,
  y: number,
  reach: number,
): { part: LibraryPart; name: string; at: Snapped } {
  const slots = part.slots ?? [];
  const at = snap(part, x, y, reach, { marks: slots.map((s) => ({ x: s.x, y: s.y, name: `slot ${s.name}` })) });
  const before = slots.at(-1);
  const taken = new Set(slots.map((s) => s.name));
  let name = nextName(before?.name ?? "");
  while (taken.has(name)) name = nextName(name);
  const slot: Slot = {
    ...(before?.accepts ? { accepts: before.accepts } : {}),
    name,
    x: at.x,
    y: at.y,
    z: before?.z ?? part.d ?? 0,
  };
  return { part: { ...part, slots: [...slots, slot] }, name, at };
}
