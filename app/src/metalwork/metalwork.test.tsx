import { readFileSync } from "node:fs";
import { join } from "node:path";
import type { MachineNow } from "@gray-bench/contract/metalwork";
import type { Design } from "@gray-bench/core/design/model";
import { SHOP_RULES } from "@gray-bench/core/shop/rules";
import { EDITS } from "@gray-bench/core/edits";
import { compute } from "@gray-bench/core/metalwork/compute";
import type { MetalworkResult } from "@gray-bench/core/metalwork/result";
import { compute as computePanel } from "@gray-bench/core/panel/compute";
import { screen, waitFor, within } from "@testing-library/react";
import type { Act } from "@gray-bench/core/frame/act";
import { page, serve } from "../test/page";
import { togetherOf } from "./CutTogether";
import {
  addHoleActs,
  areaActs,
  bodyActs,
  fixingAct,
  glandsAct,
  mitreAct,
  ownHoleActs,
  sheetAct,
} from "@gray-bench/core/metalwork/acts";
import type { MetalworkChoice } from "./choice";
import { MetalworkView } from "./MetalworkView";
import { cutsOf } from "./Saw";
import { toolText } from "@gray-bench/core/metalwork/say";
import { minutesText } from "./say";

jest.mock("expo-router", () => jest.requireActual<object>("../test/router"));

const LARK = JSON.parse(readFileSync(join(__dirname, "../../../designs/whole/larkmoor.bench.json"), "utf8")) as Design;
const rules = SHOP_RULES.metalwork;
const panel = computePanel(LARK);
const result = compute(LARK, rules, panel);
const face = (id: string) => result.faces.find((f) => f.face === id)!;

beforeAll(() => {
  jest.spyOn(Element.prototype, "clientHeight", "get").mockReturnValue(844);
  jest.spyOn(Element.prototype, "clientWidth", "get").mockReturnValue(390);
  HTMLElement.prototype.scrollIntoView = () => undefined;
});
afterAll(() => jest.restoreAllMocks());

const view = (choice: MetalworkChoice, of: MetalworkResult = result) =>
  page(<MetalworkView job="LARK-2601" result={of} panel={panel} design={LARK} rules={rules} choice={choice} />);

const machine = (more: Partial<MachineNow> = {}): MachineNow => ({
  name: "Tallow 3",
  state: "idle",
  heardAt: "2026-11-26T10:00:00Z",
  jobs: [],
  ...more,
});

describe("the view of metalwork", () => {
  test("every hole in its row, with what asks for it; the side that is up is named", () => {
    view({ face: "+A1/door", show: "holes" });
    const rows = within(screen.getByTestId("hole-list")).getAllByRole("listitem");
    expect(rows[0]!.textContent!.replace(/\u2060/g, "")).toContain("M6, core Ø 5hole 2 of -E10");
    view({ face: "+A1/door", show: "sheet" });
    expect(screen.getByTestId("sheet-seen").textContent).toContain("Drilled as seen from outside on Tallow 3");
  });

  test("an open point about a device leads to its face and its hole", () => {
    view({ device: "-E20", show: "holes" });
    expect(screen.getByTestId("hole-head").textContent).toContain("Hole");
    expect(screen.getByTestId("hole-details").textContent!.replace(/\u2060/g, "")).toContain("-E20");
  });

  test("nothing there, a face without holes, a machine that is not known: each says what to do", () => {
    view({}, { ...result, faces: [] });
    expect(screen.getByTestId("empty").textContent).toContain("hole patterns");
    document.body.innerHTML = "";
    view({ face: "+Z9/door" });
    expect(screen.getByTestId("empty").textContent).toContain("Choose a face above");
    document.body.innerHTML = "";
    const gone = compute(LARK, { ...rules, machine: "Gone" }, panel);
    view({ face: "+A1/door", show: "machine" }, gone);
    expect(screen.getByTestId("empty").textContent).toContain("Name another under Sheet");
  });

  test("the card says which side is up, what to load, and where the machine stands", async () => {
    serve({
      "GET /api/machines": [200, { machines: [machine({ state: "away", why: "it does not answer" })] }],
      "POST /api/jobs/LARK-2601/events": [200, { events: [], last: 0 }],
    });
    view({ face: "+A2/plate", show: "machine" });
    expect(screen.getByTestId("card-seen").textContent).toBe("FRONT SIDE UP");
    expect(screen.getByTestId("lie").getAttribute("aria-label")).toBe(
      "The sheet on Tallow 3: front side up, a quarter turn counter-clockwise, its lower left corner on the datum",
    );
    expect(screen.getByTestId("operator-card").textContent).toContain("T12tap M5");
    await waitFor(() =>
      expect(screen.getByTestId("machine-state").textContent).toContain("is away: it does not answer"),
    );
  });
});

describe("what can be done", () => {
  /** The payload of an act with answers, checked and laid on the theatre. */
  const laid = (act: Act, values: Record<string, string | number> = {}): Design => {
    const set = new Set(Object.keys(values));
    const all = { ...Object.fromEntries(act.asks.map((a) => [a.field, a.now])), ...values };
    const shaped = act.shape?.({ values: all, set }) ?? { ok: true as const, payload: act.payloads[0]! };
    if (!shaped.ok) throw new Error(`${shaped.field ?? ""}: ${shaped.reason}`);
    const applied = EDITS.apply(LARK, { kind: act.kind, payload: shaped.payload });
    if (!applied.ok) throw new Error(applied.reason);
    return applied.design;
  };
  const plate = (d: Design) => d.faces.find((f) => f.enclosure === "+A1" && f.kind === "door");
  const door = face("+A1/door");

  test("patterns, sheets, mitres and glands become edits that fit", () => {
    const tapped = laid(fixingAct({ thing: "device", of: "-U20" }, LARK), { fixing: "tapped" });
    expect(tapped.devices.find((d) => d.tag === "-U20")!.fixing).toBe("tapped");
    expect(
      laid(sheetAct(door, plate(LARK), rules), { seen: "inside", machine: "Wickett" }).faces.find(
        (f) => f.enclosure === "+A1" && f.kind === "door",
      ),
    ).toMatchObject({
      seen: "inside",
      machine: "Wickett",
    });
    expect(
      laid(mitreAct("duct", "W9", LARK), { ends: "both at 45°" }).ducts.find((d) => d.tag === "W9")!.mitre,
    ).toEqual(["start", "end"]);
    const plan = result.entries.find((e) => e.enclosure === "+A1")!;
    const glands = laid(glandsAct(plan, LARK)!);
    expect(glands.cables.find((c) => c.tag === "-W66")!.gland).toMatch(/^-XE\d+$/);
    expect(compute(glands, rules, computePanel(glands)).entries.find((e) => e.enclosure === "+A1")).toMatchObject({
      proposed: [],
      spare: [expect.any(String)],
    });
  });

  test("a device is moved and turned with its holes; what stands on no face is not", () => {
    const [move, turn] = bodyActs("-E20", LARK);
    expect(laid(move!, { x: 460 }).devices.find((d) => d.tag === "-E20")!.on).toEqual({
      face: "+A2/door",
      x: 460,
      y: 1150,
    });
    expect(laid(turn!, { turn: "90" }).devices.find((d) => d.tag === "-E20")!.turn).toBe(90);
    expect(bodyActs("-X2.1", LARK)).toEqual([]);
  });

  test("own holes and areas: added, changed, taken away; what is missing is refused in its field", () => {
    const acts = addHoleActs("+A1/door");
    const round = acts.find((a) => a.id === "add-round")!;
    const added = laid(round, { x: 100, y: 200, d: 22.3 });
    expect(plate(added)!.holes).toEqual([{ kind: "round", x: 100, y: 200, d: 22.3 }]);
    expect(() => laid(round, { x: 100, y: 200 })).toThrow("d: This is needed.");
    expect(() => laid(round, { x: 100, y: 200, d: 0 })).toThrow("d: This is more than 0.");
    for (const act of acts)
      expect(
        laid(act, Object.fromEntries(act.asks.map((a) => [a.field, a.as === "choice" ? "M5" : 20]))).faces.length,
      ).toBeGreaterThan(0);
    const [change, drop] = ownHoleActs("+A1/door", 1, plate(added));
    expect([change!.kind, drop!.kind]).toEqual(["change hole", "take hole away"]);
    expect(ownHoleActs("+A1/door", 9, plate(added))).toEqual([]);
    const areas = areaActs("+A1/door", plate(LARK));
    expect(areas.map((a) => a.id)).toEqual(["add-keepOuts", "drop-keepOuts-0", "add-entries"]);
    expect(plate(laid(areas[0]!, { x: 1, y: 2, w: 3, h: 4, text: "hinge" }))!.keepOuts).toHaveLength(2);
    expect(plate(laid(areas[1]!))?.keepOuts).toBeUndefined();
    expect(() => laid(areas[0]!, { x: 1, y: 2, w: 0, h: 4 })).toThrow("w: This is more than 0.");
  });
});

test("words: times, tools, cuts in the order of the saw, jobs cut together", () => {
  expect([minutesText(38.4), minutesText(252)]).toEqual(["38 s", "4 min 12 s"]);
  expect([toolText("T3", rules.tools), toolText("T12", rules.tools), toolText("T99", rules.tools)]).toEqual([
    "drill Ø 4.2",
    "tap M5",
    "T99",
  ]);
  const cuts = cutsOf(result);
  expect(new Set(cuts.map((c) => c.id)).size).toBe(cuts.length);
  expect(cuts).toHaveLength(result.bars.reduce((n, b) => n + b.list.bars.reduce((m, x) => m + x.pieces.length, 0), 0));
  expect(togetherOf("A", {})).toBeNull();
  expect(togetherOf("A", { panels: "3" })).toBe("A:3");
  expect(togetherOf("A", { panels: "x", with: "B:2,C" })).toBe("A:1,B:2,C");
});
