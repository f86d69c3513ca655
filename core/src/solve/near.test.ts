import fc from "fast-check";
import { nearPairs, Outlines } from "./near";
import type { Rect } from "../design/geometry";

const rect = fc.record({
  x: fc.integer({ min: 0, max: 60 }),
  y: fc.integer({ min: 0, max: 60 }),
  w: fc.integer({ min: 0, max: 20 }),
  h: fc.integer({ min: 0, max: 20 }),
});

const touch = (a: Rect, b: Rect, reach: number): boolean =>
  a.x - reach <= b.x + b.w && b.x <= a.x + a.w + reach && a.y - reach <= b.y + b.h && b.y <= a.y + a.h + reach;

describe("outlines found by where they are", () => {
  test("the same as one by one", () => {
    fc.assert(
      fc.property(fc.array(rect, { maxLength: 40 }), rect, fc.integer({ min: 0, max: 10 }), (all, asked, reach) => {
        const found = new Outlines(all).touching(asked, reach);
        expect(found).toEqual(all.flatMap((r, i) => (touch(r, asked, reach) ? [i] : [])));
      }),
      { seed: 4101 },
    );
  });

  test("fewer of them are the beginning of more", () => {
    fc.assert(
      fc.property(fc.array(rect, { maxLength: 40 }), rect, fc.integer({ min: 0, max: 40 }), (all, asked, most) => {
        const outlines = new Outlines(all);
        expect(outlines.first(asked, 5, most)).toEqual(outlines.first(asked, 5, Infinity).slice(0, most));
      }),
      { seed: 4102 },
    );
  });

  test("pairs: each once, in order, the same as one by one", () => {
    fc.assert(
      fc.property(fc.array(rect, { maxLength: 40 }), fc.integer({ min: 0, max: 10 }), (all, reach) => {
        const wanted = all.flatMap((a, i) =>
          all.flatMap((b, j) => (j > i && touch(a, b, reach) ? [[i, j] as [number, number]] : [])),
        );
        expect(nearPairs(all, reach)).toEqual({ pairs: wanted, cut: null });
      }),
      { seed: 4103 },
    );
  });

  test("thousands on one spot are cut to an equal number each, and it is said", () => {
    const spot = Array.from({ length: 9000 }, () => ({ x: 0, y: 0, w: 10, h: 10 }));
    const apart = Array.from({ length: 50 }, (_, i) => ({ x: 100 + 20 * i, y: 0, w: 20, h: 10 }));
    const { pairs, cut } = nearPairs([...apart, ...spot], 0);
    expect(pairs.length).toBeLessThan(80_000);
    expect(cut!.crowded).toHaveLength(9000);
    expect(cut!.crowded[0]).toBe(50);
    // Who is not in the crowd keeps all of his neighbours.
    for (let i = 1; i < 50; i++) expect(pairs).toContainEqual([i - 1, i]);
    expect(new Set(pairs.map((p) => p.join())).size).toBe(pairs.length);
    expect(pairs.every(([i, j]) => i < j)).toBe(true);
  });

  test("each of a crowd keeps so many neighbours as is said, and no more are gone through", () => {
    const spot = Array.from({ length: 9000 }, (_, i) => ({ x: i % 3, y: 0, w: 10, h: 10 }));
    const { pairs, cut } = nearPairs(spot, 0);
    const partners = new Map<number, number>();
    for (const i of pairs.flat()) partners.set(i, (partners.get(i) ?? 0) + 1);
    // Itself is one of those that are found about each.
    expect([partners.size, Math.min(...partners.values()) >= cut!.most - 1]).toEqual([9000, true]);
    expect(pairs.length).toBeLessThanOrEqual(9000 * cut!.most);
  });
});
