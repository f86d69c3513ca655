import { DIM, fitted, INK, PALE, PAPER, textWidth, turned, type Scene, type SceneItem } from "../formats/scene";
import { lanesOf } from "./lanes";
import {
  membersOf,
  type Accessory,
  type CableRun,
  type Connection,
  type DrawingOptions,
  type Jumper,
  type Member,
  type StripPlan,
} from "./result";

export const DRAWN: DrawingOptions = { stand: "lying", swap: false, scale: null, turn: 0, joined: false };

/** What stands in the title of every sheet. */
export interface Heading {
  job: string;
  title: string;
  revision: string;
  /** Beside a member on which nothing lands. */
  spareWord: string;
}

/** Room on a sheet of A4, along the strip and across it, above the title. */
const ROOM = { lying: { along: 277, across: 178 }, upright: { along: 265, across: 190 } } as const;
const SHEET = { margin: 10, title: 12 };
/** Of lines of text, mm. */
const TEXT = { size: 2.4, least: 1, lane: 2.3, gap: 0.25, title: 3, cable: 2.4 };
const BAND = { far: 34, conductor: 24, tick: 3, print: 16, fuse: 9, row: 5, edge: 2, cable: 5 };
const GUESSED_MM = 5;
const MOST_SCALE = 4;

/** As large as the texts of every member find room, but not more than four times. */
function ownScale(strip: StripPlan): number {
  // Relays and the like have many clamps on little room: they do not make the whole strip larger.
  const terminals = membersOf(strip).filter((m) => !m.other);
  const wanted = terminals.map((m) => (lanesOf(m).length * TEXT.lane) / (m.widthMm ?? GUESSED_MM));
  return Math.min(MOST_SCALE, Math.max(1, ...wanted.map((s) => Math.ceil(s * 10) / 10)));
}

/** Pieces of one sheet. */
type Piece = StripPlan["items"][number];

function sheetsOf(strip: StripPlan, scale: number, { joined, stand }: DrawingOptions): Piece[][] {
  if (joined) return [strip.items];
  const split = new Set(strip.splitAfter);
  const sheets: Piece[][] = [];
  let length = Infinity;
  for (const { member, pieces } of clusters(strip.items)) {
    const mm = pieces.reduce((sum, p) => sum + (p.widthMm ?? GUESSED_MM) * scale, 0);
    if (length + mm > ROOM[stand].along) {
      sheets.push([]);
      length = 0;
    }
    sheets[sheets.length - 1]!.push(...pieces);
    length = member !== null && split.has(member) ? Infinity : length + mm;
  }
  return sheets;
}

/** Each member with what hangs behind it; the first with what hangs before it too. */
function clusters(items: readonly Piece[]): { member: string | null; pieces: Piece[] }[] {
  const list: { member: string | null; pieces: Piece[] }[] = [];
  for (const item of items) {
    const last = list[list.length - 1];
    if (last && (item.kind !== "member" || last.member === null)) {
      last.pieces.push(item);
      if (item.kind === "member") last.member = item.tag;
    } else list.push({ member: item.kind === "member" ? item.tag : null, pieces: [item] });
  }
  return list;
}

/** Conductor in words, short: `214`, `W7.3 BN 1.5`. */
const conductorOf = (c: Connection): string =>
  [c.cable === null ? c.wire : c.core, c.colour, c.sizeMm2].filter((t) => t !== null).join(" ");

/**
 * The sheets of a strip: every member with what lies inside and outside level for level, jumpers, fuses, markers, accessories
 * and cables. Every text has a place of its own, and is drawn smaller or cut to keep to it. O(members + cores)
 */
export function stripSheets(
  strip: StripPlan,
  cables: readonly CableRun[],
  heading: Heading,
  options: DrawingOptions = DRAWN,
): Scene[] {
  const scale = options.scale ?? ownScale(strip);
  const sheets = sheetsOf(strip, scale, options);
  return sheets.map((pieces, i) =>
    turned(drawSheet(strip, pieces, cables, heading, options, scale, { n: i + 1, of: sheets.length }), options.turn),
  );
}

interface Placed<T> {
  item: T;
  u: number;
  w: number;
}

function drawSheet(
  strip: StripPlan,
  pieces: readonly Piece[],
  cables: readonly CableRun[],
  heading: Heading,
  { stand, swap }: DrawingOptions,
  scale: number,
  sheet: { n: number; of: number },
): Scene {
  let u = 0;
  const placed = pieces.map((item): Placed<Piece> => {
    const w = (item.widthMm ?? GUESSED_MM) * scale;
    u += w;
    return { item, u: u - w, w };
  });
  const length = u;
  const rows = Math.max(0, ...strip.jumpers.map((j) => j.row));
  const lines: CableLine[] = cableLines(placed, cables, length);
  const cableRows = Math.max(0, ...lines.map((l) => l.row + 1));
  // Bands across the strip, from the inside out.
  const bands = new Map<string, { v: number; mm: number }>();
  let v = 0;
  const band = (name: string, mm: number): void => {
    bands.set(name, { v, mm });
    v += mm;
  };
  band("inside far", BAND.far);
  band("inside conductor", BAND.conductor);
  band("inside tick", BAND.tick);
  band("edge", BAND.edge);
  band("fuse", BAND.fuse);
  band("print", BAND.print);
  band("rows", rows * BAND.row);
  band("edge out", BAND.edge);
  band("outside tick", BAND.tick);
  band("outside conductor", BAND.conductor);
  band("outside far", BAND.far);
  band("cables", cableRows * BAND.cable + (cableRows > 0 ? 1 : 0));
  const across = v;
  const upright = stand === "upright";
  const { along: room, across: depth } = ROOM[stand];
  const w = upright ? Math.max(depth, across) : Math.max(room, length);
  const h = upright ? Math.max(room, length) : Math.max(depth, across);
  /** From along and across to the sheet: lying the outside is up, standing it is to the right. */
  const at = (along: number, out: number): { x: number; y: number } => {
    const o = swap ? across - out : out;
    return upright
      ? { x: SHEET.margin + o, y: SHEET.margin + along }
      : { x: SHEET.margin + along, y: SHEET.margin + across - o };
  };
  const items: SceneItem[] = [];
  const rect = (
    a: number,
    o: number,
    along: number,
    out: number,
    more: Partial<SceneItem & { kind: "rect" }>,
  ): void => {
    const [p, q] = [at(a, o), at(a + along, o + out)];
    items.push({
      kind: "rect",
      x: Math.min(p.x, q.x),
      y: Math.min(p.y, q.y),
      w: Math.abs(p.x - q.x),
      h: Math.abs(p.y - q.y),
      width: 0.2,
      layer: "body",
      ...more,
    });
  };
  const line = (a1: number, o1: number, a2: number, o2: number, layer: SceneItem["layer"], width = 0.2): void => {
    const [p, q] = [at(a1, o1), at(a2, o2)];
    items.push({ kind: "line", x1: p.x, y1: p.y, x2: q.x, y2: q.y, width, layer });
  };
  /** Text across the strip, in the middle of a lane, kept to its band, at the end of the band that is nearer to the body. */
  const write = (name: string, text: string, along: number, room: number, size: number = TEXT.size): void => {
    if (text === "") return;
    const { v: from, mm } = bands.get(name)!;
    const fit = fitted(text, mm - 2, Math.min(size, room - TEXT.gap), Math.min(TEXT.least, room - TEXT.gap));
    const before = name.startsWith("inside");
    const place = at(along, before ? from + mm - 1 : from + 1);
    const anchor = before === swap ? "start" : "end";
    items.push({ kind: "text", ...place, ...fit, anchor, turn: upright ? 0 : 90, layer: "text" });
  };
  const body = { from: bands.get("edge")!.v, to: bands.get("outside tick")!.v };
  const middles = new Map<string, number>();
  for (const { item, u: a, w: along } of placed) {
    if (item.kind !== "member") {
      drawAccessory(item, a, along);
      continue;
    }
    middles.set(item.tag, a + along / 2);
    drawMember(item, a, along);
  }
  for (const jumper of strip.jumpers) drawJumper(jumper);
  for (const { tag, from, to, row, text } of lines) {
    const o = bands.get("cables")!.v + row * BAND.cable;
    line(from, o + 0.8, to, o + 0.8, "conductor", 0.3);
    line(from, o, from, o + 0.8, "conductor");
    line(to, o, to, o + 0.8, "conductor");
    const place = at(text + textWidth(tag, TEXT.cable) / 2, o + 0.8 + TEXT.cable / 2 + 0.5);
    items.push({
      kind: "text",
      ...place,
      text: tag,
      size: TEXT.cable,
      anchor: "middle",
      turn: upright ? 270 : 0,
      layer: "text",
    });
  }
  for (const side of ["inside", "outside"] as const) {
    const { v: from, mm } = bands.get(`${side} far`)!;
    const place = at(-SHEET.margin / 2, from + mm / 2);
    items.push({
      kind: "text",
      ...place,
      text: side,
      size: 3,
      anchor: "middle",
      turn: upright ? 0 : 90,
      layer: "text",
    });
  }
  const beside = (along: number, text: string): void => {
    const { v: from, mm } = bands.get("print")!;
    const place = at(along, from + mm / 2);
    items.push({ kind: "text", ...place, text, size: 2.4, anchor: "middle", turn: upright ? 0 : 90, layer: "text" });
  };
  if (sheet.n > 1) beside(-SHEET.margin / 2, `from sheet ${sheet.n - 1}`);
  if (sheet.n < sheet.of) beside(length + SHEET.margin / 2, `to sheet ${sheet.n + 1}`);
  const width = w + 2 * SHEET.margin;
  const height = h + 2 * SHEET.margin + SHEET.title;
  titleBlock();
  return { name: `${strip.tag} ${sheet.n}`, w: width, h: height, items };

  function drawAccessory({ kind }: Accessory, a: number, along: number): void {
    const low = kind === "end stop" ? 6 : 0;
    rect(a, body.from + low, along, body.to - body.from - 2 * low, {
      fill: kind === "separator" ? DIM : PALE,
    });
    if (along >= TEXT.least + TEXT.gap) write("print", kind, a + along / 2, along, 2);
  }

  function drawMember(m: Member, a: number, along: number): void {
    rect(a, body.from, along, body.to - body.from, { fill: PAPER, ...(m.widthMm === null ? { dash: 1 } : {}) });
    const lanes = lanesOf(m);
    // More than find room are told as a number: the list has them all.
    const most = Math.max(1, Math.floor(along / (TEXT.least + TEXT.gap)));
    const shown = lanes.length > most ? lanes.slice(0, most - 1) : lanes;
    const room = along / (lanes.length > most ? most : lanes.length);
    const middle = (i: number): number => a + room * (i + 0.5);
    shown.forEach((lane, i) => {
      for (const side of ["inside", "outside"] as const) {
        const c = lane[side];
        if (!c) continue;
        const tick = bands.get(`${side} tick`)!;
        line(middle(i), tick.v, middle(i), tick.v + tick.mm, "conductor");
        write(`${side} conductor`, conductorOf(c), middle(i), room);
        write(`${side} far`, c.far ?? "?", middle(i), room);
      }
    });
    if (shown.length < lanes.length) {
      for (const side of ["inside", "outside"] as const) {
        const n = lanes.slice(shown.length).filter((l) => l[side]).length;
        if (n > 0) write(`${side} conductor`, `${n} more`, middle(shown.length), room);
      }
    }
    if (lanes.every((l) => !l.inside && !l.outside)) write("outside far", heading.spareWord, a + along / 2, along);
    const undecided = m.levels.some((l) => l.undecided !== null);
    write("print", m.print, a + along / 2, along, 3);
    write(
      "fuse",
      undecided ? "?" : m.fuseA === undefined ? "" : m.fuseA === null ? "no fuse" : `${m.fuseA} A`,
      a + along / 2,
      along,
    );
    let n = 0;
    for (const level of m.levels.slice(0, -1)) {
      n += Math.max(1, level.inside.length, level.outside.length);
      if (lanes.length <= most) line(a + room * n, body.from, a + room * n, body.from + BAND.edge, "body");
    }
  }

  function drawJumper({ members, over, row }: Jumper): void {
    const here = members.flatMap((tag) => middles.get(tag) ?? []);
    if (here.length === 0) return;
    const o = bands.get("rows")!.v + (row - 0.5) * BAND.row;
    // A jumper that goes on on another sheet runs to the edge of this one.
    const there = placed.flatMap(({ item }) => (item.kind === "member" ? [item.tag] : []));
    const all = new Set([...members, ...over]);
    const begins = middles.has(members[0]!);
    const ends = middles.has(members[members.length - 1]!);
    const span = there.filter((tag) => all.has(tag)).map((tag) => middles.get(tag)!);
    line(begins ? span[0]! : 0, o, ends ? span[span.length - 1]! : length, o, "jumper", 0.6);
    for (const tag of all) {
      const a = middles.get(tag);
      if (a === undefined) continue;
      const joined = members.includes(tag);
      items.push({
        kind: "circle",
        ...at(a, o),
        r: 0.9,
        width: 0.3,
        layer: "jumper",
        fill: joined ? INK : PAPER,
      });
    }
  }

  function titleBlock(): void {
    const y = height - SHEET.margin - SHEET.title;
    items.push({ kind: "rect", x: SHEET.margin, y, w, h: SHEET.title, width: 0.3, layer: "frame" });
    const cells: [text: string, share: number][] = [
      [`${strip.tag} on ${strip.rail}`, 0.22],
      [`${heading.job} ${heading.title}`, 0.4],
      [`revision ${heading.revision}`, 0.16],
      [`scale ${Math.round(scale * 100) / 100}:1`, 0.11],
      [`sheet ${sheet.n} of ${sheet.of}`, 0.11],
    ];
    let x = SHEET.margin;
    for (const [text, share] of cells) {
      const mm = w * share;
      const fit = fitted(text, mm - 3, TEXT.title, TEXT.least);
      items.push({ kind: "text", x: x + 1.5, y: y + SHEET.title / 2, ...fit, anchor: "start", turn: 0, layer: "text" });
      x += mm;
      if (x < SHEET.margin + w - 1)
        items.push({ kind: "line", x1: x, y1: y, x2: x, y2: y + SHEET.title, width: 0.2, layer: "frame" });
    }
  }
}

/** A cable over the members on which its cores land; its tag stands at `text`. */
interface CableLine {
  tag: string;
  from: number;
  to: number;
  text: number;
  row: number;
}

/** Cables side by side as long as neither lines nor tags meet, else in another row. O(cores + cables²) for those of a sheet */
function cableLines(placed: readonly Placed<Piece>[], cables: readonly CableRun[], length: number): CableLine[] {
  const spans = new Map<string, { from: number; to: number }>();
  const known = new Set(cables.map((c) => c.tag));
  for (const { item, u, w } of placed) {
    if (item.kind !== "member") continue;
    for (const level of item.levels) {
      for (const c of [...level.outside, ...level.inside]) {
        if (c.cable === null || !known.has(c.cable)) continue;
        const span = spans.get(c.cable);
        const [from, to] = [u + w * 0.25, u + w * 0.75];
        if (!span) spans.set(c.cable, { from, to });
        else {
          span.from = Math.min(span.from, from);
          span.to = Math.max(span.to, to);
        }
      }
    }
  }
  const rows: number[] = [];
  return [...spans]
    .map(([tag, { from, to }]) => {
      const mm = textWidth(tag, TEXT.cable);
      const text = Math.max(0, Math.min(length - mm, (from + to) / 2 - mm / 2));
      return { tag, from, to, text, begins: Math.min(from, text), ends: Math.max(to, text + mm) };
    })
    .sort((a, b) => a.begins - b.begins || a.from - b.from)
    .map(({ begins, ends, ...line }) => {
      let row = rows.findIndex((end) => end + 1 <= begins);
      if (row < 0) row = rows.length;
      rows[row] = ends;
      return { ...line, row };
    });
}

// ---- markers ---------------------------------------------------------------------------------------

const MARKER = { h: 10, row: 24, page: { w: 210, h: 297 }, margin: 15, text: 3.2 };

/** Markers of strips at 1:1 on sheets of A4, in order of hanging on, each as wide as its member. O(members) */
export function markerSheets(strips: readonly StripPlan[], heading: Heading): Scene[] {
  const { page, margin } = MARKER;
  const room = page.w - 2 * margin;
  const scenes: Scene[] = [];
  let items: SceneItem[] = [];
  let y = margin + 8;
  const begin = (): void => {
    items = [];
    scenes.push({ name: `markers ${scenes.length + 1}`, w: page.w, h: page.h, items });
    const head = fitted(
      `${heading.job} revision ${heading.revision}, markers at 1:1, sheet ${scenes.length}`,
      room,
      3.2,
      1,
    );
    items.push({ kind: "text", x: margin, y: margin, ...head, anchor: "start", turn: 0, layer: "text" });
    y = margin + 8;
  };
  for (const strip of strips) {
    const members = membersOf(strip);
    for (let i = 0; i < members.length;) {
      if (scenes.length === 0 || y + MARKER.row > page.h - margin) begin();
      const label = fitted(`${strip.tag}${i > 0 ? ", goes on" : ""}`, room, 2.6, 1);
      items.push({ kind: "text", x: margin, y: y + 2, ...label, anchor: "start", turn: 0, layer: "text" });
      const top = y + 5;
      let x = margin;
      for (; i < members.length; i++) {
        const m = members[i]!;
        const mm = Math.min(room, m.widthMm ?? GUESSED_MM);
        if (x + mm > margin + room + 1e-6) break;
        items.push({ kind: "rect", x, y: top, w: mm, h: MARKER.h, width: 0.1, layer: "cut" });
        // Along the marker where it is wide enough, else up it.
        const along = textWidth(m.print, MARKER.text) <= mm - 0.6;
        const fit = fitted(
          m.print,
          along ? mm - 0.6 : MARKER.h - 1,
          Math.min(MARKER.text, along ? MARKER.h : mm - 0.4),
          0.8,
        );
        items.push({
          kind: "text",
          x: x + mm / 2,
          y: top + MARKER.h / 2,
          ...fit,
          anchor: "middle",
          turn: along ? 0 : 90,
          layer: "mark",
        });
        x += mm;
      }
      y += MARKER.row;
    }
  }
  return scenes;
}
