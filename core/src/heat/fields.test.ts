import fc from "fast-check";
import { airAt, columnOf, type ColumnInput } from "./column";
import { potentialFlow, type FlowGrid } from "./flow";
import { heatMap, integralOf } from "./map";

const mm = (max: number) => fc.double({ min: -50, max, noNaN: true });
const sources = fc.array(
  fc.record({
    x: mm(900),
    y: mm(700),
    w: fc.double({ min: 1, max: 300, noNaN: true }),
    h: fc.double({ min: 1, max: 300, noNaN: true }),
    lossW: fc.double({ min: 0.1, max: 500, noNaN: true }),
  }),
  { minLength: 1, maxLength: 12 },
);

describe("the map of a face", () => {
  test("its integral is the loss, wherever the bodies stand", () => {
    fc.assert(
      fc.property(sources, fc.constantFrom(5, 10, 37), fc.constantFrom(20, 60, 400), (list, cell, sigma) => {
        const map = heatMap(800, 600, list, sigma, cell);
        const loss = list.reduce((sum, s) => sum + s.lossW, 0);
        expect(Math.abs(integralOf(map, 800, 600) / loss - 1)).toBeLessThan(1e-9);
        expect(map.values.every((v) => v >= 0)).toBe(true);
      }),
      { seed: 9, numRuns: 60 },
    );
  });

  test("a body alone is hottest in its middle, as high as the Gaussian says, and the same to all sides", () => {
    const map = heatMap(1000, 1000, [{ x: 500, y: 500, w: 10, h: 10, lossW: 100 }], 60, 10);
    const at = (x: number, y: number): number => map.values[Math.floor(y / 10) * map.columns + Math.floor(x / 10)]!;
    // 100 W / (2 π · 0.6² dm²) = 44.21 W/dm².
    expect(at(500, 500)).toBeCloseTo(100 / (2 * Math.PI * 0.36), 0);
    expect(Math.max(...map.values)).toBe(at(500, 500));
    expect(at(400, 500)).toBeCloseTo(at(500, 400), 9);
    expect(at(400, 500)).toBeCloseTo(at(600, 500), 9);
  });

  test("a face without loss is cold, a small one has a cell, a huge one no more than it may", () => {
    expect(heatMap(100, 100, [], 60, 10).values.every((v) => v === 0)).toBe(true);
    expect(heatMap(4, 4, [{ x: 0, y: 0, w: 4, h: 4, lossW: 1 }], 60, 10).values).toHaveLength(1);
    const huge = heatMap(100_000, 100_000, [{ x: 0, y: 0, w: 10, h: 10, lossW: 1 }], 60, 10);
    expect(huge.values.length).toBeLessThan(70_000);
  });
});

describe("air by height", () => {
  const input = (more: Partial<ColumnInput>): ColumnInput => ({
    heightMm: 2000,
    slabs: 8,
    sources: [],
    wallsWPerK: 20,
    roofWPerK: 3,
    floorWPerK: 0,
    outsideC: 25,
    risingShare: 0.5,
    mixingWPerK: 5,
    carried: [],
    ...more,
  });
  const out = (i: ColumnInput): number => {
    const slabs = columnOf(i);
    const n = slabs.length;
    return slabs.reduce(
      (sum, s, k) =>
        sum +
        (s.airC - i.outsideC) * (i.wallsWPerK / n + (k === 0 ? i.floorWPerK : 0) + (k === n - 1 ? i.roofWPerK : 0)),
      0,
    );
  };

  test("what goes in goes out", () => {
    const stretch = fc.record({
      fromMm: fc.double({ min: -100, max: 2000, noNaN: true }),
      toMm: fc.double({ min: 0, max: 2200, noNaN: true }),
      lossW: fc.double({ min: 0, max: 500, noNaN: true }),
    });
    fc.assert(
      fc.property(
        fc.array(stretch, { maxLength: 8 }),
        fc.integer({ min: 1, max: 40 }),
        fc.double({ min: 0.01, max: 200, noNaN: true }),
        fc.double({ min: 0, max: 1, noNaN: true }),
        fc.double({ min: 0, max: 300, noNaN: true }),
        (list, slabs, mixingWPerK, risingShare, coolW) => {
          const sources = list.map((s) => ({ ...s, toMm: Math.max(s.fromMm, s.toMm) }));
          const i = input({ sources, slabs, mixingWPerK, risingShare, carried: [{ atMm: 900, coolW }] });
          const inW = sources.reduce((sum, s) => sum + s.lossW, 0) - coolW;
          expect(Math.abs(out(i) - inW)).toBeLessThan(1e-6 * (1 + Math.abs(inW)) * 10);
        },
      ),
      { seed: 9, numRuns: 200 },
    );
  });

  test("two slabs in closed form", () => {
    // Heat in the upper one: (u + g) · low = g · high; (v + g) · high = 100 + g · low.
    const i = input({ slabs: 2, sources: [{ fromMm: 1000, toMm: 2000, lossW: 100 }] });
    const [low, high] = columnOf(i);
    const [u, v, g] = [10, 13, 5];
    const det = (u + g) * (v + g) - g * g;
    expect(low!.airC - 25).toBeCloseTo((g * 100) / det, 10);
    expect(high!.airC - 25).toBeCloseTo(((u + g) * 100) / det, 10);
    // In the lower one: both become one, (10 + 13) T = 100.
    const [a, b] = columnOf(input({ slabs: 2, risingShare: 0, sources: [{ fromMm: 0, toMm: 1000, lossW: 100 }] }));
    expect(a!.airC - 25).toBeCloseTo(100 / 23, 3);
    expect(b!.airC - 25).toBeCloseTo(100 / 23, 3);
  });

  test("mixed without end it is one temperature: loss over what all walls pass", () => {
    const slabs = columnOf(input({ mixingWPerK: 1e7, sources: [{ fromMm: 0, toMm: 300, lossW: 460 }] }));
    for (const s of slabs) expect(s.airC).toBeCloseTo(25 + 460 / 23, 3);
  });

  test("warmer above, and more loss is nowhere cooler", () => {
    const one = columnOf(input({ sources: [{ fromMm: 200, toMm: 600, lossW: 200 }] }));
    const two = columnOf(input({ sources: [{ fromMm: 200, toMm: 600, lossW: 300 }] }));
    expect(one.every((s, i) => two[i]!.airC > s.airC)).toBe(true);
    expect(one.every((s, i) => i === 0 || s.airC >= one[i - 1]!.airC - 0.01)).toBe(true);
    expect(airAt(one, -5)).toBe(one[0]!.airC);
    expect(airAt(one, 5000)).toBe(one[7]!.airC);
    expect(airAt(one, 250)).toBeCloseTo((one[0]!.airC + one[1]!.airC) / 2, 9);
  });
});

describe("the way of the air", () => {
  const grid = (columns: number, rows: number): FlowGrid => ({
    columns,
    rows,
    cellMm: 10,
    blocked: new Uint8Array(columns * rows),
    source: new Float64Array(columns * rows),
  });

  test("through a channel it is the same everywhere", () => {
    const g = grid(40, 10);
    for (let y = 0; y < 10; y++) {
      g.source[y * 40] = 36;
      g.source[y * 40 + 39] = -36;
    }
    const flow = potentialFlow(g, 100);
    // 36 m³/h through 1 cm × 10 cm are 10 m/s.
    for (let y = 0; y < 10; y++) for (let x = 1; x < 39; x++) expect(flow.speed[y * 40 + x]!).toBeCloseTo(10, 3);
  });

  test("from a source to a drain in a closed room: the sum over all mirror images, within 1 %", () => {
    const [nx, ny] = [120, 90];
    const g = grid(nx, ny);
    const [a, b] = [
      { x: 40, y: 45 },
      { x: 80, y: 45 },
    ];
    g.source[a.y * nx + a.x] = 1;
    g.source[b.y * nx + b.x] = -1;
    const flow = potentialFlow(g, 100);
    // Through the right side of a cell, against q / 2π · Σ dx / r² over the images of both.
    const analytic = (x: number, y: number): number => {
      let v = 0;
      const N = 60;
      for (const [s, q] of [
        [a, 1],
        [b, -1],
      ] as const) {
        for (let i = -N; i <= N; i++) {
          for (let j = -N; j <= N; j++) {
            for (const sx of [1, -1]) {
              for (const sy of [1, -1]) {
                const px = 2 * i * nx + sx * (s.x + 0.5);
                const py = 2 * j * ny + sy * (s.y + 0.5);
                const [dx, dy] = [x - px, y - py];
                v += (q * dx) / (dx * dx + dy * dy) / (2 * Math.PI);
              }
            }
          }
        }
      }
      return v;
    };
    for (const [x, y] of [
      [60, 45],
      [60, 20],
      [55, 60],
      [70, 30],
    ] as const)
      expect(Math.abs(flow.right[y * nx + x]! / analytic(x + 1, y + 0.5) - 1)).toBeLessThan(0.01);
  });

  test("what comes into a free cell goes out of it, round bodies wherever they stand; into bodies goes nothing", () => {
    fc.assert(
      fc.property(
        fc.array(fc.tuple(fc.nat(22), fc.nat(17), fc.integer({ min: 1, max: 9 }), fc.integer({ min: 1, max: 9 })), {
          maxLength: 9,
        }),
        (bodies) => {
          const [nx, ny] = [24, 19];
          const g = grid(nx, ny);
          for (const [x, y, w, h] of bodies)
            for (let j = y; j < Math.min(ny, y + h); j++)
              for (let i = x; i < Math.min(nx, x + w); i++) g.blocked[j * nx + i] = 1;
          g.source[0] = 100;
          g.source[nx * ny - 1] = -60;
          g.source[nx - 1] = -40;
          const flow = potentialFlow(g, 100);
          const through = (i: number): number =>
            flow.right[i]! - (i % nx > 0 ? flow.right[i - 1]! : 0) + flow.up[i]! - (i >= nx ? flow.up[i - nx]! : 0);
          let [out, worst, inBodies] = [0, 0, 0];
          for (let i = 0; i < nx * ny; i++) {
            if (g.blocked[i]) inBodies += flow.speed[i]! + Math.abs(flow.right[i]!) + Math.abs(flow.up[i]!);
            else if (g.source[i] === 0) worst = Math.max(worst, Math.abs(through(i)));
            else if (g.source[i]! < 0) out -= through(i);
          }
          expect(inBodies).toBe(0);
          expect(worst).toBeLessThan(0.01);
          // All that is put in, or nothing where no drain is reached.
          expect(Math.min(Math.abs(out - 100), Math.abs(out))).toBeLessThan(0.05);
          expect(flow.residual).toBeLessThan(1e-5);
        },
      ),
      { seed: 9, numRuns: 120 },
    );
  });

  test("a source that no drain is reached from moves nothing", () => {
    const g = grid(10, 10);
    for (let y = 0; y < 10; y++) g.blocked[y * 10 + 5] = 1;
    g.source[0] = 50;
    g.source[99] = -50;
    expect(potentialFlow(g, 100).speed.every((v) => v === 0)).toBe(true);
  });
});
