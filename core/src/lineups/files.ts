import type { FileOut } from "../design/file-out";
import { lookUp } from "../design/lookup";
import type { Design } from "../design/model";
import { toCsv, type Cell } from "../formats/csv";
import { levelNumber } from "./jumpers";
import { membersOf, type Connection, type Jumper, type LineupsResult, type StripPlan } from "./result";

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
export function terminalsTable({ strips }: LineupsResult): { head: string[]; rows: Cell[][] } {
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
          leads(outside),
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
    head: "strip,row,part,teeth,from,to,net,current_a".split(","),
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
export function coresTable(design: Design): { head: string[]; rows: Cell[][] } {
  const look = lookUp(design);
  return {
    head: "cable,core,colour,size_mm2,at,pin,far,length_mm".split(","),
    rows: [...look.cables.values()].flatMap((cable) =>
      cable.cores.flatMap((c) =>
        [
          { ref: c.from, other: c.to },
          { ref: c.to, other: c.from },
        ].flatMap(({ ref, other }): Cell[][] => {
          if (!ref) return [];
          const far = other ? `${other.device}:${other.pin}` : (c.far ?? "");
          const size = c.sizeMm2 ?? look.parts.get(cable.type)?.cable?.sizeMm2 ?? null;
          return [[cable.tag, c.core, c.colour ?? null, size, ref.device, ref.pin, far, null]];
        }),
      ),
    ),
  };
}

/** The files of this stage: terminals.csv, jumpers.csv, markers.csv, cores.csv. */
export const files = (design: Design, result: LineupsResult): FileOut[] =>
  Object.entries({
    "terminals.csv": terminalsTable(result),
    "jumpers.csv": jumpersTable(result),
    "markers.csv": markersTable(result),
    "cores.csv": coresTable(design),
  }).map(([name, { head, rows }]) => ({ name, type: "text/csv", bytes: toCsv(head, rows) }));
