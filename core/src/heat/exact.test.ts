import type { Design, Device, Part } from "../design/model";
import type { HeatRules } from "./rules";
import { SHOP_RULES } from "../shop/rules";
import { compute as computePanel } from "../panel/compute";
import { compute as computeRoutes } from "../routes/compute";
import { DOT, tiny } from "../test/tiny";
import { compute } from "./compute";
import type { ZoneHeat } from "./result";
import { dutyOver, fitsFor, thumbOf, yearlyKWh, type Need } from "./units";

/** Values worked out by hand, each where a rule and the one beside it differ. */

const part = (number: string, more: Partial<Part>): Part => ({ ...DOT, number, pins: [], category: "other", ...more });
/** Carries the same at all temperatures. */
const cooler = (number: string, w: number, more: Partial<Part["climate"]> = {}): Part =>
  part(number, {
    category: "cooling",
    cooling: {
      powerW: 400,
      curve: [20, 50].flatMap((insideC) => [20, 50].map((outsideC) => ({ insideC, outsideC, capacityW: w }))),
    },
    climate: { kind: "cooling unit", on: ["left"], ...more },
  });
const VALUES: HeatRules = { ...SHOP_RULES.heat, insideMaxC: 35, outsideMaxC: 25, insideMinC: 10, outsideMinC: 0 };
/** 1,000 W in walls that pass 10 W/K. */
const need = (more: Partial<Need> = {}): Need => ({
  lossW: 1000,
  shell: { wPerK: 10, open: [] },
  values: VALUES,
  coolingW: 900,
  heaterW: 0,
  dryC: null,
  ...more,
});

test("two units carry twice as much, run half as long, and take as much as one that runs all the time", () => {
  const year = [{ outsideC: 25, hours: 100 }];
  const unit = cooler("CU", 900);
  // 1,000 W − 10 W/K · (35 − 25) K = 900 W.
  expect(dutyOver([{ part: unit, count: 1 }], need(), year)).toEqual([
    { outsideC: 25, hours: 100, neededW: 900, capacityW: 900, share: 1 },
  ]);
  expect(dutyOver([{ part: unit, count: 2 }], need(), year)).toEqual([
    { outsideC: 25, hours: 100, neededW: 900, capacityW: 1800, share: 0.5 },
  ]);
  // 100 h · 0.4 kW; of two 100 h · ½ · 0.8 kW.
  expect([1, 2].map((count) => yearlyKWh([{ part: unit, count }], need(), year))).toEqual([40, 40]);
});

test("a second unit makes a sound 3 dB louder; two that are silent are silent, and who says nothing is not known", () => {
  const parts = [cooler("A", 900, { noiseDb: 60 }), cooler("B", 900, { noiseDb: 0 }), cooler("C", 900)];
  const loud = new Map(
    fitsFor(parts, need(), [], []).map((f) => [`${f.parts[0]!.count} ${f.parts[0]!.number}`, f.noiseDb]),
  );
  expect(loud.get("1 A")).toBe(60);
  expect(loud.get("2 A")).toBeCloseTo(63.0103, 4);
  expect(["2 B", "2 C"].map((f) => loud.get(f))).toEqual([0, null]);
});

test("the rule of thumb adds a fifth before it looks at name plates", () => {
  const parts = [cooler("A", 1100), cooler("B", 1250), cooler("C", 1300)];
  expect(thumbOf(parts, 1000, need(), [], [])).toMatchObject({ wantedW: 1200, parts: [{ number: "B" }] });
  expect(thumbOf(parts, 1050, need(), [], [])).toMatchObject({ wantedW: 1260, parts: [{ number: "C" }] });
});

test("a heater on its own: least losses of a fifth, and a wall that must stay above its dew point", () => {
  const heater = part("H", { category: "heater", climate: { kind: "heater", on: ["plate"], heatW: 400 } });
  const few = { ...VALUES, leastSharePercent: 20 };
  const at = (dryC: number | null) =>
    dutyOver([{ part: heater, count: 1 }], need({ values: few, dryC }), [{ outsideC: -20, hours: 1 }])[0]!;
  // 10 W/K · (10 + 20) K − 200 W; a wall half way to −20 °C is at 5 °C with 30 °C inside: 10 · 50 − 200.
  expect(at(null)).toMatchObject({ neededW: 100, share: 0.25 });
  expect(at(5)).toMatchObject({ neededW: 300, share: 0.75 });
});

const PARTS = [
  part("HOT", { w: 100, h: 100, d: 80, lossW: 600, category: "drive" }),
  part("TALL", { w: 50, h: 1000, d: 80, lossW: 10, category: "drive" }),
  part("H", { category: "heater", w: 50, h: 50, climate: { kind: "heater", on: ["plate"], heatW: 100 } }),
  part("HF", {
    category: "heater",
    w: 50,
    h: 50,
    cooling: { airflowM3h: 500, curve: [] },
    climate: { kind: "heater", on: ["plate"], heatW: 100 },
  }),
  cooler("CU", 2000),
];
const box = (tag: string, more: Partial<Design["enclosures"][number]> = {}): Design["enclosures"][number] => ({
  tag,
  w: 1000,
  h: 2000,
  d: 500,
  plate: { w: 900, h: 1900, setback: 400, thickness: 3, material: "galvanised steel" },
  sheet: { thickness: 1.5, material: "painted steel" },
  ...more,
});
const on = (tag: string, number: string, x: number, y: number, enclosure = "+A1"): Device => ({
  tag,
  part: number,
  on: { face: `${enclosure}/plate`, x, y },
});
function zones(devices: Device[], enclosures = [box("+A1")]): ZoneHeat[] {
  const design: Design = {
    ...tiny({ parts: PARTS }),
    enclosures,
    ducts: [],
    devices,
    wires: [],
    rules: { heat: { outsideMaxC: 35, insideMaxC: 40, outsideMinC: 10, insideMinC: 10 } },
  };
  const panel = computePanel(design);
  return compute(design, SHOP_RULES, panel, computeRoutes(design, SHOP_RULES, panel)).zones;
}

test("the air around a device is that at its hottest edge", () => {
  const [z] = zones([on("-U1", "HOT", 100, 1500), on("-T1", "TALL", 500, 500)]);
  // The plate begins 50 mm up: the device reaches from 550 to 1,550 mm, the middles of slabs 6 and 16 of 100 mm.
  const [low, top] = [z!.column[5]!, z!.column[15]!];
  expect([low.atMm, top.atMm]).toEqual([550, 1550]);
  expect(top.airC - low.airC).toBeGreaterThan(1);
  expect(z!.devices.find((d) => d.device === "-T1")!.aroundC).toBeCloseTo(top.airC, 9);
});

test("a unit has no place on a wall that stands beside a neighbour, on its right side or on its left", () => {
  const row = (neighbourRight?: string) => [box("+A1", neighbourRight ? { neighbourRight } : {}), box("+A2")];
  const hot = [on("-U1", "HOT", 100, 100), on("-U2", "HOT", 100, 100, "+A2")];
  const mounts = (list: ZoneHeat[]) => list.map((z) => z.fits[0]!.mounts?.map((m) => m.face) ?? null);
  expect(mounts(zones(hot, row()))).toEqual([["+A1/left"], ["+A2/left"]]);
  expect(mounts(zones(hot, row("+A2")))).toEqual([["+A1/left"], null]);
});

test("a heater that blows does not mix the air as what cools does", () => {
  const air = (number: string): number[] =>
    zones([on("-U1", "HOT", 100, 100), on("-H1", number, 700, 100)])[0]!.column.map((s) => s.airC);
  expect(air("HF")).toEqual(air("H"));
});
