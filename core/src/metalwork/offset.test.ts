import fc from "fast-check";
import { runs } from "../test/runs";
import { insidePath } from "./offset";
import { betweenLines } from "./shapes";

type Point = { x: number; y: number };

/** A ring round about the origin: one corner at each angle, so that no two sides cross. */
const stars = fc.array(fc.integer({ min: 40, max: 120 }), { minLength: 3, maxLength: 9 }).map((radii) =>
  radii.map((r, i): Point => {
    const a = (2 * Math.PI * i) / radii.length;
    return { x: r * Math.cos(a), y: r * Math.sin(a) };
  }),
);

const sides = (ring: readonly Point[]): [Point, Point][] => ring.map((p, i) => [p, ring[(i + 1) % ring.length]!]);

/** Points of a path, arcs in small steps. */
function walked(path: NonNullable<ReturnType<typeof insidePath>>): Point[] {
  return path.flatMap((m, i): Point[] => {
    const from = path[(i + path.length - 1) % path.length]!;
    if (!("cx" in m))
      return Array.from({ length: 9 }, (_, k) => ({
        x: from.x + ((m.x - from.x) * k) / 8,
        y: from.y + ((m.y - from.y) * k) / 8,
      }));
    const r = Math.hypot(from.x - m.cx, from.y - m.cy);
    const a = Math.atan2(from.y - m.cy, from.x - m.cx);
    let b = Math.atan2(m.y - m.cy, m.x - m.cx);
    while (b > a) b -= 2 * Math.PI;
    return Array.from({ length: 9 }, (_, k) => ({
      x: m.cx + r * Math.cos(a + ((b - a) * k) / 8),
      y: m.cy + r * Math.sin(a + ((b - a) * k) / 8),
    }));
  });
}

const inside = (ring: readonly Point[], { x, y }: Point): boolean =>
  sides(ring).reduce(
    (is, [a, b]) => (a.y > y !== b.y > y && x < ((b.x - a.x) * (y - a.y)) / (b.y - a.y) + a.x ? !is : is),
    false,
  );

test("the cutter stays inside, never nearer to a side than its radius, and comes to every side it can", () => {
  let met = 0;
  fc.assert(
    fc.property(stars, fc.constantFrom(1.5, 3, 5), fc.boolean(), (ring, radius, backwards) => {
      const path = insidePath(backwards ? [...ring].reverse() : ring, radius);
      if (!path) return;
      met++;
      const points = walked(path);
      for (const p of points) {
        expect(inside(ring, p)).toBe(true);
        expect(Math.min(...sides(ring).map(([a, b]) => betweenLines(p, p, a, b)))).toBeGreaterThan(radius - 0.02);
      }
      // Along every side it comes as near as its radius somewhere.
      for (const [a, b] of sides(ring))
        expect(Math.min(...points.map((p) => betweenLines(p, p, a, b)))).toBeLessThan(radius + 0.02);
    }),
    { seed: 31, numRuns: runs(300) },
  );
  expect(met).toBeGreaterThan(runs(100));
});

test("too thick a cutter has no way; corners that say nothing are passed over", () => {
  const square = [
    { x: 0, y: 0 },
    { x: 10, y: 0 },
    { x: 10, y: 10 },
    { x: 0, y: 10 },
  ];
  expect(insidePath(square, 5.1)).toBeNull();
  expect(insidePath(square, 2)).toHaveLength(4);
  expect(insidePath([square[0]!, { x: 5, y: 0 }, { x: 5, y: 0 }, ...square.slice(1)], 2)).toHaveLength(4);
  // A neck that is narrower than the cutter.
  const neck = [
    { x: 0, y: 0 },
    { x: 40, y: 0 },
    { x: 40, y: 18 },
    { x: 60, y: 18 },
    { x: 60, y: 0 },
    { x: 100, y: 0 },
    { x: 100, y: 40 },
    { x: 60, y: 40 },
    { x: 60, y: 22 },
    { x: 40, y: 22 },
    { x: 40, y: 40 },
    { x: 0, y: 40 },
  ];
  expect(insidePath(neck, 3)).toBeNull();
  expect(insidePath(neck, 1.5)).not.toBeNull();
  expect(insidePath([], 1)).toBeNull();
});
