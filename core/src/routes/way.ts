import type { Point } from "../design/geometry";
import type { RoutesResult, WireRoute } from "./result";

/** One thing a wire does on its way, in order from its first end to its second. */
export type Step =
  | {
      kind: "entry";
      mm: number;
      planeMm: number;
      heightMm: number;
      duct: string;
      heading: Heading | null;
      end: "from" | "to";
    }
  | { kind: "along"; mm: number; duct: string; pieces: string[]; heading: Heading | null }
  | { kind: "joint"; mm: number; ducts: [string, string] }
  | { kind: "crossing"; mm: number; tag: string; way: "hinge" | "wall" | "edge"; loopMm: number }
  | { kind: "direct"; mm: number };

export type Heading = "up" | "down" | "left" | "right";

interface Stop extends Point {
  face: string;
}

const heading = (a: Point, b: Point): Heading | null => {
  const dx = b.x - a.x;
  const dy = b.y - a.y;
  if (dx === 0 && dy === 0) return null;
  return Math.abs(dx) >= Math.abs(dy) ? (dx > 0 ? "right" : "left") : dy > 0 ? "up" : "down";
};

/** Lengths are multiples of a micrometre; sums of such are brought back to one. */
const exact = (mm: number): number => Math.round(mm * 1000) / 1000;

const square = (a: Point, b: Point): number => Math.abs(a.x - b.x) + Math.abs(a.y - b.y);

/** Corner points of the way on the ducts, each with the edge that led there. */
function stops(result: RoutesResult, wire: WireRoute): { at: Stop; by: number | null }[] {
  const { from, to, way } = wire;
  if (!from?.entry || !to?.entry || !way) return [];
  const list: { at: Stop; by: number | null }[] = [{ at: { ...from.entry, face: from.face }, by: null }];
  if (way.first >= 0) {
    let node = way.first;
    list.push({ at: result.nodes[node]!, by: from.entry.edge });
    for (const e of way.edges) {
      const edge = result.edges[e]!;
      node = edge.a === node ? edge.b : edge.a;
      list.push({ at: result.nodes[node]!, by: e });
    }
  }
  list.push({ at: { ...to.entry, face: to.face }, by: to.entry.edge });
  return list;
}

/** The steps of a wire's way; empty when it has none. Their lengths add up to entries, way and nothing else. */
export function stepsOf(result: RoutesResult, wire: WireRoute): Step[] {
  const { from, to } = wire;
  if (!from || !to || wire.lengthMm === null) return [];
  if (!from.entry || !to.entry) return [{ kind: "direct", mm: wire.terms!.way }];
  const pieceDuct = (e: number): string => (result.edges[e] as { duct: string }).duct;
  const steps: Step[] = [
    {
      kind: "entry",
      end: "from",
      mm: exact(from.entry.planeMm + from.entry.heightMm),
      planeMm: from.entry.planeMm,
      heightMm: from.entry.heightMm,
      duct: pieceDuct(from.entry.edge),
      heading: heading(from, from.entry),
    },
  ];
  const list = stops(result, wire);
  for (let i = 1; i < list.length; i++) {
    const { at, by } = list[i]!;
    const edge = result.edges[by!]!;
    const before = list[i - 1]!.at;
    if (edge.kind === "joint") {
      steps.push({ kind: "joint", mm: edge.mm, ducts: edge.ducts });
    } else if (edge.kind === "crossing") {
      steps.push({ kind: "crossing", mm: edge.mm, tag: edge.tag, way: edge.way, loopMm: edge.loopMm });
    } else {
      const mm = exact(square(before, at));
      const head = heading(before, at);
      const last = steps[steps.length - 1]!;
      if (mm === 0) continue;
      if (last.kind === "along" && last.duct === edge.duct && last.heading === head) {
        last.mm = exact(last.mm + mm);
        last.pieces.push(edge.id);
      } else {
        steps.push({ kind: "along", mm, duct: edge.duct, pieces: [edge.id], heading: head });
      }
    }
  }
  steps.push({
    kind: "entry",
    end: "to",
    mm: exact(to.entry.planeMm + to.entry.heightMm),
    planeMm: to.entry.planeMm,
    heightMm: to.entry.heightMm,
    duct: pieceDuct(to.entry.edge),
    heading: heading(to.entry, to),
  });
  return steps;
}

const OVER: Record<"hinge" | "wall" | "edge", string> = {
  hinge: "over hinge",
  wall: "through wall",
  edge: "round edge",
};

/** The way in words: "up into W3, left along W1, over hinge D1, down to -S1". Empty when there is none. */
export function wayInWords(result: RoutesResult, wire: WireRoute): string {
  const words: string[] = [];
  for (const s of stepsOf(result, wire)) {
    switch (s.kind) {
      case "direct":
        words.push(`straight to ${wire.to!.device}`);
        break;
      case "entry":
        words.push(
          s.end === "from"
            ? `${s.heading ? `${s.heading} ` : ""}into ${s.duct}`
            : `${s.heading ? `${s.heading} ` : ""}to ${wire.to!.device}`,
        );
        break;
      case "along":
        words.push(`${s.heading ? `${s.heading} ` : ""}along ${s.duct}`);
        break;
      case "crossing":
        words.push(`${OVER[s.way]} ${s.tag}`);
        break;
      case "joint":
        break;
    }
  }
  return words.join(", ");
}

/** A stretch of a wire's way on one face, for drawing. */
export interface Stretch {
  face: string;
  points: Point[];
}

/** The way as lines on faces; where it crosses from face to face a new stretch begins. */
export function stretchesOf(result: RoutesResult, wire: WireRoute): Stretch[] {
  const { from, to } = wire;
  if (!from || !to) return [];
  if (wire.lengthMm === null) return [];
  const list: Stop[] = [
    { face: from.face, x: from.x, y: from.y },
    ...stops(result, wire).map((s) => s.at),
    { face: to.face, x: to.x, y: to.y },
  ];
  const stretches: Stretch[] = [];
  for (const stop of list) {
    const last = stretches[stretches.length - 1];
    const point = { x: stop.x, y: stop.y };
    if (!last || last.face !== stop.face) {
      stretches.push({ face: stop.face, points: [point] });
      continue;
    }
    const before = last.points[last.points.length - 1]!;
    // Wires turn square: where a step goes both across and along, it goes across first.
    if (before.x !== point.x && before.y !== point.y) last.points.push({ x: before.x, y: point.y });
    last.points.push(point);
  }
  return stretches;
}

/** Pieces a wire lies in, as edge numbers. */
export function piecesIn(result: RoutesResult, wire: WireRoute): number[] {
  const list = stops(result, wire);
  const found = new Set<number>();
  for (let i = 1; i < list.length; i++) {
    const { at, by } = list[i]!;
    if (result.edges[by!]!.kind === "piece" && square(list[i - 1]!.at, at) > 0) found.add(by!);
  }
  return [...found];
}

/** Wires that lie in a piece, in order of the list. O(wires · pieces on a way). */
export function wiresIn(result: RoutesResult, edge: number): WireRoute[] {
  return result.wires.filter((w) => w.way !== null && piecesIn(result, w).includes(edge));
}
