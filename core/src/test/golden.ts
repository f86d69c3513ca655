import { readFileSync, writeFileSync } from "node:fs";
import { join } from "node:path";
import type { OpenPoint } from "../design/open-points";

/**
 * Compares a text with a file kept beside the tests, which a person has read through. GOLDEN=write
 * writes it anew; the change is then read in the diff.
 */
export function golden(name: string, text: string): void {
  const file = join(__dirname, "golden", name);
  if (process.env.GOLDEN === "write") writeFileSync(file, text);
  expect(text).toBe(readFileSync(file, "utf8"));
}

/** Open points with every word, three lines each. */
export const pointLines = (points: readonly OpenPoint[]): string[] =>
  points.flatMap((p) => [
    `${p.severity}, ${p.kind}: ${p.thing} ${p.of} (${p.id})`,
    `  ${p.text}`,
    `  ${p.remedy}`,
    ...(p.mend ? [`  ${p.mend.label}: ${p.mend.kind} ${JSON.stringify(p.mend.payload)}`] : []),
    ...(p.mend?.asks.map((a) => `    ${a.field}: ${a.label} (${a.as}${a.choices ? `: ${a.choices.join(" ")}` : ""})`) ??
      []),
    ...(p.cause
      ? [
          `  of ${p.cause.text}: ${p.cause.mends.map((m) => `${m.label}: ${m.kind} ${JSON.stringify(m.payload)}`).join("; ")}`,
        ]
      : []),
  ]);
