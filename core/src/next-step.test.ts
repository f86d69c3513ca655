import { readFileSync } from "node:fs";
import { join } from "node:path";
import type { Design } from "./design/model";
import type { OpenPoint } from "./design/open-points";
import { nextStep } from "./next-step";
import { runStages } from "./run";

const point = (id: string, more: Partial<OpenPoint>): OpenPoint => ({
  id,
  severity: "stop",
  stage: "routes",
  kind: "k",
  text: id,
  remedy: "",
  thing: "device",
  of: id,
  ...more,
});
const mend = { label: "Place it", kind: "place", payload: {}, asks: [] };

test("nothing open: nothing to do; what was accepted is not open", () => {
  expect(nextStep([])).toEqual({ open: { stop: 0, check: 0, note: 0 }, first: null, others: 0 });
  const accepted = point("-K1", { accepted: { who: "M", why: "so" } });
  expect(nextStep([accepted, point("n", { severity: "note", stands: 12 })])).toMatchObject({
    open: { stop: 0, check: 0, note: 12 },
    first: { id: "n" },
  });
});

test("first comes the thing that most others speak of, among the worst; of equals one that an edit settles", () => {
  const points = [
    point("a", { thing: "wire", of: "7", text: "wire 7 has no length: -K41 has no place" }),
    point("b", { thing: "device", of: "-K41", text: "-K41 is loose" }),
    point("c", { severity: "check", text: "2 wires are not made (-K41, -K410): 7, 8", of: "x" }),
    point("d", { severity: "check", thing: "wire", of: "8", text: "wire 8: -K410" }),
  ];
  // -K41 is named by three, one of them its own; -K410 is another device, and `7` in a list is no wire.
  expect(nextStep(points)).toEqual({ open: { stop: 2, check: 2, note: 0 }, first: points[1], others: 2 });
  const equal = [point("-A1", {}), point("-A2", { mend }), point("-A3", { mend })];
  expect(nextStep(equal).first!.id).toBe("-A2");
});

test("of the demo job the wire whose pin is not there comes first: two others speak of it, as of the relay without a place, which is found later", () => {
  const design = JSON.parse(readFileSync(join(__dirname, "../../designs/whole/larkmoor.bench.json"), "utf8")) as Design;
  const { open, first, others } = nextStep(runStages(design).open);
  expect([first!.of, first!.mend!.label, others]).toEqual(["513", "Lead it to another pin", 2]);
  expect(open.stop).toBe(9);
});
