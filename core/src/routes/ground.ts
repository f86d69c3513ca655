import { Outlines } from "../solve/near";
import { toNm } from "../design/tolerance";
import { footOn, toOutline, type Bar } from "./bars";

/** Of more bars than this on one spot not all are looked at: `joinDucts` has said so then. */
const MOST_AT_ONCE = 2000;
const FIRST_NM = toNm(100);

type Accept = (bar: Bar) => boolean;

/** The bars of one face, found by where they are. In every answer the lower number comes first. */
export class Ground {
  readonly bars: readonly Bar[];
  readonly #outlines: Outlines;
  readonly #lo = { x: Infinity, y: Infinity };
  readonly #hi = { x: -Infinity, y: -Infinity };

  /** O(n log n) */
  constructor(bars: readonly Bar[]) {
    this.bars = bars;
    this.#outlines = new Outlines(bars.map((b) => b.outline));
    for (const { outline: o } of bars) {
      this.#lo.x = Math.min(this.#lo.x, o.x);
      this.#lo.y = Math.min(this.#lo.y, o.y);
      this.#hi.x = Math.max(this.#hi.x, o.x + o.w);
      this.#hi.y = Math.max(this.#hi.y, o.y + o.h);
    }
  }

  /** Bars whose outline touches a rectangle. O(log n + found) */
  touching(x0: number, y0: number, x1: number, y1: number): Bar[] {
    return this.#outlines.touching({ x: x0, y: y0, w: x1 - x0, h: y1 - y0 }, 0, MOST_AT_ONCE).map((i) => this.bars[i]!);
  }

  /** Bars whose outline is no farther from a point than `reach`, by square distance. O(log n + found) */
  around(x: number, y: number, reach: number): Bar[] {
    return this.touching(x - reach, y - reach, x + reach, y + reach).filter((b) => toOutline(b.outline, x, y) <= reach);
  }

  /**
   * The bars whose centre lines are nearest to a point by square distance: several when equally near.
   * O(log n + bars about as near)
   */
  nearest(x: number, y: number, accept: Accept = () => true): Bar[] {
    const all = Math.max(x - this.#lo.x, this.#hi.x - x, y - this.#lo.y, this.#hi.y - y);
    for (let reach = FIRST_NM; ; reach *= 4) {
      let least = Infinity;
      let found: Bar[] = [];
      for (const bar of this.touching(x - reach, y - reach, x + reach, y + reach)) {
        if (!accept(bar)) continue;
        const { distance } = footOn(bar, x, y);
        if (distance > least) continue;
        if (distance < least) found = [];
        least = distance;
        found.push(bar);
      }
      // A centre line is no nearer than its outline: what was not looked at is farther than `reach`.
      if (least <= reach || reach >= all) return found;
    }
  }
}
