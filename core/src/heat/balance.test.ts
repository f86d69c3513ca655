import fc from "fast-check";
import {
  airFactor,
  coolingNeeded,
  dewPoint,
  effective,
  fanFlow,
  heaterNeeded,
  insideWithout,
  passing,
  wallInside,
  wireLoss,
  type Wall,
} from "./balance";
import { capacityAt, curveFault, flowAt } from "../design/curve";
import { energyOf, yearOf } from "./year";

/** An enclosure 0.8 wide, 2 high, 0.5 deep: roof and floor 0.4, front and rear 1.6, sides 1.0 m². */
const box = (
  b: { roof: number; floor?: number; front: number; rear: number; left: number; right: number },
  k: number,
): Wall[] => [
  { areaM2: 0.4, b: b.roof, k },
  { areaM2: 0.4, b: b.floor ?? 0, k },
  { areaM2: 1.6, b: b.front, k },
  { areaM2: 1.6, b: b.rear, k },
  { areaM2: 1, b: b.left, k },
  { areaM2: 1, b: b.right, k },
];

const shut = (wPerK: number) => ({ wPerK, open: [] });

describe("balances worked by hand, 300 W, 35 °C inside and 25 °C outside", () => {
  test.each([
    // Free: 0.4·1.4 + 3.2·0.9 + 2·0.9 = 0.56 + 2.88 + 1.8 = 5.24 m²; ·5.5 = 28.82 W/K; 300 − 288.2 = 11.8 W.
    [
      "standing free, painted steel",
      box({ roof: 1.4, front: 0.9, rear: 0.9, left: 0.9, right: 0.9 }, 5.5),
      5.24,
      28.82,
      11.8,
    ],
    // Wall: rear 0.5: 0.56 + 1.44 + 0.8 + 1.8 = 4.6; ·5.5 = 25.3; 300 − 253 = 47.
    ["against a wall", box({ roof: 1.4, front: 0.9, rear: 0.5, left: 0.9, right: 0.9 }, 5.5), 4.6, 25.3, 47],
    // End of a row, free behind: one side 0.5: 0.56 + 2.88 + 0.9 + 0.5 = 4.84; ·5.5 = 26.62; 33.8.
    ["end of a row", box({ roof: 1.4, front: 0.9, rear: 0.9, left: 0.9, right: 0.5 }, 5.5), 4.84, 26.62, 33.8],
    // Middle of a row against a wall: 0.56 + 1.44 + 0.8 + 1 = 3.8; ·5.5 = 20.9; 91.
    [
      "middle of a row, against a wall",
      box({ roof: 1.4, front: 0.9, rear: 0.5, left: 0.5, right: 0.5 }, 5.5),
      3.8,
      20.9,
      91,
    ],
    // On a pedestal under a ceiling: roof 0.7, floor does not count: 0.28 + 2.88 + 1.8 = 4.96; ·5.5 = 27.28; 27.2.
    [
      "on a pedestal, roof covered",
      box({ roof: 0.7, front: 0.9, rear: 0.9, left: 0.9, right: 0.9 }, 5.5),
      4.96,
      27.28,
      27.2,
    ],
    // Stainless, free: 5.24·4.5 = 23.58; 64.2.
    ["stainless steel", box({ roof: 1.4, front: 0.9, rear: 0.9, left: 0.9, right: 0.9 }, 4.5), 5.24, 23.58, 64.2],
    // Polyester, against a wall: 4.6·3.5 = 16.1; 139.
    ["polyester against a wall", box({ roof: 1.4, front: 0.9, rear: 0.5, left: 0.9, right: 0.9 }, 3.5), 4.6, 16.1, 139],
  ])("%s", (_, walls, m2, wPerK, cooling) => {
    expect(effective(walls)).toBeCloseTo(m2, 10);
    expect(passing(walls)).toBeCloseTo(wPerK, 10);
    expect(coolingNeeded(300, shut(passing(walls)), 35, 25)).toBeCloseTo(cooling, 10);
    expect(insideWithout(300, passing(walls), 25)).toBeCloseTo(25 + 300 / wPerK, 10);
  });

  test("fan flow by height, heater, and what no flow does", () => {
    // 3.1 · (300 − 20 · 10) / 10 = 31; to 250 m 32.
    expect([fanFlow(300, 20, 35, 25, 0), fanFlow(300, 20, 35, 25, 101)]).toEqual([31, 32]);
    expect([fanFlow(100, 20, 35, 25, 0), fanFlow(300, 20, 35, 35, 0), fanFlow(300, 20, 35, 40, 0)]).toEqual([
      0,
      null,
      null,
    ]);
    expect([100, 100.1, 250, 500, 750, 1000].map((m) => airFactor(m).f)).toEqual([3.1, 3.2, 3.2, 3.3, 3.4, 3.5]);
    expect(airFactor(1000.1)).toEqual({ f: 3.5, beyond: true });
    // 20 · 25 − 50 = 450.
    expect(heaterNeeded(50, shut(20), 10, -15)).toBe(450);
    expect(heaterNeeded(600, shut(20), 10, -15)).toBe(-100);
    expect(insideWithout(10, 0, 20)).toBeNull();
  });

  test("dew points that tables of moist air state, within a tenth of a kelvin", () => {
    for (const [air, percent, dew] of [
      [20, 50, 9.3],
      [25, 60, 16.7],
      [30, 80, 26.2],
      [10, 90, 8.4],
      [35, 40, 19.4],
    ] as const)
      expect(Math.abs(dewPoint(air, percent) - dew)).toBeLessThan(0.1);
    expect(dewPoint(17, 100)).toBeCloseTo(17, 10);
    expect(wallInside(20, -10)).toBe(5);
  });

  test("loss of a wire: 16 A through 2 m of 1.5 mm²", () => {
    // 256 · 0.0172 / 1.5 · 2 · 1.2 = 7.045…
    expect(wireLoss(16, 1.5, 2000)).toBeCloseTo(7.04512, 4);
  });

  test("more loss is never cooler, a larger face never hotter, hotter outside never needs less", () => {
    const w = fc.double({ min: 1, max: 5000, noNaN: true });
    fc.assert(
      fc.property(w, w, w, fc.double({ min: 0.1, max: 100, noNaN: true }), (p, more, k, out) => {
        expect(insideWithout(p + more, k, out)!).toBeGreaterThan(insideWithout(p, k, out)!);
        expect(insideWithout(p, k + more, out)!).toBeLessThan(insideWithout(p, k, out)!);
        expect(coolingNeeded(p, shut(k), 35, out + 1)).toBeGreaterThan(coolingNeeded(p, shut(k), 35, out));
      }),
      { seed: 9 },
    );
  });
});

describe("curves", () => {
  const CURVE = [
    { insideC: 35, outsideC: 35, capacityW: 1500 },
    { insideC: 35, outsideC: 50, capacityW: 1140 },
    { insideC: 45, outsideC: 35, capacityW: 1720 },
    { insideC: 45, outsideC: 50, capacityW: 1380 },
  ];
  test("read at its points, between them, and beyond them", () => {
    for (const p of CURVE)
      expect(capacityAt(CURVE, p.insideC, p.outsideC)).toEqual({
        capacityW: p.capacityW,
        beyond: false,
        unsafe: false,
      });
    // A third of the way out: 1500 − 120 and 1720 − 113.33; half way in.
    expect(capacityAt(CURVE, 40, 40)!.capacityW).toBeCloseTo((1380 + 1720 - 340 / 3) / 2, 9);
    // Cooler inside and hotter outside it carries less than its nearest point; the other way round more.
    expect(capacityAt(CURVE, 30, 55)).toEqual({ capacityW: 1140, beyond: true, unsafe: true });
    expect(capacityAt(CURVE, 60, 0)).toMatchObject({ beyond: true, unsafe: false });
    expect(capacityAt([], 35, 35)).toBeNull();
  });

  test("the order of the points does not matter; between points it stays between them", () => {
    const temp = fc.double({ min: 35, max: 50, noNaN: true });
    fc.assert(
      fc.property(temp, temp, fc.shuffledSubarray(CURVE, { minLength: 4 }), (i, o, curve) => {
        const read = capacityAt(curve, Math.min(45, i), o)!;
        expect(read).toEqual(capacityAt(CURVE, Math.min(45, i), o));
        expect(read.capacityW >= 1140 && read.capacityW <= 1720).toBe(true);
      }),
      { seed: 9 },
    );
  });

  test("what cannot be is named", () => {
    expect(curveFault(CURVE)).toBeNull();
    expect(curveFault([...CURVE, { insideC: 35, outsideC: 55, capacityW: 1200 }])).toContain(
      "it rises from 1140 W at 50 °C",
    );
    expect(curveFault([...CURVE, { insideC: 35, outsideC: 50, capacityW: 1000 }])).toContain("two capacities");
  });

  test("a fan against a pressure", () => {
    const fan = [
      { m3h: 100, pa: 0 },
      { m3h: 0, pa: 50 },
    ];
    expect([flowAt(fan, 0), flowAt(fan, 25), flowAt(fan, 80), flowAt([], 0)]).toEqual([100, 50, 0, null]);
  });
});

describe("a year", () => {
  test("has all its hours, reaches both ends, and lies around the middle", () => {
    const year = yearOf(-15, 37);
    expect(year.reduce((sum, b) => sum + b.hours, 0)).toBe(8760);
    expect([year[0]!.outsideC, year[year.length - 1]!.outsideC]).toEqual([-15, 37]);
    const mean = year.reduce((sum, b) => sum + b.hours * b.outsideC, 0) / 8760;
    expect(Math.abs(mean - 11)).toBeLessThan(0.1);
    expect(yearOf(20, 20)).toEqual([{ outsideC: 20, hours: 8760 }]);
  });

  test("energy: running always is power times hours; a share is never below none or above all", () => {
    const year = yearOf(0, 30);
    expect(energyOf(year, 500, () => 1)).toBeCloseTo(4380, 9);
    expect(energyOf(year, 500, () => 7)).toBeCloseTo(4380, 9);
    expect(energyOf(year, 500, () => -7)).toBe(0);
  });
});
