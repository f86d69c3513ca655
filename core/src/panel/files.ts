// eslint-disable-next-line @typescript-eslint/triple-slash-reference
/// <reference path="../formats/dxf-writer.d.ts" />
import Writer from "dxf-writer";
import Handle from "dxf-writer/src/Handle";
import { forFile, uniqueNames, type FileOut } from "../frame/file-out";
import type { Rect } from "../design/geometry";
import type { Design } from "../design/model";
import { forDxf } from "../formats/dxf";
import { toPdf } from "../formats/pdf";
import { toSvg } from "../formats/svg";
import { csvFile, type Table } from "../formats/table";
import { itemsOf, legendOf, type Item } from "./items";
import {
  drawnFaces,
  LAYOUT_DRAWN,
  layoutSheets,
  type LayoutHeading,
  type LayoutOptions,
  type OnFace,
} from "./layout-sheets";
import type { PanelResult } from "./result";

/** A face as somebody asks for its layout. */
export interface WantedLayout extends LayoutOptions {
  face: string;
  as: "pdf" | "svg" | "dxf";
}

const headingOf = ({ job }: Pick<Design, "job">): LayoutHeading => ({
  job: job.code,
  title: job.title,
  revision: job.revision,
});

/** What stands on each face, by item. */
export function legendTable(faces: readonly OnFace[], items: readonly Item[]): Table {
  return {
    head: ["enclosure", "face", "item", "count", "part", "text", "maker", "tags", "written"],
    rows: faces.flatMap(({ face }) =>
      legendOf(items, face.id).map(({ item, tags }) => [
        face.enclosure,
        face.kind,
        item.number,
        tags.length,
        item.part,
        item.text,
        item.maker,
        tags.join("; "),
        item.texts.filter((t) => t !== "").join("; "),
      ]),
    ),
  };
}

/** Names of the files of faces, without their ends. */
function namesOf(faces: readonly OnFace[]): Map<string, string> {
  const names = uniqueNames(faces.map(({ face }) => `layout-${forFile(face.enclosure)}-${face.kind}`));
  return new Map(faces.map(({ face }, i) => [face.id, names[i]!]));
}

/** Height of a tag in a DXF, mm, where its body is not smaller. */
const TAG_MM = 6;
const SHARE = 0.6;

/**
 * A face in millimetres from its lower left corner, a layer for each kind of thing: frames with their tags in them, as drawings come in
 * and as ours are read.
 */
export function layoutDxf({ face, devices, rails, ducts }: OnFace): Uint8Array {
  // Counted from one in every file: equal faces give equal bytes.
  Handle.seed = 0;
  const drawing = new Writer();
  drawing.setUnits("Millimeters");
  const layers = [
    ["FACE", Writer.ACI.WHITE],
    ["DUCTS", Writer.ACI.GREEN],
    ["RAILS", Writer.ACI.YELLOW],
    ["DEVICES", Writer.ACI.BLUE],
  ] as const;
  for (const [name, colour] of layers) drawing.addLayer(name, colour, "CONTINUOUS");
  const frame = (layer: string, x: number, y: number, w: number, h: number): void => {
    drawing.setActiveLayer(layer);
    drawing.drawPolyline(
      [
        [x, y],
        [x + w, y],
        [x + w, y + h],
        [x, y + h],
      ],
      true,
    );
  };
  const tag = (words: string, x: number, y: number, room: number, turn: 0 | 90): void => {
    const size = Math.max(0.5, Math.min(TAG_MM, room * SHARE));
    // From its middle to where its letters stand.
    const rise = size / 2;
    drawing.drawText(
      x + (turn === 90 ? rise : 0),
      y - (turn === 90 ? 0 : rise),
      size,
      turn,
      forDxf(words),
      "center",
      "baseline",
    );
  };
  frame("FACE", 0, 0, face.w, face.h);
  const all: [layer: string, things: readonly { tag: string; outline: Rect }[]][] = [
    ["DUCTS", ducts],
    ["RAILS", rails],
    ["DEVICES", devices],
  ];
  for (const [layer, things] of all)
    for (const { tag: name, outline: o } of things) {
      frame(layer, o.x, o.y, o.w, o.h);
      tag(name, o.x + o.w / 2, o.y + o.h / 2, Math.min(o.w, o.h), o.h > o.w ? 90 : 0);
    }
  return new TextEncoder().encode(drawing.toDxfString());
}

const PDF = "application/pdf";
const SVG = "image/svg+xml";
const DXF = "image/vnd.dxf";

/** All files of this stage. */
export async function files(design: Design, panel: PanelResult): Promise<FileOut[]> {
  const faces = drawnFaces(panel);
  const items = itemsOf(panel, design);
  const names = namesOf(faces);
  const heading = headingOf(design);
  const options: LayoutOptions = { ...LAYOUT_DRAWN, units: design.job.units === "in" ? "in" : "mm" };
  const out: FileOut[] = [csvFile("legend.csv", legendTable(faces, items))];
  for (const on of faces) {
    const sheets = layoutSheets(on, items, heading, options);
    const name = names.get(on.face.id)!;
    out.push(
      { name: `${name}.pdf`, type: PDF, bytes: await toPdf(`${heading.job}, layout ${on.face.id}`, sheets) },
      { name: `${name}.svg`, type: SVG, bytes: toSvg(sheets[0]!) },
      { name: `${name}.dxf`, type: DXF, bytes: layoutDxf(on) },
    );
  }
  return out;
}

/** One face as somebody asks for it; null where it is not there. */
export async function drawn(design: Design, panel: PanelResult, wanted: WantedLayout): Promise<FileOut | null> {
  const faces = drawnFaces(panel);
  const on = faces.find((o) => o.face.id === wanted.face);
  if (!on) return null;
  const name = namesOf(faces).get(wanted.face)!;
  if (wanted.as === "dxf") return { name: `${name}.dxf`, type: DXF, bytes: layoutDxf(on) };
  const heading = headingOf(design);
  const sheets = layoutSheets(on, itemsOf(panel, design), heading, wanted);
  return wanted.as === "svg"
    ? { name: `${name}.svg`, type: SVG, bytes: toSvg(sheets[0]!) }
    : { name: `${name}.pdf`, type: PDF, bytes: await toPdf(`${heading.job}, layout ${wanted.face}`, sheets) };
}
