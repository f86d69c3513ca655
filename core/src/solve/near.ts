import Flatbush from "flatbush";
import type { Rect } from "../design/geometry";

/** Thrown to end a search; no error, so that no stack is written for it. */
const ENOUGH = Symbol("enough");

const ascending = (p: number, q: number): number => p - q;

/** Outlines of one face, found by where they are. */
export class Outlines {
  readonly #index: Flatbush | null;

  /** O(n log n) */
  constructor(outlines: readonly Rect[]) {
    this.#index = outlines.length === 0 ? null : new Flatbush(outlines.length);
    for (const { x, y, w, h } of outlines) this.#index!.add(x, y, x + w, y + h);
    this.#index?.finish();
  }

  /**
   * Numbers of the outlines that touch a rectangle grown by `reach` on all sides, ascending. Of more than `most` some
   * are given, and which hangs on where the outlines are and on their order alone. O(log n + found)
   */
  touching(rect: Rect, reach: number, most = Infinity): number[] {
    return this.first(rect, reach, most).sort(ascending);
  }

  /** The same in the order in which they are found: fewer of them are the beginning of more. */
  first({ x, y, w, h }: Rect, reach: number, most: number): number[] {
    const found: number[] = [];
    try {
      this.#index?.search(x - reach, y - reach, x + w + reach, y + h + reach, (i) => {
        if (found.length === most) throw ENOUGH;
        return found.push(i) > 0;
      });
    } catch (error) {
      if (error !== ENOUGH) throw error;
    }
    return found;
  }
}

export interface Pairs {
  /** Each once, the lower number first, ascending. */
  pairs: [number, number][];
  /** Set when not all were looked at: no more than `most` for each, and which had more. */
  cut: { most: number; crowded: number[] } | null;
}

/** What of one face may touch in all before it is cut: no panel that is built comes near it. */
const MOST_TOUCHES = 60_000;
const MOST_EACH = 500;

/**
 * Pairs of outlines that come within `reach` of each other. Where so many lie on each other that the pairs could not
 * be gone through, each outline keeps an equal number of neighbours: the largest number with which all together stay
 * bounded. O(n log n), and no more pairs than about `MOST_TOUCHES` or eight for each.
 */
export function nearPairs(outlines: readonly Rect[], reach: number): Pairs {
  const index = new Outlines(outlines);
  const near = outlines.map((o) => index.first(o, reach, MOST_EACH + 1));
  const most = levelOf(
    near.map((list) => list.length),
    Math.max(MOST_TOUCHES, 8 * outlines.length),
  );
  const crowded: number[] = [];
  near.forEach((list, i) => {
    if (list.length > most) crowded.push(i);
    list.length = Math.min(list.length, most);
    list.sort(ascending);
  });
  const pairs: [number, number][] = [];
  near.forEach((list, i) => {
    for (const j of list) if (j > i || (j < i && !includes(near[j]!, i))) pairs.push(j > i ? [i, j] : [j, i]);
  });
  if (crowded.length > 0) pairs.sort((p, q) => p[0] - q[0] || p[1] - q[1]);
  return { pairs, cut: crowded.length > 0 ? { most, crowded } : null };
}

/** The largest number to which all may be cut so that their sum is no more than `sum`; `MOST_EACH` at most. */
function levelOf(counts: readonly number[], sum: number): number {
  const ordered = [...counts].sort((p, q) => p - q);
  let left = sum;
  for (const [i, count] of ordered.entries()) {
    const share = Math.floor(left / (ordered.length - i));
    if (count > share) return Math.min(share, MOST_EACH);
    left -= count;
  }
  return MOST_EACH;
}

/** Whether an ascending list has a number. */
function includes(list: readonly number[], wanted: number): boolean {
  let lo = 0;
  let hi = list.length;
  while (lo < hi) {
    const mid = (lo + hi) >> 1;
    if (list[mid]! < wanted) lo = mid + 1;
    else hi = mid;
  }
  return list[lo] === wanted;
}
