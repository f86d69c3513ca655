import type { Design, Part } from "../design/model";
import { SHOP_RULES } from "../shop/rules";
import { compute as computePanel } from "../panel/compute";
import { compute as computeRoutes } from "../routes/compute";
import { DOT, tiny } from "../test/tiny";
import { compute } from "./compute";
import { heatTable } from "./files";
import type { HeatResult, ZoneHeat } from "./result";
import { proposalFor, wanting } from "./verdict";
import { yearOf } from "./year";

/** What is proposed for a zone: for each need its own, by what units state, where there is room. */

const part = (number: string, more: Partial<Part>): Part => ({ ...DOT, number, pins: [], category: "other", ...more });
const unit = (number: string, climate: NonNullable<Part["climate"]>, more: Partial<Part> = {}): Part =>
  part(number, { w: 200, h: 200, d: 40, climate: { on: ["left", "right", "door"], powerW: 100, ...climate }, ...more });
const CURVE = [25, 35].flatMap((insideC) =>
  [20, 35].map((outsideC) => ({ insideC, outsideC, capacityW: 800 + (insideC - 25) * 10 - (outsideC - 20) * 5 })),
);
const COOLS = unit(
  "CU",
  { kind: "cooling unit", ip: 54, supplyV: 230, fuseA: 10 },
  { currentA: 2.6, cooling: { curve: CURVE } },
);
const HEATS = unit("H", { kind: "heater", heatW: 4000, on: ["plate"] });
const FAN = unit("FF", {
  kind: "filter fan",
  exit: "EF",
  ip: 43,
  flow: [
    { m3h: 900, pa: 0 },
    { m3h: 0, pa: 100 },
  ],
});
const EXIT = part("EF", { w: 200, h: 200, d: 20, mounts: [{ kind: "door" }] });
const HOT = part("HOT", { w: 100, h: 100, d: 80, lossW: 900, category: "drive" });

const design = (parts: Part[], heat: Design["rules"]["heat"], more: Partial<Design> = {}): Design => ({
  ...tiny({ parts: [HOT, ...parts] }),
  enclosures: [
    {
      tag: "+A1",
      w: 1000,
      h: 2000,
      d: 500,
      plate: { w: 900, h: 1900, setback: 400, thickness: 3, material: "galvanised steel" },
      sheet: { thickness: 1.5, material: "painted steel" },
    },
  ],
  devices: [{ tag: "-U1", part: "HOT", on: { face: "+A1/plate", x: 400, y: 900 } }],
  wires: [],
  rules: { heat: { insideMaxC: 35, outsideMaxC: 35, ...heat } },
  ...more,
});
const heatOf = (d: Design): HeatResult => {
  const panel = computePanel(d);
  return compute(d, SHOP_RULES, panel, computeRoutes(d, SHOP_RULES, panel));
};
const zoneOf = (d: Design): ZoneHeat => heatOf(d).zones[0]!;
/** Hot in summer, and 5 °C are wanted at 30 °C of frost. */
const BOTH = { outsideMinC: -30, insideMinC: 5, leastSharePercent: 0 };
const numbers = (f: ZoneHeat["fits"][number] | string): string | string[] =>
  typeof f === "string" ? f : f.parts.map((p) => `${p.count}x${p.number}`);

test("a zone that wants both is not told that one unit does it: a pair first, and each need its own", () => {
  const z = zoneOf(design([COOLS, HEATS], BOTH));
  expect([z.coolingNeededW > 0, z.heaterNeededW > 0]).toEqual([true, true]);
  expect(z.fits[0]).toMatchObject({ does: "both", kind: "unit and heater", holds: true });
  expect(numbers(z.fits[0]!)).toEqual(["2xCU", "1xH"]);
  expect([numbers(proposalFor(z, "cools")), numbers(proposalFor(z, "heats"))]).toEqual([["2xCU"], ["1xH"]]);
  // In order: pairs, what cools, what heats.
  const order = z.fits.map((f) => f.does);
  expect(order).toEqual(
    [...order].sort((a, b) => ["both", "cools", "heats"].indexOf(a) - ["both", "cools", "heats"].indexOf(b)),
  );
});

test("where a unit does another job the missing one is proposed; nothing needed is not nothing fits", () => {
  const there = {
    devices: [...design([], {}).devices, { tag: "-E1", part: "H", on: { face: "+A1/plate", x: 50, y: 50 } }],
  };
  const z = zoneOf(design([COOLS, HEATS], BOTH, there));
  expect(wanting(z)).toEqual({ cooling: true, heat: false });
  expect(numbers(proposalFor(z, "cools"))).toEqual(["2xCU"]);
  const summer = zoneOf(design([HEATS], {}));
  expect([proposalFor(summer, "cools"), proposalFor(summer, "heats")]).toEqual(["nothing fits", "nothing needed"]);
  const rows = heatTable(heatOf(design([COOLS, HEATS], BOTH, there))).rows.map((r) => r.slice(1, 3));
  expect(rows).toEqual(
    expect.arrayContaining([
      ["unit", "H"],
      ["proposed_cooling", "2 x CU"],
      ["proposed_heating", "1 x H"],
    ]),
  );
});

test("the wattage that keeps the walls dry is what is proposed and told", () => {
  const small = unit("H5", { kind: "heater", heatW: 300, on: ["plate"] });
  const d = design([small, HEATS], {
    outsideMinC: -5,
    insideMinC: -5,
    dampC: 20,
    dampPercent: 80,
    leastSharePercent: 0,
  });
  const z = zoneOf(d);
  // Nothing is wanted for warmth, much against water.
  expect([z.heaterNeededW <= 0, z.dryNeededW > 300]).toEqual([true, true]);
  expect(numbers(proposalFor(z, "heats"))).toEqual(["1xH"]);
  expect(z.fits.find((f) => f.parts[0]!.number === "H5" && f.parts[0]!.count === 1)!.holds).toBe(false);
  const row = heatTable(heatOf(d)).rows.find((r) => r[1] === "heater_to_choose")!;
  expect(row[2]).toBeCloseTo(z.dryNeededW, 9);
});

test("beyond a curve on the side where a unit carries less it is not proposed, with the reason; derating ends", () => {
  const z = zoneOf(design([COOLS], { outsideMaxC: 40, insideMaxC: 35 }));
  const fit = z.fits.find((f) => f.parts[0]!.count === 2)!;
  expect([fit.capacityW >= z.coolingNeededW, fit.holds, fit.beyond]).toEqual([true, false, true]);
  expect(fit.but).toBe("its figures do not reach 35 °C inside and 40 °C outside: it carries less there than it says");
  expect(proposalFor(z, "cools")).toBe("nothing fits");
  const here = {
    devices: [...design([], {}).devices, { tag: "-E1", part: "CU", on: { face: "+A1/left", x: 50, y: 50 } }],
  };
  const { open } = heatOf(design([COOLS], { outsideMaxC: 40 }, here));
  expect(open.find((p) => p.kind === "beyond the curve")).toMatchObject({ severity: "check", of: "-E1" });
  const derated = (last: number): number | null => {
    const hot = {
      ...HOT,
      derating: [
        { aroundC: 20, share: 1 },
        { aroundC: last, share: 0.6 },
      ],
    };
    const d = design([], {});
    return zoneOf({ ...d, parts: d.parts.map((p) => (p.number === "HOT" ? hot : p)) }).devices[0]!.derated;
  };
  expect(derated(500)).toBeGreaterThan(0.6);
  expect(derated(25)).toBe(0);
});

test("no place over an own opening or an empty rail; a heater low, a fan low with its outlet filter high", () => {
  const z = zoneOf(design([FAN, EXIT, HEATS], { ...BOTH, outsideMaxC: 20 }));
  const pair = z.fits.find((f) => f.does === "both")!;
  const at = new Map(pair.mounts!.map((m) => [m.part, m]));
  expect([...at.keys()]).toEqual(["FF", "EF", "H"]);
  // 25 mm from the edge, in steps of 15 mm; the side is 500 × 2000, the filter 200 high.
  expect([at.get("FF")!.y, at.get("EF")!.y, at.get("H")!.y]).toEqual([25, 1765, 25]);
  const lack = zoneOf(design([FAN], { outsideMaxC: 20 })).fits[0]!;
  expect([lack.mounts, lack.why]).toEqual([null, "its outlet filter EF is not in the library"]);
  const holes = ["door", "left", "right"].map((kind) => ({
    enclosure: "+A1",
    kind: kind as "door",
    holes: [{ kind: "rect" as const, x: 20, y: 20, w: kind === "door" ? 960 : 460, h: 1960 }],
  }));
  expect(zoneOf(design([COOLS], {}, { faces: holes })).fits[0]!.mounts).toBeNull();
  const rails = [250, 450, 650, 850, 1050, 1250, 1450, 1650].map((y, i) => ({
    tag: `R${i}`,
    face: "+A1/plate",
    x: 25,
    y,
    run: "right" as const,
    length: 850,
    part: "R",
  }));
  const railed = zoneOf(design([HEATS], BOTH, { rails })).fits.find((f) => f.does === "heats")!;
  for (const m of railed.mounts!) for (const r of rails) expect(m.y + 200 <= r.y || m.y >= r.y + 35).toBe(true);
});

test("protection that is asked, supply that is stated", () => {
  const asked = (ip: number): (string | null)[] =>
    zoneOf(design([COOLS, FAN, EXIT], { outsideMaxC: 20, protectionIp: ip }))
      .fits.filter((f) => f.parts[0]!.count === 1)
      .map((f) => f.but);
  expect(asked(0)).toEqual([null, null]);
  expect(asked(54).sort()).toEqual(["it keeps IP 43; IP 54 is asked", null].sort());
  expect(asked(45).sort()).toEqual(["it keeps IP 43; IP 45 is asked", "it keeps IP 54; IP 45 is asked"]);
  expect(zoneOf(design([COOLS], {})).fits[0]!.supply).toBe("230 V, 2.6 A, fuse 10 A");
});

test("a fan runs no hour in which it can carry nothing", () => {
  // As hot outside as wanted inside for some hours: it stands still then.
  const z = zoneOf(design([FAN, EXIT], { outsideMaxC: 45, insideMaxC: 35, outsideMinC: 5 }));
  const fit = z.fits.find((f) => f.parts[0]!.number === "FF")!;
  expect(fit.holds).toBe(false);
  // 100 W, at most in the hours in which it is cooler outside than wanted inside.
  const hours = yearOf(5, 45).reduce((sum, b) => sum + (b.outsideC < 35 ? b.hours : 0), 0);
  expect(hours).toBeLessThan(8760 - 100);
  expect(fit.energyKWh).toBeGreaterThan(0);
  expect(fit.energyKWh).toBeLessThanOrEqual((hours * 100) / 1000 + 1e-9);
});
