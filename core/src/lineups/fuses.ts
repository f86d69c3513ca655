import type { OpenPoints } from "../design/open-points";
import { sameSize, SIZE_TOLERANCE_MM2 } from "../design/tolerance";
import type { Member } from "./result";

/** A fuse that is missing, larger than its terminal takes, or larger than what it protects carries. */
export function checkFuse(member: Member, mostA: number, points: OpenPoints): void {
  const fuse = (kind: string, severity: "stop" | "check", text: string, remedy: string): void =>
    points.add({
      severity,
      kind,
      thing: "device",
      of: member.tag,
      text,
      remedy,
      mend: {
        label: "State the fuse",
        kind: "fuse",
        payload: { device: member.tag },
        asks: [
          { field: "fuseA", label: "Rated current, A", as: "amount", ...(member.fuseA ? { now: member.fuseA } : {}) },
        ],
      },
    });
  const { fuseA, tag } = member;
  if (fuseA === null || fuseA === undefined) {
    fuse(
      "no fuse",
      "check",
      `${tag} takes a fuse up to ${mostA} A, and none is stated`,
      "State the fuse that is fitted.",
    );
    return;
  }
  if (fuseA > mostA)
    fuse(
      "fuse too large",
      "stop",
      `the fuse of ${fuseA} A in ${tag} is larger than the ${mostA} A it takes`,
      "Take a smaller fuse, or another terminal.",
    );
  const wires = member.levels.flatMap((l) => [...l.inside, ...l.outside]);
  for (const { conductor, sizeMm2 } of wires) {
    if (sizeMm2 === null) continue;
    const row = rowFor(sizeMm2);
    const protects = `the fuse of ${fuseA} A in ${tag} protects ${conductor} of ${sizeMm2} mm²`;
    if (row === null) {
      // Thinner than the table begins: it carries less than the thinnest there.
      const [mm2, a] = CARRIES[0]!;
      if (fuseA > a) fuse("fuse above its wire", "stop", `${protects}, which carries less than ${a} A`, SMALLER);
      else fuse("fuse not judged", "check", `${protects}; what it carries is told from ${mm2} mm² on only`, SMALLER);
      continue;
    }
    const [mm2, a] = row;
    const as = sameSize(mm2, sizeMm2) ? "which carries" : `counted as ${mm2} mm², which carries`;
    if (fuseA > a) fuse("fuse above its wire", "stop", `${protects}, ${as} ${a} A`, SMALLER);
  }
}

const SMALLER = "Take a smaller fuse or a thicker wire.";

/** Current that a copper conductor with PVC carries in a duct at 40 °C: IEC 60204-1, table 6, method B1. */
const CARRIES: readonly [mm2: number, a: number][] = [
  [0.75, 8.6],
  [1, 10.3],
  [1.5, 13.5],
  [2.5, 18.3],
  [4, 24],
  [6, 31],
  [10, 44],
  [16, 59],
  [25, 77],
  [35, 96],
  [50, 117],
  [70, 149],
  [95, 180],
  [120, 208],
];

/** The row of a size, or of the next smaller one; null below the table. */
const rowFor = (sizeMm2: number): (typeof CARRIES)[number] | null =>
  CARRIES.findLast(([mm2]) => mm2 <= sizeMm2 + SIZE_TOLERANCE_MM2) ?? null;
