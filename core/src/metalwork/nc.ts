import type { Point } from "../design/geometry";
import type { ControlRow } from "../design/metalwork-rules";
import { wayMeets, type Lie } from "./lies";
import { BESIDE_MM, cutLegs, feedOf, highClamps, sweepOf } from "./times";
import type { Move, Operation, SetUp } from "./result";
import type { Tool } from "./tools";

export interface Sheet {
  title: string;
  thicknessMm: number;
  lie: Lie;
}

/** Of a text in brackets: brackets would end it. */
const bare = (text: string): string => text.replace(/[()%]/g, " ");
const linesOf = (text: string | undefined): string[] => (text === undefined || text === "" ? [] : text.split("|"));

/** The program of one set-up (ISO 6983), as its control takes it. O(operations + legs · clamps) */
export function programOf(
  { steps, shift }: Pick<SetUp, "steps" | "shift">,
  tools: readonly Tool[],
  control: ControlRow,
  sheet: Sheet,
): string {
  const { cycles, decimals, lineStep, clearMm, changeMm, beyondMm, plungePercent } = control;
  const { lie } = sheet;
  const lines: string[] = [];
  const num = (v: number): string => {
    const text = v.toFixed(decimals).replace(/\.?0+$/, "");
    return text === "-0" || text === "" ? "0" : text;
  };
  const place = (p: Point): Point => {
    const at = lie.place(p);
    return { x: at.x - shift.x, y: at.y - shift.y };
  };
  const xy = (p: Point): string => {
    const at = place(p);
    return `X${num(at.x)} Y${num(at.y)}`;
  };
  const say = (line: string): void => void lines.push(line);
  const clamps = highClamps(lie, control);
  const meets = (a: Point, b: Point): boolean => clamps.some((c) => wayMeets(place(a), place(b), c, BESIDE_MM));
  for (const line of linesOf(control.header)) say(line.replace("{title}", bare(sheet.title)));
  const deep = (depth: "through" | number): number => (depth === "through" ? sheet.thicknessMm + beyondMm : depth);
  for (const { tool: id, operations } of steps) {
    const tool = tools.find((t) => t.id === id)!;
    say(`G0 Z${num(changeMm)}`);
    say("M5");
    say(`${id} M6`);
    if (tool.speed > 0) say(`S${num(tool.speed)} M3`);
    let last: Point | null = null;
    /** To a place, up over clamps that stand in the way; the first time above everything. */
    const above = (p: Point): void => {
      const up = last === null || meets(last, p);
      if (up && last !== null) say(`G0 Z${num(changeMm)}`);
      say(`G0 ${xy(p)}`);
      if (up) say(`G0 Z${num(clearMm)}`);
      last = p;
    };
    const bores = operations.filter((o): o is Extract<Operation, { depth: unknown }> => o.kind !== "mill");
    const feed = num(Math.max(1, feedOf(tool)));
    if (cycles && bores.length > 0) {
      const word = tool.kind === "tap" ? "G84" : "G81";
      bores.forEach((o, i) => {
        const before = bores[i - 1];
        const again = before !== undefined && !meets(before, o);
        if (!again) {
          if (before) say("G80");
          above(o);
          say(`${word} ${xy(o)} Z${num(-deep(o.depth))} R${num(clearMm)} F${feed}`);
        } else say(o.depth === before.depth ? xy(o) : `${xy(o)} Z${num(-deep(o.depth))}`);
        last = o;
      });
      say("G80");
    } else
      for (const o of bores) {
        above(o);
        say(`G1 Z${num(-deep(o.depth))} F${feed}`);
        if (o.kind === "tap") {
          // Out as it went in, the other way round.
          say("M4");
          say(`G1 Z${num(clearMm)} F${feed}`);
          say("M3");
        } else say(`G0 Z${num(clearMm)}`);
      }
    for (const o of operations) {
      if (o.kind !== "mill") continue;
      const plunge = (): void => say(`G1 Z${num(-deep("through"))} F${num(tool.feed * (plungePercent / 100))}`);
      above(o);
      plunge();
      let from: Point = o;
      let fed = false;
      for (const leg of cutLegs(o.path)) {
        if ("over" in leg && leg.over) {
          say(`G0 Z${num(clearMm)}`);
          say(`G0 ${xy(leg)}`);
          plunge();
          fed = false;
        } else
          for (const line of legLines(from, leg, control, lie, place, num)) {
            say(fed ? line : `${line} F${num(tool.feed)}`);
            fed = true;
          }
        from = leg;
      }
      say(`G0 Z${num(clearMm)}`);
      last = from;
    }
  }
  say(`G0 Z${num(changeMm)}`);
  for (const line of linesOf(control.footer)) say(line);
  return (
    lines
      .map((line, i) =>
        lineStep > 0 && !line.startsWith("%") && !line.startsWith("(") ? `N${(i + 1) * lineStep} ${line}` : line,
      )
      .join("\r\n") + "\r\n"
  );
}

/** A leg of a path as the control takes it. */
function legLines(
  from: Point,
  leg: Move,
  { arcs, chordMm }: ControlRow,
  { mirrored }: Lie,
  place: (p: Point) => Point,
  num: (v: number) => string,
): string[] {
  const at = (p: Point): string => {
    const q = place(p);
    return `X${num(q.x)} Y${num(q.y)}`;
  };
  if (!("cx" in leg)) return [`G1 ${at(leg)}`];
  const middle = { x: leg.cx, y: leg.cy };
  if (arcs) {
    const [a, c] = [place(from), place(middle)];
    return [`${mirrored === (leg.right === true) ? "G3" : "G2"} ${at(leg)} I${num(c.x - a.x)} J${num(c.y - a.y)}`];
  }
  const r = Math.hypot(from.x - leg.cx, from.y - leg.cy);
  const a1 = Math.atan2(from.y - leg.cy, from.x - leg.cx);
  const sweep = sweepOf(from, leg);
  // So many that no straight move is further off than it may be.
  const each = 2 * Math.acos(Math.max(0, 1 - chordMm / Math.max(r, chordMm)));
  const n = Math.max(1, Math.ceil(Math.abs(sweep) / each));
  return Array.from({ length: n }, (_, i) => {
    const a = a1 + (sweep * (i + 1)) / n;
    return `G1 ${at(i + 1 === n ? leg : { x: leg.cx + r * Math.cos(a), y: leg.cy + r * Math.sin(a) })}`;
  });
}
