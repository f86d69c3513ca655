import { execFileSync } from "node:child_process";
import { join } from "node:path";
import { DOMParser } from "@xmldom/xmldom";
import DxfParser from "dxf-parser";
import { toDxf } from "./dxf";
import { labelSheets } from "./label-sheets";
import { toPdf } from "./pdf";
import type { Scene, SceneItem, SceneText, TextTurn } from "./scene";
import { toSvg } from "./svg";

/** One small drawing as each format has it, read back by other libraries: worked out by hand, in millimetres. */

jest.setTimeout(120_000);

const text = (more: Partial<SceneText>): SceneText => ({
  kind: "text",
  x: 50,
  y: 40,
  text: "-K1",
  size: 4,
  anchor: "start",
  turn: 0,
  layer: "text",
  ...more,
});
const line = { kind: "line", x1: 10, y1: 10, x2: 60, y2: 10, width: 0.2, layer: "body" } as const;
const ITEMS: SceneItem[] = [
  line,
  { ...line, y1: 12, y2: 12, dash: 1.5 },
  { ...line, y1: 14, y2: 14 },
  { kind: "rect", x: 100, y: 20, w: 30, h: 10, width: 0.2, layer: "frame" },
  { kind: "circle", x: 30, y: 20, r: 5, width: 0.2, layer: "outline" },
  {
    kind: "poly",
    points: [
      { x: 70, y: 50 },
      { x: 90, y: 50 },
      { x: 90, y: 65 },
    ],
    closed: true,
    width: 0.2,
    layer: "cut",
  },
];
const scene = (items: SceneItem[], w = 200, h = 100): Scene => ({ name: "drawing", w, h, items });

interface Page {
  size: [number, number];
  texts: { str: string; a: number; b: number; x: number; y: number; width: number }[];
  drawn: { dash: number[]; frame: [number, number, number, number] }[];
}
async function pagesOf(...scenes: Scene[]): Promise<Page[]> {
  const reader = join(__dirname, "../test/read-pdf.mjs");
  const input = Buffer.from(await toPdf("drawing", scenes));
  return (JSON.parse(execFileSync(process.execPath, [reader], { input }).toString()) as { pages: Page[] }).pages;
}
const mm = (points: number): number => (points * 25.4) / 72;
const near = (values: readonly number[]): number[] => values.map((v) => Math.round(v * 1000) / 1000 + 0);

interface Entity {
  type: string;
  layer: string;
  center?: { x: number; y: number };
  radius?: number;
  vertices?: { x: number; y: number }[];
  startPoint?: { x: number; y: number };
  endPoint?: { x: number; y: number };
  text?: string;
  rotation?: number;
  halign?: number;
  textHeight?: number;
}
const dxfOf = (items: SceneItem[]): Entity[] =>
  new DxfParser().parseSync(new TextDecoder().decode(toDxf(scene(items))))!.entities as unknown as Entity[];

test("a PDF has pages of their own sizes, lines where they are, and dashes on the one that is dashed", async () => {
  const [one, two] = await pagesOf(scene(ITEMS), scene([line], 100, 50));
  expect([one!.size, two!.size].map((s) => near(s.map(mm)))).toEqual([
    [200, 100],
    [100, 50],
  ]);
  expect(one!.drawn.map((d) => d.dash)).toEqual([[], [1.5, 1.5], [], [], [], []]);
  expect(one!.drawn.map((d) => near(d.frame))).toEqual([
    [10, 10, 60, 10],
    [10, 12, 60, 12],
    [10, 14, 60, 14],
    [100, 20, 130, 30],
    [25, 15, 35, 25],
    [70, 50, 90, 65],
  ]);
});

/** Where a text of three signs of 4 mm begins: 0.6 of its height each, letters 0.28 of it below its middle. */
const WIDE = 3 * 4 * 0.6;
const LOW = 4 * 0.28;
const STARTS = { start: 0, middle: -WIDE / 2, end: -WIDE } as const;
/** Along its line and down from it, as turned: of a sheet with y down. */
const TURNED: Record<TextTurn, (along: number, down: number) => [number, number]> = {
  0: (a, d) => [50 + a, 40 + d],
  90: (a, d) => [50 + d, 40 - a],
  180: (a, d) => [50 - a, 40 - d],
  270: (a, d) => [50 - d, 40 + a],
};
const TEXTS = ([0, 90, 180, 270] as const).flatMap((turn) =>
  (["start", "middle", "end"] as const).map((anchor) => ({ turn, anchor })),
);

let pages: Page[];
beforeAll(async () => {
  pages = await pagesOf(...TEXTS.map((t) => scene([text(t)])));
});

test.each(TEXTS)("a text at $turn° by its $anchor begins at one place in PDF, DXF and SVG", ({ turn, anchor }) => {
  const item = text({ turn, anchor });
  const [said] = pages[TEXTS.findIndex((t) => t.turn === turn && t.anchor === anchor)]!.texts;
  const [x, y] = TURNED[turn](STARTS[anchor], LOW);
  expect(near([mm(said!.x), 100 - mm(said!.y)])).toEqual(near([x, y]));
  expect([Math.sign(Math.round(said!.a)), Math.sign(Math.round(said!.b))].map((v) => v + 0)).toEqual(
    { 0: [1, 0], 90: [0, 1], 180: [-1, 0], 270: [0, -1] }[turn],
  );
  // DXF: where it is held, which is its beginning, its middle or its end; capitals 0.73 of the line.
  const [entity] = dxfOf([item]);
  const [hx, hy] = TURNED[turn](0, LOW);
  const held = anchor === "start" ? entity!.startPoint! : (entity!.endPoint ?? entity!.startPoint!);
  expect(near([held.x, 100 - held.y])).toEqual(near([hx, hy]));
  expect([entity!.rotation ?? 0, entity!.halign ?? 0, near([entity!.textHeight!])]).toEqual([
    turn,
    { start: 0, middle: 1, end: 2 }[anchor],
    [2.92],
  ]);
  const svg = new DOMParser().parseFromString(new TextDecoder().decode(toSvg(scene([item]))), "image/svg+xml");
  const drawn = svg.getElementsByTagName("text")[0]!;
  const get = (name: string): string | null => drawn.getAttribute(name);
  expect([get("x"), get("y"), get("text-anchor"), get("textLength")]).toEqual(["50", "41.12", anchor, "7.2"]);
  expect(get("transform") ?? "").toBe(turn === 0 ? "" : `rotate(${-turn} 50 40)`);
});

test("DXF has y up: circles, rectangles, lines and outlines where they are, each on its layer", () => {
  const on = new Map(dxfOf(ITEMS).map((e) => [e.layer, e]));
  const [last, rect, circle, poly] = ["BODY", "FRAME", "OUTLINE", "CUT"].map((layer) => on.get(layer)!);
  expect(last!.vertices!.map((v) => near([v.x, v.y]))).toEqual([
    [10, 86],
    [60, 86],
  ]);
  const frame = (e: Entity): number[] => {
    const [xs, ys] = [e.vertices!.map((v) => v.x), e.vertices!.map((v) => v.y)];
    return near([Math.min(...xs), Math.min(...ys), Math.max(...xs), Math.max(...ys)]);
  };
  expect(frame(rect!)).toEqual([100, 70, 130, 80]);
  expect(near([circle!.center!.x, circle!.center!.y, circle!.radius!])).toEqual([30, 80, 5]);
  expect(frame(poly!)).toEqual([70, 35, 90, 50]);
});

test("labels go from left to right, row by row, sheet by sheet", () => {
  const grid = { w: 50, h: 20, columns: 3, rows: 2, gapX: 5, gapY: 4 };
  const at = labelSheets("labels", grid, [..."abcdefgh"], (thing, x, y, nth) => [
    text({ text: `${thing}${nth}`, x, y }),
  ]);
  const places = at.map((s) => s.items.flatMap((i) => (i.kind === "text" ? [`${i.text} ${i.x} ${i.y}`] : [])));
  expect(places).toEqual([
    ["a0 10 10", "b1 65 10", "c2 120 10", "d3 10 34", "e4 65 34", "f5 120 34"],
    ["g6 10 10", "h7 65 10"],
  ]);
});
