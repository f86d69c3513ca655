import fc from "fast-check";
import { roundBody } from "./round";

const BODY = { x: 0, y: 0, w: 100, h: 60 };

// Length and corners worked out on paper. The body spans 0 to 100 and 0 to 60.
test.each<[string, [number, number], "up" | "down" | "left" | "right", [number, number], number, [number, number][]]>([
  [
    "out at the top, down the left side",
    [30, 50],
    "up",
    [40, -100],
    240,
    [
      [30, 60],
      [0, 60],
      [0, -100],
    ],
  ],
  [
    "out at the top, down the right side",
    [80, 50],
    "up",
    [70, -100],
    220,
    [
      [80, 60],
      [100, 60],
      [100, -100],
    ],
  ],
  [
    "equally far: the left side",
    [50, 60],
    "up",
    [50, -100],
    260,
    [
      [50, 60],
      [0, 60],
      [0, -100],
    ],
  ],
  [
    "out at the bottom, up again",
    [30, 10],
    "down",
    [20, 100],
    160,
    [
      [30, 0],
      [0, 0],
      [0, 100],
    ],
  ],
  [
    "out at the left, round below",
    [20, 20],
    "left",
    [300, 10],
    350,
    [
      [0, 20],
      [0, 0],
      [300, 0],
    ],
  ],
  [
    "out at the right, round above",
    [90, 50],
    "right",
    [-40, 40],
    180,
    [
      [100, 50],
      [100, 60],
      [-40, 60],
    ],
  ],
  [
    "the goal beside the body: two stretches",
    [30, 60],
    "up",
    [-20, -10],
    120,
    [
      [30, 60],
      [-20, 60],
    ],
  ],
  [
    "from the side: along it, two stretches",
    [0, 30],
    "left",
    [200, -50],
    280,
    [
      [0, 30],
      [0, -50],
    ],
  ],
  ["a pin outside the body goes straight, the corner first", [-10, 30], "up", [-40, 10], 50, [[-40, 30]]],
  [
    "a pin behind the rim comes out at the front",
    [50, 0],
    "up",
    [50, -100],
    320,
    [
      [50, 60],
      [0, 60],
      [0, -100],
    ],
  ],
])("%s", (_name, [px, py], exit, [gx, gy], nm, corners) => {
  const round = roundBody({ x: px, y: py }, { x: gx, y: gy }, exit, BODY)!;
  expect([round.nm, round.corners.map((c) => [c.x, c.y])]).toEqual([nm, corners]);
});

test("nothing to go round: a goal ahead, level with the pin, or under the body", () => {
  const pin = { x: 30, y: 50 };
  expect(roundBody(pin, { x: 0, y: 200 }, "up", BODY)).toBeNull();
  expect(roundBody(pin, { x: 200, y: 50 }, "up", BODY)).toBeNull();
  expect(roundBody(pin, { x: 50, y: 20 }, "up", BODY)).toBeNull();
  expect(roundBody(pin, { x: 20, y: 0 }, "right", BODY)).not.toBeNull();
  expect(roundBody(pin, { x: 30, y: 0 }, "right", BODY)).toBeNull();
});

/** Least square way that keeps out of the inside of a rectangle, on the grid of all lines that matter. */
function byGrid(from: [number, number], to: [number, number], [w, h]: [number, number]): number {
  const xs = [...new Set([from[0], to[0], 0, w])].sort((a, b) => a - b);
  const ys = [...new Set([from[1], to[1], 0, h])].sort((a, b) => a - b);
  const cost = new Map<string, number>([[`${from[0]} ${from[1]}`, 0]]);
  const inside = (ax: number, ay: number, bx: number, by: number): boolean =>
    Math.max(ax, bx) > 0 && Math.min(ax, bx) < w && Math.max(ay, by) > 0 && Math.min(ay, by) < h;
  for (let again = true; again;) {
    again = false;
    xs.forEach((x, i) =>
      ys.forEach((y, j) => {
        for (const [nx, ny] of [
          [xs[i + 1], y],
          [xs[i - 1], y],
          [x, ys[j + 1]],
          [x, ys[j - 1]],
        ]) {
          if (nx === undefined || ny === undefined || inside(x, y, nx, ny)) continue;
          const sum = (cost.get(`${nx} ${ny}`) ?? Infinity) + Math.abs(nx - x) + Math.abs(ny - y);
          if (sum >= (cost.get(`${x} ${y}`) ?? Infinity)) continue;
          cost.set(`${x} ${y}`, sum);
          again = true;
        }
      }),
    );
  }
  return cost.get(`${to[0]} ${to[1]}`)!;
}

test("no square way out and round the body is shorter: all of a grid tried", () => {
  const coordinate = fc.integer({ min: -6, max: 16 });
  let met = 0;
  fc.assert(
    fc.property(
      fc.tuple(coordinate, coordinate, coordinate, coordinate),
      fc.tuple(fc.integer({ min: 1, max: 10 }), fc.integer({ min: 1, max: 10 })),
      fc.constantFrom("up" as const, "down" as const, "left" as const, "right" as const),
      ([px, py, gx, gy], [w, h], exit) => {
        const round = roundBody({ x: px, y: py }, { x: gx, y: gy }, exit, { x: 0, y: 0, w, h });
        const against = { up: gy < py, down: gy > py, left: gx > px, right: gx < px }[exit];
        const under = gx > 0 && gx < w && gy > 0 && gy < h;
        expect(round !== null).toBe(against && !under);
        if (!round) return;
        met++;
        const upright = exit === "up" || exit === "down";
        const covered = upright ? px > 0 && px < w && py >= 0 && py <= h : py > 0 && py < h && px >= 0 && px <= w;
        const rim: [number, number] = covered
          ? ({ up: [px, h], down: [px, 0], left: [0, py], right: [w, py] }[exit] as [number, number])
          : [px, py];
        const out = Math.abs(rim[0] - px) + Math.abs(rim[1] - py);
        expect(round.nm).toBe(out + byGrid(rim, [gx, gy], [w, h]));
        // The corners make a square way of that length, which begins at the rim.
        const points = [{ x: px, y: py }, ...round.corners, { x: gx, y: gy }];
        let sum = 0;
        for (let i = 1; i < points.length; i++) {
          const [dx, dy] = [points[i]!.x - points[i - 1]!.x, points[i]!.y - points[i - 1]!.y];
          expect(dx === 0 || dy === 0).toBe(true);
          sum += Math.abs(dx) + Math.abs(dy);
        }
        expect(sum).toBe(round.nm);
      },
    ),
    { seed: 8, numRuns: 2000 },
  );
  expect(met).toBeGreaterThan(500);
});
