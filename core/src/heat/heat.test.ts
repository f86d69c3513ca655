import { execFileSync } from "node:child_process";
import { join } from "node:path";
import fc from "fast-check";
import type { Design, Device, Part } from "../design/model";
import { SHOP_RULES, type Rules } from "../shop/rules";
import { Edits } from "../frame/edits";
import { readDesign } from "../design/read";
import { compute as computePanel } from "../panel/compute";
import { compute as computeRoutes } from "../routes/compute";
import { demo } from "../test/demo";
import { tiny } from "../test/tiny";
import { STILL_MS } from "./airways";
import { passing } from "./balance";
import { chainShare, compute } from "./compute";
import { HEAT_EDITS } from "./edits";
import { explain } from "./explain";
import { heatDevicesTable, heatTable } from "./files";
import { toPdf } from "../formats/pdf";
import { textBox } from "../formats/scene";
import { reportSheets } from "./report";
import { FIGURES, type HeatResult, type ZoneHeat } from "./result";
import { airflowOf, facesFor, placeOn } from "./units";
import { keeps, settles, verdict } from "./verdict";

// Writing and reading PDF takes long on a busy machine.
jest.setTimeout(180_000);

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
const PARTS: Part[] = [
  part("S", { lossW: 100, maxAroundC: 45 }),
  part("S2", { lossW: 300 }),
  part("S3", { lossW: 200 }),
  part("NOT", {}),
  part("CU", {
    category: "cooling",
    w: 300,
    h: 400,
    cooling: { curve: CURVE, airflowM3h: 400, powerW: 400 },
    climate: { kind: "cooling unit", on: ["door"] },
    weightKg: 20,
  }),
  part("CUH", {
    category: "cooling",
    w: 300,
    h: 400,
    cooling: { curve: CURVE, airflowM3h: 400, powerW: 300 },
    climate: { kind: "cooling unit", on: ["door"] },
    weightKg: 90,
  }),
  part("FAN", {
    category: "fan",
    climate: {
      kind: "filter fan",
      on: ["door"],
      powerW: 20,
      flow: [
        { m3h: 300, pa: 0 },
        { m3h: 0, pa: 90 },
      ],
    },
  }),
  part("HEAT", { category: "heater", climate: { kind: "heater", on: ["plate"], heatW: 150 } }),
];

const at = (tag: string, number: string, x: number, y: number, more: Partial<Device> = {}): Device => ({
  tag,
  part: number,
  on: { face: "+A1/plate", x, y },
  ...more,
});
/** One enclosure of 0.8 × 2 × 0.5 m, free all round, painted steel: 5.24 m², 28.82 W/K. */
const design = (devices: Device[], more: Partial<Design> = {}, heat: Design["rules"]["heat"] = {}): Design => ({
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
  ...more,
});
const work = (d: Design, rules: Rules = SHOP_RULES): HeatResult => {
  const panel = computePanel(d, rules.lineups);
  return compute(d, rules, panel, computeRoutes(d, rules, panel));
};
const zone = (d: Design): ZoneHeat => work(d).zones[0]!;
const points = (d: Design): string[] => work(d).open.map((p) => `${p.kind}: ${p.text}`);

describe("the balance of a zone", () => {
  test("worked by hand: 3 × 100 W free standing", () => {
    const z = zone(design([at("-G1", "S", 0, 0), at("-G2", "S", 200, 0), at("-G3", "S", 400, 0)]));
    expect([z.lossW, z.effectiveM2, z.wPerK].map((v) => Math.round(v * 1e6) / 1e6)).toEqual([300, 5.24, 28.82]);
    expect(z.coolingNeededW).toBeCloseTo(11.8, 9);
    expect(z.insideWithoutC).toBeCloseTo(25 + 300 / 28.82, 9);
    expect(z.fanFlowM3h).toBeCloseTo((3.2 * 11.8) / 10, 9);
    expect(z.heaterNeededW).toBe(0);
  });

  test("what the shop's tables leave out counts as shipped, and is said; where no wall passes heat no temperature is told", () => {
    const warm: Part = { ...PARTS.find((p) => p.number === "S")!, number: "D", derating: [{ aroundC: 20, share: 1 }, { aroundC: 60, share: 0.5 }] }; // prettier-ignore
    const d = design([at("-G1", "D", 0, 0)], { parts: [...PARTS, warm] });
    const heat = (more: Partial<Rules["heat"]>): Rules => ({ ...SHOP_RULES, heat: { ...SHOP_RULES.heat, ...more } });
    const bare = work(d, heat({ walls: [], stands: [] }));
    expect(bare.zones[0]!.wPerK).toBeCloseTo(28.82, 9);
    const front = bare.zones[0]!.surfaces.find((s) => s.surface === "front")!;
    expect([front.b, front.k, front.shipped]).toEqual([0.9, 5.5, ["b", "k"]]);
    expect(bare.open.find((p) => p.kind === "not in the shop's tables")!.text).toMatch(
      /^for zone \+A1 the shop does not say .*what walls of painted steel pass \(5\.5 W\/\(m²K\) counts, as shipped\)/,
    );
    expect(explain(bare, { zone: "+A1", of: "coefficient" })!.terms.every((t) => t.fallback)).toBe(true);
    expect(work(d).open.some((p) => p.kind === "not in the shop's tables")).toBe(false);
    const shut = work(d, heat({ stands: SHOP_RULES.heat.stands.map((s) => ({ ...s, b: 0 })) })).zones[0]!;
    expect([shut.wPerK, shut.insideWithoutC, shut.column, shut.devices[0]!.aroundC, shut.devices[0]!.derated]).toEqual([
      0,
      null,
      [],
      null,
      null,
    ]);
  });

  test("no temperature is told of an enclosure of a millimetre", () => {
    const d = design([at("-G1", "S", 0, 0)]);
    const small = { ...d, enclosures: d.enclosures.map((e) => ({ ...e, w: 1, h: 1, d: 1 })) };
    const told = points(small);
    expect(told.filter((p) => p.startsWith("sizes or losses not believable"))).toHaveLength(1);
    expect(told.join()).toContain("without anything it gets hotter than 300 °C");
    expect(told.join()).not.toMatch(/\d{4,} °C/);
    const { total } = explain(work(small), { zone: "+A1", of: "inside_without_cooling" })!;
    expect(total).toBe("over 300 °C: its size or its losses cannot be right");
  });

  test("load, diversity of the job and of a device, and largest first", () => {
    const z = zone(
      design(
        [at("-G1", "S", 0, 0, { loadShare: 0.5 }), at("-G2", "S2", 200, 0), at("-G3", "S2", 400, 0, { diversity: 1 })],
        {},
        { diversity: 0.4 },
      ),
    );
    expect(z.devices.map((d) => [d.device, d.countedW])).toEqual([
      ["-G3", 300],
      ["-G2", 120],
      ["-G1", 20],
    ]);
    expect([z.lossW, z.ratedW]).toEqual([440, 650]);
  });

  test("a missing loss is never zero in silence: asked about, the median when switched on, the worst beside it", () => {
    const d = design([at("-G1", "S", 0, 0), at("-G2", "NOT", 200, 0)]);
    const z = zone(d);
    expect([z.missing, z.lossW, z.fallbackW, z.worstW]).toEqual([["-G2"], 100, 0, 400]);
    expect(points(d).join()).toContain(
      "-G2 in zone +A1 states no loss; nothing was counted for them, and 400 W in all would be the worst",
    );
    const median = zone(design(d.devices, {}, { missingAsMedian: 1 }));
    // Of 100, 200 and 300 W.
    expect([median.lossW, median.fallbackW, median.worstW]).toEqual([300, 200, 400]);
    expect(median.devices.find((x) => x.device === "-G2")).toMatchObject({ fallback: true, lossW: null });
    expect(
      heatDevicesTable(work(design(d.devices, {}, { missingAsMedian: 1 }))).rows.find((r) => r[1] === "-G2")![9],
    ).toBe("median");
  });

  test("where no part of a kind states a loss, the worst is no worst, and that is said", () => {
    const d = design([at("-T1", "TR", 0, 0)]);
    const lone = { ...d, parts: [...d.parts, part("TR", { category: "transformer" })] };
    expect(zone(lone).worstW).toBe(0);
    expect(points(lone).join()).toContain("at least: no part of the kind of -T1 states a loss");
  });

  test("enclosures of one zone have no wall between them; a neighbour of another zone is covered", () => {
    const two = (zoneName?: string): ZoneHeat[] => {
      const d = design([at("-G1", "S", 0, 0)]);
      const [a] = d.enclosures;
      const more = zoneName === undefined ? {} : { zone: zoneName };
      return work({
        ...d,
        enclosures: [
          { ...a!, ...more, neighbourRight: "+A2" },
          { ...a!, ...more, tag: "+A2" },
        ],
      }).zones;
    };
    const [one, other] = two();
    // One side of each at 0.5 instead of 0.9.
    expect([one!.effectiveM2, other!.effectiveM2].map((v) => Math.round(v * 1e6) / 1e6)).toEqual([4.84, 4.84]);
    const [both] = two("row");
    expect(both!.enclosures).toEqual(["+A1", "+A2"]);
    expect(both!.effectiveM2).toBeCloseTo(2 * (5.24 - 0.9), 9);
  });

  test("wires: the mean square of a current along a chain", () => {
    for (const n of [1, 2, 3, 10]) {
      let sum = 0;
      for (let k = 1; k <= n; k++) sum += (k / n) ** 2;
      expect(chainShare(n)).toBeCloseTo(sum / n, 12);
    }
  });

  test("more loss is never cooler, a bigger face never hotter", () => {
    fc.assert(
      fc.property(fc.integer({ min: 1, max: 6 }), fc.double({ min: 1.01, max: 3, noNaN: true }), (n, grow) => {
        const devices = Array.from({ length: n }, (_, i) => at(`-G${i}`, "S", i * 110, 100));
        const z = zone(design(devices));
        const more = zone(design([...devices, at("-GX", "S", 0, 500)]));
        expect(more.insideWithoutC!).toBeGreaterThan(z.insideWithoutC!);
        expect(more.coolingNeededW).toBeGreaterThan(z.coolingNeededW);
        expect(more.column.every((s, i) => s.airC >= z.column[i]!.airC - 1e-6)).toBe(true);
        const d = design(devices);
        const big = zone({ ...d, enclosures: d.enclosures.map((e) => ({ ...e, d: e.d * grow })) });
        expect(big.insideWithoutC!).toBeLessThan(z.insideWithoutC!);
      }),
      { seed: 9, numRuns: 40 },
    );
  });
});

describe("water and cold", () => {
  const cold = { outsideMinC: -8, insideMinC: 3, dampC: 14, dampPercent: 80 };
  test("walls below the dew point are wet, and the heater that keeps them dry is named", () => {
    const d = design([], {}, cold);
    const z = zone(d);
    // ln(0.8) + 17.62 · 14 / 257.12 = 0.73626; 243.12 · 0.73626 / 16.88374 = 10.602.
    expect(z.dewPointC).toBeCloseTo(10.6019, 3);
    expect(z.surfaces.filter((s) => s.wet).map((s) => s.surface)).toEqual(["roof", "left", "right", "front", "rear"]);
    // 28.82 · (2 · 10.602 + 8 + 8).
    expect(z.dryNeededW).toBeCloseTo(28.82 * (2 * z.dewPointC + 16), 6);
    expect(z.heaterNeededW).toBeCloseTo(28.82 * 11, 9);
    expect(points(d).join()).toMatch(
      /water settles: in zone \+A1 water settles on roof of \+A1, .*-8 °C, and damp air of 14 °C and 80 % has its dew point at 10.6 °C/,
    );
    expect(points(d).join()).toContain(
      "too cold inside: zone +A1 is short by 317 W of heat to keep 3 °C at -8 °C outside; it falls to -8 °C",
    );
    expect(z.fits.every((f) => f.kind === "heater")).toBe(true);
  });

  test("a heater that is mounted counts: warm enough, then dry", () => {
    const d = design([], {}, cold);
    const with_ = (n: number): ZoneHeat =>
      zone(
        design(
          Array.from({ length: n }, (_, i) => at(`-E${i}`, "HEAT", 150 * (i % 4), 200 * (i >> 2))),
          {},
          cold,
        ),
      );
    expect(verdict(zone(d))).toEqual({ kind: "too cold", byW: zone(d).heaterNeededW });
    // 317 W are wanted, 1072 W keep the walls dry.
    expect(with_(2).heatedW).toBe(300);
    expect(verdict(with_(2))).toEqual({ kind: "too cold", byW: with_(2).heaterNeededW - 300 });
    expect([verdict(with_(3)), settles(with_(3)), keeps(with_(3))]).toEqual([{ kind: "wet" }, true, false]);
    expect([with_(8).heatedW, verdict(with_(8)), keeps(with_(8))]).toEqual([1200, { kind: "keeps itself" }, true]);
  });

  test("too cold in winter is said though the unit fits in summer", () => {
    const z = zone(
      design(
        [at("-G1", "S2", 0, 0), { tag: "-E1", part: "CU", on: { face: "+A1/door", x: 250, y: 600 } }],
        {},
        { ...cold, outsideMaxC: 40, insideMaxC: 41, leastSharePercent: 1 },
      ),
    );
    expect([z.coolingNeededW > 0, z.carriedW >= z.coolingNeededW]).toEqual([true, true]);
    expect(verdict(z).kind).toBe("too cold");
  });

  test("dry in a warm hall", () => {
    expect(points(design([], {}, { outsideMinC: 15 })).join()).not.toContain("water");
  });
});

describe("units", () => {
  const hot = (more: Device[] = [], heat = {}): Design =>
    design(
      [at("-G1", "S2", 0, 0), at("-G2", "S2", 200, 0), at("-G3", "S2", 400, 0), ...more],
      {},
      { outsideMaxC: 35, ...heat },
    );
  const door = (tag: string, number: string): Device => ({
    tag,
    part: number,
    on: { face: "+A1/door", x: 250, y: 600 },
  });

  test("what stands there is judged by its own curve", () => {
    const z = zone(hot([door("-E1", "CU")]));
    expect([z.coolingNeededW, z.carriedW, z.dutyPercent]).toEqual([900, 1000, 90]);
    expect(points(hot([door("-E1", "CU")])).join()).not.toContain("too hot inside");
    expect(points(hot()).join()).toContain("too hot inside: zone +A1 is short by 900 W");
    const mild = hot([door("-E1", "CU")], { diversity: 0.4 });
    expect(zone(mild).dutyPercent).toBeCloseTo(36, 9);
    expect(points(mild).join()).toContain("unit too large: the units of zone +A1 run 36 % of the hottest hour");
    expect(
      points(hot([door("-E1", "CU")], { diversity: 1, insideMaxC: 35, outsideMaxC: 35, dutyMostPercent: 85 })).join(),
    ).toContain("unit without reserve");
  });

  test("proposed are those that hold, can be mounted and have a fitting duty; what does not is told why", () => {
    const { fits } = zone(hot());
    expect(fits[0]).toMatchObject({ parts: [{ number: "CU", count: 1 }], holds: true, dutyPercent: 90 });
    expect(fits[0]!.mounts!.map((m) => m.face)).toEqual(["+A1/door"]);
    expect(fits.find((f) => f.parts[0]!.number === "CUH" && f.parts[0]!.count === 1)).toMatchObject({
      mounts: null,
      why: "with 90 kg more +A1/door would carry 90 kg; a door carries 40 kg",
    });
    expect(fits.filter((f) => f.holds && f.kind !== "heater").every((f) => f.capacityW >= 900)).toBe(true);
    // Outside as hot as wanted inside: no fan holds it.
    expect(fits.filter((f) => f.kind === "filter fan" && f.holds)).toEqual([]);
    const cool = zone(hot([], { outsideMaxC: 20 })).fits;
    expect(cool.some((f) => f.kind === "filter fan")).toBe(true);
  });

  test("no unit is ever proposed as holding that cannot hold the limit", () => {
    fc.assert(
      fc.property(
        fc.integer({ min: 1, max: 6 }),
        fc.integer({ min: 10, max: 48 }),
        fc.integer({ min: 30, max: 50 }),
        (n, outsideMaxC, insideMaxC) => {
          const z = zone(
            design(
              Array.from({ length: n }, (_, i) => at(`-G${i}`, "S2", (i % 3) * 200, 200 * Math.floor(i / 3))),
              {},
              { outsideMaxC, insideMaxC },
            ),
          );
          for (const f of z.fits)
            if (f.holds && f.kind !== "heater") expect(f.capacityW).toBeGreaterThanOrEqual(z.coolingNeededW);
          if (z.coolingNeededW <= 0) expect(z.fits.every((f) => f.kind === "heater")).toBe(true);
        },
      ),
      { seed: 9, numRuns: 60 },
    );
  });

  test("the rule of thumb sums what is rated and adds a fifth", () => {
    const z = zone(hot([], { diversity: 0.6 }));
    expect(z.thumb!.wantedW).toBeCloseTo(900 * 1.2, 9);
    // Nothing of the library is that large by its name plate: the largest.
    expect(z.thumb!.parts[0]!.number).toMatch(/^CU/);
    expect(z.thumb!.dutyPercent).toBeCloseTo(54, 9);
  });

  test("places on a face stand clear of what is there, and within it", () => {
    const face = { id: "f", w: 500, h: 800 } as never;
    const taken = [
      { x: 0, y: 300, w: 500, h: 60 },
      { x: 100, y: 500, w: 100, h: 300 },
    ];
    const at1 = placeOn(face, 200, 250, taken)!;
    expect(at1).not.toBeNull();
    for (const t of taken)
      expect(at1.x + 200 <= t.x || t.x + t.w <= at1.x || at1.y + 250 <= t.y || t.y + t.h <= at1.y).toBe(true);
    expect(placeOn(face, 460, 10, [])).toBeNull();
    expect(facesFor(part("X", { mounts: [{ kind: "door" }] }))).toEqual(["door"]);
  });

  test("air of a unit: as stated, else at a third of its highest pressure, else not known", () => {
    const by = (n: string): number | null => airflowOf(PARTS.find((p) => p.number === n)!);
    expect([by("CU"), by("FAN"), by("S")]).toEqual([400, 200, null]);
  });

  test("air that a unit blows reaches what stands before it, and not what stands behind a wall of bodies", () => {
    // A body across the whole plate parts what lies above it from the unit below.
    const wall = part("WALL", { w: 700, h: 60, lossW: 1 });
    const d = hot([door("-E1", "CU"), at("-WALL", "WALL", 0, 1400), at("-GX", "S", 300, 1700)]);
    const z = zone({ ...d, parts: [...d.parts, wall] });
    const [way] = z.airWays;
    expect(way!.units).toEqual(["-E1"]);
    expect(way!.dead.map((x) => x.device)).toContain("-GX");
    expect(way!.reachedPercent > 10 && way!.reachedPercent < 90).toBe(true);
    expect(way!.speedMs).toBe(STILL_MS);
  });
});

describe("edits", () => {
  const EDITS = new Edits(HEAT_EDITS);
  const lay = (d: Design, kind: string, payload: object): Design => {
    expect(EDITS.faults(kind, payload)).toEqual([]);
    const applied = EDITS.apply(d, { kind, payload });
    if (!applied.ok) throw new Error(applied.reason);
    return applied.design;
  };

  test("values of the job and of a zone are set and taken away without a trace", () => {
    const d = { ...design([at("-G1", "S", 0, 0)]), rules: {} };
    const warm = lay(d, "set heat", { values: { outsideMaxC: 38, diversity: 0.5 } });
    expect(zone(warm).values).toMatchObject({ outsideMaxC: 38, diversity: 0.5 });
    expect(lay(warm, "set heat", { values: { outsideMaxC: null, diversity: null } })).toEqual(d);
    const own = lay(d, "set heat", { enclosure: "+A1", values: { outsideMinC: -9 } });
    expect(zone(own).values.outsideMinC).toBe(-9);
    expect(lay(own, "set heat", { enclosure: "+A1", values: { outsideMinC: null } })).toEqual(d);
  });

  test("a unit is mounted, and takes the place of another with its wires", () => {
    const d = design([at("-G1", "S2", 0, 0), { tag: "-E1", part: "CUH", on: { face: "+A1/door", x: 10, y: 10 } }], {
      wires: [{ number: "1", from: { device: "-E1", pin: "L" }, to: { device: "-G1", pin: "L" } }],
    });
    const next = lay(d, "mount unit", {
      device: "-E1",
      part: "CU",
      face: "+A1/door",
      x: 250,
      y: 600,
      instead: ["-E1"],
    });
    expect(next.devices.find((v) => v.tag === "-E1")).toEqual({
      tag: "-E1",
      part: "CU",
      on: { face: "+A1/door", x: 250, y: 600 },
    });
    const refused = (payload: object): string => {
      const applied = EDITS.apply(d, { kind: "mount unit", payload });
      return applied.ok ? "taken" : applied.reason;
    };
    const place = { face: "+A1/door", x: 250, y: 600 };
    expect(refused({ device: "-E2", part: "CU", ...place, instead: ["-E1"] })).toBe(
      "wire 1 lands on a unit that would leave the design",
    );
    expect(refused({ device: "-G1", part: "CU", ...place })).toBe("there is a device -G1 already");
    expect(refused({ device: "-E2", part: "S", ...place })).toBe("part S is no climate unit");
    expect(refused({ device: "-E2", part: "CU", ...place, face: "+Z/door" })).toBe(
      "there is no face +Z/door in the design",
    );
    expect(refused({ device: "-E2", part: "CU", ...place })).toBe("taken");
  });

  test("impossible values are refused in the form", () => {
    for (const values of [{ outsideMinC: -300 }, { diversity: 1.4 }, { dampPercent: 0 }, { nix: 1 }])
      expect(EDITS.faults("set heat", { values })).toHaveLength(1);
    expect(EDITS.faults("set load", { device: "-G1", diversity: 1.4 })).toHaveLength(1);
    const d = design([]);
    const rising = {
      ...d,
      parts: [part("X", { cooling: { curve: [...CURVE, { insideC: 35, outsideC: 45, capacityW: 2000 }] } })],
    };
    const read = readDesign(JSON.stringify(rising));
    expect(read.ok || `${read.faults[0]!.path}: ${read.faults[0]!.found} ${read.faults[0]!.expected}`).toMatch(
      /parts\[0\]\.cooling\.curve.*rises from 1000 W at 35 °C/,
    );
  });
});

describe("what is told", () => {
  const lark = demo("larkmoor");
  const result = work(lark);

  test("every figure of every zone has a working whose terms come to it", () => {
    for (const z of result.zones) {
      for (const of of FIGURES) {
        const working = explain(result, { zone: z.zone, of })!;
        expect(working.terms.length).toBeGreaterThan(0);
        const values = working.terms.flatMap((t) => t.value ?? []);
        if (typeof working.total === "number" && values.length > 0)
          expect(Math.abs(values.reduce((a, b) => a + b, 0) - working.total)).toBeLessThan(0.01 * values.length + 0.01);
      }
    }
    expect(explain(result, { zone: "nix", of: "loss" })).toBeNull();
  });

  test("the tables begin as they are described, and hold the same figures", () => {
    const table = heatTable(result);
    expect(table.head.join()).toBe("zone,figure,value,unit,rests_on");
    expect(table.rows.filter((r) => r[0] === "+A2").map((r) => r[1])).toEqual([
      "loss",
      "surface",
      "coefficient",
      "inside_without_cooling",
      "cooling_needed",
      "fan_flow",
      "heater_needed",
      "heater_dry_needed",
      "heater_to_choose",
      "dew_point",
      "unit",
      "capacity",
      "heated",
      "duty",
      "proposed_cooling",
      "proposed_cooling_capacity",
      "proposed_cooling_duty",
      "proposed_heating",
    ]);
    expect(table.rows.find((r) => r[0] === "+A2" && r[1] === "proposed_heating")![2]).toBe("nothing needed");
    expect(heatDevicesTable(result).head.join()).toBe(
      "zone,device,part,loss_w,share,diversity,counted_w,around_c,limit_c,mark,hottest_w_dm2,may_carry",
    );
    const sum = heatDevicesTable(result)
      .rows.filter((r) => r[0] === "+A2")
      .reduce((w, r) => w + (r[6] as number), 0);
    const a2 = result.zones.find((z) => z.zone === "+A2")!;
    expect(sum + a2.wiresW).toBeCloseTo(a2.lossW, 6);
  });

  test("the report has every figure of every zone, no text covers another or leaves its sheet", async () => {
    const sheets = reportSheets(result, "LARK-2601 Larkmoor", demo("larkmoor").parts);
    const texts = sheets.map((s) => s.items.flatMap((i) => (i.kind === "text" ? [i] : [])));
    const wrong: string[] = [];
    for (const [n, all] of texts.entries()) {
      const boxes = all.map((t) => ({ t: t.text, b: textBox(t) }));
      for (const [i, { t, b: a }] of boxes.entries()) {
        if (!(a.x >= 0 && a.y >= 0 && a.x + a.w <= sheets[n]!.w && a.y + a.h <= sheets[n]!.h))
          wrong.push(`${t} leaves`);
        for (const { t: other, b } of boxes.slice(i + 1))
          if (a.x + a.w > b.x + 0.01 && b.x + b.w > a.x + 0.01 && a.y + a.h > b.y + 0.01 && b.y + b.h > a.y + 0.01)
            wrong.push(`${t} | ${other}`);
      }
    }
    expect(wrong).toEqual([]);
    const said = texts.flat().map((t) => t.text);
    for (const z of result.zones)
      for (const of of FIGURES) {
        const { title, total, unit } = explain(result, { zone: z.zone, of })!;
        expect(said).toContain(title);
        expect(said).toContain(typeof total === "number" ? `${total} ${unit}` : total);
      }
    const pdf = JSON.parse(
      execFileSync(process.execPath, [join(__dirname, "../test/read-pdf.mjs")], {
        input: await toPdf("t", sheets),
        maxBuffer: 1e8,
      }).toString(),
    ) as { pages: { texts: { str: string }[] }[] };
    expect(pdf.pages).toHaveLength(sheets.length);
    const words = (list: string[]): string[] =>
      list
        .flatMap((t) => t.split(" "))
        .filter((t) => t !== "")
        .sort();
    pdf.pages.forEach((p, i) => expect(words(p.texts.map((t) => t.str))).toEqual(words(texts[i]!.map((t) => t.text))));
  });

  test("the theatre has its true trouble: the drives too hot in August, stage left wet in January", () => {
    const kinds = (of: string): string[] => result.open.filter((p) => p.of === of).map((p) => p.kind);
    expect(kinds("+A2")).toContain("too hot inside");
    expect(kinds("+B1")).toEqual(expect.arrayContaining(["too cold inside", "water settles"]));
  });

  test("slabs of a zone carry away what its walls and units do", () => {
    for (const z of result.zones) {
      const through = (on: (surface: string) => boolean): number => passing(z.surfaces.filter((x) => on(x.surface)));
      const n = z.column.length;
      const sides = through((x) => x !== "roof" && x !== "base") / n;
      const out = z.column.reduce((sum, { airC }, i) => {
        const ends = (i === 0 ? through((x) => x === "base") : 0) + (i === n - 1 ? through((x) => x === "roof") : 0);
        return sum + (airC - z.values.outsideMaxC) * (sides + ends);
      }, 0);
      const into = z.column.reduce((sum, x) => sum + x.heatW, 0);
      expect(out).toBeCloseTo(into - Math.min(Math.max(0, z.coolingNeededW), z.carriedW), 6);
      // Only what a unit blows at may be cooler than outside.
      if (z.carriedW === 0) expect(z.column.every((x) => x.airC >= z.values.outsideMaxC - 1e-6)).toBe(true);
    }
  });
});
