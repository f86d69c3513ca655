import { type Move, type Operation } from "./result";
import type { Point } from "../design/geometry";
import type { Clamped, ControlRow } from "../design/metalwork-rules";
import { wayMeets, type Lie } from "./lies";
import type { Kit, Tool } from "./tools";

/** How long a machine takes: at work in a place, and between two. */

/** What the plan of a sheet goes by, beside its holes. */
export interface PlanBasis {
  kit: Kit;
  lie: Lie;
  control: ControlRow;
  /** Kept between holes and clamps, mm. */
  clampMm: number;
  thicknessMm: number;
  /** Share of the search for short ways; all of it when absent. */
  effort?: number;
}

/** Beside a way between two places: what the tool and its holder take. mm */
export const BESIDE_MM = 15;
/** One stroke of a punch, s. */
const PUNCH_S = 0.5;
/** Clamps that stand in a way at the height between holes. Those of a machine stand where they are when the sheet is moved. */
export const highClamps = ({ clamps }: Lie, { clearMm }: Pick<ControlRow, "clearMm">): Clamped[] =>
  clamps.filter((c) => c.highMm >= clearMm);

/** To go up for a clamp and down again. */
export const upAndDownMm = ({ changeMm, clearMm }: Pick<ControlRow, "changeMm" | "clearMm">): number =>
  2 * (changeMm - clearMm);

/** To change to a tool. s */
export const changeSeconds = ({ changeS }: Pick<Tool, "changeS">, { machine }: Pick<Lie, "machine">): number =>
  changeS ?? machine.changeS;

/** Both axes at full speed: the longer way decides. */
const longer = (a: Point, b: Point): number => Math.max(Math.abs(a.x - b.x), Math.abs(a.y - b.y));

/** Between two places of the machine, up over a clamp that stands in the way. */
export const moveMm = (a: Point, b: Point, clamps: readonly Clamped[], upAndDown: number): number =>
  longer(a, b) + (clamps.some((c) => wayMeets(a, b, c, BESIDE_MM)) ? upAndDown : 0);

/** How long a tool is at work in one place, in and out of the sheet. s */
export function secondsOf(o: Operation, tool: Tool, { control, lie, thicknessMm }: PlanBasis): number {
  const { clearMm, beyondMm, plungePercent } = control;
  const through = thicknessMm + beyondMm;
  const back = ((through + clearMm) / lie.machine.rapid) * 60;
  if (o.kind === "punch") return PUNCH_S + back;
  if (o.kind === "tap") return ((2 * (through + clearMm)) / feedOf(tool)) * 60;
  if (o.kind !== "mill") {
    const deep = o.depth === "through" ? through : o.depth;
    return ((deep + clearMm) / tool.feed) * 60 + back;
  }
  const plunge = ((through + clearMm) / (tool.feed * (plungePercent / 100))) * 60 + back;
  let from: Point = o;
  let seconds = plunge;
  for (const leg of cutLegs(o.path)) {
    seconds +=
      "over" in leg && leg.over
        ? plunge + (longer(from, leg) / lie.machine.rapid) * 60
        : (legMm(from, leg) / tool.feed) * 60;
    from = leg;
  }
  return seconds;
}

/** Legs of a path without a tab at its end: there is nothing behind it to go in for. */
export const cutLegs = (path: readonly Move[]): readonly Move[] => {
  const last = path[path.length - 1]!;
  return "over" in last && last.over ? path.slice(0, -1) : path;
};

/** A tap goes in by its pitch at every turn. mm/min */
export const feedOf = (tool: Tool): number => (tool.kind === "tap" ? tool.speed * (tool.pitch ?? 1) : tool.feed);

/** Length of one leg of a cutter's way. */
export function legMm(from: Point, leg: Move): number {
  if (!("cx" in leg)) return Math.hypot(leg.x - from.x, leg.y - from.y);
  return Math.hypot(from.x - leg.cx, from.y - leg.cy) * Math.abs(sweepOf(from, leg));
}

/** Angle of an arc, radians: positive to the left. A full turn where it ends where it begins. */
export function sweepOf(from: Point, { x, y, cx, cy, right }: Extract<Move, { cx: number }>): number {
  const a = Math.atan2(from.y - cy, from.x - cx);
  const b = Math.atan2(y - cy, x - cx);
  const left = (((b - a) % (2 * Math.PI)) + 2 * Math.PI) % (2 * Math.PI) || 2 * Math.PI;
  return right ? left - 2 * Math.PI : left;
}
