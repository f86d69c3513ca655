import {
  DIM,
  fitted,
  INK,
  PAPER,
  textAt,
  textBox,
  textWidth,
  type Box,
  type Scene,
  type SceneItem,
  type SceneText,
} from "../formats/scene";
import { ordinates } from "../formats/ordinates";
import type { Point } from "../design/geometry";
import { asSeen, middleOf } from "./shapes";
import { flattened, ringOf } from "./rings";
import type { Cut, FaceHole, FaceWork } from "./result";
import { A4, fullSheetsOf, gridOf, MARGIN, MOST_FULL_SHEETS, OVERLAP, TILE, TITLE } from "./drawing-sizes";
import { cutText, originText, seenText, setUpLines, toolText } from "./say";
import { finishing, signLines, toolsOf } from "./signs";
import type { Machine } from "./rules";
import type { Tool } from "./tools";

/** What stands in the title of every sheet. */
export interface Heading {
  job: string;
  title: string;
  revision: string;
}

const A3 = { w: 420, h: 297 };
/** Breadth of the bands for dimensions, left of and below the face; of the legend right of it. */
const BAND = 24;
const LEGEND = 78;
const TEXT = { number: 2.2, dimension: 2.2, table: 2.6, title: 3.4 };
const ROW = 4.2;
/** Rows of the legend that say how the sheet lies. */
const LYING_ROWS = 24;

const mm = (v: number): string => String(Math.round(v * 100) / 100);

/** A cut as it is drawn: its edge, and where it has its middle. */
export function edgeItems(cut: Cut, at: (p: Point) => Point, scale: number): SceneItem[] {
  const line = { width: 0.25, layer: "outline" as const };
  const ring = ringOf(cut);
  if (ring) return [{ kind: "poly", points: flattened(ring).map(at), closed: true, ...line }];
  if (!("d" in cut)) return [];
  const { x, y } = at(middleOf(cut));
  const circle = (d: number): SceneItem => ({ kind: "circle", x, y, r: (d / 2) * scale, ...line });
  return cut.kind === "countersunk" ? [circle(cut.d), circle(cut.head)] : [circle(cut.d)];
}

const line = (x1: number, y1: number, x2: number, y2: number, width = 0.18): SceneItem => ({
  kind: "line",
  x1,
  y1,
  x2,
  y2,
  width,
  layer: "mark",
  colour: INK,
});

function titled(
  name: string,
  size: { w: number; h: number },
  heading: Heading,
  words: string,
  items: SceneItem[],
): Scene {
  const { w, h } = size;
  const y = h - MARGIN - TITLE;
  const room = w - 2 * MARGIN - 6;
  const rows = [`${heading.job} ${heading.title}, revision ${heading.revision}`, words];
  return {
    name,
    w,
    h,
    items: [
      { kind: "rect", x: MARGIN, y, w: w - 2 * MARGIN, h: TITLE, width: 0.35, layer: "frame" },
      ...rows.map((row, i) => {
        const fit = fitted(row, room, TEXT.title, 1.6);
        return textAt(MARGIN + 3, y + 4 + i * 6, fit.text, fit.size);
      }),
      ...items,
    ],
  };
}

/**
 * A face to fit a sheet of A3: openings with the sign of the tool that finishes them and their numbers, dimensions from the
 * datum at the lower left corner, a legend of the tools; then its hole table. Seen as the machine takes it.
 */
export function faceSheets(
  work: FaceWork,
  tools: readonly Tool[],
  machines: readonly Machine[],
  heading: Heading,
): Scene[] {
  const seen = seenText(work);
  const room = { w: A3.w - 2 * MARGIN - BAND - LEGEND, h: A3.h - 2 * MARGIN - TITLE - BAND - 6 };
  const scale = Math.min(room.w / work.w, room.h / work.h);
  const left = MARGIN + BAND;
  const bottom = MARGIN + room.h + 3;
  const at = (p: Point): Point => ({ x: left + p.x * scale, y: bottom - p.y * scale });
  const cuts = work.holes.map((hole) => ({ hole, cut: asSeen(work, hole.cut) }));
  const items: SceneItem[] = [
    {
      kind: "rect",
      x: left,
      y: bottom - work.h * scale,
      w: work.w * scale,
      h: work.h * scale,
      width: 0.5,
      layer: "outline",
      fill: PAPER,
    },
    ...datum(left, bottom),
  ];
  const order = toolsOf(work);
  const last = finishing(work);
  const boxes: Box[] = [];
  for (const { hole, cut } of cuts) {
    items.push(...edgeItems(cut, at, scale));
    const middle = at(middleOf(cut));
    const tool = last.get(hole.number)?.tool;
    if (tool !== undefined)
      for (const points of signLines(order.indexOf(tool), middle, 1.1, -1))
        items.push({ kind: "poly", points, closed: false, width: 0.18, layer: "mark" });
    boxes.push({ x: middle.x - 1.3, y: middle.y - 1.3, w: 2.6, h: 2.6 });
  }
  for (const { hole, cut } of cuts) {
    const place = freePlace(at(middleOf(cut)), String(hole.number), boxes);
    if (!place) continue;
    boxes.push(textBox(place));
    items.push(place);
  }
  items.push(
    ...ordinates(
      cuts.map((c) => middleOf(c.cut).x),
      cuts.map((c) => middleOf(c.cut).y),
      {
        at,
        w: work.w,
        h: work.h,
        size: TEXT.dimension,
        beyond: BAND / 2,
        words: mm,
        crowded: (n, axis) => `${n} places along ${axis}: see the table`,
      },
    ),
  );
  items.push(
    ...legend(work, order, tools, setUpWords(work, machines, heading), A3.w - MARGIN - LEGEND + 4, MARGIN + 4),
  );
  const words = `${work.face}, ${mm(work.w)} × ${mm(work.h)} mm, ${thick(work)}, SEEN FROM ${seen.toUpperCase()}; datum lower left; 1 : ${mm(1 / scale)}`;
  return [
    titled(`${work.face}, seen from ${seen}`, A3, heading, words, items),
    ...tableSheets(work, cuts, last, heading, seen),
  ];
}

const thick = ({ thicknessMm }: FaceWork): string =>
  thicknessMm === null ? "thickness not stated" : `${mm(thicknessMm)} mm thick`;

/** Two arrows from the corner that all is measured from. */
function datum(x: number, y: number): SceneItem[] {
  return [
    { kind: "circle", x, y, r: 2, width: 0.35, layer: "mark" },
    line(x, y, x + 9, y, 0.5),
    line(x + 9, y, x + 7, y - 1, 0.5),
    line(x, y, x, y - 9, 0.5),
    line(x, y - 9, x + 1, y - 7, 0.5),
  ];
}

/** A number beside its hole where nothing is yet: the first free of eight places; none where all are taken. */
function freePlace(p: Point, value: string, taken: readonly Box[]): SceneText | null {
  const size = TEXT.number;
  const half = textWidth(value, size) / 2;
  for (const [dx, dy] of [
    [1, 0],
    [1, -1],
    [1, 1],
    [-1, 0],
    [-1, -1],
    [-1, 1],
    [0, -1],
    [0, 1],
  ] as const) {
    const place = textAt(p.x + dx * (half + 1.9), p.y + dy * 2.6, value, size, { anchor: "middle" });
    const box = textBox(place);
    if (!taken.some((b) => box.x < b.x + b.w && b.x < box.x + box.w && box.y < b.y + b.h && b.y < box.y + box.h))
      return place;
  }
  return null;
}

/** How the sheet lies in each set-up: lines of the legend. */
const setUpWords = (work: FaceWork, machines: readonly Machine[], heading: Heading): string[] =>
  work.setUps.flatMap((_, i) => setUpLines(work, { machines }, heading, i + 1).slice(3));

function legend(
  work: FaceWork,
  order: readonly string[],
  tools: readonly Tool[],
  lying: readonly string[],
  x: number,
  y: number,
): SceneItem[] {
  const counts = new Map<string, number>();
  for (const { tool, operations } of work.setUps.flatMap((s) => s.steps))
    counts.set(tool, (counts.get(tool) ?? 0) + operations.length);
  const words = [`seen from ${seenText(work)}`, `machine ${work.machine ?? "none"}`];
  return [
    ...words.map((w, i) => textAt(x, y + i * 5, w, 3)),
    ...lying.slice(0, LYING_ROWS).map((row, i) => {
      const fit = fitted(row, LEGEND - 6, 2.6, 1.6);
      return textAt(x, y + 18 + (order.length + i) * 5, fit.text, fit.size);
    }),
    ...order.flatMap((id, i): SceneItem[] => {
      const row = y + 14 + i * 5;
      return [
        ...signLines(i, { x: x + 2, y: row }, 1.4, -1).map((points): SceneItem => ({
          kind: "poly",
          points,
          closed: false,
          width: 0.2,
          layer: "mark",
        })),
        textAt(x + 6, row, `${id} ${toolText(id, tools)}, ${counts.get(id)}`, 2.6),
      ];
    }),
  ];
}

function tableSheets(
  work: FaceWork,
  cuts: readonly { hole: FaceHole; cut: Cut }[],
  last: ReadonlyMap<number, { tool: string; order: number }>,
  heading: Heading,
  seen: string,
): Scene[] {
  const rows = Math.floor((A3.h - 2 * MARGIN - TITLE - 12) / ROW);
  const columns = [12, 72, 24, 24, 16, 14, 226];
  const sheets: Scene[] = [];
  // An outline is marked out by its corners: a row each below it.
  const lines = cuts.flatMap(({ hole, cut }): string[][] => {
    const { x, y } = middleOf(cut);
    const done = last.get(hole.number);
    return [
      [
        String(hole.number),
        cutText(cut),
        mm(x),
        mm(y),
        done?.tool ?? "none",
        done ? String(done.order) : "",
        originText(hole.from),
      ],
      ...(cut.kind === "polygon"
        ? cut.points.map((p, i) => [`${hole.number}.${i + 1}`, `corner ${i + 1}`, mm(p.x), mm(p.y), "", "", ""])
        : []),
    ];
  });
  for (let from = 0; from < lines.length; from += rows) {
    const items: SceneItem[] = [];
    const put = (row: number, cells: readonly string[]): void => {
      let x = MARGIN;
      const y = MARGIN + 5 + row * ROW;
      cells.forEach((cell, i) => {
        const fit = fitted(cell, columns[i]! - 2, TEXT.table, 1.4);
        items.push(textAt(x + 1, y, fit.text, fit.size));
        x += columns[i]!;
      });
      items.push(line(MARGIN, y + ROW / 2, A3.w - MARGIN, y + ROW / 2, 0.1));
    };
    put(0, ["no.", "what", "x", "y", "tool", "order", "from"]);
    lines.slice(from, from + rows).forEach((cells, i) => put(i + 1, cells));
    sheets.push(
      titled(
        `${work.face}, holes`,
        A3,
        heading,
        `${work.face}, rows ${from + 1} to ${Math.min(from + rows, lines.length)} of ${lines.length}, ${cuts.length} holes; x and y of their middles in mm from the lower left corner, SEEN FROM ${seen.toUpperCase()}`,
        items,
      ),
    );
  }
  return sheets;
}

/**
 * A face at 1:1 on sheets of A4, for drilling through paper: crosses at every middle, edges, crosses at the corners of the
 * overlap that lie on each other when the sheets are laid together, and 100 mm to check the printer by. Seen from the side it
 * is drilled from. Sheets with nothing on them are printed too: they carry the edges of the others.
 */
export function fullSheets(work: FaceWork, heading: Heading): Scene[] {
  const seen = seenText(work);
  const step = { w: TILE.w - OVERLAP, h: TILE.h - OVERLAP };
  const { columns, rows } = gridOf(work);
  if (columns * rows > MOST_FULL_SHEETS)
    return [
      titled(`${work.face}, too large for 1:1`, A4, heading, `${work.face}, SEEN FROM ${seen.toUpperCase()}`, [
        textAt(
          MARGIN + 3,
          MARGIN + 10,
          `${fullSheetsOf(work)} sheets at 1:1: more than ${MOST_FULL_SHEETS} are not drawn.`,
          4,
        ),
        textAt(MARGIN + 3, MARGIN + 18, "Take the drawing to scale, or the DXF to a plotter.", 4),
      ]),
    ];
  const cuts = work.holes.map((hole): FullCut => {
    const cut = asSeen(work, hole.cut);
    const [middle, edges] = [middleOf(cut), cutEdges(cut)];
    return { hole, cut, middle, edges, box: boxOf([middle, ...edges.map(([a]) => a)]) };
  });
  const sheets: Scene[] = [];
  for (let row = 0; row < rows; row++)
    for (let column = 0; column < columns; column++) {
      const [x0, y0] = [column * step.w, row * step.h];
      const at = (p: Point): Point => ({ x: MARGIN + p.x - x0, y: MARGIN + TILE.h - (p.y - y0) });
      const inside = (p: Point): boolean =>
        p.x >= x0 - 1e-6 && p.x <= x0 + TILE.w + 1e-6 && p.y >= y0 - 1e-6 && p.y <= y0 + TILE.h + 1e-6;
      const items: SceneItem[] = [
        {
          kind: "rect",
          x: MARGIN,
          y: MARGIN,
          w: TILE.w,
          h: TILE.h,
          width: 0.1,
          layer: "frame",
          colour: DIM,
          dash: 2,
        },
      ];
      for (const [x, y] of registers(columns, rows, step))
        if (inside({ x, y })) {
          const p = at({ x, y });
          items.push(line(p.x - 5, p.y, p.x + 5, p.y, 0.15), line(p.x, p.y - 5, p.x, p.y + 5, 0.15));
          items.push({ kind: "circle", x: p.x, y: p.y, r: 3, width: 0.15, layer: "mark" });
        }
      for (const [a, b] of edgesOf(work)) {
        const cut = clipped(a, b, x0, y0);
        if (cut) {
          const [p, q] = [at(cut[0]), at(cut[1])];
          items.push(line(p.x, p.y, q.x, q.y, 0.4));
        }
      }
      for (const { hole, cut, middle, edges, box } of cuts) {
        // Most of them lie on other sheets.
        if (box.x1 < x0 - 1e-6 || box.x0 > x0 + TILE.w + 1e-6 || box.y1 < y0 - 1e-6 || box.y0 > y0 + TILE.h + 1e-6)
          continue;
        if (inside(middle)) {
          const p = at(middle);
          items.push(line(p.x - 4, p.y, p.x + 4, p.y, 0.1), line(p.x, p.y - 4, p.x, p.y + 4, 0.1));
          const words = fitted(`${hole.number}: ${cutText(cut)}`, 60, 2.2, 1.4);
          items.push(
            textAt(
              Math.min(p.x + 2, MARGIN + TILE.w - textWidth(words.text, words.size)),
              p.y - 3,
              words.text,
              words.size,
            ),
          );
        }
        for (const [a, b] of edges) {
          const part = clipped(a, b, x0, y0);
          if (!part) continue;
          const [p, q] = [at(part[0]), at(part[1])];
          items.push(line(p.x, p.y, q.x, q.y, 0.2));
        }
      }
      const y = A4.h - MARGIN - TITLE;
      items.push(line(A4.w - MARGIN - 104, y + 12.5, A4.w - MARGIN - 4, y + 12.5, 0.5));
      sheets.push(
        titled(
          `${work.face}, 1:1, ${column + 1}.${row + 1}`,
          A4,
          heading,
          `${work.face} 1:1, column ${column + 1} of ${columns}, row ${row + 1} of ${rows} from below, SEEN FROM ${seen.toUpperCase()}; the line is 100 mm`,
          items,
        ),
      );
    }
  return sheets;
}

/** Crosses that neighbours share: in the middles of the overlaps. */
function registers(columns: number, rows: number, step: { w: number; h: number }): [number, number][] {
  const list: [number, number][] = [];
  for (let c = 0; c <= columns; c++)
    for (let r = 0; r <= rows; r++) list.push([c * step.w + OVERLAP / 2, r * step.h + OVERLAP / 2]);
  return list;
}

type Edge = [Point, Point];

/** A cut as it is looked for on every sheet. */
interface FullCut {
  hole: FaceHole;
  cut: Cut;
  middle: Point;
  edges: readonly Edge[];
  /** Holds its middle and its edges. */
  box: { x0: number; y0: number; x1: number; y1: number };
}

function boxOf(points: readonly Point[]): FullCut["box"] {
  const box = { x0: Infinity, y0: Infinity, x1: -Infinity, y1: -Infinity };
  for (const { x, y } of points) {
    box.x0 = Math.min(box.x0, x);
    box.y0 = Math.min(box.y0, y);
    box.x1 = Math.max(box.x1, x);
    box.y1 = Math.max(box.y1, y);
  }
  return box;
}

const ringEdges = (points: readonly Point[]): Edge[] =>
  points.map((p, i): Edge => [p, points[(i + 1) % points.length]!]);

const edgesOf = ({ w, h }: FaceWork): Edge[] =>
  ringEdges([
    { x: 0, y: 0 },
    { x: w, y: 0 },
    { x: w, y: h },
    { x: 0, y: h },
  ]);

const CIRCLE_PARTS = 48;

function cutEdges(cut: Cut): Edge[] {
  const ring = ringOf(cut);
  if (ring) return ringEdges(flattened(ring));
  if (!("d" in cut)) return [];
  const { x, y } = middleOf(cut);
  return ringEdges(
    Array.from({ length: CIRCLE_PARTS }, (_, i) => {
      const a = (2 * Math.PI * i) / CIRCLE_PARTS;
      return { x: x + (cut.d / 2) * Math.cos(a), y: y + (cut.d / 2) * Math.sin(a) };
    }),
  );
}

/** The part of a line that lies on a sheet (Liang and Barsky 1984); null where none does. */
function clipped(a: Point, b: Point, x0: number, y0: number): Edge | null {
  let [from, to] = [0, 1];
  const [dx, dy] = [b.x - a.x, b.y - a.y];
  for (const [p, q] of [
    [-dx, a.x - x0],
    [dx, x0 + TILE.w - a.x],
    [-dy, a.y - y0],
    [dy, y0 + TILE.h - a.y],
  ] as const) {
    if (p === 0) {
      if (q < 0) return null;
    } else if (p < 0) from = Math.max(from, q / p);
    else to = Math.min(to, q / p);
  }
  if (from > to) return null;
  const at = (t: number): Point => ({ x: a.x + t * dx, y: a.y + t * dy });
  return [at(from), at(to)];
}
