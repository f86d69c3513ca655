import type { Resolved } from "../wiring/conductors";
import type { Colour, Crossing, Exit, NetClass, Strand } from "../design/model";
import type { OpenPoint } from "../design/open-points";
import type { EndTreatment } from "../design/model";

export interface NetworkNode {
  face: string;
  /** On the centre line of its duct, in the face's coordinates, mm. */
  x: number;
  y: number;
  z: number;
}

export type FillState = "ok" | "watch" | "over";

/** A stretch of duct between two joints (or an end). Its fill is that of its worst place. */
export interface PieceEdge {
  kind: "piece";
  a: number;
  b: number;
  mm: number;
  /** Duct tag and count from the duct's start: `W3.2` */
  id: string;
  duct: string;
  insideMm2: number;
  /** Wires that lie in it, anywhere along it. */
  wires: number;
  /** At the worst place. */
  usedMm2: number;
  fillPercent: number;
  state: FillState;
  /** Where most lies, mm from the start of the duct, and how many wires lie there; null when it is empty. */
  worst: { fromMm: number; toMm: number; wires: number } | null;
}

/** The step from the centre line of one duct to that of another. */
export interface JointEdge {
  kind: "joint";
  a: number;
  b: number;
  mm: number;
  ducts: [string, string];
}

export interface CrossingEdge {
  kind: "crossing";
  a: number;
  b: number;
  /** Guided length with its steps into the ducts, loop not included. */
  mm: number;
  tag: string;
  way: Crossing["kind"];
  loopMm: number;
  /** Ducts it leads from and to: those of its nodes. */
  ducts: [string, string];
  /** Over a hinge: what the swing of the door needs between the two places where the bundle is held. */
  swing?: CrossingSwing;
}

export interface CrossingSwing {
  /** Farthest the two places come apart, and the way that is guided between them. */
  needMm: number;
  guidedMm: number;
  atDeg: number;
  /** How far the door opens. */
  openDeg: number;
  side: "left" | "right";
  /** The enclosure does not say on which side; the nearer one was taken. */
  sideGuessed: boolean;
  /** Put on top of what is needed; null where the crossing states its loop itself. */
  onTopMm: number | null;
}

export type Edge = PieceEdge | JointEdge | CrossingEdge;

export const MARKS = {
  "no-pin-geometry": "the pin has no position; measured from the middle of the body",
  "pin-by-table": "the pin has no position; it stands where the shop's table of pins nobody has drawn says",
  "exit-unused": "the pin states an exit but no position; the exit was not used",
  "no-exit": "the pin states no exit direction; the nearest duct, or the way over the front, was taken",
  "exit-met-nothing": "no duct in the exit direction within reach; the nearest duct was taken",
  "round-body": "the exit looks away from the duct; led round the body",
  "round-others": "other bodies stand before the duct; led round them or over their front",
  "pin-off-body": "the pin lies far outside its body; measured from there all the same",
  "hinge-guessed": "the enclosure does not say where its hinge is; the side nearer to the crossing was taken",
  "nearer-duct": "the duct in the exit direction was taken, another is much nearer",
  "stump-passed": "the nearest duct leads nowhere; a joined one was taken",
  "crowded-ducts": "more ducts lie on one spot than are looked at; not all ways were tried",
  "crowded-bodies": "more bodies stand about a lead than are gone round; it was led over the front",
  "far-from-duct": "the nearest duct lies beyond the reach",
  "place-unsure": "the place of the device rests on a fallback",
  "no-tail": "the pin states no tail; counted as 0 mm",
  "no-duct-size":
    "a duct on the way states no inside size; its centre line is taken at half its height, its fill is not known",
  "outer-estimated": "outer diameter not in the table; the next larger was taken",
  direct: "direct lead without a duct",
  "direct-over": "direct lead over the front of a body, or round it",
  "detour-fill": "led round a full duct",
  "detour-class": "led apart from a class that may not share a duct",
  "shared-duct": "shares a duct with a class that may not",
  "excluded-duct": "lies in a duct kept for other classes",
  core: "core of a cable, not a lead to be cut",
  "no-colour": "no colour given",
  "no-size": "no cross-section given",
  "no-end-rule": "no rule for the treatment of an end",
  "no-way": "no way between the two pins",
} as const;
export type Mark = keyof typeof MARKS;

/** One end of a wire: where it starts and how it gets into the ducts. */
export interface WireEnd {
  device: string;
  pin: string;
  face: string;
  x: number;
  y: number;
  z: number;
  exit: Exit | null;
  onDoor: boolean;
  /** Index of the piece it enters and the point on the centre line; null for a direct lead or no duct. */
  entry: {
    edge: number;
    x: number;
    y: number;
    planeMm: number;
    heightMm: number;
    /** Corners on the way round the body, from the pin on. */
    round?: { x: number; y: number }[];
    /** Bends on the way round other bodies or over their front, from the pin on, and whose they are. */
    others?: { points: { x: number; y: number; z: number }[]; devices: string[] };
  } | null;
  tailMm: number;
  /** The row of the shop's table, counted from 1, that places its pin. */
  row?: number;
  /** What is to be said of this end: fallbacks, and ways a person may doubt. */
  marks: Mark[];
}

/** What a cut length is the sum of, mm. */
export interface LengthTerms {
  entryFrom: number;
  way: number;
  entryTo: number;
  loops: number;
  tailFrom: number;
  tailTo: number;
  slackFrom: number;
  slackTo: number;
  /** More slack for the width of the duct that the end enters. */
  wideFrom: number;
  wideTo: number;
  /** More slack for bending a thick wire. */
  bendFrom: number;
  bendTo: number;
  reserve: number;
  /** Raise to the shortest lead. */
  raise: number;
  rounding: number;
}

export interface WireRoute {
  id: string;
  net: string | null;
  class: NetClass | null;
  sizeMm2: Resolved<number> | null;
  strand: Strand;
  /** Library part it is cut from. */
  type: string | null;
  outerMm: number | null;
  from: WireEnd | null;
  to: WireEnd | null;
  /** Tags and pins as the design gives them, also when they lead nowhere. */
  fromRef: { device: string; pin: string } | null;
  toRef: { device: string; pin: string } | null;
  lengthMm: number | null;
  terms: LengthTerms | null;
  /**
   * Edges from end to end without the two partly used pieces; `first` is the node where they begin, −1
   * within one piece. `start` and `end`: pieces stepped into sideways at the place of the pin, from its
   * entry on.
   */
  way: { first: number; edges: number[]; start?: number[]; end?: number[] } | null;
  /** The bends of a direct lead, from pin to pin, and the devices it goes round or over; null for all others. */
  open: { points: { x: number; y: number; z: number }[]; devices: string[] } | null;
  /** Set when the way is longer than the shortest one: what that takes from pin to pin, with loops, mm. */
  shortestMm: number | null;
  noWay: string | null;
  endFrom: EndTreatment | null;
  endTo: EndTreatment | null;
  marks: Mark[];
}

export interface DuctFill {
  tag: string;
  face: string;
  /** Indices of its pieces, from its start. */
  pieces: number[];
  worst: number | null;
}

export interface RoutesResult {
  nodes: NetworkNode[];
  edges: Edge[];
  ducts: DuctFill[];
  wires: WireRoute[];
  totalMm: number;
  open: OpenPoint[];
}

const FALLBACKS: ReadonlySet<Mark> = new Set([
  "no-pin-geometry",
  "pin-by-table",
  "pin-off-body",
  "hinge-guessed",
  "exit-unused",
  "no-exit",
  "exit-met-nothing",
  "stump-passed",
  "crowded-ducts",
  "crowded-bodies",
  "far-from-duct",
  "place-unsure",
  "no-tail",
  "no-duct-size",
  "outer-estimated",
]);

/** Marks that stand behind that of a missing colour. */
const BEHIND: ReadonlySet<Mark> = new Set([
  "no-size",
  "no-end-rule",
  "no-way",
  "direct",
  "direct-over",
  "detour-fill",
  "detour-class",
  "shared-duct",
  "excluded-duct",
]);

/** The marks of a wire with that of a colour nobody said: colours are no part of this result. */
export function marksOf(wire: Pick<WireRoute, "marks">, colour: Colour | null): readonly Mark[] {
  if (colour !== null) return wire.marks;
  const at = wire.marks.findIndex((m) => BEHIND.has(m));
  return at < 0 ? [...wire.marks, "no-colour"] : [...wire.marks.slice(0, at), "no-colour", ...wire.marks.slice(at)];
}

/** Whether a mark says that a value rests on a fallback, rather than on a choice or a lack. */
export const isFallback = (mark: Mark): boolean => FALLBACKS.has(mark);
