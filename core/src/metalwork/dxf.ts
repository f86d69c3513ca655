// eslint-disable-next-line @typescript-eslint/triple-slash-reference
/// <reference path="../formats/dxf-writer.d.ts" />
import Drawing from "dxf-writer";
import Handle from "dxf-writer/src/Handle";
import { mirrored } from "./shapes";
import type { Seen } from "../design/model";
import type { Cut, Drilled } from "./result";
import { ringOf, type Corner } from "./rings";

const TEXT_MM = 5;

/** What is drawn for a cut, on the layer of its operation. */
type Drawn = { layer: string } & ({ circle: [x: number, y: number, r: number] } | { ring: Corner[] });

function drawnFor(cut: Cut): Drawn[] {
  const ring = ringOf(cut);
  if (ring) return [{ layer: "MILL", ring }];
  const circle = (layer: string, x: number, y: number, d: number): Drawn => ({ layer, circle: [x, y, d / 2] });
  switch (cut.kind) {
    case "thread":
      // The core hole; which thread it gets is the name of the layer.
      return [circle(`TAP_${cut.thread.replace(".", "_")}`, cut.x, cut.y, cut.d)];
    case "countersunk":
      return [circle("DRILL", cut.x, cut.y, cut.d), circle("SINK", cut.x, cut.y, cut.head)];
    case "knockout":
      return [circle("KNOCKOUT", cut.x, cut.y, cut.d)];
    case "mark":
      return [circle("MARK", cut.x, cut.y, cut.d)];
    case "round":
      return [circle("DRILL", cut.x, cut.y, cut.d)];
    default:
      return [];
  }
}

/**
 * A face with all its cuts in millimetres, a layer for each operation, the lower left corner as its datum, as seen from
 * outside or inside: which one stands in the drawing and on the sheet.
 */
export function faceDxf({ face, w, h, holes }: Pick<Drilled, "face" | "w" | "h" | "holes">, seen: Seen): Uint8Array {
  // Counted from one in every file: equal faces give equal bytes.
  Handle.seed = 0;
  const drawing = new Drawing();
  // Its types know numbers only.
  drawing.header("ACADVER", [[1, "AC1015"]] as unknown as [number, number][]);
  drawing.setUnits("Millimeters");
  const all = holes.flatMap((hole) => drawnFor(seen === "outside" ? hole.cut : mirrored(hole.cut, w)));
  const layers = ["SHEET", "NOTE", ...new Set(all.map((d) => d.layer))];
  layers.forEach((name, i) => drawing.addLayer(name, (i % 7) + 1, "CONTINUOUS"));
  drawing.setActiveLayer("SHEET");
  drawing.drawPolyline(
    [
      [0, 0],
      [w, 0],
      [w, h],
      [0, h],
    ],
    true,
  );
  for (const one of all) {
    drawing.setActiveLayer(one.layer);
    if ("circle" in one) drawing.drawCircle(...one.circle);
    else drawing.drawPolyline(one.ring as [number, number][], true);
  }
  drawing.setActiveLayer("NOTE");
  drawing.drawText(0, -3 * TEXT_MM, TEXT_MM, 0, `${face.replace(/[^\x20-\x7E]/g, "?")}, seen from ${seen}`);
  return new TextEncoder().encode(drawing.toDxfString());
}
