import { SEVERITIES, type OpenPoint } from "@gray-bench/core/design/open-points";

export interface Group {
  key: string;
  severity: OpenPoint["severity"];
  kind: string;
  stage: string;
  points: OpenPoint[];
}

/** Points that come from one cause. */
export interface Caused {
  cause: NonNullable<OpenPoint["cause"]>;
  points: OpenPoint[];
}

/** Causes that several points have in common, the one of most points first. */
export function commonCauses(points: readonly OpenPoint[]): Caused[] {
  const causes = new Map<string, Caused>();
  for (const p of points) {
    if (!p.cause || p.accepted) continue;
    const known = causes.get(p.cause.text);
    if (known) known.points.push(p);
    else causes.set(p.cause.text, { cause: p.cause, points: [p] });
  }
  return [...causes.values()].filter((c) => c.points.length > 1).sort((a, b) => b.points.length - a.points.length);
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
