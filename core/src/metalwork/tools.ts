import type { Cut } from "./result";

/** A tool of the shop. Lengths in mm, speeds in 1/min, feeds in mm/min, times in s. */
export interface Tool {
  /** Its place in the machine: `T4`. */
  id: string;
  kind: "drill" | "tap" | "countersink" | "mill";
  /** Of a tap its thread's; of a countersink the widest it makes. */
  d: number;
  /** Of a tap. */
  thread?: string;
  /** Of a tap: its pitch. */
  pitch?: number;
  speed: number;
  feed: number;
}

/** What is done in one place with one tool. */
export type Operation =
  | {
      kind: "drill" | "tap" | "countersink";
      tool: string;
      hole: number;
      x: number;
      y: number;
      depth: "through" | number;
    }
  | { kind: "mill"; tool: string; hole: number; x: number; y: number; path: Move[] };

/** One leg of a path of a cutter's middle: straight, or round to the left (counter-clockwise) about a middle. */
export type Move = { x: number; y: number } | { x: number; y: number; cx: number; cy: number };

/** Why a cut cannot be made with the tools there are. */
export type Lack = { hole: number; why: string };

const EXACT_MM = 1e-6;
/** A countersink of 90° goes as deep as half of what it is to open. */
const SINK = 0.5;

/** Operations for one cut, in the order they must come; or why there are none. O(tools) */
export function operationsFor(hole: number, cut: Cut, tools: readonly Tool[]): Operation[] | Lack {
  const lack = (why: string): Lack => ({ hole, why });
  switch (cut.kind) {
    case "thread": {
      const core = bore(hole, cut.x, cut.y, cut.d, tools);
      if (!core) return lack(`no drill or mill makes its core hole of ${cut.d} mm`);
      const tap = tools.find((t) => t.kind === "tap" && t.thread === cut.thread);
      if (!tap) return lack(`no tap for ${cut.thread}`);
      return [core, { kind: "tap", tool: tap.id, hole, x: cut.x, y: cut.y, depth: "through" }];
    }
    case "countersunk": {
      const core = bore(hole, cut.x, cut.y, cut.d, tools);
      if (!core) return lack(`no drill or mill makes ${cut.d} mm`);
      const sink = tools
        .filter((t) => t.kind === "countersink" && t.d >= cut.head - EXACT_MM)
        .sort((a, b) => a.d - b.d)[0];
      if (!sink) return lack(`no countersink reaches ${cut.head} mm`);
      return [
        core,
        {
          kind: "countersink",
          tool: sink.id,
          hole,
          x: cut.x,
          y: cut.y,
          depth: cut.head * SINK,
        },
      ];
    }
    case "round": {
      if (!cut.notch) {
        const one = bore(hole, cut.x, cut.y, cut.d, tools);
        return one ? [one] : lack(`no drill or mill makes ${cut.d} mm`);
      }
      const mill = cutter(Math.min(cut.d, cut.notch.w), tools);
      if (!mill) return lack(`no mill is as thin as its key of ${cut.notch.w} mm`);
      return [{ kind: "mill", tool: mill.id, hole, ...milled(keyed(cut, cut.notch, mill.d / 2)) }];
    }
    case "slot": {
      const short = Math.min(cut.w, cut.h);
      const mill = cutter(short, tools);
      if (!mill) return lack(`no mill is as thin as ${short} mm`);
      return [{ kind: "mill", tool: mill.id, hole, ...milled(slotPath(cut, mill.d / 2)) }];
    }
    case "rect": {
      const mill = cutter(cut.r > 0 ? Math.min(cut.w, cut.h, 2 * cut.r) : Math.min(cut.w, cut.h), tools);
      if (!mill)
        return lack(
          cut.r > 0 && 2 * cut.r < Math.min(cut.w, cut.h)
            ? `its corners of R ${cut.r} are sharper than the thinnest mill`
            : `no mill is as thin as ${Math.min(cut.w, cut.h)} mm`,
        );
      return [{ kind: "mill", tool: mill.id, hole, ...milled(rectPath(cut, mill.d / 2)) }];
    }
    case "knockout":
      return [];
    case "polygon":
      return lack("outlines of corners are not milled yet");
  }
}

/** A round hole: with the drill of its diameter, else milled. */
function bore(hole: number, x: number, y: number, d: number, tools: readonly Tool[]): Operation | null {
  const drill = tools.find((t) => t.kind === "drill" && Math.abs(t.d - d) < EXACT_MM);
  if (drill) return { kind: "drill", tool: drill.id, hole, x, y, depth: "through" };
  const mill = cutter(d - EXACT_MM * 10, tools);
  return mill ? { kind: "mill", tool: mill.id, hole, ...milled(ring(x, y, (d - mill.d) / 2)) } : null;
}

/** The thickest mill that is not thicker than an opening is wide. */
const cutter = (widthMm: number, tools: readonly Tool[]): Tool | undefined =>
  tools.filter((t) => t.kind === "mill" && t.d <= widthMm + EXACT_MM).sort((a, b) => b.d - a.d)[0];

/** A path begins where it ends. */
const milled = (path: Move[]): { x: number; y: number; path: Move[] } => {
  const { x, y } = path[path.length - 1]!;
  return { x, y, path };
};

/** All round in two halves: a whole circle in one move is read differently by different controls. */
const ring = (x: number, y: number, r: number): Move[] =>
  r < EXACT_MM
    ? [{ x, y }]
    : [
        { x: x - r, y, cx: x, cy: y },
        { x: x + r, y, cx: x, cy: y },
      ];

/** The ring of a control unit, out to the end of its key on both of its sides, and back. */
function keyed(
  { x, y, d }: { x: number; y: number; d: number },
  { to, w, angle }: { to: number; w: number; angle: number },
  radius: number,
): Move[] {
  const r = d / 2 - radius;
  const a = (angle * Math.PI) / 180;
  const [ux, uy] = [Math.cos(a), Math.sin(a)];
  const side = Math.max(0, w / 2 - radius);
  const at = (out: number, across: number): Move => ({ x: x + ux * out - uy * across, y: y + uy * out + ux * across });
  const start = Math.sqrt(Math.max(0, r * r - side * side));
  const tip = to - d / 2 - radius;
  // Round the ring from one side of the key to the other, over the far side in two legs.
  const far: Move = { ...at(-r, 0), cx: x, cy: y };
  const home: Move = { ...at(start, -side), cx: x, cy: y };
  return [far, home, at(tip, -side), at(tip, side), at(start, side)];
}

/** Round the inside of a slot, along its longer way. */
function slotPath({ x, y, w, h, angle }: Extract<Cut, { kind: "slot" }>, radius: number): Move[] {
  const [long, short] = [Math.max(w, h), Math.min(w, h)];
  const a = ((angle + (w >= h ? 0 : 90)) * Math.PI) / 180;
  const [ux, uy] = [Math.cos(a), Math.sin(a)];
  const half = (long - short) / 2;
  const r = short / 2 - radius;
  const at = (along: number, across: number) => ({ x: x + ux * along - uy * across, y: y + uy * along + ux * across });
  if (r < EXACT_MM) return [at(half, 0), at(-half, 0)];
  const [right, left] = [at(half, 0), at(-half, 0)];
  return [
    at(half, -r),
    { ...at(half, r), cx: right.x, cy: right.y },
    at(-half, r),
    { ...at(-half, -r), cx: left.x, cy: left.y },
  ];
}

/** Round the inside of a rectangle, counter-clockwise; where it has corners rounder than the mill, in arcs. */
function rectPath({ x, y, w, h, r }: Extract<Cut, { kind: "rect" }>, radius: number): Move[] {
  const [x1, y1, x2, y2] = [x + radius, y + radius, x + w - radius, y + h - radius];
  const c = Math.max(0, Math.min(r - radius, (x2 - x1) / 2, (y2 - y1) / 2));
  if (c < EXACT_MM)
    return [
      { x: x2, y: y1 },
      { x: x2, y: y2 },
      { x: x1, y: y2 },
      { x: x1, y: y1 },
    ];
  return [
    { x: x2 - c, y: y1 },
    { x: x2, y: y1 + c, cx: x2 - c, cy: y1 + c },
    { x: x2, y: y2 - c },
    { x: x2 - c, y: y2, cx: x2 - c, cy: y2 - c },
    { x: x1 + c, y: y2 },
    { x: x1, y: y2 - c, cx: x1 + c, cy: y2 - c },
    { x: x1, y: y1 + c },
    { x: x1 + c, y: y1, cx: x1 + c, cy: y1 + c },
  ];
}
