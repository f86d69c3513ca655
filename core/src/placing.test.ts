import { EDITS } from "./edits";
import { Placings } from "./placing";
import { runStages } from "./run";
import { DEFAULT_SHOP } from "./shop/shop";
import type { PanelResult } from "./panel/result";
import type { RoutesResult } from "./routes/result";
import { demo } from "./test/demo";

const DEMO = demo("larkmoor");

test("what is told before a device is let go is what the stages say once it is laid", () => {
  const placings = new Placings({ design: DEMO, rules: DEFAULT_SHOP.rules });
  const now = runStages(DEMO).stages.routes as RoutesResult;
  const edits = [
    { kind: "insert", payload: { device: "-K13", beside: "-F7", side: "behind" } },
    { kind: "place", payload: { device: "-K13", on: { rail: "R2", x: 10 } } },
  ];
  for (const edit of edits) {
    const told = placings.wires(edit);
    const applied = EDITS.apply(DEMO, edit);
    if (!applied.ok) throw new Error(applied.reason);
    const { panel, routes } = runStages(applied.design).stages as { panel: PanelResult; routes: RoutesResult };
    expect(told.wireMm).toEqual({ now: now.totalMm, then: routes.totalMm });
    expect(told.wireMm.then).not.toBe(told.wireMm.now);
    expect(placings.clashes(edit, "-K13")).toEqual(panel.clashes.filter((c) => c.a.of === "-K13" || c.b.of === "-K13"));
    const fills = routes.edges.flatMap((e) => (e.kind === "piece" ? [e.fillPercent] : []));
    expect(told.fullest!.percent).toBe(Math.max(...fills));
  }
  // The second lies in what stands there.
  expect(placings.clashes(edits[1]!, "-K13").length).toBeGreaterThan(0);
  expect(() => placings.wires({ kind: "place", payload: { device: "-NIX", on: { rail: "R2" } } })).toThrow(
    "there is no device -NIX",
  );
});
