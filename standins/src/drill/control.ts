import type { MachineTable, TableTool } from "./table";

/**
 * The control of a drilling machine: reads a program by ISO 6983 (modal words, cycles, arcs) and moves the tool by it. What
 * a real one refuses is refused, with the line. What comes out is what the sheet looks like: holes and contours.
 */

export interface Fault {
  /** Line of the program, from one. */
  line: number;
  text: string;
}

export interface MadeHole {
  tool: number;
  kind: TableTool["kind"];
  x: number;
  y: number;
  d: number;
  h?: number;
  /** Tip of the tool below the sheet's upper side; `through` where it came out below. */
  depth: number;
  /** In its full size: with the point of a drill, or the lead of a tap, below the sheet too. */
  through: boolean;
}

/** The way of a cutter's middle while it was in the sheet. */
export interface MadeContour {
  tool: number;
  d: number;
  through: boolean;
  points: { x: number; y: number }[];
}

export interface Made {
  holes: MadeHole[];
  contours: MadeContour[];
}

/** One block, done: how long it took and what share of its program it ends. */
export interface Block {
  line: number;
  seconds: number;
}

interface Word {
  letter: string;
  value: number;
}

interface Line {
  line: number;
  words: Word[];
}

const KNOWN_G = new Set([0, 1, 4, 17, 21, 40, 43, 49, 54, 80, 90]);
const ARC_G = new Set([2, 3]);
const CYCLE_G = new Set([81, 84]);
const KNOWN_M = new Set([2, 3, 4, 5, 6, 7, 8, 9, 30]);
const LETTERS = new Set("NGMTSFXYZIJRHP");
const MOST_LINES = 200_000;
/** Thickness is measured when the sheet is clamped; without it the machine takes this. */
const THICKNESS = 2;
/** Two radii of one arc may differ by so much. */
const ARC_MM = 0.02;

/** A program as words, line by line; or everything that cannot be read, is not known, or asks for what is not there. */
export function load(text: string, table: MachineTable): { ok: true; lines: Line[] } | { ok: false; faults: Fault[] } {
  const faults: Fault[] = [];
  const lines: Line[] = [];
  const rows = text.split(/\r?\n/);
  if (rows.length > MOST_LINES) return { ok: false, faults: [{ line: MOST_LINES, text: "the program is too long" }] };
  let ended = false;
  rows.forEach((row, i) => {
    const line = i + 1;
    const bare = row.replace(/\([^()]*\)/g, "").replace(/\s+/g, "");
    if (bare === "" || bare === "%") return;
    if (/[()]/.test(bare)) faults.push({ line, text: "a bracket stands alone" });
    if (ended) {
      faults.push({ line, text: "something stands behind the end of the program" });
      return;
    }
    const words: Word[] = [];
    let rest = bare;
    while (rest !== "") {
      const found = /^([A-Z])([+-]?(?:\d+\.?\d*|\.\d+))/.exec(rest);
      if (!found) {
        faults.push({ line, text: `not a word: ${rest.slice(0, 20)}` });
        break;
      }
      words.push({ letter: found[1]!, value: Number(found[2]) });
      rest = rest.slice(found[0].length);
    }
    for (const { letter, value } of words) {
      if (!LETTERS.has(letter)) faults.push({ line, text: `unknown letter ${letter}` });
      if (letter === "G") {
        if (ARC_G.has(value) && !table.reads.arcs) faults.push({ line, text: `this control reads no arcs: G${value}` });
        else if (CYCLE_G.has(value) && !table.reads.cycles)
          faults.push({ line, text: `this control has no cycles: G${value}` });
        else if (!KNOWN_G.has(value) && !ARC_G.has(value) && !CYCLE_G.has(value))
          faults.push({ line, text: `unknown code G${value}` });
      }
      if (letter === "M") {
        if (!KNOWN_M.has(value)) faults.push({ line, text: `unknown code M${value}` });
        if (value === 2 || value === 30) ended = true;
      }
      if (letter === "T" && !table.tools.some((t) => t.place === value))
        faults.push({ line, text: `there is no tool in place ${value}` });
      if (letter === "X" || letter === "Y" || letter === "Z") {
        const [low, high] = table.area[letter.toLowerCase() as "x" | "y" | "z"];
        if (value < low - 1e-6 || value > high + 1e-6)
          faults.push({ line, text: `${letter}${value} is out of reach: ${low} to ${high}` });
      }
    }
    if (words.length > 0) lines.push({ line, words });
  });
  if (!ended) faults.push({ line: rows.length, text: "the program has no end" });
  return faults.length > 0 ? { ok: false, faults } : { ok: true, lines };
}

interface Point {
  x: number;
  y: number;
  z: number;
}

/** What of a tool has not its full size yet. mm */
function tipOf({ kind, d, point = 118, lead = 4, pitch = 1 }: TableTool): number {
  if (kind === "drill") return d / 2 / Math.tan((point / 360) * Math.PI);
  return kind === "tap" ? lead * pitch : 0;
}

/** Thrown inside; leaves as the fault of a block. */
class Stop extends Error {}

/** The machine at work on one sheet. Each step is one block; a fault ends it. */
export class Run {
  readonly made: Made = { holes: [], contours: [] };
  fault: Fault | null = null;
  done = false;
  readonly #lines: readonly Line[];
  readonly #table: MachineTable;
  readonly #thickness: number;
  #next = 0;
  #at: Point;
  #motion: 0 | 1 | 2 | 3 | 81 | 84 = 0;
  #cycle: { z: number; r: number } | null = null;
  #feed = 0;
  #turns = 0;
  #spindle: "off" | "right" | "left" = "off";
  #tool: TableTool | null = null;
  #chosen: TableTool | null = null;
  #contour: MadeContour | null = null;
  #entered: Point | null = null;

  constructor(lines: readonly Line[], table: MachineTable, thickness = THICKNESS) {
    this.#lines = lines;
    this.#table = table;
    this.#thickness = thickness;
    // Parked, as far up as it goes.
    this.#at = { x: 0, y: 0, z: table.area.z[1] };
  }

  get blocks(): number {
    return this.#lines.length;
  }
  get at(): number {
    return this.#next;
  }

  /** The next block; null at the end, or after a fault. */
  step(): Block | null {
    const line = this.#lines[this.#next];
    if (!line || this.done || this.fault) return null;
    this.#next++;
    try {
      return { line: line.line, seconds: this.#block(line.words) };
    } catch (e) {
      if (!(e instanceof Stop)) throw e;
      this.fault = { line: line.line, text: e.message };
      return null;
    }
  }

  #block(words: readonly Word[]): number {
    const value = new Map<string, number>();
    let seconds = 0;
    const m: number[] = [];
    for (const { letter, value: v } of words) {
      if (letter === "G") this.#code(v);
      else if (letter === "M") m.push(v);
      else if (letter === "T") this.#chosen = this.#table.tools.find((t) => t.place === v) ?? null;
      else if (letter === "S") this.#turns = v;
      else if (letter === "F") this.#feed = v;
      else if (letter === "H") {
        if (v !== this.#tool?.place) throw new Stop(`the length of tool ${v} is not that of the tool in the spindle`);
      } else if (letter !== "N") value.set(letter, v);
    }
    for (const code of m) seconds += this.#misc(code);
    const moves = ["X", "Y", "Z"].some((k) => value.has(k));
    if (this.#motion === 81 || this.#motion === 84) return seconds + this.#inCycle(value);
    if (!moves) return seconds;
    const to: Point = {
      x: value.get("X") ?? this.#at.x,
      y: value.get("Y") ?? this.#at.y,
      z: value.get("Z") ?? this.#at.z,
    };
    if (this.#motion === 0) return seconds + this.#rapid(to);
    if (this.#motion === 1) return seconds + this.#straight(to);
    return seconds + this.#arc(to, value);
  }

  #code(g: number): void {
    if (g === 0 || g === 1 || g === 2 || g === 3) {
      this.#motion = g;
      this.#cycle = null;
    } else if (g === 81 || g === 84) {
      this.#motion = g;
      this.#cycle = null;
    } else if (g === 80) {
      this.#cycle = null;
      this.#motion = 0;
    }
  }

  #misc(code: number): number {
    if (code === 3) this.#spindle = "right";
    else if (code === 4) this.#spindle = "left";
    else if (code === 5) this.#spindle = "off";
    else if (code === 2 || code === 30) {
      if (this.#at.z < 0) throw new Stop("the program ends with the tool in the sheet");
      this.done = true;
    } else if (code === 6) {
      if (!this.#chosen) throw new Stop("M6 without a tool");
      if (this.#at.z < 0) throw new Stop("tools are changed in the sheet");
      this.#tool = this.#chosen;
      this.#spindle = "off";
      return this.#table.changeSeconds;
    }
    if ((code === 3 || code === 4) && this.#tool) {
      const most = this.#tool.mostTurns;
      if (most !== undefined && this.#turns > most)
        throw new Stop(`tool ${this.#tool.place} may turn ${most} a minute`);
      if (this.#turns <= 0) throw new Stop("the spindle is started without turns");
    }
    return 0;
  }

  #inCycle(value: ReadonlyMap<string, number>): number {
    if (value.has("R")) this.#cycle = { z: value.get("Z") ?? NaN, r: value.get("R")! };
    else if (this.#cycle && value.has("Z")) this.#cycle.z = value.get("Z")!;
    if (!["X", "Y", "R"].some((k) => value.has(k))) return 0;
    const cycle = this.#cycle;
    if (!cycle || Number.isNaN(cycle.z)) throw new Stop("a cycle without Z and R");
    const to = { x: value.get("X") ?? this.#at.x, y: value.get("Y") ?? this.#at.y };
    // Over to the place at the height it stands, then down to R.
    let seconds = this.#rapid({ ...to, z: this.#at.z });
    seconds += this.#rapid({ ...to, z: cycle.r });
    seconds += this.#straight({ ...to, z: cycle.z });
    if (this.#motion === 84) {
      this.#spindle = this.#spindle === "left" ? "right" : "left";
      seconds += this.#straight({ ...to, z: cycle.r });
      this.#spindle = this.#spindle === "left" ? "right" : "left";
    } else seconds += this.#rapid({ ...to, z: cycle.r });
    return seconds;
  }

  #rapid(to: Point): number {
    const from = this.#at;
    const sideways = to.x !== from.x || to.y !== from.y;
    if (sideways && Math.min(from.z, to.z) < 0) throw new Stop("a rapid move through the sheet");
    if (to.z < 0 && to.z < from.z) throw new Stop("a rapid move into the sheet");
    this.#intoClamp(from, to);
    this.#leave(to);
    this.#at = to;
    return (
      (Math.max(Math.abs(to.x - from.x), Math.abs(to.y - from.y), Math.abs(to.z - from.z)) / this.#table.rapid) * 60
    );
  }

  #straight(to: Point): number {
    const from = this.#at;
    this.#working(from, to);
    this.#intoClamp(from, to);
    const sideways = to.x !== from.x || to.y !== from.y;
    this.#enter(from, to, sideways);
    if (sideways && Math.min(from.z, to.z) < 0) this.#along([to]);
    this.#leave(to);
    this.#at = to;
    return (Math.hypot(to.x - from.x, to.y - from.y, to.z - from.z) / this.#feed) * 60;
  }

  #arc(to: Point, value: ReadonlyMap<string, number>): number {
    const from = this.#at;
    if (!value.has("I") && !value.has("J")) throw new Stop("an arc without its middle");
    const [cx, cy] = [from.x + (value.get("I") ?? 0), from.y + (value.get("J") ?? 0)];
    const r = Math.hypot(from.x - cx, from.y - cy);
    if (Math.abs(r - Math.hypot(to.x - cx, to.y - cy)) > ARC_MM)
      throw new Stop("the end of an arc is not on its circle");
    this.#working(from, to);
    const a = Math.atan2(from.y - cy, from.x - cx);
    const turn = 2 * Math.PI;
    let sweep = (((Math.atan2(to.y - cy, to.x - cx) - a) % turn) + turn) % turn;
    if (this.#motion === 2) sweep -= turn;
    if (Math.abs(sweep) < 1e-9) sweep = this.#motion === 2 ? -turn : turn;
    const n = 64;
    const points = Array.from({ length: n }, (_, k) => {
      const angle = a + (sweep * (k + 1)) / n;
      return k + 1 === n ? to : { x: cx + r * Math.cos(angle), y: cy + r * Math.sin(angle), z: to.z };
    });
    let last = from;
    for (const p of points) {
      this.#intoClamp(last, p);
      last = p;
    }
    this.#enter(from, to, true);
    if (Math.min(from.z, to.z) < 0) this.#along(points);
    this.#at = to;
    return ((r * Math.abs(sweep)) / this.#feed) * 60;
  }

  /** Into the sheet only with a tool that turns, and with a feed; a punch does not turn. */
  #working(from: Point, to: Point): void {
    if (Math.min(from.z, to.z) >= 0) {
      if (this.#feed <= 0) throw new Stop("a move in work without a feed");
      return;
    }
    if (!this.#tool) throw new Stop("into the sheet without a tool");
    if (this.#tool.kind !== "punch" && this.#spindle === "off") throw new Stop("into the sheet with the spindle off");
    if (this.#feed <= 0) throw new Stop("into the sheet without a feed");
    const sideways = to.x !== from.x || to.y !== from.y;
    if (sideways && this.#tool.kind !== "mill") throw new Stop(`a ${this.#tool.kind} goes sideways in the sheet`);
  }

  #intoClamp(from: Point, to: Point): void {
    const low = Math.min(from.z, to.z);
    const r = (this.#tool?.d ?? 0) / 2;
    for (const c of this.#table.clamps) {
      if (low >= c.high) continue;
      let [enter, out] = [0, 1];
      let meets = true;
      for (const [p, d, near, far] of [
        [from.x, to.x - from.x, c.x - r, c.x + c.w + r],
        [from.y, to.y - from.y, c.y - r, c.y + c.h + r],
      ] as const) {
        if (d === 0) {
          if (p <= near || p >= far) meets = false;
          continue;
        }
        const [t1, t2] = [(near - p) / d, (far - p) / d];
        enter = Math.max(enter, Math.min(t1, t2));
        out = Math.min(out, Math.max(t1, t2));
      }
      if (meets && enter < out) throw new Stop(`into the clamp at X${c.x} Y${c.y}`);
    }
  }

  #enter(from: Point, to: Point, sideways: boolean): void {
    if (from.z >= 0 && to.z < 0) {
      this.#entered = to;
      this.#contour = null;
    } else if (to.z < 0 && this.#entered && !sideways && to.z < this.#entered.z) this.#entered = to;
  }

  #along(points: readonly Point[]): void {
    const tool = this.#tool!;
    if (!this.#contour) {
      const z = this.#at.z;
      this.#contour = {
        tool: tool.place,
        d: tool.d,
        through: -z >= this.#thickness,
        points: [{ x: this.#at.x, y: this.#at.y }],
      };
      this.made.contours.push(this.#contour);
    }
    this.#contour.points.push(...points.map(({ x, y }) => ({ x, y })));
  }

  /** Up out of the sheet: what went straight down made a hole. */
  #leave(to: Point): void {
    if (to.z < 0 || !this.#entered) return;
    const tool = this.#tool!;
    if (!this.#contour) {
      const { x, y, z } = this.#entered;
      this.made.holes.push({
        tool: tool.place,
        kind: tool.kind,
        x,
        y,
        d: tool.kind === "sink" ? Math.min(tool.d, -2 * z) : tool.d,
        ...(tool.h === undefined ? {} : { h: tool.h }),
        depth: -z,
        through: -z >= this.#thickness + tipOf(tool) - 1e-6,
      });
    }
    this.#entered = null;
    this.#contour = null;
  }
}

/** A whole program at once, as fast as it goes. */
export function runAll(
  text: string,
  table: MachineTable,
  thickness?: number,
): { made: Made; faults: Fault[]; seconds: number } {
  const loaded = load(text, table);
  if (!loaded.ok) return { made: { holes: [], contours: [] }, faults: loaded.faults, seconds: 0 };
  const run = new Run(loaded.lines, table, thickness);
  let seconds = 0;
  for (let block = run.step(); block; block = run.step()) seconds += block.seconds;
  return { made: run.made, faults: run.fault ? [run.fault] : [], seconds };
}
