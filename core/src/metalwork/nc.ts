import type { Point } from "../design/geometry";
import type { ControlRow } from "./rules";
import { wayMeets, type Lie } from "./lies";
import { cutLegs, sweepOf } from "./legs";
import { BESIDE_MM, depthMm, feedOf, highClamps } from "./times";
import type { Move, Operation, SetUp } from "./result";
import type { Tool } from "./tools";

/** What a program says of itself and goes by, beside its steps. */
export interface Sheet {
  title: string;
  /** Lines for the one who stands at the machine. */
  notes: readonly string[];
  thicknessMm: number;
  lie: Lie;
}

/** Signs of one comment: longer ones are cut off by some controls. */
const COMMENT_MOST = 70;
/** More than this of one note are not read by anybody. */
const NOTE_LINES = 4;

/** A text for brackets: what could end them, or is no sign that a control knows, is none of it. */
const bare = (text: string): string =>
  text
    .replace(/[()%]/g, " ")
    .replace(/Ø ?/g, "D")
    .replace(/×/g, "x")
    .replace(/[^\x20-\x7E]/g, "?");

/** Notes as comments, at words where they are too long for one. */
function commentsOf(notes: readonly string[]): string[] {
  return notes.flatMap((note) => {
    const rows: string[] = [""];
    for (const word of bare(note)
      .split(/ +/)
      .filter((w) => w !== "")) {
      const last = rows[rows.length - 1]!;
      const next = last === "" ? word : `${last} ${word}`;
      if (next.length <= COMMENT_MOST || last === "") rows[rows.length - 1] = next.slice(0, COMMENT_MOST);
      else rows.push(word.slice(0, COMMENT_MOST));
    }
    return rows.slice(0, NOTE_LINES).map((row) => `(${row})`);
  });
}

const linesOf = (text: string | undefined): string[] => (text === undefined || text === "" ? [] : text.split("|"));

/** The program of one set-up (ISO 6983), as its control takes it. O(operations + legs · clamps) */
export function programOf(
  { steps, shift }: Pick<SetUp, "steps" | "shift">,
  tools: readonly Tool[],
  control: ControlRow,
  sheet: Sheet,
): string {
  const { cycles, decimals, lineStep, clearMm, changeMm, plungePercent, pointAlways = false } = control;
  const { lie } = sheet;
  const lines: string[] = [];
  const num = (v: number): string => {
    const text = v.toFixed(decimals).replace(/\.?0+$/, "");
    const whole = text === "-0" || text === "" ? "0" : text;
    return pointAlways && !whole.includes(".") ? `${whole}.` : whole;
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
  /** Turns, without a point. */
  const raw = (v: number): string => String(Math.round(v));
  const clamps = highClamps(lie, control);
  const meets = (a: Point, b: Point): boolean => clamps.some((c) => wayMeets(place(a), place(b), c, BESIDE_MM));
  const header = linesOf(control.header);
  // Behind the line that names the program, else at its beginning: before anything moves.
  const title = header.findIndex((line) => line.includes("{title}"));
  const notesAt = title >= 0 ? title + 1 : header[0] === "%" ? 1 : 0;
  const comments = commentsOf(sheet.notes);
  header.forEach((line, i) => {
    if (i === notesAt) comments.forEach(say);
    // By a function: a text is no pattern of what it replaces.
    say(line.replace("{title}", () => bare(sheet.title)));
  });
  if (notesAt >= header.length) comments.forEach(say);
  for (const line of linesOf(control.workOffset)) say(line);
  for (const { tool: id, operations } of steps) {
    const tool = tools.find((t) => t.id === id)!;
    const deep = (o: Operation): number => depthMm(o, tool, { control, thicknessMm: sheet.thicknessMm });
    const number = /\d+/.exec(id)?.[0] ?? "";
    say(`G0 Z${num(changeMm)}`);
    if (control.coolantOff !== undefined) linesOf(control.coolantOff).forEach(say);
    say("M5");
    say(`${id} M6`);
    for (const line of linesOf(control.lengthOffset)) say(line.replace("{n}", () => number));
    if (tool.speed > 0) say(`S${raw(tool.speed)} M3`);
    if (tool.speed > 0) linesOf(control.coolantOn).forEach(say);
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
    if (tool.kind === "punch")
      for (const o of bores) {
        above(o);
        linesOf(control.stroke).forEach(say);
      }
    else if (cycles && bores.length > 0) {
      const word = tool.kind === "tap" ? "G84" : "G81";
      const more = tool.kind === "tap" && control.tapCycle !== undefined ? ` ${control.tapCycle}` : "";
      bores.forEach((o, i) => {
        const before = bores[i - 1];
        const again = before !== undefined && !meets(before, o);
        if (!again) {
          if (before) say("G80");
          above(o);
          say(`${word} ${xy(o)} Z${num(-deep(o))} R${num(clearMm)} F${feed}${more}`);
        } else say(o.depth === before.depth ? xy(o) : `${xy(o)} Z${num(-deep(o))}`);
        last = o;
      });
      say("G80");
    } else
      for (const o of bores) {
        above(o);
        say(`G1 Z${num(-deep(o))} F${feed}`);
        if (o.kind === "tap") {
          // Out as it went in, the other way round.
          linesOf(control.tapBottom ?? "M4").forEach(say);
          say(`G1 Z${num(clearMm)} F${feed}`);
          linesOf(control.tapTop ?? "M3").forEach(say);
        } else say(`G0 Z${num(clearMm)}`);
      }
    for (const o of operations) {
      if (o.kind !== "mill") continue;
      const plunge = (): void => say(`G1 Z${num(-deep(o))} F${num(tool.feed * (plungePercent / 100))}`);
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
  if (control.coolantOff !== undefined) linesOf(control.coolantOff).forEach(say);
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
