import type { OpenPoint, PointCount, Thing } from "./design/open-points";

/** How a job stands by its open points, and what to settle first. */
export interface NextStep {
  /** Those that nobody let stand. */
  open: PointCount;
  /** Of the worst kind there is: the one that most others speak of, of those one that an edit settles. Null when nothing is open. */
  first: OpenPoint | null;
  /** So many others speak of the same thing: they are likely to go with it. */
  others: number;
}

/** What texts say of a thing: tags stand by themselves, a wire's number stands behind the word. */
const saidAs = (thing: Thing, of: string): string => (thing === "wire" ? `wire ${of}` : of);

/** Words of a text without the signs around them, and each with the one before it. */
function sayings(text: string): Set<string> {
  const words = text
    .split(/\s+/)
    .map((w) => w.replace(/^[("']+/, "").replace(/[)"',;:.]+$/, ""))
    .filter((w) => w !== "");
  return new Set([...words, ...words.map((w, i) => `${words[i - 1] ?? ""} ${w}`)]);
}

/** O(letters of all texts) */
export function nextStep(points: readonly OpenPoint[]): NextStep {
  const open: PointCount = { stop: 0, check: 0, note: 0 };
  const left = points.filter((p) => !p.accepted);
  const speak = new Map<string, number>();
  for (const p of left) {
    open[p.severity] += p.stands ?? 1;
    for (const said of new Set([...sayings(p.text), saidAs(p.thing, p.of)]))
      speak.set(said, (speak.get(said) ?? 0) + 1);
  }
  const worst = (["stop", "check", "note"] as const).find((s) => open[s] > 0);
  let first: OpenPoint | null = null;
  let others = 0;
  for (const p of left) {
    if (p.severity !== worst) continue;
    const n = speak.get(saidAs(p.thing, p.of))! - 1;
    const better = first === null || n > others || (n === others && !first.mend && p.mend !== undefined);
    if (better) [first, others] = [p, n];
  }
  return { open, first, others };
}
