import type { FileOut } from "../frame/file-out";
import type { Design } from "../design/model";
import { toCsv, type Cell } from "../formats/csv";
import { toDxf } from "../formats/dxf";
import { toPdf } from "../formats/pdf";
import { fitted, stacked, type Scene } from "../formats/scene";
import { toSvg } from "../formats/svg";
import { toXlsx, XLSX_TYPE } from "../formats/xlsx";
import { markerSheets, stripSheets, type Heading } from "./drawing";
import { levelNumber } from "./jumpers";
import {
  membersOf,
  type Connection,
  type Jumper,
  type LineupsResult,
  type StripPlan,
  type WantedDrawing,
} from "./result";

/** Jumpers of a strip by the members they join. */
function jumpersAt({ jumpers }: StripPlan): Map<string, Jumper[]> {
  const at = new Map<string, Jumper[]>();
  for (const j of jumpers) {
    for (const tag of j.members) {
      const there = at.get(tag);
      if (there) there.push(j);
      else at.set(tag, [j]);
    }
  }
  return at;
}

/** Conductors in a cell: where they lead, several one after another. */
const leads = (list: readonly Connection[]): string => list.map((c) => `${c.conductor} to ${c.far ?? "?"}`).join("; ");

/** One row for each level of each member, in order of hanging on. */
export function terminalsTable({ strips, spareWord }: LineupsResult): { head: string[]; rows: Cell[][] } {
  return {
    head: "strip,position,member,part,level,inside,outside,cable,core,jumper,fuse,print".split(","),
    rows: strips.flatMap((strip) => {
      const jumpers = jumpersAt(strip);
      return membersOf(strip).flatMap((m) =>
        m.levels.map(({ level, inside, outside }): Cell[] => [
          strip.tag,
          m.position,
          m.tag,
          m.part,
          level,
          leads(inside),
          m.levels.every((l) => l.inside.length + l.outside.length === 0) ? spareWord : leads(outside),
          [...new Set(outside.flatMap((c) => c.cable ?? []))].join("; "),
          outside.flatMap((c) => c.core ?? []).join("; "),
          (jumpers.get(m.tag) ?? [])
            .filter((j) => levelNumber(m, j.row) === level)
            .map((j) => `row ${j.row}`)
            .join("; "),
          m.fuseA ?? null,
          m.print,
        ]),
      );
    }),
  };
}

export function jumpersTable({ strips }: LineupsResult): { head: string[]; rows: Cell[][] } {
  return {
    head: "strip,row,part,teeth,from,to,net,current_a,combs,without".split(","),
    rows: strips.flatMap((s) =>
      s.jumpers.map((j): Cell[] => [
        s.tag,
        j.row,
        j.part,
        j.teeth,
        j.members[0]!,
        j.members[j.members.length - 1]!,
        j.net,
        j.currentA,
        j.combs,
        j.misfit ?? "",
      ]),
    ),
  };
}

export function markersTable({ strips }: LineupsResult): { head: string[]; rows: Cell[][] } {
  return {
    head: "strip,position,text,width_mm".split(","),
    rows: strips.flatMap((s) => membersOf(s).map((m): Cell[] => [s.tag, m.position, m.print, m.widthMm])),
  };
}

/** One row for each end of each core, cable by cable; a core is cut on the site and has no length here. */
export function coresTable({ cables }: LineupsResult): { head: string[]; rows: Cell[][] } {
  return {
    head: "cable,core,colour,size_mm2,at,pin,far,length_mm".split(","),
    rows: cables.flatMap((cable) =>
      cable.cores.flatMap(({ core, colour, sizeMm2, from, to, far }) =>
        [
          { end: from, other: to },
          { end: to, other: from },
        ].flatMap(({ end, other }): Cell[][] =>
          end
            ? [
                [
                  cable.tag,
                  core,
                  colour,
                  sizeMm2,
                  end.device,
                  end.pin,
                  other ? `${other.device}:${other.pin}` : (far ?? ""),
                  null,
                ],
              ]
            : [],
        ),
      ),
    ),
  };
}

const SHEETS = { terminals: terminalsTable, jumpers: jumpersTable, markers: markersTable, cores: coresTable } as const;

/** What stands in the title of every sheet of a job. */
export const headingOf = ({ job }: Design, { spareWord }: Pick<LineupsResult, "spareWord">): Heading => ({
  job: job.code,
  title: job.title,
  revision: job.revision,
  spareWord,
});

const MADE = {
  pdf: { type: "application/pdf", make: (title: string, sheets: Scene[]) => toPdf(title, sheets) },
  svg: { type: "image/svg+xml", make: (title: string, sheets: Scene[]) => toSvg(stacked(title, sheets)) },
  dxf: { type: "image/vnd.dxf", make: (title: string, sheets: Scene[]) => toDxf(stacked(title, sheets)) },
} as const;

/** More sheets nobody takes to the bench; the tables have everything. */
const MOST_SHEETS = 300;

/** Sheets of all strips, as far as they can be carried; what is left out is said on the last one. */
function sheetsOfAll({ strips, cables }: LineupsResult, heading: Heading): Scene[] {
  const sheets: Scene[] = [];
  for (const [i, strip] of strips.entries()) {
    const own = stripSheets(strip, cables, heading);
    if (sheets.length + own.length <= MOST_SHEETS) {
      sheets.push(...own);
      continue;
    }
    const left = strips.length - i;
    const text = `${left === 1 ? "1 strip is" : `${left} strips are`} not drawn here, from ${strip.tag} on: draw them one by one`;
    sheets.push({
      name: "left out",
      w: 297,
      h: 210,
      items: [{ kind: "text", x: 20, y: 30, ...fitted(text, 257, 5, 1), anchor: "start", turn: 0, layer: "text" }],
    });
    break;
  }
  return sheets;
}

/** One strip as somebody wants it drawn; null when there is none of that tag. */
export async function drawn(design: Design, result: LineupsResult, wanted: WantedDrawing): Promise<FileOut | null> {
  const strip = result.strips.find((s) => s.tag === wanted.strip);
  if (!strip) return null;
  const heading = headingOf(design, result);
  const { type, make } = MADE[wanted.as];
  const bytes = await make(`${heading.job} ${strip.tag}`, stripSheets(strip, result.cables, heading, wanted));
  return { name: `strip ${strip.tag}.${wanted.as}`, type, bytes };
}

/** The files of this stage: tables as CSV and together as XLSX, strips and markers as drawings. */
export async function files(design: Design, result: LineupsResult): Promise<FileOut[]> {
  const tables = Object.entries(SHEETS).map(([name, make]) => ({ name, ...make(result) }));
  const heading = headingOf(design, result);
  const sheets = sheetsOfAll(result, heading);
  const title = `${heading.job} ${heading.title}, strips`;
  const all = stacked(title, sheets);
  return [
    ...tables.map(({ name, head, rows }) => ({ name: `${name}.csv`, type: "text/csv", bytes: toCsv(head, rows) })),
    {
      name: "lineups.xlsx",
      type: XLSX_TYPE,
      bytes: await toXlsx(...tables.map(({ name, head, rows }) => ({ name, header: head, widths: [], rows }))),
    },
    { name: "strips.pdf", type: MADE.pdf.type, bytes: await toPdf(title, sheets) },
    { name: "strips.svg", type: MADE.svg.type, bytes: toSvg(all) },
    { name: "strips.dxf", type: MADE.dxf.type, bytes: toDxf(all) },
    {
      name: "markers.pdf",
      type: "application/pdf",
      bytes: await toPdf(
        `${heading.job} ${heading.title}, markers`,
        markerSheets(result.strips, heading).slice(0, MOST_SHEETS),
      ),
    },
  ];
}
