import fc from "fast-check";
import { runs } from "../test/runs";
import { byFirstFit, cutList, leastBins, pack, type Piece, type Saw } from "./cuts";

const SAW: Saw = { stockMm: 2000, kerfMm: 3, trimMm: 5, keepMm: 200 };
const pieces = (...lengths: number[]): Piece[] => lengths.map((lengthMm, i) => ({ of: `p${i}`, lengthMm }));

/** Fewest rooms by looking at every way. */
function fewest(sizes: readonly number[], room: number): number {
  let best = sizes.length;
  const go = (i: number, rooms: number[]): void => {
    if (rooms.length >= best) return;
    if (i === sizes.length) {
      best = rooms.length;
      return;
    }
    const seen = new Set<number>();
    rooms.forEach((left, k) => {
      if (left < sizes[i]! || seen.has(left)) return;
      seen.add(left);
      const next = [...rooms];
      next[k] = left - sizes[i]!;
      go(i + 1, next);
    });
    go(i + 1, [...rooms, room - sizes[i]!]);
  };
  go(0, []);
  return sizes.length === 0 ? 0 : best;
}

const descending = (list: number[]): number[] => [...list].sort((a, b) => b - a);

describe("bars", () => {
  test("worked by hand: trims at both ends, the saw between pieces, what is left", () => {
    const { bars, fresh, bound } = cutList(pieces(1000, 987), SAW);
    // 1000 + 3 + 987 = 1990 = 2000 − 2 · 5.
    expect([fresh, bound]).toEqual([1, 1]);
    expect(bars[0]!.pieces.map((p) => p.lengthMm)).toEqual([1000, 987]);
    expect(bars[0]!.restMm).toBe(2);
    expect(cutList(pieces(1000, 988), SAW).fresh).toBe(2);
    expect(cutList(pieces(500), SAW).bars[0]!.restMm).toBe(2000 - 5 - 503);
    expect(cutList([], SAW)).toMatchObject({ bars: [], fresh: 0, bound: 0, tooLong: [] });
  });

  test("what is kept comes first, and what is too long is told", () => {
    const { bars, fresh, tooLong } = cutList(pieces(600, 500, 2500, 1800), SAW, [620, 700]);
    expect(tooLong.map((p) => p.lengthMm)).toEqual([2500]);
    expect(bars.map((b) => [b.lengthMm, b.kept, b.pieces.map((p) => p.lengthMm)])).toEqual([
      [620, true, [600]],
      [700, true, [500]],
      [2000, false, [1800]],
    ]);
    expect(fresh).toBe(1);
  });

  test("as few as looking at every way finds, on small cases", () => {
    fc.assert(
      fc.property(
        fc.array(fc.integer({ min: 10, max: 100 }), { maxLength: 9 }),
        fc.integer({ min: 100, max: 150 }),
        (list, room) => {
          const sizes = descending(list);
          const best = fewest(sizes, room);
          const { bins, bound } = pack(sizes, room);
          expect(bins).toHaveLength(best);
          expect(bound).toBeLessThanOrEqual(best);
          expect(leastBins(sizes, room)).toBe(bound);
        },
      ),
      { seed: 41, numRuns: runs(300) },
    );
  });

  test("triplets that fill a bar exactly fill as many bars as there are triplets", () => {
    fc.assert(
      fc.property(
        fc.array(fc.tuple(fc.integer({ min: 500, max: 740 }), fc.integer({ min: 500, max: 740 })), {
          minLength: 2,
          maxLength: 12,
        }),
        (list) => {
          const all = list.flatMap(([a, b]) => [a, b, 1990 - 2 * 3 - a - b]);
          const { fresh, bound, bars } = cutList(pieces(...all), SAW);
          expect([fresh, bound]).toEqual([list.length, list.length]);
          expect(bars.every((b) => b.restMm <= 2 + 1e-9)).toBe(true);
        },
      ),
      { seed: 42, numRuns: runs(20) },
    );
  });

  test("every piece once, no bar overfull, never more than first fit, equal pieces cut equally", () => {
    fc.assert(
      fc.property(
        fc.array(fc.integer({ min: 30, max: 1980 }), { maxLength: 60 }),
        fc.array(fc.integer({ min: 200, max: 1900 }), { maxLength: 4 }),
        (list, shelf) => {
          const given = pieces(...list);
          const { bars, tooLong, fresh, bound } = cutList(given, SAW, shelf);
          expect([...bars.flatMap((b) => b.pieces), ...tooLong].map((p) => p.of).sort()).toEqual(
            given.map((p) => p.of).sort(),
          );
          for (const b of bars) {
            const used = b.pieces.reduce((sum, p) => sum + p.lengthMm, 0) + SAW.kerfMm * (b.pieces.length - 1);
            expect(used).toBeLessThanOrEqual(b.lengthMm - 2 * SAW.trimMm + 1e-9);
          }
          expect(bars.filter((b) => b.kept).length).toBeLessThanOrEqual(shelf.length);
          expect(fresh).toBeGreaterThanOrEqual(bound);
          expect(fresh).toBeLessThanOrEqual(byFirstFit(descending(list.map((l) => l + 3)), 1993).length);
          expect(cutList([...given].reverse(), SAW, shelf).fresh).toBe(fresh);
        },
      ),
      { seed: 43, numRuns: runs(60) },
    );
  });
});
