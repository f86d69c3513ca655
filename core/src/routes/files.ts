import type { FileOut } from "../frame/file-out";
import { coloursOf } from "../wiring/landings";
import type { Colour, Design } from "../design/model";
import type { Rules } from "../shop/rules";
import { toCsv, type Cell } from "../formats/csv";
import { toXlsx, XLSX_TYPE } from "../formats/xlsx";
import { marksOf, type PieceEdge, type RoutesResult, type WireRoute } from "./result";
import { wayInWords } from "./way";

const WIRE_HEADER = [
  "number",
  "net",
  "class",
  "from",
  "from_pin",
  "to",
  "to_pin",
  "colour",
  "size_mm2",
  "length_mm",
  "end_from",
  "end_to",
  "way",
  "marks",
] as const;

const DUCT_HEADER = [
  "tag",
  "piece",
  "length_mm",
  "wires",
  "fill_percent",
  "worst_from_mm",
  "worst_to_mm",
  "worst_wires",
] as const;

const WIRE_WIDTHS = [9, 16, 9, 12, 9, 12, 9, 8, 9, 10, 12, 12, 60, 30];

function wireRow(result: RoutesResult, w: WireRoute, colour: Colour | null): Cell[] {
  return [
    w.id,
    w.net,
    w.class,
    w.fromRef?.device ?? null,
    w.fromRef?.pin ?? null,
    w.toRef?.device ?? null,
    w.toRef?.pin ?? null,
    colour,
    w.sizeMm2?.value ?? null,
    w.lengthMm,
    w.endFrom,
    w.endTo,
    wayInWords(result, w),
    marksOf(w, colour).join(" "),
  ];
}

/** The files of this stage: wires.csv, wires.xlsx, ducts.csv. Rows in the order of the design. */
export async function files(result: RoutesResult, design: Design, shop: Rules): Promise<FileOut[]> {
  const colours = coloursOf(design, shop.classes);
  const wires = result.wires.map((w) => wireRow(result, w, colours.get(w.id)?.value ?? null));
  const pieces = result.ducts.flatMap((d) =>
    d.pieces.map((p): Cell[] => {
      const e = result.edges[p] as PieceEdge;
      const fill = e.insideMm2 === 0 ? null : e.fillPercent;
      return [d.tag, e.id, e.mm, e.wires, fill, e.worst?.fromMm ?? null, e.worst?.toMm ?? null, e.worst?.wires ?? null];
    }),
  );
  return [
    { name: "wires.csv", type: "text/csv", bytes: toCsv(WIRE_HEADER, wires) },
    {
      name: "wires.xlsx",
      type: XLSX_TYPE,
      bytes: await toXlsx({ name: "Wires", header: WIRE_HEADER, widths: WIRE_WIDTHS, rows: wires }),
    },
    {
      name: "ducts.csv",
      type: "text/csv",
      bytes: toCsv(DUCT_HEADER, pieces),
    },
  ];
}
