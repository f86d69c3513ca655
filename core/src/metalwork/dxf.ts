// eslint-disable-next-line @typescript-eslint/triple-slash-reference
/// <reference path="../formats/dxf-writer.d.ts" />
import Drawing from "dxf-writer";
import Handle from "dxf-writer/src/Handle";
import { mirrored } from "./holes";
import type { Cut, FaceWork } from "./result";

export type Seen = "outside" | "inside";

/** A corner of a closed line; `bulge`: how round the way to the next is, the tangent of a quarter of its angle. */
type Corner = [x: number, y: number, bulge?: number];

const QUARTER = Math.tan(Math.PI / 8);
const HALF = 1;
const TEXT_MM = 5;

/** What is drawn for a cut, on the layer of its operation. */
type Drawn = { layer: string } & ({ circle: [x: number, y: number, r: number] } | { ring: Corner[] });

function drawnFor(cut: Cut): Drawn[] {
  switch (cut.kind) {
    case "round":
      return cut.notch
        ? [{ layer: "MILL", ring: keyedRing(cut, cut.notch) }]
        : [{ layer: "DRILL", circle: [cut.x, cut.y, cut.d / 2] }];
    case "thread":
      // The core hole; which thread it gets is the name of the layer.
      return [{ layer: `TAP_${cut.thread.replace(".", "_")}`, circle: [cut.x, cut.y, cut.d / 2] }];
    case "countersunk":
      return [
        { layer: "DRILL", circle: [cut.x, cut.y, cut.d / 2] },
        { layer: "SINK", circle: [cut.x, cut.y, cut.head / 2] },
      ];
    case "knockout":
      return [{ layer: "KNOCKOUT", circle: [cut.x, cut.y, cut.d / 2] }];
    case "rect":
      return [{ layer: "MILL", ring: rectRing(cut) }];
    case "slot":
      return [{ layer: "MILL", ring: slotRing(cut) }];
    case "polygon":
      return [{ layer: "MILL", ring: cut.points.map(({ x, y }): Corner => [x, y]) }];
  }
}

function rectRing({ x, y, w, h, r }: Extract<Cut, { kind: "rect" }>): Corner[] {
  const c = Math.min(r, w / 2, h / 2);
  if (c <= 0)
    return [
      [x, y],
      [x + w, y],
      [x + w, y + h],
      [x, y + h],
    ];
  return [
    [x + c, y],
    [x + w - c, y, QUARTER],
    [x + w, y + c],
    [x + w, y + h - c, QUARTER],
    [x + w - c, y + h],
    [x + c, y + h, QUARTER],
    [x, y + h - c],
    [x, y + c, QUARTER],
  ];
}

function slotRing({ x, y, w, h, angle }: Extract<Cut, { kind: "slot" }>): Corner[] {
  const [long, short] = [Math.max(w, h), Math.min(w, h)];
  const a = ((angle + (w >= h ? 0 : 90)) * Math.PI) / 180;
  const at = (along: number, across: number, bulge?: number): Corner => [
    x + Math.cos(a) * along - Math.sin(a) * across,
    y + Math.sin(a) * along + Math.cos(a) * across,
    bulge ?? 0,
  ];
  const [half, r] = [(long - short) / 2, short / 2];
  return [at(-half, -r), at(half, -r, HALF), at(half, r), at(-half, r, HALF)];
}

/** Round the far side from one edge of the key to the other, then out to its end and back. */
function keyedRing(
  { x, y, d }: { x: number; y: number; d: number },
  { to, w, angle }: { to: number; w: number; angle: number },
): Corner[] {
  const r = d / 2;
  const side = w / 2;
  const a = (angle * Math.PI) / 180;
  const at = (out: number, across: number, bulge?: number): Corner => [
    x + Math.cos(a) * out - Math.sin(a) * across,
    y + Math.sin(a) * out + Math.cos(a) * across,
    bulge ?? 0,
  ];
  const start = Math.sqrt(Math.max(0, r * r - side * side));
  const round = 2 * Math.PI - 2 * Math.asin(Math.min(1, side / r));
  return [at(start, side, Math.tan(round / 4)), at(start, -side), at(to - r, -side), at(to - r, side)];
}

/**
 * A face with all its cuts in millimetres, a layer for each operation, the lower left corner as its datum, as seen from
 * outside or inside: which one stands in the drawing and on the sheet.
 */
export function faceDxf({ face, w, h, holes }: FaceWork, seen: Seen): Uint8Array {
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
