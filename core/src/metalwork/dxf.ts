// eslint-disable-next-line @typescript-eslint/triple-slash-reference
/// <reference path="../formats/dxf-writer.d.ts" />
import Drawing from "dxf-writer";
import Handle from "dxf-writer/src/Handle";
import { mirrored } from "./shapes";
import { forDxf } from "../formats/dxf";
import type { Cut, Drilled, FaceWork, Operation } from "./result";
import { ringOf, type Corner } from "./rings";

const TEXT_MM = 5;

/** What is drawn for a cut, on the layer of its operation. */
type Drawn = { layer: string } & ({ circle: [x: number, y: number, r: number] } | { ring: Corner[] });

/** The layer of what opens a hole: its operation as it is planned; what is in no program by its form. */
const OPENED: Partial<Record<Operation["kind"], string>> = { drill: "DRILL", mill: "MILL", punch: "PUNCH" };

function drawnFor(cut: Cut, opened: string | undefined): Drawn[] {
  const ring = ringOf(cut);
  if (ring) return [{ layer: opened ?? "MILL", ring }];
  const circle = (layer: string, x: number, y: number, d: number): Drawn => ({ layer, circle: [x, y, d / 2] });
  switch (cut.kind) {
    case "thread":
      // The core hole; which thread it gets is the name of the layer.
      return [circle(`TAP_${cut.thread.replace(/[^A-Za-z0-9]/g, "_")}`, cut.x, cut.y, cut.d)];
    case "countersunk":
      return [circle(opened ?? "DRILL", cut.x, cut.y, cut.d), circle("SINK", cut.x, cut.y, cut.head)];
    case "knockout":
      return [circle("KNOCKOUT", cut.x, cut.y, cut.d)];
    case "mark":
      return [circle("MARK", cut.x, cut.y, cut.d)];
    case "round":
      return [circle(opened ?? "DRILL", cut.x, cut.y, cut.d)];
    default:
      return [];
  }
}

/**
 * A face with all its cuts in millimetres, a layer for each operation, the lower left corner as its datum, as seen from
 * outside or inside: which one stands in the drawing and on the sheet.
 * @param notes what stands below it: job, sheet, how it lies
 */
export function faceDxf(
  { face, w, h, holes, seen, setUps = [] }: Drilled & Partial<Pick<FaceWork, "setUps">>,
  notes: readonly string[] = [],
): Uint8Array {
  // Counted from one in every file: equal faces give equal bytes.
  Handle.seed = 0;
  const drawing = new Drawing();
  drawing.setUnits("Millimeters");
  const opened = new Map<number, string>();
  for (const { kind, hole } of setUps.flatMap((s) => s.steps.flatMap((step) => step.operations)))
    if (OPENED[kind] !== undefined) opened.set(hole, OPENED[kind]);
  const all = holes.flatMap((hole) =>
    drawnFor(seen === "outside" ? hole.cut : mirrored(hole.cut, w), opened.get(hole.number)),
  );
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
  [`${face}, seen from ${seen}`, ...notes].forEach((note, i) =>
    drawing.drawText(0, -(3 + 2 * i) * TEXT_MM, TEXT_MM, 0, forDxf(note)),
  );
  return new TextEncoder().encode(drawing.toDxfString());
}
