import { fittedText, labelSheets, type LabelGrid } from "../formats/label-sheets";
import { fitted, PALE, textWidth, type Scene, type SceneItem, type SceneText } from "../formats/scene";
import type { BarList } from "./result";
import type { Heading } from "./drawing";

const A4 = { w: 297, h: 210 };
const MARGIN = 10;
const TITLE = 10;
const BAR = { h: 7, step: 15 };

const mm = (v: number): string => String(Math.round(v * 10) / 10);

const text = (x: number, y: number, value: string, size: number, anchor: SceneText["anchor"] = "start"): SceneText => ({
  kind: "text",
  x,
  y,
  text: value,
  size,
  anchor,
  turn: 0,
  layer: "text",
});

/** Best as proved, or what is known of it. */
export const provedText = ({ fresh, bound }: BarList["list"]): string =>
  fresh <= bound ? "fewest bars, proved" : `${fresh} new bars; no way needs fewer than ${bound}`;

/** Bars to scale, a list after the other, as many on a sheet as fit. */
export function barSheets(lists: readonly BarList[], heading: Heading): Scene[] {
  const scenes: Scene[] = [];
  let items: SceneItem[] = [];
  let y = Infinity;
  const bottom = A4.h - MARGIN;
  const row = (height: number): number => {
    if (y + height > bottom) {
      items = [
        text(MARGIN, MARGIN + 3, `${heading.job} ${heading.title}, revision ${heading.revision}: cut lists`, 3.4),
      ];
      scenes.push({ name: "cut lists", ...A4, items });
      y = MARGIN + TITLE;
    }
    y += height;
    return y - height;
  };
  for (const { kind, part, stockMm, list } of lists) {
    const longest = Math.max(stockMm, ...list.bars.map((b) => b.lengthMm));
    const scale = (A4.w - 2 * MARGIN) / longest;
    const head = row(8 + BAR.step) + 4;
    y -= BAR.step;
    items.push(
      text(
        MARGIN,
        head,
        `${kind} ${part}: ${list.bars.length} ${list.bars.length === 1 ? "bar" : "bars"}, ${provedText(list)}`,
        3,
      ),
    );
    list.bars.forEach((bar, i) => {
      const top = row(BAR.step) + 4;
      items.push({
        kind: "rect",
        x: MARGIN,
        y: top,
        w: bar.lengthMm * scale,
        h: BAR.h,
        width: 0.3,
        layer: "outline",
      });
      items.push(
        text(
          MARGIN,
          top - 2,
          `bar ${i + 1}${bar.kept ? ", from the shelf" : ""}, ${mm(bar.lengthMm)} mm, rest ${mm(bar.restMm)} mm`,
          2.4,
        ),
      );
      let x = MARGIN + list.trimMm * scale;
      for (const piece of bar.pieces) {
        const w = piece.lengthMm * scale;
        items.push({ kind: "rect", x, y: top, w, h: BAR.h, width: 0.3, layer: "cut", fill: PALE });
        const words = fitted(`${piece.of} ${mm(piece.lengthMm)}`, w - 1, 2.8, 1.2);
        if (textWidth(words.text, words.size) <= w)
          items.push(text(x + w / 2, top + BAR.h / 2, words.text, words.size, "middle"));
        x += w + list.kerfMm * scale;
      }
    });
  }
  return scenes;
}

const LABEL: LabelGrid = { w: 62, h: 26, columns: 3, rows: 10, gapX: 2, gapY: 2 };

/** A label for each piece, on sheets of A4: what it is for, large; its length; what else is cut at it; its bar. */
export function pieceLabels(lists: readonly BarList[], heading: Heading): Scene[] {
  const labels = lists.flatMap(({ kind, part, list }) =>
    list.bars.flatMap((bar, b) =>
      bar.pieces.map((piece, p) => ({
        of: piece.of,
        rows: [
          `${kind} ${part}`,
          `${mm(piece.lengthMm)} mm, bar ${b + 1}, piece ${p + 1}`,
          (piece.also ?? ["square"]).join("; "),
          heading.job,
        ],
      })),
    ),
  );
  return labelSheets("labels of pieces", LABEL, labels, ({ of, rows }, x, y) => [
    fittedText([x + 2, y + 5], of, { size: 6, room: LABEL.w - 4, least: 2 }),
    ...rows.map((row, k) => fittedText([x + 2, y + 11.5 + k * 4], row, { size: 2.6, room: LABEL.w - 4, least: 1.2 })),
  ]);
}
