import type { FileOut } from "../frame/file-out";
import type { MetalworkRules } from "./rules";
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
import { fileNames, originText, pointing, seenText, setUpLines, toolText } from "./say";
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
export function holesTable(
  faces: readonly FaceWork[],
  { machines }: Pick<MetalworkRules, "machines">,
): { head: string[]; rows: Cell[][] } {
  return {
    head: [
      "enclosure,face,seen_from,number,kind,x,y,d,w,h,r,thread,tool,order,from,set_up,aside_mm,without",
      "corners,key,on_slot,machine,turned_deg,corner_on_datum,zero_x,zero_y,set_ups",
    ]
      .join()
      .split(","),
    rows: faces.flatMap((work) => {
      const last = finishing(work);
      const lacks = new Map(work.lacks.map((l) => [l.hole, l.why]));
      const machine = machines.find((m) => m.name === work.machine);
      return work.holes.map(({ number, cut, from }): Cell[] => {
        const done = last.get(number);
        const asides = from.flatMap((o) => o.asideMm ?? []);
        const seen = asSeen(work, cut);
        const shift = done && work.setUps[done.setUp - 1]!.shift;
        const bar = from.find((o) => o.thing === "rail" || o.thing === "duct");
        return [
          work.enclosure,
          work.kind,
          seenText(work),
          number,
          cut.kind,
          ...cells(seen),
          done?.tool ?? null,
          done?.order ?? null,
          originText(from),
          done?.setUp ?? null,
          asides[0] ?? null,
          lacks.get(number) ?? "",
          seen.kind === "polygon" ? seen.points.map((p) => `${r4(p.x)} ${r4(p.y)}`).join("; ") : "",
          seen.kind === "round" && seen.notch ? pointing(seen.notch.angle) : "",
          bar === undefined ? "" : bar.slot === undefined ? "free" : bar.slot,
          work.machine,
          shift ? work.turn : null,
          shift ? (machine?.corner ?? "") : "",
          shift ? r4(shift.x) : null,
          shift ? r4(shift.y) : null,
          shift ? work.setUps.length : null,
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

/** Programs of a face, one for each set-up; `name` is that of its files. */
export function programsOf(
  work: FaceWork,
  rules: MetalworkRules,
  heading: Pick<Heading, "job" | "revision">,
  name: string,
): { name: string; text: string }[] {
  const on = work.machine === null ? null : machineOf(work.machine, rules);
  if (!on) return [];
  const basis = basisOf(work, on, rules);
  return work.setUps.map((setUp, i) => {
    const part = work.setUps.length > 1 ? `, set-up ${i + 1} of ${work.setUps.length}` : "";
    const tools = [...new Set(setUp.steps.map((s) => s.tool))].map((id) => `${id} ${toolText(id, rules.tools)}`);
    return {
      name: `${name}${work.setUps.length > 1 ? `-${i + 1}` : ""}.nc`,
      text: programOf(setUp, basis.kit.tools, on.control, {
        title: `${heading.job} ${work.face}, seen from ${seenText(work)}${part}`,
        notes: [...setUpLines(work, rules, heading, i + 1), `tools: ${tools.join(", ")}`],
        thicknessMm: basis.thicknessMm,
        lie: basis.lie,
      }),
    };
  });
}

export const toolsFor = (work: FaceWork, rules: MetalworkRules): readonly Tool[] => {
  const on = work.machine === null ? null : machineOf(work.machine, rules);
  return on ? basisOf(work, on, rules).kit.tools : [];
};

const headingOf = ({ job }: Pick<Design, "job">): Heading => ({
  job: job.code,
  title: job.title,
  revision: job.revision,
});

/** How a sheet lies in each of its set-ups, once what they have in common. */
const setUpNotes = (work: FaceWork, rules: MetalworkRules, heading: Heading): string[] => [
  ...new Set(
    work.setUps.length > 0
      ? work.setUps.flatMap((_, i) => setUpLines(work, rules, heading, i + 1))
      : setUpLines(work, rules, heading, 1),
  ),
];

/** A program is read by machines that know no other signs. */
const ascii = (text: string): Uint8Array => new TextEncoder().encode(text.replace(/[^\r\n\x20-\x7E]/g, "?"));

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
  const holes = holesTable(result.faces, rules);
  const names = fileNames(result.faces);
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
    const name = names.get(work.face)!;
    const sheets = faceSheets(work, toolsFor(work, rules), rules.machines, heading);
    out.push(
      { name: `${name}.dxf`, type: DXF, bytes: faceDxf(work, setUpNotes(work, rules, heading)) },
      ...programsOf(work, rules, heading, name).map((p) => ({ name: p.name, type: NC, bytes: ascii(p.text) })),
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
  const base = fileNames(faces).get(face)!;
  const name = `${base}${full ? "-full" : ""}`;
  if (as === "nc") {
    const program = programsOf(work, rules, heading, base)[setUp - 1];
    return program ? { name: program.name, type: NC, bytes: ascii(program.text) } : null;
  }
  if (as === "dxf") return { name: `${name}.dxf`, type: DXF, bytes: faceDxf(work, setUpNotes(work, rules, heading)) };
  const sheets = full ? fullSheets(work, heading) : faceSheets(work, toolsFor(work, rules), rules.machines, heading);
  if (as === "svg") return { name: `${name}.svg`, type: SVG, bytes: toSvg(full ? stacked(name, sheets) : sheets[0]!) };
  return { name: `${name}.pdf`, type: PDF, bytes: await toPdf(`${heading.job}, ${face}`, sheets) };
}
