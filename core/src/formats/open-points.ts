import type { FileOut } from "../frame/file-out";
import type { OpenPoint } from "../design/open-points";
import { toCsv } from "./csv";

/** All open points of a job as open-points.csv. */
export function openPointsFile(points: readonly OpenPoint[]): FileOut {
  const rows = points.map((p) => [
    ...[p.severity, p.stage, p.kind, p.thing, p.of, p.text, p.remedy],
    ...[p.accepted?.who ?? null, p.accepted?.why ?? null],
  ]);
  const header = ["severity", "stage", "kind", "thing", "name", "text", "remedy", "accepted_by", "accepted_why"];
  return { name: "open-points.csv", type: "text/csv", bytes: toCsv(header, rows) };
}
