import fc from "fast-check";
import { Edits } from "../frame/edits";
import type { Design } from "../design/model";
import { SHOP_RULES } from "../shop/rules";
import { compute as computePanel } from "../panel/compute";
import { liftDevice } from "../panel/edits";
import { compute as computeRoutes } from "../routes/compute";
import { demo } from "../test/demo";
import { runs } from "../test/runs";
import { compute } from "./compute";
import { HEAT_EDITS } from "./edits";
import type { ZoneHeat } from "./result";
import { ARRANGEMENTS, asEdits, type Trial } from "./trial";
import { Trials } from "./trials";

const EDITS = new Edits([...HEAT_EDITS, liftDevice]);
const LARK = demo("larkmoor");
const work = (d: Design) => {
  const panel = computePanel(d);
  return { panel, heat: compute(d, SHOP_RULES, panel, computeRoutes(d, SHOP_RULES, panel)) };
};
const { panel, heat } = work(LARK);
const trials = new Trials({ design: LARK, panel, heat });
const zoneOf = (name: string, of = heat): ZoneHeat => of.zones.find((z) => z.zone === name)!;

/** The zone of the design with a trial laid as edits. */
function laid(name: string, trial: Trial): ZoneHeat {
  const { trial: placed } = trials.run(name, trial)!;
  let design = LARK;
  for (const edit of asEdits(placed, zoneOf(name))) {
    expect(EDITS.faults(edit.kind, edit.payload)).toEqual([]);
    const applied = EDITS.apply(design, edit);
    if (!applied.ok) throw new Error(applied.reason);
    design = applied.design;
  }
  return zoneOf(name, work(design).heat);
}

/** A worker knows what wires put in as it was: loads of devices are no currents of nets. */
const wireless = (z: ZoneHeat): Record<string, unknown> => ({
  loss: Math.round((z.lossW - z.wiresW) * 1e6),
  wPerK: Math.round(z.wPerK * 1e9),
  units: z.units.map((u) => ({ ...u, capacityW: u.capacityW && Math.round(u.capacityW * 1e6) })),
  before: z.before,
  still: z.airWays.map((a) => [a.face, Math.round(a.reachedPercent * 1e3), a.still]),
});

test("nothing tried is what is", () => {
  for (const z of heat.zones) expect(trials.run(z.zone, {})!.zone).toEqual(z);
  expect(trials.run("+Z9", {})).toBeNull();
});

test("the closer it stands to others, the less its walls carry away", () => {
  const carried = ARRANGEMENTS.map((stands) => trials.run("+A2", { stands })!.zone.wPerK);
  expect(carried.every((w, i) => i === 0 || w < carried[i - 1]!)).toBe(true);
  // Rear, left and right are closed one by one: of two sides alike each takes the same away.
  const [, wall, end, middle] = carried as [number, number, number, number];
  expect(Math.abs(wall - end - (end - middle))).toBeLessThan(1e-9);
});

test("values, loads and arrangements that are tried are what the edits then give", () => {
  fc.assert(
    fc.property(
      fc.constantFrom("+A1", "+A2", "+B1"),
      fc.record(
        {
          values: fc.record(
            {
              outsideMaxC: fc.integer({ min: 20, max: 50 }),
              insideMaxC: fc.integer({ min: 30, max: 55 }),
              diversity: fc.integer({ min: 0, max: 10 }).map((n) => n / 10),
            },
            { requiredKeys: [] },
          ),
          load: fc.constantFrom(0, 0.5, 1, 1.25),
          stands: fc.constantFrom(...ARRANGEMENTS),
        },
        { requiredKeys: [] },
      ),
      (name, trial) => {
        const tried = trials.run(name, trial)!.zone;
        const after = laid(name, trial);
        expect(wireless(tried)).toEqual(wireless(after));
        expect(tried.values).toEqual(after.values);
      },
    ),
    { seed: 11, numRuns: runs(8) },
  );
});

test("units that are away and units more stand as the edits then put them", () => {
  const trial = { without: ["-E20"], with: ["TT-CU2500", "TT-FF230"] };
  const { zone, refused } = trials.run("+A2", trial)!;
  expect(refused).toEqual([]);
  expect(zone.units.map((u) => u.part).sort()).toEqual(["TT-CU2500", "TT-FF230"]);
  expect(wireless(zone)).toEqual(wireless(laid("+A2", trial)));
});

test("parts without a place are refused one by one with the reason, the others stay", () => {
  const { zone, refused } = trials.run("+B1", { with: ["TT-CR2000", "TT-H60", "NONE"] })!;
  expect(refused.map((r) => r.part)).toEqual(["TT-CR2000", "NONE"]);
  expect(refused[0]!.why).toMatch(/roof has no room for 600 × 380 mm/);
  expect(zone.units.map((u) => u.part)).toEqual(["TT-H60"]);
});

test("an open door lets heat out where it is cooler outside, in where it is hotter, and is no edit", () => {
  const cool = { values: { outsideMaxC: 25 } };
  expect(trials.run("+A2", { ...cool, doorOpen: true })!.zone.coolingNeededW).toBeLessThan(
    trials.run("+A2", cool)!.zone.coolingNeededW,
  );
  const warm = { values: { outsideMaxC: 48 } };
  expect(trials.run("+A2", { ...warm, doorOpen: true })!.zone.coolingNeededW).toBeGreaterThan(
    trials.run("+A2", warm)!.zone.coolingNeededW,
  );
  expect(asEdits({ doorOpen: true }, zoneOf("+A2"))).toEqual([]);
});

test("loads of wires go with the square of the load", () => {
  const { wiresW } = zoneOf("+A2");
  expect(wiresW).toBeGreaterThan(0);
  expect(trials.run("+A2", { load: 0.5 })!.zone.wiresW).toBeCloseTo(wiresW / 4, 9);
});

test("the field of the air is that of the result; a deflector changes it, and the field says the same as the edit", () => {
  const counted = new Map(zoneOf("+A2").devices.map((d) => [d.device, d.countedW]));
  const now = trials.field("+A2", {}, counted)!;
  expect(now.way).toEqual(zoneOf("+A2").airWays[0]);
  expect(now.speed).toHaveLength(now.way.columns * now.way.rows);
  expect(now.streams.length).toBeGreaterThan(5);
  const outlets = [{ device: "-E20", to: "left" as const }];
  const turned = trials.field("+A2", { outlets }, counted)!;
  expect(turned.way.reachedPercent).toBeGreaterThan(now.way.reachedPercent);
  expect(turned.way.reachedPercent).toBeCloseTo(laid("+A2", { outlets }).airWays[0]!.reachedPercent, 6);
  expect(trials.field("+B1", {}, counted)).toBeNull();
});

test("what cannot be is refused with the reason, and nothing is kept of it", () => {
  expect(() => trials.run("+A2", { without: ["-E99"] })).toThrow("there is no device -E99");
  expect(trials.run("+A2", {})!.zone).toEqual(zoneOf("+A2"));
});
