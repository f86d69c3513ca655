import { readFileSync } from "node:fs";
import { join } from "node:path";
import type { Design } from "@gray-bench/core/design/model";
import { SHOP_RULES } from "@gray-bench/core/design/rules";
import { EDITS } from "@gray-bench/core/edits";
import { compute } from "@gray-bench/core/heat/compute";
import { compute as computePanel } from "@gray-bench/core/panel/compute";
import { compute as computeRoutes } from "@gray-bench/core/routes/compute";
import { screen, within } from "@testing-library/react";
import type { Act } from "../edits/act";
import { page } from "../test/page";
import { HeatView, verdictText, type HeatChoice } from "./HeatView";
import { mountAct, valueActs } from "./heatActs";

jest.mock("expo-router", () => jest.requireActual<object>("../test/router"));

const LARK = JSON.parse(readFileSync(join(__dirname, "../../../designs/larkmoor.bench.json"), "utf8")) as Design;
const work = (d: Design) => {
  const panel = computePanel(d);
  return compute(d, SHOP_RULES, panel, computeRoutes(d, SHOP_RULES, panel));
};
const result = work(LARK);
const zone = (tag: string) => result.zones.find((z) => z.zone === tag)!;
const view = (choice: HeatChoice) => page(<HeatView job="LARK-2601" result={result} design={LARK} choice={choice} />);

// The browser of these tests has no places to scroll to.
beforeAll(() => {
  HTMLElement.prototype.scrollIntoView = () => undefined;
});

describe("the view of heat", () => {
  test("one figure on top, its zones as links, units with the rule of thumb beside them", () => {
    view({ zone: "+A2" });
    expect(screen.getByTestId("verdict").textContent).toMatch(/^short by \d+ W$/);
    expect(screen.getByTestId("zone-+A2").getAttribute("aria-current")).toBe("true");
    expect(screen.getByTestId("units").textContent).toMatch(/TT-CU2500: \d+ % duty/);
    expect(screen.getByTestId("thumb").textContent).toContain("Losses as rated and a fifth more");
    expect(screen.getByTestId("map-+A2/plate").textContent).toMatch(/lines at .* W\/dm².*the hottest/);
    expect(screen.getByTestId("air-+A2/plate").textContent).toMatch(/reaches \d+ % of the free/);
  });

  test("a tapped figure shows how it came to be", () => {
    view({ zone: "+A1", figure: "coefficient" });
    const terms = within(screen.getByTestId("working")).getAllByTestId("term");
    expect(terms).toHaveLength(6);
    expect(screen.getByTestId("working-total").textContent).toBe("23.1 W/K");
  });

  test("winter: what is too cold and wet says so, and heaters are proposed", () => {
    view({ zone: "+B1" });
    expect(screen.getByTestId("verdict").textContent).toBe("too cold by 27 W");
    expect(screen.getByTestId("units").textContent).toMatch(/TT-H150.*puts in 150 W/);
    expect(verdictText({ ...zone("+B1"), heaterNeededW: 0 })).toBe("water settles in the cold");
  });

  test("a zone that is not there says so", () => {
    view({ zone: "+Z9" });
    screen.getByText("+Z9 is not here");
  });
});

describe("what can be done with heat", () => {
  const lay = (act: Act, payload: object): Design => {
    expect(EDITS.faults(act.kind, payload)).toEqual([]);
    const applied = EDITS.apply(LARK, { kind: act.kind, payload });
    if (!applied.ok) throw new Error(applied.reason);
    return applied.design;
  };

  test("the best unit is mounted instead of the one that is there, and then it fits", () => {
    const z = zone("+A2");
    const act = mountAct(z, z.fits[0]!, LARK)!;
    expect(act.label).toBe("Mount it instead of -E20");
    const after = work(lay(act, act.payloads[0]!)).zones.find((x) => x.zone === "+A2")!;
    expect(verdictText(after)).toMatch(/^fits: \d+ % duty$/);
    expect(after.units.map((u) => [u.device, u.part])).toEqual([["-E20", z.fits[0]!.parts[0]!.number]]);
  });

  test("values are set within their range, refused beyond it", () => {
    const [around, job] = valueActs(zone("+B1"));
    const shaped = (act: Act, values: Record<string, number>) =>
      act.shape!({ values, set: new Set(Object.keys(values)) });
    const warm = shaped(around!, { outsideMinC: 4 });
    expect(warm.ok && work(lay(around!, warm.payload)).zones.find((z) => z.zone === "+B1")!.values.outsideMinC).toBe(4);
    expect(shaped(around!, { outsideMinC: -300 })).toEqual({
      ok: false,
      field: "outsideMinC",
      reason: "This goes from -60 to 90 °C.",
    });
    expect(shaped(job!, { diversity: 1.4 })).toMatchObject({ ok: false, field: "diversity" });
  });
});
