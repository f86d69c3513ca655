import fc from "fast-check";
import { runs } from "../test/runs";
import { randomFrom } from "./random";
import { boundOf, byLongerAxis, lengthOf, nearestNeighbours, straight, tourOf, type Metric } from "./tour";

const points = (min: number, max: number) =>
  fc.array(fc.record({ x: fc.integer({ min: 0, max: 1000 }), y: fc.integer({ min: 0, max: 600 }) }), {
    minLength: min,
    maxLength: max,
  });
const METRICS: [string, Metric][] = [
  ["straight", straight],
  ["by the longer axis", byLongerAxis],
];

/** The shortest of all orders, one by one. */
function allOrders(list: readonly { x: number; y: number }[], metric: Metric): number {
  let best = Infinity;
  const go = (order: number[], left: number[], length: number): void => {
    if (length >= best) return;
    if (left.length === 0) {
      best = Math.min(best, length + metric(list[order[order.length - 1]!]!, list[0]!));
      return;
    }
    for (const i of left)
      go(
        [...order, i],
        left.filter((j) => j !== i),
        length + metric(list[order[order.length - 1]!]!, list[i]!),
      );
  };
  go([0], list.map((_, i) => i).slice(1), 0);
  return best;
}

describe.each(METRICS)("tours, %s", (_name, metric) => {
  test("up to eight points the shortest of all orders, and the bound is that", () => {
    fc.assert(
      fc.property(points(1, 8), (list) => {
        const tour = tourOf(list, metric);
        expect([...tour.order].sort((a, b) => a - b)).toEqual(list.map((_, i) => i));
        expect(tour.order[0]).toBe(0);
        const best = list.length === 1 ? 0 : allOrders(list, metric);
        expect(tour.length).toBeCloseTo(best, 6);
        expect(tour.bound).toBeCloseTo(best, 6);
      }),
      { seed: 31, numRuns: runs(60) },
    );
  });

  test("with ten and eleven points as short as all orders allow, and the bound never above", () => {
    fc.assert(
      fc.property(points(10, 11), (list) => {
        const best = allOrders(list, metric);
        const tour = tourOf(list, metric);
        expect(tour.length).toBeCloseTo(best, 6);
        expect(boundOf(list, metric, tour.length)).toBeLessThanOrEqual(best + 1e-6);
      }),
      { seed: 32, numRuns: runs(8) },
    );
  });

  test("with many: each once, its length as told, no longer than nearest neighbours, not below the bound", () => {
    fc.assert(
      fc.property(points(12, 120), (list) => {
        const tour = tourOf(list, metric);
        expect([...tour.order].sort((a, b) => a - b)).toEqual(list.map((_, i) => i));
        expect(tour.length).toBeCloseTo(lengthOf(tour.order, list, metric), 6);
        expect(tour.length).toBeLessThanOrEqual(lengthOf(nearestNeighbours(list, metric), list, metric) + 1e-6);
        expect(tour.bound).toBeLessThanOrEqual(tour.length + 1e-9);
        expect(tourOf(list, metric)).toEqual(tour);
      }),
      { seed: 33, numRuns: runs(12) },
    );
  });
});

test("points of a grid: as long as there are points, where that is known to be the shortest", () => {
  const grid = Array.from({ length: 100 }, (_, i) => ({ x: (i % 10) * 50, y: Math.floor(i / 10) * 50 }));
  const tour = tourOf(grid);
  expect(tour.length).toBeCloseTo(100 * 50, 6);
  expect(tour.bound).toBeGreaterThan(0.98 * 5000);
});

test("all at one place, and none", () => {
  expect(tourOf(Array.from({ length: 30 }, () => ({ x: 5, y: 5 }))).length).toBe(0);
  expect(tourOf([])).toEqual({ order: [], length: 0, bound: 0 });
});

test("very many places are gone through in bands, each once; less effort is a way too, with its bound", () => {
  const random = randomFrom(7);
  const points = (n: number) => Array.from({ length: n }, () => ({ x: random() * 2000, y: random() * 1200 }));
  const many = points(3200);
  const banded = tourOf(many);
  expect([...banded.order].sort((a, b) => a - b)).toEqual(many.map((_, i) => i));
  expect([banded.order[0], banded.bound]).toEqual([0, 0]);
  expect(banded.length).toBeCloseTo(lengthOf(banded.order, many, straight), 6);
  expect(banded.length).toBeLessThan(
    lengthOf(
      many.map((_, i) => i),
      many,
      straight,
    ) / 10,
  );
  const few = points(150);
  const [whole, part] = [tourOf(few), tourOf(few, straight, 0.05)];
  expect(part.length).toBeGreaterThanOrEqual(whole.bound - 1e-6);
  expect(part.bound).toBeLessThanOrEqual(whole.length + 1e-6);
  expect([...part.order].sort((a, b) => a - b)).toEqual(few.map((_, i) => i));
});
