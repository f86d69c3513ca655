import { readFileSync } from "node:fs";
import { join } from "node:path";
import type { Design } from "@gray-bench/core/design/model";
import { SHOP_RULES } from "@gray-bench/core/shop/rules";
import { EDITS } from "@gray-bench/core/edits";
import { compute } from "@gray-bench/core/heat/compute";
import { Trials } from "@gray-bench/core/heat/trials";
import { compute as computePanel } from "@gray-bench/core/panel/compute";
import { compute as computeRoutes } from "@gray-bench/core/routes/compute";
import { cleanup, fireEvent, screen, waitFor, within } from "@testing-library/react";
import type { Act } from "@gray-bench/core/frame/act";
import { page } from "../test/page";
import { HeatView, type HeatChoice } from "./HeatView";
import { loadAct, mountAct, outletAct, surfacesAct, takeOverAct, valueActs } from "@gray-bench/core/heat/acts";
import { verdictText } from "./say";
import { trialOf } from "./tryParams";

jest.mock("expo-router", () => jest.requireActual<object>("../test/router"));
jest.mock("./makeWorker", () => jest.requireActual<object>("../test/heatWorker"));

const LARK = JSON.parse(readFileSync(join(__dirname, "../../../designs/whole/larkmoor.bench.json"), "utf8")) as Design;
const work = (d: Design) => {
  const panel = computePanel(d);
  return compute(d, SHOP_RULES, panel, computeRoutes(d, SHOP_RULES, panel));
};
const result = work(LARK);
const panel = computePanel(LARK);
const zone = (tag: string) => result.zones.find((z) => z.zone === tag)!;
const view = (choice: HeatChoice) =>
  page(<HeatView job="LARK-2601" result={result} panel={panel} design={LARK} choice={choice} />);

// The browser of these tests has no places to scroll to.
beforeAll(() => {
  HTMLElement.prototype.scrollIntoView = () => undefined;
});

describe("the view of heat", () => {
  test("one figure on top, its zones as links, the map with its lines and the air beside it", () => {
    view({ zone: "+A2" });
    expect(screen.getByTestId("verdict").textContent).toMatch(/^short by \d+ W$/);
    expect(screen.getByTestId("zone-+A2").getAttribute("aria-current")).toBe("true");
    const map = screen.getByTestId("map-+A2/plate");
    expect(map.textContent).toMatch(/lines in W\/dm²; the hottest \d+\.\d\d/);
    // Lines an even step apart.
    const lines = [...within(map).getByTestId("map-legend").children].map((x) => Number(x.textContent));
    expect(lines.length).toBeGreaterThan(2);
    lines.forEach((l, i) => expect(l).toBeCloseTo((i + 1) * lines[0]!, 9));
    expect(within(map).getByTestId("column").getAttribute("aria-label")).toMatch(/below, .* °C above/);
  });

  test("units as cards: duty, saving against what stands there, the curve, the rule of thumb beside them", () => {
    view({ zone: "+A1", show: "units" });
    expect(screen.getByTestId("standing").textContent).toContain("E10 (TT-CU1000)");
    const fan = screen.getByTestId("unit-1xTT-FF560").textContent;
    expect(fan).toMatch(/53 % duty.*saves 86 kWh/);
    expect(screen.getByTestId("unit-chart").textContent).toMatch(/Hottest hour: 207 W of 1,044 W, 20 %/);
    expect(screen.getByTestId("thumb").textContent).toContain("Losses as rated and a fifth more");
  });

  test("the curve of a chosen unit has its address; one that the library has not says so", () => {
    view({ zone: "+A1", show: "units", unit: "1xTT-FF560" });
    expect(screen.getByTestId("chosen-unit").textContent).toMatch(/Hottest hour: 207 W of \d+ W, 53 %/);
    expect(screen.getByTestId("year-chart").getAttribute("aria-label")).toMatch(/Runs [\d,]+ of 8,760 hours/);
  });

  test("a tapped figure shows how it came to be", () => {
    view({ zone: "+A1", figure: "coefficient" });
    const terms = within(screen.getByTestId("working")).getAllByTestId("term");
    expect(terms).toHaveLength(6);
    expect(screen.getByTestId("working-total").textContent).toBe("23.1 W/K");
  });

  test("every value it is worked out with says who states it", () => {
    view({ zone: "+B1" });
    const said = within(screen.getByTestId("heat-values"))
      .getAllByRole("listitem")
      .map((x) => x.textContent);
    expect(said).toContain("lowest temperature outside-8 °Cof this zone");
    expect(said).toContain("share of devices at load at once0.7of this job");
    expect(said.find((t) => t!.startsWith("height above sea"))).toBe("height above sea200 mshop default");
  });

  test("winter: what is too cold and wet says so, and heaters are proposed", () => {
    view({ zone: "+B1", show: "units" });
    expect(screen.getByTestId("verdict").textContent).toBe("too cold by 27 W");
    expect(screen.getByTestId("units").textContent).toMatch(/2 × TT-H60.*puts in 120 W/);
    expect(verdictText({ ...zone("+B1"), heaterNeededW: 0 })).toBe("water settles in the cold");
  });

  test("devices: what is wrong with each, and one with its surroundings", () => {
    view({ zone: "+A2", show: "devices", device: "-U20" });
    expect(screen.getByTestId("heat-row--U20").textContent).toMatch(/287 W.*may carry less/);
    expect(screen.getByTestId("heat-device").textContent).toMatch(/bears 50 °C; it may carry \d+ % of its rating/);
    fireEvent.click(screen.getByTestId("device-order-trouble"));
    expect(screen.getAllByRole("listitem")[0]!.textContent).toMatch(/may carry less|too hot/);
  });

  test("the air before a plate, and what a deflector would do", async () => {
    view({ zone: "+A2", show: "air", unit: "-E20", turn: "left" });
    await screen.findByTestId("air-map-+A2/plate");
    expect(screen.getByTestId("air-+A2/plate").textContent).toMatch(
      /^46 % of the free .* Without this change it is 40 %/,
    );
    expect(screen.getByTestId("turn-left").getAttribute("aria-current")).toBe("true");
    expect(screen.getByTestId("dead").textContent).toContain("-U16");
    screen.getByTestId("air-outlet-left");
  });

  test("a zone without units has no air to show, and says so", () => {
    view({ zone: "+B1", show: "air" });
    screen.getByText("No unit blows here");
  });

  test("what if: an address is tried, beside it what is; it becomes edits", async () => {
    view({ zone: "+A2", show: "try", out: "30", load: "80" });
    await waitFor(() => expect(screen.getByTestId("tried-verdict").textContent).toMatch(/^fits: \d+ % duty$/));
    expect(screen.getByTestId("tried").textContent).toContain("It is short by 333 W");
    expect(screen.getByTestId("slide-out-said").textContent).toBe("30 °C");
    screen.getByTestId("try-take-over");
    fireEvent.change(screen.getByTestId("slide-out"), { target: { value: "55" } });
    await waitFor(() => expect(screen.getByTestId("tried-verdict").textContent).toMatch(/^short by/));
    expect(screen.getByTestId("slide-out-said").textContent).toBe("55 °C");
  });

  test("what if: a unit without a place is refused with the reason; an open door alone is not kept", async () => {
    view({ zone: "+B1", show: "try", with: "TT-CR2000" });
    await waitFor(() => expect(screen.getByTestId("try-refused").textContent).toMatch(/TT-CR2000 has no place: /));
    cleanup();
    view({ zone: "+A2", show: "try", door: "open" });
    await screen.findByText("An open door alone is nothing to be kept.");
    expect(screen.getByTestId("try").textContent).toMatch(/[\d,]+ W leave at 40 °C inside and 37 °C outside/);
  });

  test("temperatures are shown in the unit of whoever reads", () => {
    localStorage.setItem("gray-bench.settings", JSON.stringify({ temperature: "F" }));
    view({ zone: "+A2", figure: "inside_without_cooling" });
    expect(screen.getByTestId("heat-head").textContent).toContain("104 °F wanted at most inside");
    expect(screen.getByTestId("figure-inside_without_cooling").textContent).toContain("214.8 °F");
    expect(screen.getByTestId("working-total").textContent).toBe("214.8 °F");
    localStorage.clear();
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

  test("what was tried, taken over as edits, is what the design then gives", () => {
    const z = zone("+A2");
    const trials = new Trials({ design: LARK, panel, heat: result });
    const tried = trials.run("+A2", trialOf({ out: "30", load: "80", stands: "free", with: "TT-CU600" }, z))!;
    const act = takeOverAct(tried.trial, z)!;
    let design = lay(act, act.payloads[0]!);
    for (const { kind, payload } of act.more!) {
      const applied = EDITS.apply(design, { kind, payload });
      if (!applied.ok) throw new Error(applied.reason);
      design = applied.design;
    }
    const after = work(design).zones.find((x) => x.zone === "+A2")!;
    expect(after.units.map((u) => u.part).sort()).toEqual(["TT-CU1500", "TT-CU600"]);
    expect(after.wPerK).toBeCloseTo(tried.zone.wPerK, 9);
    expect(after.carriedW).toBeCloseTo(tried.zone.carriedW, 9);
    // Wires carry as much as before: a device's load is no current of a net.
    expect(after.lossW - after.wiresW).toBeCloseTo(tried.zone.lossW - tried.zone.wiresW, 6);
    expect(takeOverAct(trialOf({ door: "open" }, z), z)).toBeNull();
  });

  test("two units at once, how it stands, loads of many, a deflector", () => {
    const z = zone("+A2");
    const two = z.fits.find((f) => f.parts[0]!.count === 2 && f.holds && f.mounts)!;
    const act = mountAct(z, two, LARK)!;
    expect(act.payloads.map((p) => (p as { device: string }).device)).toEqual(["-E20", "-E1"]);
    let design = LARK;
    for (const payload of act.payloads) {
      const applied = EDITS.apply(design, { kind: act.kind, payload });
      if (!applied.ok) throw new Error(applied.reason);
      design = applied.design;
    }
    expect(work(design).zones.find((x) => x.zone === "+A2")!.units).toHaveLength(2);

    const stands = surfacesAct(LARK, "+B1")!.shape!({ values: { left: "covered" }, set: new Set(["left"]) });
    expect(
      stands.ok && lay(surfacesAct(LARK, "+B1")!, stands.payload).enclosures.find((e) => e.tag === "+B1")!.surfaces,
    ).toMatchObject({ left: "covered", rear: "free" });
    const loads = loadAct(z.devices.slice(0, 2));
    expect(loads.payloads).toHaveLength(2);
    expect(loads.asks[0]!.now).toBe(1);
    const turned = lay(outletAct("-E20", "left"), outletAct("-E20", "left").payloads[0]!);
    expect(turned.devices.find((d) => d.tag === "-E20")!.deflector).toBe("left");
  });
});
