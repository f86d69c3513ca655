import type { Point } from "../design/geometry";
import type { Plan } from "./plan";
import type { Move, Operation, Tool } from "./tools";

/** What a control understands: data of the shop, so that another machine needs no other program. */
export interface Control {
  name: string;
  /** Lines before and after everything; `{title}` stands for what the program is for. */
  header: readonly string[];
  footer: readonly string[];
  /** Drilling and tapping cycles G81, G84; plain moves otherwise. */
  cycles: boolean;
  /** G3 with I and J from where it begins; short straight moves otherwise. */
  arcs: boolean;
  decimals: number;
  /** From one line number to the next; 0: lines have none. */
  lineStep: number;
  /** Height of the tool over the sheet between holes, and while tools are changed. mm */
  clearMm: number;
  changeMm: number;
  /** Beyond the sheet where it goes through. mm */
  beyondMm: number;
  /** Of the feed, while a mill goes into the sheet. */
  plungeShare: number;
  /** What a curve may be off where it becomes straight moves. mm */
  chordMm: number;
}

export interface Sheet {
  title: string;
  thicknessMm: number;
  /** From the face to the machine: its datum corner and the directions of its axes. */
  place(p: Point): Point;
  /** The machine sees the face mirrored: what turns left turns right. */
  mirrored: boolean;
}

/** Two that ship with the product. Both are invented. */
export const CONTROLS: readonly Control[] = [
  {
    name: "Tallow 3",
    header: ["%", "({title})", "G21 G90 G17 G40"],
    footer: ["M5", "M30", "%"],
    cycles: true,
    arcs: true,
    decimals: 3,
    lineStep: 10,
    clearMm: 3,
    changeMm: 60,
    beyondMm: 1.5,
    plungeShare: 0.4,
    chordMm: 0.01,
  },
  {
    name: "Wickett",
    header: ["({title})", "G21", "G90"],
    footer: ["M5", "M2"],
    cycles: false,
    arcs: false,
    decimals: 2,
    lineStep: 0,
    clearMm: 5,
    changeMm: 80,
    beyondMm: 2,
    plungeShare: 0.3,
    chordMm: 0.02,
  },
];

/** Of a text in brackets: brackets would end it. */
const bare = (text: string): string => text.replace(/[()%]/g, " ");

/** The program for a plan (ISO 6983). O(operations + legs) */
export function programOf(plan: Plan, tools: readonly Tool[], control: Control, sheet: Sheet): string {
  const { cycles, decimals, lineStep, clearMm, changeMm, beyondMm, plungeShare } = control;
  const lines: string[] = [];
  const num = (v: number): string => {
    const text = v.toFixed(decimals).replace(/\.?0+$/, "");
    return text === "-0" || text === "" ? "0" : text;
  };
  const xy = (p: Point): string => {
    const at = sheet.place(p);
    return `X${num(at.x)} Y${num(at.y)}`;
  };
  const say = (line: string): void => void lines.push(line);
  for (const line of control.header) say(line.replace("{title}", bare(sheet.title)));
  const deep = (depth: "through" | number): number => (depth === "through" ? sheet.thicknessMm + beyondMm : depth);
  for (const { tool: id, operations } of plan.steps) {
    const tool = tools.find((t) => t.id === id)!;
    say(`G0 Z${num(changeMm)}`);
    say("M5");
    say(`${id} M6`);
    say(`S${num(tool.speed)} M3`);
    // The first place is gone to above everything.
    let over = false;
    const above = (p: Point): void => {
      say(`G0 ${xy(p)}`);
      if (!over) say(`G0 Z${num(clearMm)}`);
      over = true;
    };
    const bores = operations.filter((o): o is Extract<Operation, { depth: unknown }> => o.kind !== "mill");
    if (cycles && bores.length > 0) {
      bores.forEach((o, i) => {
        if (i === 0) {
          above(o);
          const word = o.kind === "tap" ? "G84" : "G81";
          const feed = o.kind === "tap" ? tool.speed * (tool.pitch ?? 1) : tool.feed;
          say(`${word} ${xy(o)} Z${num(-deep(o.depth))} R${num(clearMm)} F${num(feed)}`);
        } else say(o.depth === bores[i - 1]!.depth ? xy(o) : `${xy(o)} Z${num(-deep(o.depth))}`);
      });
      say("G80");
    } else
      for (const o of bores) {
        above(o);
        const feed = o.kind === "tap" ? tool.speed * (tool.pitch ?? 1) : tool.feed;
        say(`G1 Z${num(-deep(o.depth))} F${num(feed)}`);
        if (o.kind === "tap") {
          // Out as it went in, the other way round.
          say("M4");
          say(`G1 Z${num(clearMm)} F${num(feed)}`);
          say("M3");
        } else say(`G0 Z${num(clearMm)}`);
      }
    for (const o of operations) {
      if (o.kind !== "mill") continue;
      above(o);
      say(`G1 Z${num(-deep("through"))} F${num(tool.feed * plungeShare)}`);
      let from: Point = o;
      o.path.forEach((leg, i) => {
        const feed = i === 0 ? ` F${num(tool.feed)}` : "";
        for (const line of legLines(from, leg, control, sheet, num)) say(`${line}${feed}`);
        from = leg;
      });
      say(`G0 Z${num(clearMm)}`);
    }
  }
  say(`G0 Z${num(changeMm)}`);
  for (const line of control.footer) say(line);
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
  { arcs, chordMm }: Control,
  { place, mirrored }: Sheet,
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
    return [`${mirrored ? "G2" : "G3"} ${at(leg)} I${num(c.x - a.x)} J${num(c.y - a.y)}`];
  }
  const r = Math.hypot(from.x - leg.cx, from.y - leg.cy);
  const a1 = Math.atan2(from.y - leg.cy, from.x - leg.cx);
  let a2 = Math.atan2(leg.y - leg.cy, leg.x - leg.cx);
  while (a2 <= a1 + 1e-12) a2 += 2 * Math.PI;
  // So many that no straight move is further off than it may be.
  const each = 2 * Math.acos(Math.max(0, 1 - chordMm / Math.max(r, chordMm)));
  const n = Math.max(1, Math.ceil((a2 - a1) / each));
  return Array.from({ length: n }, (_, i) => {
    const a = a1 + ((a2 - a1) * (i + 1)) / n;
    return `G1 ${at(i + 1 === n ? leg : { x: leg.cx + r * Math.cos(a), y: leg.cy + r * Math.sin(a) })}`;
  });
}
