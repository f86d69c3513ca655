import { ordinates } from "../formats/ordinates";
import { fitted, INK, PALE, PAPER, textAt, textWidth, type Scene, type SceneItem } from "../formats/scene";
import type { Face, Point, Rect } from "../design/geometry";
import { balloonsAround, STUB, type Balloons, type Frame } from "./balloons";
import { legendOf, type Item, type LegendLine } from "./items";
import type { PanelResult, PlacedBar, PlacedDevice } from "./result";

/** Sheets as they lie, mm; they stand where a face is drawn larger so. */
export const PAPERS = {
  A4: { w: 297, h: 210 },
  A3: { w: 420, h: 297 },
  A2: { w: 594, h: 420 },
  A1: { w: 841, h: 594 },
  A0: { w: 1189, h: 841 },
} as const;
export type Paper = keyof typeof PAPERS;

export const FIGURE_UNITS = ["mm", "in", "both"] as const;
export type FigureUnits = (typeof FIGURE_UNITS)[number];

/** How a face is drawn. */
export interface LayoutOptions {
  paper: Paper;
  units: FigureUnits;
  /** To a scale that stands on rulers, or as large as the sheet lets it. */
  scale: "ruler" | "fit";
  /** Who drew it, and when, as they stand in the title; empty where nobody says. */
  who: string;
  date: string;
}

export const LAYOUT_DRAWN: LayoutOptions = { paper: "A3", units: "mm", scale: "ruler", who: "", date: "" };

/** What stands in the title of every sheet. */
export interface LayoutHeading {
  job: string;
  title: string;
  revision: string;
}

const MARGIN = 10;
const TITLE = 20;
/** Of the figures below and at the left, of the balloons above and at the right. */
const BAND = { mm: 24, in: 24, both: 38 } as const;
const RADIUS = { large: 3.4, small: 2.4 } as const;
/** Above and at the right of a face, for balloons. */
const RINGS = RADIUS.large * 6;
const TEXT = { tag: 2.8, leastTag: 1.1, figure: 2.2, balloon: 2.6, title: 3.2, table: 2.6, least: 1.6 };
const ROW = 4.6;
/** What a sheet may be drawn to: rulers have these. */
const RULERS = [0.5, 1, 2, 2.5, 5, 7.5, 10, 12.5, 15, 20, 25, 50, 75, 100, 125, 200, 250, 500, 1000];
const MM_PER_INCH = 25.4;

const two = (v: number): string => String(Math.round(v * 100) / 100);
const inches = (v: number): string => (Math.round((v / MM_PER_INCH) * 1000) / 1000).toFixed(3);

/** A length as it stands in a drawing: inches behind millimetres in brackets where both are wanted. */
export const figure = (mm: number, units: FigureUnits): string =>
  units === "mm" ? two(mm) : units === "in" ? inches(mm) : `${two(mm)} [${inches(mm)}]`;

const stroke = (a: Point, b: Point, width = 0.18): SceneItem => ({
  kind: "line",
  x1: a.x,
  y1: a.y,
  x2: b.x,
  y2: b.y,
  width,
  layer: "mark",
  colour: INK,
});

/** What stands on one face. */
export interface OnFace {
  face: Face;
  devices: PlacedDevice[];
  rails: PlacedBar[];
  ducts: PlacedBar[];
  hung: Rect[];
}

export const onFaceOf = (panel: PanelResult, face: Face): OnFace => ({
  face,
  devices: panel.devices.filter((d) => d.face === face.id),
  rails: panel.rails.filter((r) => r.face === face.id),
  ducts: panel.ducts.filter((d) => d.face === face.id),
  hung: panel.hung.flatMap((p) => (p.face === face.id ? [p.outline] : [])),
});

/** Faces on which anything stands, in the order of the panel. */
export const drawnFaces = (panel: PanelResult): OnFace[] =>
  panel.faces.map((f) => onFaceOf(panel, f)).filter((o) => o.devices.length + o.rails.length + o.ducts.length > 0);

/** Places that are measured from the datum: where bars begin, end and run, corners of what is screwed to the face itself. */
export function measured({ devices, rails, ducts }: OnFace): { xs: number[]; ys: number[] } {
  const xs: number[] = [];
  const ys: number[] = [];
  const bar = ({ run, outline: o }: PlacedBar, middle: boolean): void => {
    const [along, across] = run === "right" ? [xs, ys] : [ys, xs];
    const [from, length, start, wide] = run === "right" ? [o.x, o.w, o.y, o.h] : [o.y, o.h, o.x, o.w];
    along.push(from, from + length);
    across.push(middle ? start + wide / 2 : start);
  };
  for (const r of rails) bar(r, true);
  for (const d of ducts) bar(d, false);
  for (const { carrier, outline: o } of devices)
    if (carrier === null) {
      xs.push(o.x);
      ys.push(o.y);
    }
  return { xs, ys };
}

/**
 * A face to scale with its figures from the datum at the lower left corner, a balloon for each item and, on sheets behind it,
 * the legend of its items. O(things + balloons · places for them)
 */
export function layoutSheets(
  on: OnFace,
  items: readonly Item[],
  heading: LayoutHeading,
  options: LayoutOptions = LAYOUT_DRAWN,
): Scene[] {
  const { face } = on;
  const lines = legendOf(items, face.id);
  const lying = PAPERS[options.paper];
  const paper = roomFor(lying, face, options) < roomFor(upright(lying), face, options) ? upright(lying) : lying;
  const { at, scale, frame } = placeOn(paper, face, options);
  const balloons = balloonsFor(lines, on, at, frame);
  const words = [
    `${face.id}, ${figure(face.w, options.units)} × ${figure(face.h, options.units)}${options.units === "mm" ? " mm" : options.units === "in" ? " in" : " mm [in]"}, seen from ${face.kind === "plate" ? "the front" : "outside"}; datum lower left; rails by their centre line, ducts by their lower or left edge`,
    ...(balloons.left.length > 0
      ? [`no room for balloons of items ${balloons.left.join(", ")}: they stand in the legend alone`]
      : []),
  ];
  const shown: SceneItem[] = [
    ...bodies(on, at, scale),
    ...ordinates(measured(on).xs, measured(on).ys, {
      at,
      w: face.w,
      h: face.h,
      size: TEXT.figure,
      beyond: BAND[options.units] / 3,
      words: (mm) => figure(mm, options.units),
      crowded: (n, axis) => `${n} places along ${axis} find no room on this sheet: choose a larger one`,
    }),
    ...datum(at({ x: 0, y: 0 })),
    ...ringItems(balloons),
  ];
  const stated = `1 : ${two(1 / scale)}`;
  const first = titled(`layout ${face.id}`, paper, heading, stated, words, options, shown);
  return [first, ...legendSheets(lines, face.id, heading, options)];
}

const upright = ({ w, h }: { w: number; h: number }): { w: number; h: number } => ({ w: h, h: w });

/** How large a face can be drawn on a sheet. */
function roomFor(paper: { w: number; h: number }, face: Face, { units }: Pick<LayoutOptions, "units">): number {
  const [w, h] = [paper.w - 2 * MARGIN - BAND[units] - RINGS, paper.h - 2 * MARGIN - TITLE - BAND[units] - RINGS];
  return Math.min(w / face.w, h / face.h);
}

/** Where a face lies on a sheet, and how large. */
function placeOn(
  paper: { w: number; h: number },
  face: Face,
  { units, scale: wanted }: LayoutOptions,
): { at(p: Point): Point; scale: number; frame: Frame } {
  const band = BAND[units];
  const fit = roomFor(paper, face, { units });
  const scale = wanted === "fit" ? fit : 1 / (RULERS.find((r) => 1 / r <= fit) ?? 1 / fit);
  const [left, top] = [MARGIN + band, MARGIN + RINGS];
  const bottom = top + face.h * scale;
  return {
    scale,
    at: (p) => ({ x: left + p.x * scale, y: bottom - p.y * scale }),
    frame: { left, top, right: left + face.w * scale, bottom },
  };
}

/** Outlines with their tags, bars below what stands on them. */
function bodies({ face, devices, rails, ducts, hung }: OnFace, at: (p: Point) => Point, scale: number): SceneItem[] {
  const rect = ({ x, y, w, h }: Rect, width: number, fill: string, layer: "outline" | "body"): SceneItem => {
    const corner = at({ x, y: y + h });
    return { kind: "rect", x: corner.x, y: corner.y, w: w * scale, h: h * scale, width, layer, fill };
  };
  const tag = (o: Rect, words: string): SceneItem[] => {
    const middle = at({ x: o.x + o.w / 2, y: o.y + o.h / 2 });
    const upright = o.h > o.w;
    const [long, short] = upright ? [o.h, o.w] : [o.w, o.h];
    const size = Math.min(TEXT.tag, short * scale * 0.9);
    if (size < TEXT.leastTag || textWidth(words, TEXT.leastTag) > long * scale) return [];
    const fit = fitted(words, long * scale * 0.94, size, TEXT.leastTag);
    return [textAt(middle.x, middle.y, fit.text, fit.size, { anchor: "middle", turn: upright ? 90 : 0 })];
  };
  // What carries others is drawn below them.
  const ordered = [...devices].sort((a, b) => a.z - b.z);
  const carrying = new Set(devices.flatMap((d) => (d.carrier === null ? [] : [d.carrier])));
  return [
    rect({ x: 0, y: 0, w: face.w, h: face.h }, 0.5, PAPER, "outline"),
    ...ducts.map((d) => rect(d.outline, 0.25, PALE, "body")),
    ...rails.map((r) => rect(r.outline, 0.18, PAPER, "body")),
    ...ducts.flatMap((d) => tag(d.outline, d.tag)),
    ...ordered.map((d) => rect(d.outline, 0.3, PAPER, "body")),
    ...hung.map((h) => rect(h, 0.2, PALE, "body")),
    ...ordered.flatMap((d) => (carrying.has(d.tag) ? [] : tag(d.outline, d.tag))),
  ];
}

/** Two arrows from the corner that all is measured from. */
function datum({ x, y }: Point): SceneItem[] {
  const p = (dx: number, dy: number): Point => ({ x: x + dx, y: y + dy });
  return [
    { kind: "circle", x, y, r: 1.6, width: 0.35, layer: "mark" },
    stroke(p(0, 0), p(7, 0), 0.4),
    stroke(p(7, 0), p(5.5, -0.8), 0.4),
    stroke(p(0, 0), p(0, -7), 0.4),
    stroke(p(0, -7), p(0.8, -5.5), 0.4),
  ];
}

/** In smaller rings where not all find room in large ones. */
function balloonsFor(lines: readonly LegendLine[], on: OnFace, at: (p: Point) => Point, frame: Frame): Balloons {
  const wanted = lines.map(({ item }) => ({
    number: item.number,
    // Near the corner that looks to the balloons, clear of the tag in the middle.
    places: item.devices.flatMap(({ face, outline: o }) =>
      face === on.face.id ? [at({ x: o.x + o.w * 0.85, y: o.y + o.h * 0.85 })] : [],
    ),
  }));
  const large = balloonsAround(wanted, frame, RADIUS.large);
  return large.left.length === 0 ? large : balloonsAround(wanted, frame, RADIUS.small);
}

function ringItems({ balloons }: Balloons): SceneItem[] {
  return balloons.flatMap(({ number, centre, bend, at }): SceneItem[] => {
    const r = Math.hypot(centre.x - bend.x, centre.y - bend.y) / STUB;
    const words = String(number);
    const size = Math.min(TEXT.balloon, (1.7 * r) / (Math.max(2, words.length) * 0.6));
    const edge = {
      x: centre.x + ((bend.x - centre.x) * r) / Math.hypot(centre.x - bend.x, centre.y - bend.y),
      y: centre.y + ((bend.y - centre.y) * r) / Math.hypot(centre.x - bend.x, centre.y - bend.y),
    };
    return [
      stroke(edge, bend),
      stroke(bend, at),
      { kind: "circle", x: at.x, y: at.y, r: 0.4, width: 0.18, layer: "mark", fill: INK },
      { kind: "circle", x: centre.x, y: centre.y, r, width: 0.3, layer: "mark", fill: PAPER },
      textAt(centre.x, centre.y, words, size, { anchor: "middle" }),
    ];
  });
}

function titled(
  name: string,
  paper: { w: number; h: number },
  heading: LayoutHeading,
  scale: string,
  words: readonly string[],
  { who, date }: LayoutOptions,
  items: SceneItem[],
): Scene {
  const { w, h } = paper;
  const y = h - MARGIN - TITLE;
  const made = [date, who].filter((t) => t !== "").join(", ");
  const right = [scale, made].filter((t) => t !== "").join("; ");
  const rightWidth = right === "" ? 0 : Math.min(w / 3, textWidth(right, TEXT.title) + 4);
  const row = (value: string, room: number, i: number): SceneItem => {
    const fit = fitted(value, room, TEXT.title, TEXT.least);
    return textAt(MARGIN + 3, y + 4 + i * 6, fit.text, fit.size);
  };
  const fit = fitted(right, Math.max(1, rightWidth), TEXT.title, TEXT.least);
  return {
    name,
    w,
    h,
    items: [
      { kind: "rect", x: MARGIN, y, w: w - 2 * MARGIN, h: TITLE, width: 0.35, layer: "frame" },
      row(`${heading.job} ${heading.title}, revision ${heading.revision}`, w - 2 * MARGIN - 6 - rightWidth, 0),
      textAt(w - MARGIN - 3, y + 4, fit.text, fit.size, { anchor: "end" }),
      ...words.map((v, i) => row(v, w - 2 * MARGIN - 6, i + 1)),
      ...items,
    ],
  };
}

/** Share of the sheet that each column of the legend has. */
const COLUMNS = [
  ["item", 0.05],
  ["count", 0.05],
  ["part", 0.16],
  ["text", 0.24],
  ["maker", 0.12],
  ["written on it", 0.14],
  ["tags", 0.24],
] as const;

/** Tags of a line as the column takes them: as many rows as they need. */
function wrapped(tags: readonly string[], room: number): string[] {
  const most = Math.max(1, Math.floor(room / (TEXT.table * 0.6)));
  const rows: string[] = [];
  let row = "";
  for (const tag of tags) {
    const longer = row === "" ? tag : `${row}, ${tag}`;
    if (longer.length > most && row !== "") {
      rows.push(`${row},`);
      row = tag;
    } else row = longer;
  }
  return [...rows, row];
}

function legendSheets(
  lines: readonly LegendLine[],
  face: string,
  heading: LayoutHeading,
  options: LayoutOptions,
): Scene[] {
  const paper = PAPERS[options.paper];
  const wide = paper.w - 2 * MARGIN;
  const starts: number[] = [];
  COLUMNS.reduce((x, [, share]) => (starts.push(x), x + share * wide), MARGIN);
  const rows = lines.flatMap(({ item, tags }) =>
    wrapped(tags, COLUMNS[6][1] * wide - 2).map((row, i) =>
      i === 0
        ? [
            String(item.number),
            String(tags.length),
            item.part,
            item.text,
            item.maker,
            item.texts.filter((t) => t !== "").join(" / "),
            row,
          ]
        : ["", "", "", "", "", "", row],
    ),
  );
  const most = Math.max(1, Math.floor((paper.h - 2 * MARGIN - TITLE - 10) / ROW));
  const sheets: Scene[] = [];
  const count = Math.ceil(rows.length / most);
  for (let n = 0; n < count; n++) {
    const here = rows.slice(n * most, (n + 1) * most);
    const cell = (value: string, column: number, y: number): SceneItem => {
      const fit = fitted(value, COLUMNS[column]![1] * wide - 2, TEXT.table, TEXT.least);
      return textAt(starts[column]! + 1, y, fit.text, fit.size);
    };
    const items: SceneItem[] = [
      ...COLUMNS.map(([title], c) => cell(title, c, MARGIN + 3)),
      stroke({ x: MARGIN, y: MARGIN + 6 }, { x: paper.w - MARGIN, y: MARGIN + 6 }, 0.3),
      ...here.flatMap((cells, i) =>
        cells.flatMap((value, c) => (value === "" ? [] : [cell(value, c, MARGIN + 9 + i * ROW)])),
      ),
    ];
    sheets.push(
      titled(
        `legend ${face}${count > 1 ? `, ${n + 1}` : ""}`,
        paper,
        heading,
        count > 1 ? `${n + 1} of ${count}` : "",
        [`legend of ${face}: ${lines.length} items, ${lines.reduce((sum, l) => sum + l.tags.length, 0)} devices`],
        options,
        items,
      ),
    );
  }
  return sheets;
}
