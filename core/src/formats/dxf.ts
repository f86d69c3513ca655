// eslint-disable-next-line @typescript-eslint/triple-slash-reference
/// <reference path="./dxf-writer.d.ts" />
import Drawing from "dxf-writer";
import Handle from "dxf-writer/src/Handle";
import { BASELINE, LAYERS, type Layer, type Scene } from "./scene";

/** Capital letters reach so far of the height of a line: what DXF calls the height of a text. */
const CAPITALS = 0.73;

const COLOURS: Record<Layer, number> = {
  outline: Drawing.ACI.WHITE,
  body: Drawing.ACI.WHITE,
  conductor: Drawing.ACI.BLUE,
  jumper: Drawing.ACI.RED,
  text: Drawing.ACI.WHITE,
  frame: Drawing.ACI.WHITE,
  cut: Drawing.ACI.GREEN,
  mark: Drawing.ACI.YELLOW,
};

const ANCHORS = { start: "left", middle: "center", end: "right" } as const;

/** A scene as DXF in millimetres, a layer for each kind of line, y up from its lower left corner. */
export function toDxf(scene: Scene): Uint8Array {
  // Counted from one in every file: equal drawings give equal bytes.
  Handle.seed = 0;
  const drawing = new Drawing();
  drawing.setUnits("Millimeters");
  for (const layer of LAYERS) drawing.addLayer(layer.toUpperCase(), COLOURS[layer], "CONTINUOUS");
  const up = (y: number): number => scene.h - y;
  for (const item of scene.items) {
    drawing.setActiveLayer(item.layer.toUpperCase());
    switch (item.kind) {
      case "line":
        drawing.drawLine(item.x1, up(item.y1), item.x2, up(item.y2));
        break;
      case "rect":
        drawing.drawRect(item.x, up(item.y + item.h), item.x + item.w, up(item.y));
        break;
      case "circle":
        drawing.drawCircle(item.x, up(item.y), item.r);
        break;
      case "poly":
        drawing.drawPolyline(
          item.points.map((p): [number, number] => [p.x, up(p.y)]),
          item.closed,
        );
        break;
      case "text": {
        if (item.text === "") break;
        const rise = BASELINE * item.size;
        const [dx, dy] = { 0: [0, -rise], 90: [rise, 0], 180: [0, rise], 270: [-rise, 0] }[item.turn] as [
          number,
          number,
        ];
        drawing.drawText(
          item.x + dx,
          up(item.y) + dy,
          item.size * CAPITALS,
          item.turn,
          forDxf(item.text),
          ANCHORS[item.anchor],
          "baseline",
        );
      }
    }
  }
  return new TextEncoder().encode(drawing.toDxfString());
}

/**
 * A text as DXF shows it: letters as they are (UTF-8, AC1021); a line end would end it; two percent signs and a backslash
 * before a letter would be read as codes, so that percent signs that stand together are parted, and backslashes leaned.
 */
export const forDxf = (text: string): string =>
  text
    .replace(/[\u0000-\u001F\u007F]+/g, " ")
    .replace(/%(?=%)/g, "% ")
    .replace(/\\/g, "/");
