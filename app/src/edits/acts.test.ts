import { readFileSync } from "node:fs";
import { join } from "node:path";
import { lookUp } from "@gray-bench/core/design/lookup";
import type { Design } from "@gray-bench/core/design/model";
import { EDITS } from "@gray-bench/core/edits";
import { runStages } from "@gray-bench/core/run";
import type { RoutesResult } from "@gray-bench/core/routes/result";
import type { Settings } from "../kit/settings";
import { barActs } from "../panel/barActs";
import { deviceActs, manyDevicesActs } from "../panel/deviceActs";
import { addCrossingAct, crossingActs } from "../routes/crossingActs";
import { addWireAct, manyWiresActs, netActs, wireActs } from "../routes/wireActs";
import type { Act } from "./act";
import { answer, choicesOf, withAnswer } from "./answers";

const design = JSON.parse(readFileSync(join(__dirname, "../../../designs/larkmoor.bench.json"), "utf8")) as Design;
const routes = runStages(design).stages.routes as RoutesResult;
const wire = routes.wires.find((w) => w.id === "214")!;
const settings: Settings = { length: "mm", size: "mm2", temperature: "C", light: "day", name: "" };

/** Answers an act as a person would, and lays what comes out. */
function lay(act: Act, typed: Record<string, string> = {}) {
  const values: Record<string, string | number | null | undefined> = {};
  const set = new Set<string>();
  for (const ask of act.asks) {
    const got = answer(ask, typed[ask.field], settings);
    if (!got.ok) return { refused: `${ask.field}: ${got.reason}` };
    values[ask.field] = got.value;
    if (got.set) set.add(ask.field);
  }
  let now = design;
  for (const first of act.payloads) {
    let payload = first;
    if (act.shape) {
      const shaped = act.shape({ values, set });
      if (!shaped.ok) return { refused: `${shaped.field ?? "all"}: ${shaped.reason}` };
      payload = shaped.payload;
    } else for (const field of set) payload = withAnswer(payload, field, values[field]);
    const edit = { kind: act.kind, payload };
    const faults = EDITS.faults(edit.kind, edit.payload);
    if (faults.length > 0) return { refused: faults.map((f) => `${f.path}: ${f.expected}`).join() };
    const applied = EDITS.apply(now, edit);
    if (!applied.ok) return { refused: applied.reason };
    now = applied.design;
  }
  return { design: now };
}

const by = (acts: Act[], id: string): Act => acts.find((a) => a.id === id)!;
const laid = (act: Act, typed?: Record<string, string>): Design => {
  const { design: next, refused } = lay(act, typed);
  if (!next) throw new Error(refused);
  return next;
};

describe("what is offered for a thing gives edits that fit", () => {
  test("wires: colour, size, strands, ends, name, many at once", () => {
    const acts = wireActs(design, wire);
    const of = (d: Design) => d.wires.find((w) => w.number === "214")!;
    expect(of(laid(by(acts, "colour"), { colour: "PK" })).colour).toBe("PK");
    expect(of(laid(by(acts, "size"), { sizeMm2: "14 AWG" })).sizeMm2).toBe(2.081);
    expect(of(laid(by(acts, "strand"), { strand: "solid" })).strand).toBe("solid");
    expect(of(laid(by(acts, "ends"), { "to.pin": "23" })).to).toEqual({ device: "-K14", pin: "23" });
    expect(of(laid(by(acts, "ends"), { net: "" })).net).toBeUndefined();
    expect(lay(by(acts, "ends"), { "to.device": "K1" }).refused).toMatch(
      /to\.device: There is no device K1; near it: -K1/,
    );
    expect(lay(by(acts, "ends"), { "to.pin": "nix" }).refused).toMatch(/-K14 has no pin nix\. It has: 13/);
    expect(lay(by(acts, "rename-wire"), { to: "215" }).refused).toContain("215");
    expect(laid(by(acts, "remove")).wires).toHaveLength(design.wires.length - 1);
    const many = manyWiresActs(["1", "2", "3"]);
    expect(laid(by(many, "colour"), { colour: "VT" }).wires.filter((w) => w.colour === "VT")).toHaveLength(3);
    expect(laid(by(many, "remove")).wires).toHaveLength(design.wires.length - 3);
  });

  test("nets count for their wires, and lose what is emptied", () => {
    const acts = netActs(design, wire.net!);
    const of = (d: Design) => d.nets.find((n) => n.name === wire.net)!;
    expect(of(laid(by(acts, "net"), { class: "signal" })).class).toBe("signal");
    expect(of(laid(by(acts, "net"), { colour: "" })).colour).toBeUndefined();
    expect(laid(by(acts, "rename-net"), { to: "P99" }).wires.find((w) => w.number === "214")!.net).toBe("P99");
  });

  test("a new wire has the next number, begins at the pin, and is refused where it leads nowhere", () => {
    const act = addWireAct(design, "-K13", "13");
    const next = laid(act, { "to.device": "-K14", "to.pin": "13", net: "P24.8" });
    expect(next.wires[next.wires.length - 1]).toEqual({
      number: "529",
      from: { device: "-K13", pin: "13" },
      to: { device: "-K14", pin: "13" },
      net: "P24.8",
    });
    expect(lay(act, { "to.device": "-NIX", "to.pin": "1" }).refused).toContain("There is no device -NIX");
  });

  test("devices: placed on rails, faces and in slots, turned, swapped, inscribed, lifted", () => {
    const acts = deviceActs(design, "-K41");
    const of = (d: Design) => d.devices.find((v) => v.tag === "-K41")!;
    const places = choicesOf(by(acts, "place").asks[0]!)!;
    const rail = places.find((p) => p.startsWith("rail R4 "))!;
    expect(of(laid(by(acts, "place"), { where: rail, x: "12 in" })).on).toEqual({ rail: "R4", x: 304.8 });
    // Behind the last device of the rail.
    expect(of(laid(by(acts, "place"), { where: rail })).on!.x).toBeGreaterThan(0);
    const face = { where: "face +A1/plate" };
    expect(lay(by(acts, "place"), face).refused).toBe("x: On a face x and y are needed.");
    expect(lay(by(acts, "place"), { ...face, x: "5" }).refused).toBe("y: On a face x and y are needed.");
    expect(of(laid(by(acts, "place"), { ...face, x: "5", y: "6" })).on).toEqual({ face: "+A1/plate", x: 5, y: 6 });
    const taken = lookUp(design).devices.get("-A11")!.on!;
    expect(places).not.toContain(`slot ${taken.name} of ${taken.slot}`);
    expect(of(laid(by(acts, "turn"), { turn: "90" })).turn).toBe(90);
    expect(of(laid(by(acts, "texts"), { "1": "one", "2": "", "3": "" })).texts).toEqual(["one"]);
    expect(of(laid(by(acts, "texts"), { item: "7" })).item).toBe(7);
    const swap = by(acts, "swap");
    expect(of(laid(swap, { part: "FW-R6" })).part).toBe("FW-R6");
    const note = (part: string) => swap.note!({ values: { part }, set: new Set(["part"]) });
    expect(note("OH-B1C6")).toContain("Not on the new part: A1");
    expect(note("FW-R6")).toContain("Every pin in use");
    // What stands nowhere cannot be lifted; what stands can, several at once.
    expect(acts.map((a) => a.id)).not.toContain("lift");
    const lifted = laid(by(manyDevicesActs(["-K1", "-K2"]), "lift"));
    expect(lifted.devices.filter((v) => ["-K1", "-K2"].includes(v.tag) && v.on)).toEqual([]);
  });

  test("rails and ducts: moved, stretched, exchanged; crossings by figures", () => {
    const duct = laid(by(barActs(design, "duct", "W11"), "bar-place"), { length: "300" });
    expect(duct.ducts.find((d) => d.tag === "W11")!.length).toBe(300);
    expect(barActs(design, "rail", "NIX")).toEqual([]);
    const n3 = design.crossings.find((c) => c.tag === "N3")!;
    const change = by(crossingActs(design, n3, settings), "crossing");
    const changed = laid(change, { points: "1, 2, 3; 4 in, 5, 6", loop: "40" });
    expect(changed.crossings.find((c) => c.tag === "N3")).toMatchObject({
      points: [
        { x: 1, y: 2, z: 3 },
        { x: 101.6, y: 5, z: 6 },
      ],
      loop: 40,
    });
    expect(lay(change, { points: "1, 2, 3" }).refused).toMatch(/points: A crossing leads over two points/);
    expect(lay(change, { points: "1, 2" }).refused).toMatch(/points: Point 1 needs three figures/);
    expect(lay(change, { points: "1, 2, 3; 1, x, 3" }).refused).toMatch(/points: Point 2: Write a number/);
    const added = laid(addCrossingAct(design, settings), {
      tag: "N9",
      kind: "edge",
      from: "face +A1/plate",
      to: "duct W22",
      enclosure: "+A1",
      points: "0, 0, 0; 0, 10, 0",
    });
    expect(added.crossings.map((c) => c.tag)).toContain("N9");
    expect(laid(by(crossingActs(design, n3, settings), "remove-crossing")).crossings.map((c) => c.tag)).not.toContain(
      "N3",
    );
  });
});
