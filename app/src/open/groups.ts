import { SEVERITIES, type OpenPoint } from "@gray-bench/core/design/open-points";

export interface Group {
  key: string;
  severity: OpenPoint["severity"];
  kind: string;
  stage: string;
  points: OpenPoint[];
}

/** Groups by severity, then kind; in the order found. */
export function groupPoints(points: readonly OpenPoint[]): Group[] {
  const groups = new Map<string, Group>();
  for (const severity of SEVERITIES) {
    for (const p of points) {
      if (p.severity !== severity) continue;
      const key = `${p.severity} ${p.stage} ${p.kind}`;
      const group = groups.get(key) ?? { key, severity, kind: p.kind, stage: p.stage, points: [] };
      group.points.push(p);
      groups.set(key, group);
    }
  }
  return [...groups.values()];
}
