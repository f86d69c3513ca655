import { coreRings } from "./section";

test.each([1, 2, 3, 4, 5, 6, 7, 8, 12, 18, 19, 25, 61, 200])("%i cores lie in the sheath, none in another", (n) => {
  const cores = coreRings(n);
  expect(cores).toHaveLength(n);
  cores.forEach((a, i) => {
    expect(Math.hypot(a.x, a.y) + a.r).toBeLessThanOrEqual(0.9 + 1e-9);
    for (const b of cores.slice(i + 1))
      expect(Math.hypot(a.x - b.x, a.y - b.y)).toBeGreaterThanOrEqual(a.r + b.r - 1e-9);
  });
});

test("a cable without cores has none; of seven one lies in the middle", () => {
  expect(coreRings(0)).toEqual([]);
  expect(coreRings(7).filter((c) => Math.hypot(c.x, c.y) < 1e-9)).toHaveLength(1);
});
