import type { Point } from "../design/geometry";
import { toMm, toNm } from "../design/tolerance";
import type { PieceEdge, RoutesResult, WireEnd, WireRoute } from "./result";

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
      /** It goes round the body of the device. */
      round: boolean;
      /** Devices before the duct that it goes round or over. */
      past: readonly string[];
    }
  | { kind: "along"; mm: number; duct: string; pieces: string[]; heading: Heading | null }
  | { kind: "joint"; mm: number; ducts: [string, string] }
  | {
      kind: "crossing";
      mm: number;
      tag: string;
      way: "hinge" | "wall" | "edge";
      loopMm: number;
      ducts: [string, string];
    }
  /** `past`: devices it goes round, or over their front. */
  | { kind: "direct"; mm: number; goes: "straight" | "over the front" | "round"; past: readonly string[] };

export type Heading = "up" | "down" | "left" | "right";

interface Stop extends Point {
  face: string;
}

const OPPOSITE: Record<Heading, Heading> = { up: "down", down: "up", left: "right", right: "left" };

const heading = (a: Point, b: Point): Heading | null => {
  const dx = b.x - a.x;
  const dy = b.y - a.y;
  if (dx === 0 && dy === 0) return null;
  return Math.abs(dx) >= Math.abs(dy) ? (dx > 0 ? "right" : "left") : dy > 0 ? "up" : "down";
};

/**
 * The direction in which a wire leaves its pin: the pin's exit where it led to the duct or round the
 * body, else wherever the duct lies.
 */
function leaving(end: WireEnd): Heading | null {
  const { exit, entry } = end;
  if (exit && exit !== "out" && (entry!.round || !end.marks.includes("exit-met-nothing"))) return exit;
  return heading(end, entry!);
}

/** Lengths are multiples of a nanometre; sums of such are brought back to one. */
const exact = (mm: number): number => toMm(toNm(mm));

const square = (a: Point, b: Point): number => Math.abs(a.x - b.x) + Math.abs(a.y - b.y);

/** One stretch of the way on the ducts. `by`: the edge it takes; −1 for a step aside at the place of a pin. */
interface Leg {
  by: number;
  from: Stop;
  to: Stop;
  /** Ducts it leads from and to, for a joint or a step aside. */
  ducts: [string, string];
  mm: number;
}

const pieceOf = (result: RoutesResult, edge: number): PieceEdge => result.edges[edge] as PieceEdge;

/** The legs of a way from entry to entry, in order. */
function legs(result: RoutesResult, wire: WireRoute): Leg[] {
  const { from, to, way } = wire;
  if (!from?.entry || !to?.entry || !way) return [];
  const list: Leg[] = [];
  // Steps aside at the place of a pin, from its entry on.
  const aside = (end: WireEnd, over: readonly number[]): { at: Stop; piece: number; legs: Leg[] } => {
    let at: Stop = { ...end.entry!, face: end.face };
    let piece = end.entry!.edge;
    const steps: Leg[] = [];
    for (const next of over) {
      const [p, q] = [pieceOf(result, piece), pieceOf(result, next)];
      const [a, b] = [result.nodes[p.a]!, result.nodes[q.a]!];
      const flat = a.y === result.nodes[p.b]!.y;
      const beside: Stop = { face: at.face, x: flat ? at.x : b.x, y: flat ? b.y : at.y };
      const mm = exact(square(at, beside) + Math.abs(a.z - b.z));
      steps.push({ by: -1, from: at, to: beside, ducts: [p.duct, q.duct], mm });
      at = beside;
      piece = next;
    }
    return { at, piece, legs: steps };
  };
  const start = aside(from, way.start ?? []);
  const end = aside(to, way.end ?? []);
  list.push(...start.legs);
  let at = start.at;
  const go = (by: number, next: Stop): void => {
    const edge = result.edges[by]!;
    const piece = edge.kind === "piece";
    list.push({ by, from: at, to: next, ducts: ["", ""], mm: piece ? exact(square(at, next)) : edge.mm });
    at = next;
  };
  if (way.first < 0) {
    go(start.piece, end.at);
  } else {
    let node = way.first;
    go(start.piece, result.nodes[node]!);
    for (const e of way.edges) {
      const edge = result.edges[e]!;
      const turned = edge.b === node;
      node = turned ? edge.a : edge.b;
      go(e, result.nodes[node]!);
      if (edge.kind !== "piece") list[list.length - 1]!.ducts = turned ? [edge.ducts[1], edge.ducts[0]] : edge.ducts;
    }
    go(end.piece, end.at);
  }
  for (const leg of end.legs.reverse())
    list.push({ ...leg, from: leg.to, to: leg.from, ducts: [leg.ducts[1], leg.ducts[0]] });
  return list;
}

/** The steps of a wire's way; empty when it has none. Their lengths add up to entries, way and nothing else. */
export function stepsOf(result: RoutesResult, wire: WireRoute): Step[] {
  const { from, to } = wire;
  if (!from || !to || wire.lengthMm === null) return [];
  if (!from.entry || !to.entry) {
    const { points, devices } = wire.open!;
    const front = Math.max(...points.map((p) => p.z)) > Math.max(from.z, to.z);
    const goes = devices.length === 0 ? "straight" : front ? "over the front" : "round";
    return [{ kind: "direct", mm: wire.terms!.way, goes, past: devices }];
  }
  const entry = (end: WireEnd, word: "from" | "to"): Step => {
    const { planeMm, heightMm, edge, round } = end.entry!;
    const out = leaving(end);
    return {
      kind: "entry",
      end: word,
      mm: exact(planeMm + heightMm),
      planeMm,
      heightMm,
      duct: pieceOf(result, edge).duct,
      heading: word === "from" || out === null ? out : OPPOSITE[out],
      round: round !== undefined && planeMm > exact(square(end, end.entry!)),
      past: end.entry!.others?.devices ?? [],
    };
  };
  const steps: Step[] = [entry(from, "from")];
  for (const { by, from: before, to: after, ducts, mm } of legs(result, wire)) {
    const edge = by < 0 ? null : result.edges[by]!;
    if (!edge || edge.kind === "joint") {
      steps.push({ kind: "joint", mm, ducts });
    } else if (edge.kind === "crossing") {
      const { tag, way, loopMm } = edge;
      steps.push({ kind: "crossing", mm, tag, way, loopMm, ducts });
    } else {
      const head = heading(before, after);
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
  steps.push(entry(to, "to"));
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
  const steps = stepsOf(result, wire);
  let duct = "";
  // A duct that is only crossed, with no stretch along it, is named all the same.
  const arrive = (tag: string, next: Step | undefined): void => {
    if (tag === duct) return;
    duct = tag;
    if (next?.kind !== "along") words.push(`through ${tag}`);
  };
  steps.forEach((s, i) => {
    const lead = "heading" in s && s.heading ? `${s.heading} ` : "";
    switch (s.kind) {
      case "direct":
        words.push(`${s.goes}${s.goes === "round" ? ` ${s.past.join(" and ")}` : ""} to ${wire.to!.device}`);
        break;
      case "entry":
        if (s.end === "to") {
          arrive(s.duct, undefined);
          const past = s.past.length > 0 ? `past ${s.past.join(" and ")}, ` : "";
          words.push(`${past}${s.round ? `round ${wire.to!.device}, ` : ""}${lead}to ${wire.to!.device}`);
        } else {
          duct = s.duct;
          const past = s.past.length > 0 ? `past ${s.past.join(" and ")} ` : "";
          words.push(`${lead}${s.round ? `round ${wire.from!.device} ` : ""}${past}into ${s.duct}`);
        }
        break;
      case "along":
        duct = s.duct;
        words.push(`${lead}along ${s.duct}`);
        break;
      case "crossing":
        arrive(s.ducts[0], undefined);
        words.push(`${OVER[s.way]} ${s.tag}`);
        // What lies behind it is named by the next step, unless that leads on at once.
        if (steps[i + 1]?.kind !== "entry") arrive(s.ducts[1], steps[i + 1]);
        break;
      case "joint":
        arrive(s.ducts[0], undefined);
        arrive(s.ducts[1], steps[i + 1]);
        break;
    }
  });
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
  if (!from || !to || wire.lengthMm === null) return [];
  const on =
    (face: string) =>
    (p: Point): Stop => ({ face, x: p.x, y: p.y });
  const way = legs(result, wire);
  const list: Stop[] = [
    ...outOf(from).map(on(from.face)),
    ...way.map((l) => l.from),
    ...way.slice(-1).map((l) => l.to),
    ...outOf(to).reverse().map(on(to.face)),
  ];
  if (wire.open) return [{ face: from.face, points: wire.open.points.map(({ x, y }) => ({ x, y })) }];
  const stretches: Stretch[] = [];
  for (const stop of list) {
    const last = stretches[stretches.length - 1];
    const point = { x: stop.x, y: stop.y };
    if (!last || last.face !== stop.face) {
      stretches.push({ face: stop.face, points: [point] });
      continue;
    }
    const before = last.points[last.points.length - 1]!;
    // Wires turn square: where a step goes both across and along, it goes up or down first.
    if (before.x !== point.x && before.y !== point.y) last.points.push({ x: before.x, y: point.y });
    last.points.push(point);
  }
  return stretches;
}

/** Corners of the way from a pin to its entry, the entry left out: in its exit direction first. */
function outOf(end: WireEnd): Point[] {
  const { entry, exit } = end;
  if (!entry) return [end];
  if (entry.round) return [end, ...entry.round];
  if (entry.others) return [end, ...entry.others.points];
  return exit === "left" || exit === "right" ? [end, { x: entry.x, y: end.y }] : [end];
}

/** Where a wire lies in a piece, mm from the start of the piece, lower first. */
export interface Lie {
  edge: number;
  fromMm: number;
  toMm: number;
}

/** Every stretch of duct a wire lies in, in order of its way. */
export function liesOf(result: RoutesResult, wire: WireRoute): Lie[] {
  return legs(result, wire).flatMap(({ by, from, to }) => {
    const edge = by < 0 ? null : result.edges[by]!;
    if (edge?.kind !== "piece") return [];
    const start = result.nodes[edge.a]!;
    const [p, q] = [exact(square(start, from)), exact(square(start, to))];
    return p === q ? [] : [{ edge: by, fromMm: Math.min(p, q), toMm: Math.max(p, q) }];
  });
}

/** Pieces a wire lies in, as edge numbers. */
export const piecesIn = (result: RoutesResult, wire: WireRoute): number[] => [
  ...new Set(liesOf(result, wire).map((l) => l.edge)),
];

/** Wires that lie in a piece, in order of the list. O(wires · pieces on a way). */
export const wiresIn = (result: RoutesResult, edge: number): WireRoute[] =>
  result.wires.filter((w) => w.way !== null && piecesIn(result, w).includes(edge));

/** Wires that lie at the worst place of a piece. O(wires · pieces on a way). */
export function wiresAtWorst(result: RoutesResult, edge: number): WireRoute[] {
  const piece = pieceOf(result, edge);
  if (!piece.worst) return [];
  const duct = result.ducts.find((d) => d.tag === piece.duct)!;
  const offset = exact(square(result.nodes[pieceOf(result, duct.pieces[0]!).a]!, result.nodes[piece.a]!));
  const middle = (piece.worst.fromMm + piece.worst.toMm) / 2 - offset;
  return result.wires.filter(
    (w) => w.way !== null && liesOf(result, w).some((l) => l.edge === edge && l.fromMm < middle && middle < l.toMm),
  );
}
