import { pushTo } from "@gray-bench/core/design/order";
import { levelNumber } from "@gray-bench/core/lineups/jumpers";
import { membersOf, type Connection, type Level, type Member, type StripPlan } from "@gray-bench/core/lineups/result";
import { useMemo } from "react";
import { Acts } from "../edits/Acts";
import type { Outcome } from "../queries/useEdits";
import { Table } from "../kit/table/Table";
import type { TableColumn } from "../kit/table/column";
import { manyActs } from "@gray-bench/core/lineups/acts";

interface Row {
  key: string;
  member: Member;
  level: Level;
  jumper: string;
}

const leads = (list: readonly Connection[]): string =>
  list.map((c) => `${c.cable === null ? c.wire : `${c.cable}.${c.core}`} ${c.far ?? "?"}`).join("; ");

const keyOf = (r: Row): string => r.key;
/** The member of a row: a row is one level of it. */
const memberOfKey = (key: string): string => key.slice(0, key.lastIndexOf(" "));

const COLUMNS: TableColumn<Row>[] = [
  { id: "position", label: "Place", width: 64, value: (r) => r.member.position },
  { id: "member", label: "Member", width: 90, value: (r) => r.member.tag },
  { id: "part", label: "Part", width: 92, value: (r) => r.member.part },
  { id: "level", label: "Level", width: 60, value: (r) => r.level.level },
  { id: "inside", label: "Inside", width: 190, value: (r) => leads(r.level.inside) },
  { id: "outside", label: "Outside", width: 190, value: (r) => leads(r.level.outside) },
  { id: "net", label: "Net", width: 80, value: (r) => r.level.net },
  { id: "jumper", label: "Jumper", width: 72, value: (r) => r.jumper },
  { id: "fuse", label: "Fuse, A", width: 72, value: (r) => r.member.fuseA ?? null },
  { id: "print", label: "Print", width: 80, value: (r) => r.member.print },
  { id: "width", label: "Width, mm", width: 84, value: (r) => r.member.widthMm, hidden: true },
  { id: "undecided", label: "Undecided", width: 110, value: (r) => r.level.undecided, hidden: true },
];

/** Every level of every member in a row. */
export function StripTable({
  job,
  strip,
  chosen,
  choose,
  laid,
}: {
  job: string;
  strip: StripPlan;
  chosen: string | undefined;
  choose(tag: string): void;
  laid(outcome: Outcome): void;
}) {
  const rows = useMemo(() => {
    const at = new Map<string, string[]>();
    for (const { row, members } of strip.jumpers) for (const tag of members) pushTo(at, tag, String(row));
    return membersOf(strip).flatMap((member) =>
      member.levels.map((level): Row => ({
        key: `${member.tag} ${level.level}`,
        member,
        level,
        jumper: (at.get(member.tag) ?? []).filter((row) => levelNumber(member, Number(row)) === level.level).join(", "),
      })),
    );
  }, [strip]);
  const first = rows.find((r) => r.member.tag === chosen)?.key;
  return (
    <Table
      id="strip"
      label={`Members of ${strip.tag}`}
      testID="strip-table"
      rowTestID={(key) => `row-${key}`}
      rows={rows}
      columns={COLUMNS}
      keyOf={keyOf}
      chosen={first}
      choose={(key) => choose(memberOfKey(key))}
      bar={(keys) => {
        const tags = [...new Set(keys.map(memberOfKey))];
        return (
          <Acts
            job={job}
            acts={manyActs(strip, tags)}
            label="Chosen members"
            about={tags.join()}
            laid={laid}
            testID="many"
          />
        );
      }}
    />
  );
}
