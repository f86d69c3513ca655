import type { Design } from "@gray-bench/core/design/model";
import { readDesign } from "@gray-bench/core/design/read";
import type { PanelResult } from "@gray-bench/core/panel/result";
import type { RoutesResult } from "@gray-bench/core/routes/result";
import { SHOP_RULES } from "@gray-bench/core/shop/rules";
import { coloursOf } from "@gray-bench/core/wiring/landings";
import { fireEvent, screen, within } from "@testing-library/react";
import { router } from "expo-router";
import { readFileSync } from "node:fs";
import { join } from "node:path";
import { page } from "../test/page";
import { Clashes, useClashPoints } from "./Clashes";
import Depth from "./depth/Depth";
import { spaceOf } from "./depth/space";
import { usageOf } from "@gray-bench/core/panel/usage";
import LayoutSheets from "./LayoutSheets";
import { Room } from "./Room";

jest.mock("expo-router", () => jest.requireActual<object>("../test/router"));

const read = readDesign(readFileSync(join(__dirname, "../../../designs/whole/larkmoor.bench.json"), "utf8"));
if (!read.ok) throw new Error("refused");
const design: Design = read.design;
const { runStages } = jest.requireActual<typeof import("@gray-bench/core/run")>("@gray-bench/core/run");
const stages = runStages(design).stages;
const panel = stages.panel as PanelResult;
const routes = stages.routes as RoutesResult;
const colours = coloursOf(design, SHOP_RULES.classes);
const plain = (text: string | null): string => (text ?? "").replaceAll("\u2060", "");

beforeEach(() => window.history.replaceState(null, "", "/jobs/L/panel"));
const chosen = (): unknown => jest.mocked(router.setParams).mock.lastCall![0];

function Listed({ of, panel: shown = panel }: { of?: string; panel?: PanelResult }) {
  return <Clashes job="L" points={useClashPoints(shown, design)} {...(of === undefined ? {} : { of })} />;
}

test("clashes say who, by how much and which way out; one is shown, and of a thing its own alone", () => {
  page(<Listed />);
  const row = screen.getByTestId("clash-panel/bodies overlap/device/-XE5");
  expect(plain(row.textContent)).toContain("-XE5 on +B1/base and duct W41 on +B1/plate stand in each other, by 3 mm");
  expect(plain(within(row).getByTestId("mend-panel/bodies overlap/device/-XE5").textContent)).toBe("Move -XE5 5 mm to the right"); // prettier-ignore
  fireEvent.click(within(row).getByTestId("clash-show-panel/bodies overlap/device/-XE5"));
  expect(chosen()).toMatchObject({ device: "-XE5" });
});

test("nothing that clashes is said in words; of a device without a clash nothing is shown", () => {
  const { unmount } = page(<Listed panel={{ ...panel, open: [] }} />);
  expect(screen.getByText("Nothing clashes")).toBeTruthy();
  unmount();
  page(<Listed of="-G1" />);
  expect(screen.queryByRole("listitem")).toBeNull();
});

test("a layout sheet: its face, sheet and units stand in the address and in the files", () => {
  const show = (choice: object) =>
    page(<LayoutSheets job="L" panel={panel} design={design} face="+A1/door" choice={choice} />);
  const { unmount } = show({});
  const href = (id: string): URLSearchParams =>
    new URLSearchParams(screen.getByTestId(id).getAttribute("href")!.split("?")[1]);
  expect(Object.fromEntries(href("layout-pdf"))).toMatchObject({ face: "+A1/door", as: "pdf", paper: "A3", units: "mm", scale: "ruler" }); // prettier-ignore
  const asked = {};
  for (const [id, value] of [
    ["layout-paper", "A1"],
    ["layout-units", "mm and inches"],
    ["layout-scale", "as large as it goes"],
  ] as const) {
    fireEvent.change(screen.getByTestId(id), { target: { value } });
    Object.assign(asked, chosen());
  }
  expect(asked).toEqual({ paper: "A1", units: "both", scale: "fit" });
  unmount();
  show(asked);
  expect(Object.fromEntries(href("layout-dxf"))).toMatchObject({ as: "dxf", paper: "A1", units: "both", scale: "fit" });
  const picture = screen.getByTestId("layout-picture").getAttribute("src")!;
  expect(decodeURIComponent(picture)).toContain("<title>layout +A1/door</title>");
  expect(screen.getByRole("list", { name: "Legend of +A1/door" })).toBeTruthy();
});

test("without a way to draw in depth that is said, with the way to the drawing", () => {
  const quiet = jest.spyOn(console, "error").mockImplementation(() => undefined);
  window.history.replaceState(null, "", "/jobs/L/panel?show=depth");
  page(
    <Depth
      job="L"
      panel={panel}
      design={design}
      routes={routes}
      colours={colours}
      opensDeg={120}
      chosen={null}
      pick={() => undefined}
      isBrief={false}
    />,
  );
  expect(screen.getByTestId("depth-missing")).toBeTruthy();
  fireEvent.click(screen.getByTestId("depth-leave"));
  expect(chosen()).toEqual({ show: undefined });
  quiet.mockRestore();
});

test("what is seen in depth: every thing once at its place, six sheets an enclosure, wires of their colours, rows apart", () => {
  const space = spaceOf(panel, design, routes, colours, 120);
  const of = (thing: string) => space.blocks.filter((b) => b.thing === thing);
  expect(of("device").map((b) => b.of).sort()).toEqual(panel.devices.map((d) => d.tag).sort()); // prettier-ignore
  expect(of("wall")).toHaveLength(6 * design.enclosures.length);
  // -G1 stands on the plate of +A1: its front as far before the plate as it is high.
  const g1 = space.blocks.find((b) => b.of === "-G1")!;
  const placed = panel.devices.find((d) => d.tag === "-G1")!;
  const a1 = design.enclosures.find((e) => e.tag === "+A1")!;
  const aside = (a1.w - a1.plate!.w) / 2;
  expect(g1.box.min.x).toBeCloseTo(aside + placed.outline.x, 6);
  expect(g1.box.min.z).toBeCloseTo(a1.plate!.setback - placed.top, 6);
  expect(g1.onDoor).toBe(false);
  // +A2 stands beside +A1 in one row; the row of +B1 begins 600 mm behind the end of the first.
  const left = (tag: string): number => of("wall").find((b) => b.of === `${tag}/rear`)!.box.min.x;
  const a2 = design.enclosures.find((e) => e.tag === "+A2")!;
  expect([left("+A2"), left("+B1")]).toEqual([a1.w, a1.w + a2.w + 600]);
  expect(space.doors.map((d) => [d.enclosure, d.mostDeg])).toEqual(design.enclosures.map((e) => [e.tag, e.opensDeg ?? 120])); // prettier-ignore
  const wire = space.wires.find((w) => w.id === "214")!;
  expect(wire.colour).toBe(colours.get("214")!.value);
  const end = routes.wires.find((w) => w.id === "214")!.from!;
  const plate = panel.faces.find((f) => f.id === end.face)!;
  expect(wire.points[0]!.y).toBeCloseTo(plate.origin.y + end.y, 6);
  expect(wire.points[0]!.z).toBeCloseTo(plate.origin.z - end.z, 6);
  expect(space.clashes).toHaveLength(panel.clashes.length);
});

test("room: what is free of each rail, what each face carries, what states no weight; a door that is too heavy says so", () => {
  page(<Room panel={panel} design={design} doorMostKg={1} />);
  const { rails, faces } = usageOf(panel, design, { doorMostKg: 1 });
  for (const r of rails)
    expect(plain(screen.getByTestId(`room-${r.rail}`).textContent)).toContain(
      `${r.freeMm.toLocaleString("en-US")} mm of`,
    );
  const heavy = faces.find((f) => f.carriesKg !== null && f.kg > 1)!;
  expect(plain(screen.getByTestId(`room-${heavy.face}`).textContent)).toContain(`${heavy.kg} kg of 1 kg that the door carries: too heavy`); // prettier-ignore
  fireEvent.click(screen.getByTestId(`room-show-${rails[0]!.rail}`));
  expect(chosen()).toMatchObject({ rail: rails[0]!.rail });
});
