import type { MetalworkRules, ShopTool } from "../design/metalwork-rules";
import type { Point } from "../design/geometry";
import type { Material } from "../design/model";
import { insidePath } from "./offset";
import type { Cut, Lack, Move, Operation } from "./result";

/** A tool that works: one that turns has its speed and feed. */
export type Tool = ShopTool & { speed: number; feed: number };

/** Tools for one sheet on one machine, and how openings are made with them. */
export interface Kit {
  tools: readonly Tool[];
  /** Tools that would do but for the sheet's thickness. */
  thinner: readonly Tool[];
  cornerMm: number;
  relief: boolean;
  tabFromMm: number;
  tabMm: number;
}

const EXACT_MM = 1e-6;
/** A countersink of 90° goes as deep as half of what it is to open. */
const SINK = 0.5;

/** The tools of a machine that work in a sheet. O(tools) */
export function kitOf(
  rules: Pick<MetalworkRules, "tools" | "cornerMm" | "relief" | "tabFromMm" | "tabMm">,
  machine: string,
  sheet: { thicknessMm: number; material: Material | null },
): Kit {
  const seen = new Set<string>();
  const here = rules.tools.flatMap((t): Tool[] => {
    const { speed = 0, feed = 0 } = t;
    if (t.machine !== undefined && t.machine !== machine) return [];
    if (t.sheet !== undefined && sheet.material !== null && t.sheet !== sheet.material) return [];
    if (t.kind !== "punch" && (speed <= 0 || feed <= 0)) return [];
    if (seen.has(t.id)) return [];
    seen.add(t.id);
    return [{ ...t, speed, feed }];
  });
  const fits = (t: Tool): boolean => t.mostMm === undefined || sheet.thicknessMm <= t.mostMm + EXACT_MM;
  return {
    tools: here.filter(fits),
    thinner: here.filter((t) => !fits(t)),
    cornerMm: rules.cornerMm,
    relief: rules.relief > 0,
    tabFromMm: rules.tabFromMm,
    tabMm: rules.tabMm,
  };
}

const r3 = (v: number): number => Math.round(v * 1000) / 1000;

/** Operations for one cut, in the order they must come; or why there are none. O(tools + corners²) */
export function operationsFor(hole: number, cut: Cut, kit: Kit): Operation[] | Lack {
  const made = withTools(hole, cut, kit, kit.tools);
  if (Array.isArray(made) || kit.thinner.length === 0) return made;
  // With the tools that are for thinner sheets it would have gone: then it is the sheet.
  return Array.isArray(withTools(hole, cut, kit, [...kit.tools, ...kit.thinner]))
    ? { ...made, kind: "sheet too thick", why: `the sheet is too thick for its tool (${made.why})` }
    : made;
}

function withTools(hole: number, cut: Cut, kit: Kit, tools: readonly Tool[]): Operation[] | Lack {
  const lack = (why: string, kind: Lack["kind"] = "tool missing"): Lack => ({ hole, kind, why });
  const millWith = (tool: Tool, path: Move[]): Operation[] => [{ kind: "mill", tool: tool.id, hole, ...milled(path) }];
  switch (cut.kind) {
    case "mark": {
      const sink = sinkOf(cut.d, tools);
      return sink
        ? [{ kind: "countersink", tool: sink.id, hole, x: cut.x, y: cut.y, depth: cut.d * SINK }]
        : lack("no countersink makes its mark");
    }
    case "thread": {
      const core = bore(hole, cut.x, cut.y, cut.d, kit, tools);
      if (!core) return lack(`no drill, mill or punch makes its core hole of ${r3(cut.d)} mm`);
      const tap = tools.find((t) => t.kind === "tap" && t.thread === cut.thread && t.pitch !== undefined);
      if (!tap) return lack(`no tap for ${cut.thread}`);
      return [core, { kind: "tap", tool: tap.id, hole, x: cut.x, y: cut.y, depth: "through" }];
    }
    case "countersunk": {
      const core = bore(hole, cut.x, cut.y, cut.d, kit, tools);
      if (!core) return lack(`no drill, mill or punch makes ${r3(cut.d)} mm`);
      const sink = sinkOf(cut.head, tools);
      if (!sink) return lack(`no countersink reaches ${r3(cut.head)} mm`);
      return [core, { kind: "countersink", tool: sink.id, hole, x: cut.x, y: cut.y, depth: cut.head * SINK }];
    }
    case "round": {
      if (!cut.notch) {
        const one = bore(hole, cut.x, cut.y, cut.d, kit, tools);
        return one ? [one] : lack(`no drill, mill or punch makes ${r3(cut.d)} mm`);
      }
      const mill = cutter(Math.min(cut.d, cut.notch.w), tools);
      if (!mill) return lack(`no mill is as thin as its key of ${r3(cut.notch.w)} mm`, "corner too sharp");
      return millWith(mill, keyed(cut, cut.notch, mill.d / 2));
    }
    case "slot": {
      const short = Math.min(cut.w, cut.h);
      const mill = cutter(short, tools);
      return mill ? millWith(mill, slotPath(cut, mill.d / 2)) : lack(`no mill is as thin as ${r3(short)} mm`);
    }
    case "rect": {
      const short = Math.min(cut.w, cut.h);
      const punch = tools.find(
        (t) =>
          t.kind === "punch" &&
          t.h !== undefined &&
          cut.r < EXACT_MM &&
          Math.abs(t.d - cut.w) < EXACT_MM &&
          Math.abs(t.h - cut.h) < EXACT_MM,
      );
      if (punch) {
        const [x, y] = [cut.x + cut.w / 2, cut.y + cut.h / 2];
        return [{ kind: "punch", tool: punch.id, hole, x, y, depth: "through" }];
      }
      const corner = cut.r > EXACT_MM ? cut.r : kit.cornerMm;
      const mill = cutter(Math.min(short, 2 * corner), tools);
      if (!mill)
        return 2 * corner < short
          ? lack(`its corners of R ${r3(corner)} are sharper than the thinnest mill`, "corner too sharp")
          : lack(`no mill is as thin as ${r3(short)} mm`);
      const path = rectPath(cut, mill.d / 2, kit.relief && cut.r <= EXACT_MM);
      return millWith(mill, tabbed(path, mill.d, short, kit));
    }
    case "knockout":
      return [];
    case "polygon": {
      const most = 2 * kit.cornerMm + EXACT_MM;
      const mills = tools.filter((t) => t.kind === "mill" && t.d <= most).sort((a, b) => b.d - a.d);
      for (const mill of mills) {
        const path = insidePath(cut.points, mill.d / 2);
        if (path) return millWith(mill, tabbed(path, mill.d, shortOf(cut.points), kit));
      }
      return lack("no mill is thin enough for its outline", "corner too sharp");
    }
  }
}

const shortOf = (points: readonly Point[]): number => {
  const [xs, ys] = [points.map((p) => p.x), points.map((p) => p.y)];
  return Math.min(Math.max(...xs) - Math.min(...xs), Math.max(...ys) - Math.min(...ys));
};

/** The smallest countersink that reaches. */
const sinkOf = (head: number, tools: readonly Tool[]): Tool | undefined =>
  tools.filter((t) => t.kind === "countersink" && t.d >= head - EXACT_MM).sort((a, b) => a.d - b.d)[0];

/** A round hole: with the punch or the drill of its diameter, else milled. */
function bore(hole: number, x: number, y: number, d: number, kit: Kit, tools: readonly Tool[]): Operation | null {
  const exact = (kind: Tool["kind"]): Tool | undefined =>
    tools.find((t) => t.kind === kind && t.h === undefined && Math.abs(t.d - d) < EXACT_MM);
  const punch = exact("punch");
  if (punch) return { kind: "punch", tool: punch.id, hole, x, y, depth: "through" };
  const drill = exact("drill");
  if (drill) return { kind: "drill", tool: drill.id, hole, x, y, depth: "through" };
  const mill = cutter(d - EXACT_MM * 10, tools);
  if (!mill) return null;
  const tabs = kit.tabFromMm > 0 && d >= kit.tabFromMm ? kit.tabMm : 0;
  return { kind: "mill", tool: mill.id, hole, ...milled(ring(x, y, (d - mill.d) / 2, mill.d, tabs)) };
}

/** The thickest mill that is not thicker than an opening is wide. */
const cutter = (widthMm: number, tools: readonly Tool[]): Tool | undefined =>
  tools.filter((t) => t.kind === "mill" && t.d <= widthMm + EXACT_MM).sort((a, b) => b.d - a.d)[0];

/** A path begins where it ends. */
const milled = (path: Move[]): { x: number; y: number; path: Move[] } => {
  const { x, y } = path[path.length - 1]!;
  return { x, y, path };
};

/** Quarters of a ring that end in a tab. */
const RING_TABS = 4;

/** All round in parts: a whole circle in one move is read differently by different controls. */
function ring(x: number, y: number, r: number, d: number, tabMm: number): Move[] {
  if (r < EXACT_MM) return [{ x, y }];
  const at = (angle: number): Point => ({ x: x + r * Math.cos(angle), y: y + r * Math.sin(angle) });
  if (tabMm <= 0)
    return [
      { x: x - r, y, cx: x, cy: y },
      { x: x + r, y, cx: x, cy: y },
    ];
  const quarter = (2 * Math.PI) / RING_TABS;
  const gap = 2 * Math.asin(Math.min(0.5, (tabMm + d) / (2 * r)));
  return Array.from({ length: RING_TABS }, (_, i): Move[] => [
    { ...at((i + 1) * quarter - gap), cx: x, cy: y },
    { ...at((i + 1) * quarter), over: true },
  ]).flat();
}

/** A tab in the middle of every straight leg that has room for it, where an opening is large. */
function tabbed(path: Move[], d: number, shortMm: number, { tabFromMm, tabMm }: Kit): Move[] {
  if (tabFromMm <= 0 || shortMm < tabFromMm) return path;
  return path.flatMap((to, i): Move[] => {
    if ("cx" in to || to.over) return [to];
    const from = path[(i + path.length - 1) % path.length]!;
    const long = Math.hypot(to.x - from.x, to.y - from.y);
    const gap = tabMm + d;
    if (long < Math.max(2 * gap, tabFromMm / 2)) return [to];
    const at = (mm: number): Point => ({
      x: from.x + ((to.x - from.x) * mm) / long,
      y: from.y + ((to.y - from.y) * mm) / long,
    });
    return [at((long - gap) / 2), { ...at((long + gap) / 2), over: true }, to];
  });
}

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
  const at = (out: number, across: number): Point => ({ x: x + ux * out - uy * across, y: y + uy * out + ux * across });
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
  const at = (along: number, across: number): Point => ({
    x: x + ux * along - uy * across,
    y: y + uy * along + ux * across,
  });
  if (r < EXACT_MM) return [at(half, 0), at(-half, 0)];
  const [right, left] = [at(half, 0), at(-half, 0)];
  return [
    at(half, -r),
    { ...at(half, r), cx: right.x, cy: right.y },
    at(-half, r),
    { ...at(-half, -r), cx: left.x, cy: left.y },
  ];
}

/**
 * Round the inside of a rectangle, counter-clockwise; where it has corners rounder than the mill, in arcs. Cut free, the mill
 * goes into each corner until its edge stands in it.
 */
function rectPath({ x, y, w, h, r }: Extract<Cut, { kind: "rect" }>, radius: number, relief: boolean): Move[] {
  const [x1, y1, x2, y2] = [x + radius, y + radius, x + w - radius, y + h - radius];
  const c = Math.max(0, Math.min(r - radius, (x2 - x1) / 2, (y2 - y1) / 2));
  if (c < EXACT_MM) {
    const into = relief ? radius * (1 - Math.SQRT1_2) : 0;
    const corner = (px: number, py: number, dx: number, dy: number): Move[] =>
      into > 0
        ? [
            { x: px, y: py },
            { x: px + dx * into, y: py + dy * into },
            { x: px, y: py },
          ]
        : [{ x: px, y: py }];
    return [...corner(x2, y1, 1, -1), ...corner(x2, y2, 1, 1), ...corner(x1, y2, -1, 1), ...corner(x1, y1, -1, -1)];
  }
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
