import type { Operation } from "./result";
import type { Point } from "../design/geometry";
import type { Clamped, ControlRow } from "./rules";
import { cutLegs, legMm } from "./legs";
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
  sheet: { w: number; h: number };
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

/** A drill whose row does not say its point has the common one. degrees */
const POINT_DEG = 118;
/** A tap whose row does not say its lead: of those for through holes the longest (form B of DIN 2197). pitches */
const LEAD_PITCHES = 5;

/** What of a tool must come out below before the hole has its full size: the point of a drill, the lead of a tap. mm */
export function tipMm({ kind, d, pointDeg = POINT_DEG, leadPitches = LEAD_PITCHES, pitch = 1 }: Tool): number {
  if (kind === "drill") return d / 2 / Math.tan((pointDeg * Math.PI) / 360);
  return kind === "tap" ? leadPitches * pitch : 0;
}

/** How deep the tip of a tool goes: through the sheet with all of its tip and the control's margin, or as deep as is said. mm */
export const depthMm = (
  o: Operation,
  tool: Tool,
  { control, thicknessMm }: Pick<PlanBasis, "control" | "thicknessMm">,
): number => ("depth" in o && o.depth !== "through" ? o.depth : thicknessMm + tipMm(tool) + control.beyondMm);

/** How far a tool comes out below the sheet; a punch has its die there. mm */
export const belowMm = (o: Operation, tool: Tool, basis: Pick<PlanBasis, "control" | "thicknessMm">): number =>
  o.kind === "punch" ? 0 : Math.max(0, depthMm(o, tool, basis) - basis.thicknessMm);

/** How long a tool is at work in one place, in and out of the sheet. s */
export function secondsOf(o: Operation, tool: Tool, basis: PlanBasis): number {
  const { control, lie } = basis;
  const { clearMm, plungePercent } = control;
  if (o.kind === "punch") return PUNCH_S;
  const through = depthMm(o, tool, basis);
  const back = ((through + clearMm) / lie.machine.rapid) * 60;
  if (o.kind === "tap") return ((2 * (through + clearMm)) / feedOf(tool)) * 60;
  if (o.kind !== "mill") return ((through + clearMm) / tool.feed) * 60 + back;
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

/** A tap goes in by its pitch at every turn. mm/min */
export const feedOf = (tool: Tool): number => (tool.kind === "tap" ? tool.speed * (tool.pitch ?? 1) : tool.feed);
