import fc from "fast-check";
import { facesOf, type Face } from "../design/geometry";
import type { Design, Device, Direction, Part } from "../design/model";
import { SHOP_RULES } from "../shop/rules";
import { compute as computePanel } from "../panel/compute";
import { compute as computeRoutes } from "../routes/compute";
import { tiny } from "../test/tiny";
import { airWay, gridOf, onFace, seenDirection, turnsFor } from "./airways";
import { doorFlow, insideWithout, restsAt, through } from "./balance";
import { basisOf } from "./basis";
import { bodiesOf } from "../design/before";
import { intrusions } from "./before";
import { compute } from "./compute";
import { potentialFlow } from "./flow";
import type { ZoneHeat } from "./result";
import { streamsOf } from "./streams";
import { dutyOver, mountFor, needOf, placeOn, yearlyKWh, type FreeFace } from "./units";
import { yearOf } from "./year";
import { blowersOf } from "./zone";

const part = (number: string, more: Partial<Part>): Part => ({
  number,
  maker: "Oddmake",
  text: number,
  category: "supply",
  w: 100,
  h: 100,
  d: 100,
  ...more,
});
const CURVE = [
  { insideC: 35, outsideC: 25, capacityW: 1100 },
  { insideC: 35, outsideC: 35, capacityW: 1000 },
  { insideC: 45, outsideC: 25, capacityW: 1240 },
  { insideC: 45, outsideC: 35, capacityW: 1150 },
];
const CU = part("CU", {
  category: "cooling",
  w: 300,
  h: 400,
  d: 100,
  weightKg: 15,
  pins: [{ name: "L", x: 10, y: 10, z: 50 }],
  cooling: { curve: CURVE, airflowM3h: 400, powerW: 400 },
  climate: {
    kind: "cooling unit",
    on: ["door", "left", "right", "roof"],
    blows: { x: 50, y: 300, w: 200, h: 80 },
    draws: { x: 50, y: 20, w: 200, h: 80 },
    freeMm: 80,
  },
});
const PARTS: Part[] = [
  part("S", { lossW: 100, d: 250 }),
  part("LOW", { lossW: 100, d: 50 }),
  CU,
  part("HEAVY", { weightKg: 30 }),
  part("HEAT", { category: "heater", climate: { kind: "heater", on: ["plate"], heatW: 150, powerW: 150 } }),
];
/** One enclosure of 0.8 × 2 × 0.5 m, its plate 400 mm behind the door. */
const design = (devices: Device[], heat: Design["rules"]["heat"] = {}): Design => ({
  ...tiny({ parts: PARTS }),
  enclosures: [
    {
      tag: "+A1",
      w: 800,
      h: 2000,
      d: 500,
      plate: { w: 700, h: 1900, setback: 400, thickness: 3, material: "galvanised steel" },
      sheet: { thickness: 1.5, material: "painted steel" },
    },
  ],
  ducts: [],
  devices,
  wires: [],
  rules: { heat: { outsideMaxC: 25, insideMaxC: 35, outsideMinC: 10, insideMinC: 10, ...heat } },
});
const on = (face: string, tag: string, number: string, x: number, y: number, more: Partial<Device> = {}): Device => ({
  tag,
  part: number,
  on: { face: `+A1/${face}`, x, y },
  ...more,
});
const work = (d: Design) => {
  const panel = computePanel(d);
  return compute(d, SHOP_RULES, panel, computeRoutes(d, SHOP_RULES, panel));
};
const zone = (d: Design): ZoneHeat => work(d).zones[0]!;

const setting = (d: Design) => {
  const panel = computePanel(d);
  const basis = basisOf(d, SHOP_RULES.heat, panel, new Map());
  const plate = basis.faces.get("+A1/plate")!;
  const blowers = blowersOf({ tag: "+A1" }, basis);
  const bodies = panel.devices.filter((x) => x.face === plate.id);
  return { panel, plate, blowers, grid: gridOf(plate, bodies, blowers), bodies, basis };
};

const sourceCells = ({ source, columns }: ReturnType<typeof setting>["grid"], sign: 1 | -1) =>
  [...source].flatMap((s, i) => (Math.sign(s) === sign ? [{ c: i % columns, r: Math.floor(i / columns), s }] : []));

describe("openings before a plate", () => {
  test("a unit in the door blows where its opening is seen, all that it moves", () => {
    const { grid } = setting(design([on("door", "-E1", "CU", 250, 800)]));
    const out = sourceCells(grid, 1);
    // The plate begins 50 mm from the side and from the floor: 250 + 50 − 50 = 250 to 450, 800 + 300 − 50 = 1050 to 1130.
    expect([Math.min(...out.map((x) => x.c)), Math.max(...out.map((x) => x.c))]).toEqual([25, 44]);
    expect([Math.min(...out.map((x) => x.r)), Math.max(...out.map((x) => x.r))]).toEqual([105, 112]);
    expect(out.reduce((sum, x) => sum + x.s, 0)).toBeCloseTo(400, 9);
    expect(sourceCells(grid, -1).reduce((sum, x) => sum + x.s, 0)).toBeCloseTo(-400, 9);
  });

  test("one in a side blows from where it reaches to on that side, at its height; one in the roof at the top", () => {
    for (const [face, column] of [
      ["left", 5],
      ["right", 65],
    ] as const) {
      const { grid } = setting(design([on(face, "-E1", "CU", 30, 800)]));
      const out = sourceCells(grid, 1);
      expect(new Set(out.map((x) => x.c))).toEqual(new Set([column]));
      expect([Math.min(...out.map((x) => x.r)), Math.max(...out.map((x) => x.r))]).toEqual([105, 112]);
    }
    const { grid } = setting(design([on("roof", "-E1", "CU", 200, 50, { turn: 90 })]));
    expect(grid.hidden).toEqual([]);
    expect(new Set(sourceCells(grid, 1).map((x) => x.r))).toEqual(new Set([185]));
  });

  test("openings that lie one behind the other as the plate sees them are told of", () => {
    const { grid } = setting(design([on("roof", "-E1", "CU", 200, 50)]));
    expect(grid.hidden).toEqual(["-E1"]);
    expect(sourceCells(grid, 1)).toEqual([]);
    expect(work(design([on("roof", "-E1", "CU", 200, 50)])).open.map((p) => p.kind)).toContain(
      "openings behind each other",
    );
  });

  test("openings turn with the body", () => {
    const { panel } = setting(design([on("door", "-E1", "CU", 250, 800, { turn: 180 })]));
    const body = panel.devices[0]!;
    // Upside down what was above is below.
    expect(onFace(body, CU.climate!.blows!)).toEqual({ x: 300, y: 820, w: 200, h: 80 });
    expect(onFace({ ...body, turn: 0 }, CU.climate!.blows!)).toEqual({ x: 300, y: 1100, w: 200, h: 80 });
  });
});

describe("a deflector", () => {
  const faces = facesOf(design([]));
  const face = (kind: string): Face => faces.get(`+A1/${kind}`)!;

  test("turns the air along the plate, never towards it", () => {
    expect(turnsFor(face("door"), face("plate"))).toEqual(["up", "down", "left", "right"]);
    expect(turnsFor(face("left"), face("plate"))).toEqual(["up", "down"]);
    expect(turnsFor(face("roof"), face("plate"))).toEqual(["left", "right"]);
    expect(seenDirection(face("door"), face("plate"), "left")).toBe("left");
  });

  test.each<[Direction, number, number]>([
    ["up", 0, 1],
    ["down", 0, -1],
    ["left", -1, 0],
    ["right", 1, 0],
  ])("%s: all the air of the outlet leaves it there", (deflector, dx, dy) => {
    const { grid } = setting(design([on("door", "-E1", "CU", 250, 800, { deflector })]));
    const flow = potentialFlow(grid, 400);
    const out = sourceCells(grid, 1);
    const [c1, c2] = [Math.min(...out.map((x) => x.c)), Math.max(...out.map((x) => x.c))];
    const [r1, r2] = [Math.min(...out.map((x) => x.r)), Math.max(...out.map((x) => x.r))];
    let leaves = 0;
    const nx = grid.columns;
    if (dx !== 0)
      for (let r = r1; r <= r2; r++) leaves += dx > 0 ? flow.right[r * nx + c2]! : -flow.right[r * nx + c1 - 1]!;
    else for (let c = c1; c <= c2; c++) leaves += dy > 0 ? flow.up[r2 * nx + c]! : -flow.up[(r1 - 1) * nx + c]!;
    expect(leaves).toBeCloseTo(400, 2);
  });

  test("one that leads nowhere moves no air, and says that nothing is reached", () => {
    // The outlet of a unit at the plate's left edge, turned to the edge.
    const z = zone(design([on("door", "-E1", "CU", 0, 800, { deflector: "left" }), on("plate", "-G1", "S", 300, 300)]));
    expect(z.airWays[0]!.reachedPercent).toBeLessThan(100);
    expect(z.airWays[0]!.dead.map((d) => d.device)).toEqual(["-G1"]);
  });
});

test("a way that is remembered is the way that is worked out; what moves, turns or blows otherwise is worked out anew", () => {
  const devices = [
    on("door", "-E1", "CU", 250, 800),
    on("plate", "-G1", "S", 300, 300),
    on("plate", "-G2", "S", 100, 1200),
  ];
  const fresh = (d: Design) => {
    const { plate, blowers, bodies } = setting(d);
    return airWay(d.enclosures[0]!, plate, bodies, blowers, new Map(bodies.map((b) => [b.tag, 100]))).way;
  };
  const known = (d: Design) => zone(d).airWays[0];
  const first = design(devices);
  const changes: Design[] = [
    first,
    design(devices, { outsideMaxC: 10 }),
    design([on("door", "-E1", "CU", 260, 800), ...devices.slice(1)]),
    design([on("door", "-E1", "CU", 250, 800, { deflector: "left" }), ...devices.slice(1)]),
    design([on("door", "-E1", "CU", 250, 800, { turn: 180 }), ...devices.slice(1)]),
    design([...devices.slice(0, 2), on("plate", "-G2", "S", 100, 1210)]),
    {
      ...first,
      parts: first.parts.map((p) => (p.number === "CU" ? { ...p, cooling: { curve: CURVE, airflowM3h: 500 } } : p)),
    },
    first,
  ];
  for (const d of changes) expect(known(d)).toEqual(fresh(d));
});

describe("lines of air", () => {
  test("begin at an outlet, end at an inlet, and go round bodies", () => {
    fc.assert(
      fc.property(
        fc.array(fc.tuple(fc.integer({ min: 0, max: 590 }), fc.integer({ min: 0, max: 1790 })), { maxLength: 8 }),
        (places) => {
          const { grid } = setting(
            design([on("door", "-E1", "CU", 250, 800), ...places.map(([x, y], i) => on("plate", `-G${i}`, "S", x, y))]),
          );
          const flow = potentialFlow(grid, 400, 1e-5);
          const at = ({ x, y }: { x: number; y: number }): number =>
            Math.floor(y / grid.cellMm) * grid.columns + Math.floor(x / grid.cellMm);
          for (const line of streamsOf(grid, flow)) {
            expect(grid.source[at(line[line.length - 1]!)]!).toBeLessThan(0);
            for (const p of line) expect(grid.blocked[at(p)]).toBe(0);
          }
        },
      ),
      { seed: 4, numRuns: 12 },
    );
  });

  test("without a unit there are none", () => {
    const { grid } = setting(design([on("plate", "-G1", "S", 0, 0)]));
    expect(streamsOf(grid, potentialFlow(grid, 400))).toEqual([]);
  });
});

describe("what stands before openings", () => {
  const before = (devices: Device[]) => zone(design(devices)).before;

  test("a device on the plate, with the millimetres that are left", () => {
    // The unit reaches 100 mm behind the door, the device 250 mm before a plate at 400 mm: 50 mm are left.
    expect(before([on("door", "-E1", "CU", 250, 800), on("plate", "-G1", "S", 300, 1050)])).toEqual([
      { unit: "-E1", opening: "outlet", thing: "device", of: "-G1", leftMm: 50, freeMm: 80 },
    ]);
    const open = work(design([on("door", "-E1", "CU", 250, 800), on("plate", "-G1", "S", 300, 1050)])).open;
    expect(open.find((p) => p.kind === "before an opening")).toMatchObject({
      of: "-G1",
      text: "-G1 stands before the outlet of -E1: 50 mm are left of the 80 mm that are to be free",
    });
  });

  test("nothing where it is low enough, beside the opening, or behind the wall of another enclosure", () => {
    expect(before([on("door", "-E1", "CU", 250, 800), on("plate", "-G1", "LOW", 300, 1050)])).toEqual([]);
    expect(before([on("door", "-E1", "CU", 250, 800), on("plate", "-G1", "S", 300, 920)])).toEqual([]);
  });

  test("the lower a body, the more is left, millimetre by millimetre", () => {
    fc.assert(
      fc.property(fc.integer({ min: 1, max: 399 }), (d) => {
        const parts = PARTS.map((p) => (p.number === "S" ? { ...p, d } : p));
        const { blowers, panel, basis } = setting({
          ...design([on("door", "-E1", "CU", 250, 800), on("plate", "-G1", "S", 300, 1050)]),
          parts,
        });
        const [one] = intrusions(blowers, bodiesOf(panel.devices, panel.ducts, basis.faces));
        const left = 400 - 100 - d;
        if (left >= 80) expect(one).toBeUndefined();
        else expect(one!.leftMm).toBe(Math.max(0, left));
      }),
      { seed: 5, numRuns: 60 },
    );
  });
});

describe("places for units", () => {
  test("as high and as near to the middle as a search through every step finds, or none as it", () => {
    const rect = fc.record({
      x: fc.integer({ min: -100, max: 500 }),
      y: fc.integer({ min: -100, max: 600 }),
      w: fc.integer({ min: 0, max: 300 }),
      h: fc.integer({ min: 0, max: 300 }),
    });
    fc.assert(
      fc.property(
        fc.array(rect, { maxLength: 8 }),
        fc.integer({ min: 20, max: 400 }),
        fc.integer({ min: 20, max: 400 }),
        (taken, w, h) => {
          const face = { w: 500, h: 600 };
          const got = placeOn(face, w, h, taken);
          const cell = 10;
          // Cells that anything touches, by looking at each.
          const isFull = (c: number, r: number): boolean =>
            taken.some(
              (t) =>
                t.x + t.w > 25 &&
                t.y + t.h > 25 &&
                Math.floor((t.x - 25) / cell) <= c &&
                c < Math.max(Math.ceil((t.x + t.w - 25) / cell), Math.floor(Math.max(0, t.x - 25) / cell) + 1) &&
                Math.floor((t.y - 25) / cell) <= r &&
                r < Math.max(Math.ceil((t.y + t.h - 25) / cell), Math.floor(Math.max(0, t.y - 25) / cell) + 1),
            );
          const cells = Array.from({ length: 55 }, (_, r) => Array.from({ length: 45 }, (_, c) => isFull(c, r)));
          let best: { x: number; y: number; off: number } | null = null;
          for (let r = 0; r * cell + h <= 550; r++)
            for (let c = 0; c * cell + w <= 450; c++) {
              let free = true;
              for (let y = r; free && y * cell < r * cell + h && y < 55; y++)
                for (let x = c; free && x * cell < c * cell + w && x < 45; x++) free = !cells[y]![x]!;
              const off = Math.abs(c * cell - (450 - w) / 2);
              const y = 25 + r * cell;
              if (free && (!best || y > best.y || (y === best.y && off < best.off)))
                best = { x: 25 + c * cell, y, off };
            }
          if (best === null) expect(got).toBeNull();
          else {
            expect(got!.y).toBe(best.y);
            expect(Math.abs(got!.x - 25 - (450 - w) / 2)).toBeCloseTo(best.off, 9);
          }
        },
      ),
      { seed: 6, numRuns: 150 },
    );
  });

  const face = (kind: "door" | "left", kg = 0, before: FreeFace["before"] = []): FreeFace => ({
    face: facesOf(design([])).get(`+A1/${kind}`)!,
    taken: [],
    before,
    kg,
  });

  test("a door carries what hangs on it and the unit, or not", () => {
    expect(mountFor([{ part: CU, count: 1 }], [face("door", 25)], { doorMostKg: 40 }).mounts).toHaveLength(1);
    expect(mountFor([{ part: CU, count: 1 }], [face("door", 26)], { doorMostKg: 40 })).toMatchObject({
      mounts: null,
      why: "with 15 kg more +A1/door would carry 41 kg; a door carries 40 kg",
    });
    // Two of 15 kg: the second goes into the side.
    const two = mountFor([{ part: CU, count: 2 }], [face("door", 20), face("left")], { doorMostKg: 40 });
    expect(two.mounts!.map((m) => m.face)).toEqual(["+A1/door", "+A1/left"]);
  });

  test("what stands too near behind a face leaves no room; in the free space only it is crowded", () => {
    const behind = (fromMm: number): FreeFace["before"] => [
      { thing: "device", of: "-G1", rect: { x: 0, y: 0, w: 800, h: 2000 }, fromMm, toMm: 400 },
    ];
    const one = [{ part: CU, count: 1 }];
    expect(mountFor(one, [face("door", 0, behind(90))], { doorMostKg: 40 })).toMatchObject({
      mounts: null,
      why: "+A1/door has room for 300 × 400 mm, but what stands behind it leaves less than its depth of 100 mm",
    });
    expect(mountFor(one, [face("door", 0, behind(120))], { doorMostKg: 40 })).toMatchObject({ crowded: true });
    expect(mountFor(one, [face("door", 0, behind(180))], { doorMostKg: 40 })).toMatchObject({ crowded: false });
  });
});

describe("an open door", () => {
  const shell = { wPerK: 20, open: [{ widthM: 0.8, heightM: 2 }] };

  test("worked by hand: 0.8 × 2 m, 35 °C inside and 25 °C outside", () => {
    // 0.2 · 1.6 · √(9.81 · 2 · 10 / 303.15) · 3600
    expect(doorFlow(shell.open[0]!, 35, 25)).toBeCloseTo(0.32 * Math.sqrt(196.2 / 303.15) * 3600, 9);
    expect(through(shell, 35, 25)).toBeCloseTo(200 + 0.34 * doorFlow(shell.open[0]!, 35, 25) * 10, 9);
    expect(through(shell, 25, 35)).toBeCloseTo(-through(shell, 35, 25), 9);
  });

  test("it rests where what goes out is what is put in; shut, as loss over what walls pass", () => {
    fc.assert(
      fc.property(fc.double({ min: 0, max: 5000, noNaN: true }), fc.integer({ min: -20, max: 50 }), (loss, out) => {
        const at = restsAt(loss, shell, out)!;
        expect(through(shell, at, out)).toBeCloseTo(loss, 3);
        expect(restsAt(loss, { ...shell, open: [] }, out)).toBe(insideWithout(loss, shell.wPerK, out));
        expect(at).toBeLessThanOrEqual(insideWithout(loss, shell.wPerK, out)! + 1e-9);
      }),
      { seed: 7 },
    );
  });
});

describe("duty over a year", () => {
  const z = zone(
    design([on("door", "-E1", "CU", 250, 800), ...[0, 1, 2, 3].map((i) => on("plate", `-G${i}`, "S", i * 110, 1500))]),
  );
  const year = yearOf(z.values.outsideMinC, z.values.outsideMaxC);

  test("has all hours, in the hottest hour the duty of the balance, and never runs more than always", () => {
    const points = dutyOver([{ part: CU, count: 1 }], needOf(z), year);
    expect(points.reduce((sum, p) => sum + p.hours, 0)).toBe(8760);
    const last = points[points.length - 1]!;
    expect([last.neededW, last.capacityW]).toEqual([z.coolingNeededW, z.carriedW]);
    expect(100 * last.share).toBeCloseTo(z.dutyPercent!, 9);
    for (const p of points) expect(p.share >= 0 && p.share <= 1).toBe(true);
    points.slice(1).forEach((p, i) => expect(p.neededW).toBeGreaterThanOrEqual(points[i]!.neededW));
    const ran = points.reduce((sum, p) => sum + p.hours * p.share, 0);
    expect(yearlyKWh([{ part: CU, count: 1 }], needOf(z), year)).toBeCloseTo(ran * 0.4, 6);
    expect(z.energyKWh).toBeCloseTo(ran * 0.4, 6);
    expect(z.money).toBeCloseTo(z.energyKWh * z.values.tariffPerKWh, 9);
  });

  test("a heater runs most when it is coldest, until no wall is wet", () => {
    const cold = zone(design([on("plate", "-H1", "HEAT", 100, 100)], { outsideMinC: -10, dampC: 15, dampPercent: 80 }));
    expect(cold.dryNeededW).toBeGreaterThan(cold.heaterNeededW);
    const [first] = dutyOver(
      [{ part: PARTS.find((p) => p.number === "HEAT")!, count: 1 }],
      needOf(cold),
      yearOf(-10, 25),
    );
    expect(first!.neededW).toBeCloseTo(cold.dryNeededW, 9);
  });
});

describe("what a unit waits for", () => {
  test("wires on its pins, a curve of four points, are asked for", () => {
    const short = PARTS.map((p) => (p === CU ? { ...CU, cooling: { curve: CURVE.slice(0, 3), airflowM3h: 400 } } : p));
    const points = work({ ...design([on("door", "-E1", "CU", 250, 800)]), parts: short }).open;
    expect(points.find((p) => p.kind === "unit without wires")!.text).toBe("no wire lands on L of -E1 yet");
    expect(points.find((p) => p.kind === "curve too short")!.text).toContain("part CU states 3 points");
    const wired = work({
      ...design([on("door", "-E1", "CU", 250, 800)]),
      wires: [{ number: "1", from: { device: "-E1", pin: "L" } }],
    }).open;
    expect(wired.map((p) => p.kind)).not.toContain("unit without wires");
    expect(wired.map((p) => p.kind)).not.toContain("curve too short");
  });

  test("a device that may carry less than its load in the air along it", () => {
    const parts = PARTS.map((p) =>
      p.number === "S"
        ? {
            ...p,
            derating: [
              { aroundC: 20, share: 1 },
              { aroundC: 80, share: 0.4 },
            ],
          }
        : p,
    );
    const hot = {
      ...design([on("plate", "-G1", "S", 100, 1700), on("plate", "-G2", "S", 100, 100, { loadShare: 0.4 })]),
      parts,
    };
    const z = zone(hot);
    const [upper, lower] = ["-G1", "-G2"].map((tag) => z.devices.find((d) => d.device === tag)!);
    // Straight between its two points, at the warmest along its height.
    expect(upper!.derated).toBeCloseTo(1 - (0.6 * (upper!.aroundC! - 20)) / 60, 9);
    expect(upper!.aroundC!).toBeGreaterThan(lower!.aroundC!);
    expect(
      work(hot)
        .open.filter((p) => p.kind === "load above its derating")
        .map((p) => p.of),
    ).toEqual(["-G1"]);
  });
});
