/**
 * Rectangles of lines that run along the axes: bodies side by side share their edges, or stand against each other's, so that no loop of
 * lines is one of them. A rectangle is there where all of its four sides are drawn, by one line or by several that meet or overlap.
 * Every one is told, also those put together of others: which of them is a body, tags say.
 */

export interface Rectangle {
  x: number;
  y: number;
  w: number;
  h: number;
}

/** Looked at, or found, no more than so many: beyond it is hatching, not bodies. */
const MOST_STEPS = 400_000;
const MOST_FOUND = 20_000;

/** Lines at one place, without overlaps, in order. */
interface Row {
  at: number;
  spans: [number, number][];
}

/**
 * @param strokes points as x, y, x, y …; of lines with corners each piece counts; what runs aslant does not; not mutated
 * @param tolerance lines nearer than this lie on one, ends nearer than this meet
 * @returns `used`: of each stroke whether it is a side, or part of one, of a rectangle
 */
export function rectanglesOf(strokes: readonly number[][], tolerance: number): { found: Rectangle[]; used: boolean[] } {
  const across: { at: number; from: number; until: number }[] = [];
  const up: { at: number; from: number; until: number }[] = [];
  for (const points of strokes)
    for (let i = 0; i + 3 < points.length; i += 2) {
      const [x1, y1, x2, y2] = [points[i]!, points[i + 1]!, points[i + 2]!, points[i + 3]!];
      if (Math.abs(y1 - y2) <= tolerance) across.push({ at: y1, from: Math.min(x1, x2), until: Math.max(x1, x2) });
      else if (Math.abs(x1 - x2) <= tolerance) up.push({ at: x1, from: Math.min(y1, y2), until: Math.max(y1, y2) });
    }
  const rows = rowsOf(across, tolerance);
  const columns = rowsOf(up, tolerance);
  const found = search(rows, columns, tolerance);
  const sides = new Sides(found, tolerance);
  return { found, used: strokes.map((points) => sides.has(points)) };
}

function rowsOf(lines: readonly { at: number; from: number; until: number }[], tolerance: number): Row[] {
  const rows: Row[] = [];
  for (const { at, from, until } of [...lines].sort((a, b) => a.at - b.at)) {
    let row = rows.at(-1);
    if (!row || at - row.at > tolerance) rows.push((row = { at, spans: [] }));
    row.spans.push([from, until]);
  }
  for (const row of rows) {
    const merged: [number, number][] = [];
    for (const [from, until] of row.spans.sort((a, b) => a[0] - b[0])) {
      const last = merged.at(-1);
      if (last && from <= last[1] + tolerance) last[1] = Math.max(last[1], until);
      else merged.push([from, until]);
    }
    row.spans = merged;
  }
  return rows;
}

/** For every line across as the foot: the uprights on it, two by two, and the lines across that close them above. */
function search(rows: readonly Row[], columns: readonly Row[], tolerance: number): Rectangle[] {
  const found: Rectangle[] = [];
  let steps = 0;
  for (const [r, { at: y, spans }] of rows.entries())
    for (const [from, until] of spans) {
      const uprights: { x: number; top: number }[] = [];
      for (let c = firstAt(columns, from - tolerance); c < columns.length; c++) {
        const { at: x, spans: pieces } = columns[c]!;
        if (x > until + tolerance || ++steps > MOST_STEPS) break;
        const piece = pieces.find(([low, high]) => low <= y + tolerance && high > y + tolerance);
        if (piece) uprights.push({ x, top: piece[1] });
      }
      for (let i = 0; i < uprights.length; i++) {
        // Any upright further on may reach as high as this one; what closes them must lie below both tops.
        const left = uprights[i]!;
        for (let above = r + 1; above < rows.length; above++) {
          const row = rows[above]!;
          if (row.at > left.top + tolerance || ++steps > MOST_STEPS) break;
          const span = row.spans.find(([a, b]) => a <= left.x + tolerance && b >= left.x + tolerance);
          if (!span) continue;
          for (let j = i + 1; j < uprights.length; j++) {
            const right = uprights[j]!;
            if (right.x > span[1] + tolerance || ++steps > MOST_STEPS) break;
            if (right.top < row.at - tolerance) continue;
            found.push({ x: left.x, y, w: right.x - left.x, h: row.at - y });
            if (found.length >= MOST_FOUND) return found;
          }
        }
      }
      if (steps > MOST_STEPS) return found;
    }
  return found;
}

/** The first of rows in order that lies at a place or beyond. */
function firstAt(rows: readonly Row[], at: number): number {
  let [low, high] = [0, rows.length];
  while (low < high) {
    const middle = (low + high) >> 1;
    if (rows[middle]!.at < at) low = middle + 1;
    else high = middle;
  }
  return low;
}

/** Sides of rectangles, to be asked whether a line lies on one. */
class Sides {
  private readonly across: Row[];
  private readonly up: Row[];
  private readonly tolerance: number;

  constructor(found: readonly Rectangle[], tolerance: number) {
    this.tolerance = tolerance;
    this.across = rowsOf(
      found.flatMap(({ x, y, w, h }) => [y, y + h].map((at) => ({ at, from: x, until: x + w }))),
      tolerance,
    );
    this.up = rowsOf(
      found.flatMap(({ x, y, w, h }) => [x, x + w].map((at) => ({ at, from: y, until: y + h }))),
      tolerance,
    );
  }

  has(points: readonly number[]): boolean {
    for (let i = 0; i + 3 < points.length; i += 2) {
      const [x1, y1, x2, y2] = [points[i]!, points[i + 1]!, points[i + 2]!, points[i + 3]!];
      const flat = Math.abs(y1 - y2) <= this.tolerance;
      if (!flat && Math.abs(x1 - x2) > this.tolerance) return false;
      const on = flat
        ? this.covers(this.across, y1, Math.min(x1, x2), Math.max(x1, x2))
        : this.covers(this.up, x1, Math.min(y1, y2), Math.max(y1, y2));
      if (!on) return false;
    }
    return points.length >= 4;
  }

  private covers(rows: readonly Row[], at: number, from: number, until: number): boolean {
    const by = 2 * this.tolerance;
    for (let r = firstAt(rows, at - by); r < rows.length && rows[r]!.at <= at + by; r++)
      if (rows[r]!.spans.some(([a, b]) => a <= from + by && b >= until - by)) return true;
    return false;
  }
}
