import type { FileOut } from "../design/file-out";
import type { MetalworkRules } from "../design/metalwork-rules";
import type { Design } from "../design/model";
import { toCsv, type Cell } from "../formats/csv";
import { toPdf } from "../formats/pdf";
import { toSvg } from "../formats/svg";
import { stacked } from "../formats/scene";
import { barSheets, pieceLabels } from "./bar-drawing";
import { basisOf, machineOf } from "./on-machine";
import { faceSheets, fullSheets, type Heading } from "./drawing";
import { faceDxf } from "./dxf";
import { asSeen } from "./shapes";
import { programOf } from "./nc";
import type { Cut, FaceWork, MetalworkResult, WantedFace } from "./result";
import { fileOf, originText, seenText } from "./say";
import { finishing } from "./signs";
import type { Tool } from "./tools";

const PDF = "application/pdf";

const r4 = (v: number): number => Math.round(v * 1e4) / 1e4;

/** x, y, d, w, h, r, thread of a cut. A polygon stands with its frame. */
function cells(cut: Cut): Cell[] {
  switch (cut.kind) {
    case "round":
      return [r4(cut.x), r4(cut.y), cut.d, cut.notch?.w ?? null, cut.notch?.to ?? null, null, null];
    case "thread":
      return [r4(cut.x), r4(cut.y), cut.d, null, null, null, cut.thread];
    case "countersunk":
      return [r4(cut.x), r4(cut.y), cut.d, cut.head, null, null, null];
    case "slot":
      return [r4(cut.x), r4(cut.y), null, cut.w, cut.h, cut.angle, null];
    case "rect":
      return [r4(cut.x), r4(cut.y), null, cut.w, cut.h, cut.r, null];
    case "knockout":
    case "mark":
      return [r4(cut.x), r4(cut.y), cut.d, null, null, null, null];
    case "polygon": {
      const [xs, ys] = [cut.points.map((p) => p.x), cut.points.map((p) => p.y)];
      const [x, y] = [Math.min(...xs), Math.min(...ys)];
      return [r4(x), r4(y), null, r4(Math.max(...xs) - x), r4(Math.max(...ys) - y), null, null];
    }
  }
}

/** What the machine makes, one hole a row, as the sheet is seen; holes without an order are in no program. */
export function holesTable(faces: readonly FaceWork[]): { head: string[]; rows: Cell[][] } {
  return {
    head: "enclosure,face,seen_from,number,kind,x,y,d,w,h,r,thread,tool,order,from,set_up,aside_mm,without".split(","),
    rows: faces.flatMap((work) => {
      const last = finishing(work);
      const lacks = new Map(work.lacks.map((l) => [l.hole, l.why]));
      return work.holes.map(({ number, cut, from }): Cell[] => {
        const done = last.get(number);
        const asides = from.flatMap((o) => o.asideMm ?? []);
        return [
          work.enclosure,
          work.kind,
          seenText(work),
          number,
          cut.kind,
          ...cells(asSeen(work, cut)),
          done?.tool ?? null,
          done?.order ?? null,
          originText(from),
          done?.setUp ?? null,
          asides[0] ?? null,
          lacks.get(number) ?? "",
        ];
      });
    }),
  };
}

export function cutsTable({ bars }: Pick<MetalworkResult, "bars">): { head: string[]; rows: Cell[][] } {
  return {
    head: "kind,part,bar,stock_mm,piece,length_mm,for,also,from_shelf,rest_mm,kept".split(","),
    rows: bars.flatMap(({ kind, part, list }) =>
      list.bars.flatMap((bar, b) =>
        bar.pieces.map((piece, p): Cell[] => [
          kind,
          part,
          b + 1,
          bar.lengthMm,
          p + 1,
          piece.lengthMm,
          piece.of,
          (piece.also ?? []).join("; "),
          bar.kept ? "yes" : "",
          r4(bar.restMm),
          bar.restMm >= list.keepMm ? "yes" : "",
        ]),
      ),
    ),
  };
}

/** Programs of a face, one for each set-up, by their names. */
export function programsOf(work: FaceWork, rules: MetalworkRules, job: string): { name: string; text: string }[] {
  const on = work.machine === null ? null : machineOf(work.machine, rules);
  if (!on) return [];
  const basis = basisOf(work, on, rules);
  return work.setUps.map((setUp, i) => {
    const part = work.setUps.length > 1 ? `, set-up ${i + 1} of ${work.setUps.length}` : "";
    return {
      name: `${fileOf(work)}${work.setUps.length > 1 ? `-${i + 1}` : ""}.nc`,
      text: programOf(setUp, basis.kit.tools, on.control, {
        title: `${job} ${work.face}, seen from ${seenText(work)}${part}`,
        thicknessMm: basis.thicknessMm,
        lie: basis.lie,
      }),
    };
  });
}

const toolsFor = (work: FaceWork, rules: MetalworkRules): readonly Tool[] => {
  const on = work.machine === null ? null : machineOf(work.machine, rules);
  return on ? basisOf(work, on, rules).kit.tools : [];
};

const headingOf = ({ job }: Pick<Design, "job">): Heading => ({
  job: job.code,
  title: job.title,
  revision: job.revision,
});

/** A program is read by machines that know no other signs. */
const ascii = (text: string): Uint8Array => new TextEncoder().encode(text.replace(/[^\x00-\x7E]/g, "?"));

const NC = "text/plain";
const DXF = "image/vnd.dxf";
const SVG = "image/svg+xml";

/** All files of this stage. */
export async function files(
  design: Pick<Design, "job">,
  rules: MetalworkRules,
  result: MetalworkResult,
): Promise<FileOut[]> {
  const heading = headingOf(design);
  const holes = holesTable(result.faces);
  const cuts = cutsTable(result);
  const out: FileOut[] = [
    { name: "holes.csv", type: "text/csv", bytes: toCsv(holes.head, holes.rows) },
    { name: "cuts.csv", type: "text/csv", bytes: toCsv(cuts.head, cuts.rows) },
    { name: "cuts.pdf", type: PDF, bytes: await toPdf(`${heading.job}, cut lists`, barSheets(result.bars, heading)) },
    {
      name: "cut-labels.pdf",
      type: PDF,
      bytes: await toPdf(`${heading.job}, labels of pieces`, pieceLabels(result.bars, heading)),
    },
  ];
  for (const work of result.faces) {
    if (work.holes.length === 0) continue;
    const name = fileOf(work);
    const sheets = faceSheets(work, toolsFor(work, rules), heading);
    out.push(
      { name: `${name}.dxf`, type: DXF, bytes: faceDxf(work, work.seen) },
      ...programsOf(work, rules, heading.job).map((p) => ({ name: p.name, type: NC, bytes: ascii(p.text) })),
      { name: `${name}.svg`, type: SVG, bytes: toSvg(sheets[0]!) },
      { name: `${name}.pdf`, type: PDF, bytes: await toPdf(`${heading.job}, ${work.face}`, sheets) },
      {
        name: `${name}-full.pdf`,
        type: PDF,
        bytes: await toPdf(`${heading.job}, ${work.face}, 1:1`, fullSheets(work, heading)),
      },
    );
  }
  return out;
}

/** One face as somebody asks for it. */
export async function drawn(
  design: Pick<Design, "job">,
  rules: MetalworkRules,
  { faces }: MetalworkResult,
  { face, as, full, setUp }: WantedFace,
): Promise<FileOut | null> {
  const work = faces.find((f) => f.face === face);
  if (!work) return null;
  const heading = headingOf(design);
  const name = `${fileOf(work)}${full ? "-full" : ""}`;
  if (as === "nc") {
    const program = programsOf(work, rules, heading.job)[setUp - 1];
    return program ? { name: program.name, type: NC, bytes: ascii(program.text) } : null;
  }
  if (as === "dxf") return { name: `${name}.dxf`, type: DXF, bytes: faceDxf(work, work.seen) };
  const sheets = full ? fullSheets(work, heading) : faceSheets(work, toolsFor(work, rules), heading);
  if (as === "svg") return { name: `${name}.svg`, type: SVG, bytes: toSvg(full ? stacked(name, sheets) : sheets[0]!) };
  return { name: `${name}.pdf`, type: PDF, bytes: await toPdf(`${heading.job}, ${face}`, sheets) };
}
