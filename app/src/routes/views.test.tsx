import type { JobDetail } from "@gray-bench/contract/jobs";
import { readDesign } from "@gray-bench/core/design/read";
import type { IntakeResult } from "@gray-bench/core/intake/result";
import type { PanelResult } from "@gray-bench/core/panel/result";
import type { PieceEdge, RoutesResult } from "@gray-bench/core/routes/result";
import { coloursOf } from "@gray-bench/core/wiring/landings";
import { SHOP_RULES } from "@gray-bench/core/shop/rules";
import { fireEvent, screen, within } from "@testing-library/react";
import { router } from "expo-router";
import { readFileSync } from "node:fs";
import { join } from "node:path";
import { IntakeView } from "../intake/IntakeView";
import { Cables } from "../intake/NetworkTray";
import { OpenPointsView } from "../open/OpenPointsView";
import { DeviceDetails } from "../panel/DeviceDetails";
import { page } from "../test/page";
import { layoutOf } from "../sheet/useSheet";
import { layOut } from "@gray-bench/core/panel/sheet";
import { pieceBoxes } from "./FillLayer";
import { FilterPanel } from "./FilterPanel";
import { PieceDetails } from "./PieceDetails";
import { WireDetails } from "./WireDetails";
import { lineOf } from "./WireLayer";
import { WireList } from "./WireList";

jest.mock("expo-router", () => jest.requireActual<object>("../test/router"));

/** Results of the demo, computed as the server would. */
function computed(name: string) {
  const read = readDesign(readFileSync(join(__dirname, `../../../designs/whole/${name}.bench.json`), "utf8"));
  if (!read.ok) throw new Error("refused");
  // The core's own stages stand in for the server here; the app itself never runs them.
  const { runStages } = jest.requireActual<typeof import("@gray-bench/core/run")>("@gray-bench/core/run");
  const results = runStages(read.design);
  return {
    design: read.design,
    intake: results.stages.intake as IntakeResult,
    panel: results.stages.panel as PanelResult,
    routes: results.stages.routes as RoutesResult,
    open: results.open,
  };
}

const lark = computed("larkmoor");
const context = { design: lark.design, shop: SHOP_RULES };
const colours = coloursOf(lark.design, SHOP_RULES.classes);
const wire = (id: string) => lark.routes.wires.find((w) => w.id === id)!;

describe("one wire", () => {
  const show = (id: string) =>
    page(
      <WireDetails job="L" result={lark.routes} wire={wire(id)} context={context} others={false} colours={colours} />,
    );

  test("its way, its ends with treatment, and a working that adds up", () => {
    show("214");
    expect(screen.getByTestId("way").textContent!.replaceAll("\u2060", "")).toBe(
      "up into W4, right along W4, down to -K14",
    );
    const shown = screen
      .getAllByTestId("term")
      .map((t) =>
        Number(
          /([\d,.]+) mm(?=\D|$)/
            .exec(
              [...t.querySelectorAll("*")].map((e) => e.textContent ?? "").find((x) => /^[\d,.]+ mm$/.test(x)) ??
                "0 mm",
            )![1]!
            .replace(",", ""),
        ),
      );
    expect(shown.reduce((a, b) => a + b, 0)).toBeCloseTo(wire("214").lengthMm!, 6);
    expect(screen.getByTestId("working-total").textContent).toBe("425 mm");
    expect(screen.getByTestId("wire-details").textContent).toContain("twin ferrule");
  });

  test("asked for another number, it explains that one", () => {
    show("214");
    fireEvent.click(screen.getByTestId("why-colour"));
    expect(screen.getByTestId("working").textContent).toContain("given on its net: P24.8");
    fireEvent.click(screen.getByTestId("why-size"));
    expect(screen.getByTestId("working-total").textContent).toBe("1.5 mm²");
  });

  test("without a way it says why and shows no length", () => {
    show("492");
    expect(screen.getByRole("alert").textContent!.replaceAll("\u2060", "")).toBe("No length: -K41 has no place.");
    expect(screen.queryByTestId("working-total")).toBeNull();
  });

  test("with one end it says which is missing", () => {
    show("514");
    expect(screen.getByTestId("wire-details").textContent).toContain("to: this end is missing");
  });

  test("a fallback is told in words", () => {
    const id = lark.routes.wires.find((w) => w.marks.includes("no-pin-geometry"))!.id;
    show(id);
    expect(screen.getByTestId("wire-details").textContent).toContain("the pin has no position");
    expect(screen.getAllByText("rests on a fallback").length).toBeGreaterThan(0);
  });

  test("its line ends where its pins are", () => {
    const layout = layoutOf(layOut(lark.panel, new Map()));
    const w = wire("439");
    const line = lineOf(lark.routes, w, layout);
    expect(line.ends).toEqual([layout.at(w.from!.face, w.from!.x, w.from!.y), layout.at(w.to!.face, w.to!.x, w.to!.y)]);
    // Plate to plate and plate to door: two leaps.
    expect(line.leaps.match(/M/g)).toHaveLength(2);
    expect(lineOf(lark.routes, wire("492"), layout)).toMatchObject({ d: "", box: null });
  });
});

describe("a piece of duct", () => {
  const edge = lark.routes.edges.findIndex((e) => e.kind === "piece" && e.id === "W21.5");
  const piece = lark.routes.edges[edge] as PieceEdge;

  test("lists what lies in it and explains its fill", () => {
    page(<PieceDetails job="L" result={lark.routes} edge={edge} context={context} colours={colours} />);
    expect(within(screen.getByTestId("piece-wires")).getAllByRole("link")).toHaveLength(piece.wires);
    expect(screen.getByTestId("working-total").textContent).toBe(`${piece.fillPercent} %`);
    expect(screen.getByTestId("piece-details").textContent).toContain("to be watched");
  });

  test("its box lies within its duct, and the boxes of a duct cover it", () => {
    const layout = layoutOf(layOut(lark.panel, new Map()));
    const boxes = pieceBoxes(lark.panel, lark.routes, layout);
    for (const d of lark.panel.ducts) {
      const own = boxes.filter((b) => b.piece.duct === d.tag);
      expect(own.reduce((s, b) => s + (b.flat ? b.w : b.h), 0)).toBeCloseTo(d.length, 6);
    }
  });
});

describe("the list", () => {
  const show = (wires = lark.routes.wires, filter = {}) =>
    page(
      <WireList
        job="L"
        result={lark.routes}
        wires={wires}
        colours={colours}
        filter={filter}
        change={change}
        chosen={undefined}
        choose={() => undefined}
      />,
    );
  const change = jest.fn();

  test("counts, names what narrows it, and offers to show all when nothing fits", () => {
    show([], { q: "nix", class: "signal" });
    expect(screen.getByTestId("wire-count").textContent).toBe("0 of 513 wires · signal");
    fireEvent.click(screen.getByText("Show all"));
    expect(change).toHaveBeenCalledWith(expect.objectContaining({ q: "", class: "" }));
  });

  test("the panel to narrow it offers what occurs", () => {
    const close = jest.fn();
    page(
      <FilterPanel result={lark.routes} colours={colours} filter={{ class: "signal" }} change={change} close={close} />,
    );
    expect(screen.getByTestId("class-signal").getAttribute("aria-pressed")).toBe("true");
    for (const id of ["colour-GNYE", "colour-none", "enclosure-+B1", "show-fallback"])
      expect(screen.getByTestId(id)).toBeDefined();
    fireEvent.click(screen.getByTestId("sort-length"));
    expect(change).toHaveBeenCalledWith({ sort: "length" });
    fireEvent.click(screen.getByTestId("filter-done"));
    expect(close).toHaveBeenCalled();
  });
});

test("a device shows part, place and each of its wires with the other end", () => {
  const device = lark.panel.devices.find((d) => d.tag === "-U13")!;
  page(
    <DeviceDetails
      job="L"
      device={device}
      routes={lark.routes}
      colours={colours}
      design={lark.design}
      pin={undefined}
      clashes={[]}
      moved={{ right: 0, up: 0 }}
      move={() => undefined}
    />,
  );
  const told = screen.getByTestId("device-details").textContent!;
  for (const part of ["hoist drive 11 kW", "fly bar 3", "OH-VD11", "on +A2/plate", "Wires (22)", "L1 to -K53:2T1"])
    expect(told).toContain(part);
});

test("open points stand in groups, each line leads to its place", () => {
  page(<OpenPointsView job="L" points={lark.open} />);
  const line = (id: string) => screen.getAllByTestId(id)[0]!.getAttribute("href");
  expect(line("point-wire-492")).toBe("/jobs/L/routes?wire=492");
  expect(line("point-device--K41")).toBe("/jobs/L/panel?device=-K41");
  expect(line("point-crossing-N3")).toBe("/jobs/L/routes?crossing=N3");
  expect(line("point-piece-W21.5")).toBe("/jobs/L/routes?piece=W21.5");
  expect(line("point-part-QM-HORN")).toBe("/jobs/L/panel?part=QM-HORN");
  expect(screen.getAllByTestId(/^group-/).map((g) => g.textContent!.match(/^(stop|check|note)/)![0])).toEqual(
    [...screen.getAllByTestId(/^group-/).map((g) => g.textContent!.match(/^(stop|check|note)/)![0])].sort(
      (a, b) => "scn".indexOf(a[0]!) - "scn".indexOf(b[0]!),
    ),
  );
});

test("Intake shows what came in, the options, and a cable that was looked for", () => {
  const job = {
    code: "L",
    revision: "B",
    revisions: ["B", "A"].map((revision) => ({ revision, designHash: revision, importedAt: "2026-11-23T00:00:00Z" })),
    importedAt: "2026-11-23T00:00:00Z",
    enclosures: [],
    options: lark.design.options,
    rules: lark.design.rules,
  } as unknown as JobDetail;
  page(<IntakeView job={job} intake={lark.intake} opened={{}} parts={false} />);
  // The one that counts has no button; the other is asked about first.
  expect(screen.queryByTestId("put-back-B")).toBeNull();
  fireEvent.click(screen.getByTestId("put-back-A"));
  expect(screen.getByTestId("put-back-A-now").textContent).toBe("Put A back");
  expect(screen.getByTestId("options").textContent).toContain("orchestra lift: not fitted");
  expect(screen.getByTestId("options").textContent).toContain(
    "Left out with these choices: 3 devices, 15 wires, 0 cables.",
  );
  page(<Cables job="L" design={lark.design} chosen="-W61" />);
  expect(screen.getByTestId("cable").textContent!.replaceAll("\u2060", "")).toContain(
    "from +A1 to grid limit switches, entering at -XE1",
  );
  expect(router.setParams).not.toHaveBeenCalled();
});
