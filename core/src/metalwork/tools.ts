import type { ControlRow, MetalworkRules, ShopTool } from "./rules";
import type { Point } from "../design/geometry";
import type { Material } from "../design/model";
import { insidePath } from "./offset";
import type { Cut, Lack, Move, Operation } from "./result";
import { holds } from "./shapes";
import { legMm, sweepOf } from "./legs";

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
  leadInMm: number;
  thicknessMm: number;
}

const EXACT_MM = 1e-6;
/** A countersink of 90° goes as deep as half of what it is to open. */
const SINK = 0.5;

/** The tools of a machine that work in a sheet. O(tools) */
export function kitOf(
  rules: Pick<MetalworkRules, "tools" | "cornerMm" | "relief" | "tabFromMm" | "tabMm">,
  machine: string,
  control: Pick<ControlRow, "leadInMm" | "stroke">,
  sheet: { thicknessMm: number; material: Material | null },
): Kit {
  const seen = new Set<string>();
  const here = rules.tools.flatMap((t): Tool[] => {
    const { speed = 0, feed = 0 } = t;
    if (t.machine !== undefined && t.machine !== machine) return [];
    if (t.sheet !== undefined && sheet.material !== null && t.sheet !== sheet.material) return [];
    if (t.kind === "punch" ? control.stroke === undefined : speed <= 0 || feed <= 0) return [];
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
    leadInMm: control.leadInMm ?? 0,
    thicknessMm: sheet.thicknessMm,
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
  /** With tabs where what falls out is large: `longMm` and `shortMm` of the opening. */
  const millWith = (tool: Tool, path: Move[], longMm = 0, shortMm = 0): Operation[] => {
    const slug = shortMm - 2 * tool.d > EXACT_MM;
    return [milled(tool, hole, slug ? tabbed(path, tool.d, longMm, kit) : path, kit.leadInMm)];
  };
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
      const most = cut.d + 2 * kit.thicknessMm;
      if (cut.head > most + EXACT_MM)
        return lack(
          `countersunk to ${r3(cut.head)} mm it would open the lower side: ${r3(kit.thicknessMm)} mm of sheet take Ø ${r3(most)} at most`,
          "sunk too deep",
        );
      return [core, { kind: "countersink", tool: sink.id, hole, x: cut.x, y: cut.y, depth: cut.head * SINK }];
    }
    case "round": {
      if (!cut.notch) {
        const one = bore(hole, cut.x, cut.y, cut.d, kit, tools);
        return one ? [one] : lack(`no drill, mill or punch makes ${r3(cut.d)} mm`);
      }
      const mill = cutter(Math.min(cut.d, cut.notch.w), tools);
      if (!mill) return lack(`no mill is as thin as its key of ${r3(cut.notch.w)} mm`, "corner too sharp");
      return millWith(mill, keyed(cut, cut.notch, mill.d / 2), cut.d, cut.d);
    }
    case "slot": {
      const short = Math.min(cut.w, cut.h);
      const mill = cutter(short, tools);
      return mill
        ? millWith(mill, slotPath(cut, mill.d / 2), Math.max(cut.w, cut.h), short)
        : lack(`no mill is as thin as ${r3(short)} mm`);
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
      return millWith(mill, path, Math.max(cut.w, cut.h), short);
    }
    case "knockout":
      return [];
    case "polygon": {
      const most = 2 * kit.cornerMm + EXACT_MM;
      const mills = tools.filter((t) => t.kind === "mill" && t.d <= most).sort((a, b) => b.d - a.d);
      for (const mill of mills) {
        const path = insidePath(cut.points, mill.d / 2);
        if (path) return millWith(mill, path, ...sizesOf(cut.points));
      }
      return lack("no mill is thin enough for its outline", "corner too sharp");
    }
  }
}

/** The longer and the shorter side of the frame round corners. */
const sizesOf = (points: readonly Point[]): [long: number, short: number] => {
  const [xs, ys] = [points.map((p) => p.x), points.map((p) => p.y)];
  const [w, h] = [Math.max(...xs) - Math.min(...xs), Math.max(...ys) - Math.min(...ys)];
  return [Math.max(w, h), Math.min(w, h)];
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
  return milled(mill, hole, ring(x, y, (d - mill.d) / 2, mill.d, tabs), kit.leadInMm);
}

/** The thickest mill that is not thicker than an opening is wide. */
const cutter = (widthMm: number, tools: readonly Tool[]): Tool | undefined =>
  tools.filter((t) => t.kind === "mill" && t.d <= widthMm + EXACT_MM).sort((a, b) => b.d - a.d)[0];

/** A path begins where it ends; with a lead-in inside of its contour, where that has room for one. */
function milled(tool: Tool, hole: number, contour: Move[], leadInMm: number): Operation {
  const path = leadInMm > 0 && contour.length > 1 ? led(contour, leadInMm) : contour;
  const { x, y } = path[path.length - 1]!;
  return { kind: "mill", tool: tool.id, hole, x, y, path };
}

/** Points along an arc by which it is judged whether a place lies inside a contour. */
const ARC_POINTS = 16;

/**
 * A contour, counter-clockwise, begun in the middle of its longest straight leg, else where it began, from a place so far
 * inside of it and back to that. Where half and a quarter of it find no room either the contour stays as it is.
 */
function led(contour: Move[], leadMm: number): Move[] {
  const n = contour.length;
  const from = (i: number): Point => contour[(i + n - 1) % n]!;
  const straight = contour
    .map((to, i) => ({ i, long: "cx" in to || to.over ? 0 : Math.hypot(to.x - from(i).x, to.y - from(i).y) }))
    .reduce((best, one) => (one.long > best.long + EXACT_MM ? one : best), { i: -1, long: 0 });
  let path: Move[];
  let inward: Point;
  if (straight.long > 2 * leadMm) {
    const [a, b] = [from(straight.i), contour[straight.i]!];
    const middle = { x: (a.x + b.x) / 2, y: (a.y + b.y) / 2 };
    inward = { x: -(b.y - a.y) / straight.long, y: (b.x - a.x) / straight.long };
    path = [middle, ...contour.slice(straight.i), ...contour.slice(0, straight.i), middle];
  } else {
    const [start, first] = [from(0), contour[0]!];
    if (!("cx" in first) || first.right) return contour;
    const r = Math.hypot(start.x - first.cx, start.y - first.cy);
    inward = { x: (first.cx - start.x) / r, y: (first.cy - start.y) / r };
    path = [{ x: start.x, y: start.y }, ...contour];
  }
  const ring = contour.flatMap((to, i): Point[] =>
    "cx" in to
      ? Array.from({ length: ARC_POINTS }, (_, k) => alongLeg(from(i), to, (legMm(from(i), to) * (k + 1)) / ARC_POINTS))
      : [to],
  );
  const [start] = path as [Move];
  for (const mm of [leadMm, leadMm / 2, leadMm / 4]) {
    const lead = { x: start.x + inward.x * mm, y: start.y + inward.y * mm };
    if (holds(ring, lead)) return [...path, lead];
  }
  return contour;
}

/** A place along one leg of a path. */
function alongLeg(from: Point, leg: Move, mm: number): Point {
  if (!("cx" in leg)) {
    const long = Math.hypot(leg.x - from.x, leg.y - from.y);
    return { x: from.x + ((leg.x - from.x) * mm) / long, y: from.y + ((leg.y - from.y) * mm) / long };
  }
  const r = Math.hypot(from.x - leg.cx, from.y - leg.cy);
  const a = Math.atan2(from.y - leg.cy, from.x - leg.cx) + Math.sign(sweepOf(from, leg)) * (mm / r);
  return { x: leg.cx + r * Math.cos(a), y: leg.cy + r * Math.sin(a) };
}

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

/** Less than so many tabs hold nothing; so many all round where sides have no room for theirs. */
const LEAST_TABS = 2;
const EVEN_TABS = 4;

/** A tab in the middle of every straight leg that has room for it, where an opening is long; else tabs all round. */
function tabbed(path: Move[], d: number, longMm: number, { tabFromMm, tabMm }: Kit): Move[] {
  if (tabFromMm <= 0 || longMm < tabFromMm) return path;
  const sides = path.flatMap((to, i): Move[] => {
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
  const count = sides.filter((m) => "over" in m && m.over).length;
  return count >= LEAST_TABS ? sides : evenlyTabbed(path, tabMm + d);
}

/** Tabs at even distances along a closed path, wherever they fall: as many as leave more than they hold. O(legs · tabs) */
function evenlyTabbed(path: readonly Move[], gapMm: number): Move[] {
  const from = (i: number): Point => path[(i + path.length - 1) % path.length]!;
  const longs = path.map((to, i) => legMm(from(i), to));
  const all = longs.reduce((sum, v) => sum + v, 0);
  const count = Math.min(EVEN_TABS, Math.floor(all / (2 * gapMm)));
  if (count < LEAST_TABS) return [...path];
  const starts = Array.from({ length: count }, (_, k) => ((k + 0.5) / count) * all - gapMm / 2);
  const out: Move[] = [];
  let done = 0;
  /** Where the tab ends that is being passed over. */
  let until: number | null = null;
  path.forEach((to, i) => {
    const [begin, end] = [done, done + longs[i]!];
    const part = (at: number): Move =>
      at >= end - EXACT_MM
        ? to
        : {
            ...alongLeg(from(i), to, at - begin),
            ...("cx" in to ? { cx: to.cx, cy: to.cy, ...(to.right ? { right: true } : {}) } : {}),
          };
    for (;;) {
      if (until !== null) {
        if (until > end + EXACT_MM) break;
        const { x, y } = part(until);
        out.push({ x, y, over: true });
        starts.shift();
        if (until >= end - EXACT_MM) {
          until = null;
          break;
        }
        until = null;
      }
      const next = starts[0];
      if (next === undefined || next > end + EXACT_MM) {
        out.push(part(end));
        break;
      }
      out.push(part(next));
      until = next + gapMm;
    }
    done = end;
  });
  return out;
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
