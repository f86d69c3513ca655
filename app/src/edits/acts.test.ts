import { readFileSync } from "node:fs";
import { join } from "node:path";
import { lookUp } from "@gray-bench/core/design/lookup";
import type { Design } from "@gray-bench/core/design/model";
import { EDITS } from "@gray-bench/core/edits";
import { runStages } from "@gray-bench/core/run";
import type { RoutesResult } from "@gray-bench/core/routes/result";
import { lengthsIn } from "../kit/quantity";
import type { Settings } from "../kit/settings";
import { barActs } from "@gray-bench/core/panel/bar-acts";
import { deviceActs, manyDevicesActs } from "@gray-bench/core/panel/device-acts";
import { addCableAct, addNetAct, cableActs, coreActs, coreNames } from "@gray-bench/core/intake/cable-acts";
import { addOptionAct, optionActs } from "@gray-bench/core/intake/option-acts";
import { addCrossingAct, crossingActs } from "@gray-bench/core/routes/crossing-acts";
import { addWireAct, manyWiresActs, netActs, wireActs } from "@gray-bench/core/routes/wire-acts";
import type { Act } from "@gray-bench/core/frame/act";
import { conditionActs } from "@gray-bench/core/intake/condition-acts";
import { answer, choicesOf, withAnswer } from "./answers";

const design = JSON.parse(
  readFileSync(join(__dirname, "../../../designs/whole/larkmoor.bench.json"), "utf8"),
) as Design;
const routes = runStages(design).stages.routes as RoutesResult;
const wire = routes.wires.find((w) => w.id === "214")!;
const settings: Settings = { length: "mm", size: "mm2", temperature: "C", light: "day", name: "" };

const lengths = lengthsIn(settings);

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

  test("cables and cores: named with ranges, led, loose where an end is emptied, refused where a pin is not there", () => {
    const tag = "-W61";
    const of = (d: Design) => d.cables.find((c) => c.tag === tag)!;
    const cable = of(design);
    const acts = cableActs(design, cable);
    expect(of(laid(by(acts, "change-cable"), { to: "roof", gland: "" }))).toMatchObject({
      to: "roof",
      type: cable.type,
    });
    const more = laid(by(acts, "add-cores"), { cores: "x1, 21-23" });
    expect(
      of(more)
        .cores.map((c) => c.core)
        .slice(-4),
    ).toEqual(["x1", "21", "22", "23"]);
    expect(lay(by(acts, "add-cores"), { cores: "9-5" }).refused).toBe("cores: 9-5 runs backwards.");
    expect(coreNames("1 1")).toEqual({ ok: false, reason: "1 is named twice." });
    expect(coreNames("1-900").ok).toBe(false);
    expect(laid(by(acts, "remove-cable")).cables).toHaveLength(design.cables.length - 1);
    const core = cable.cores[0]!;
    const [change, remove] = coreActs(design, cable, core);
    const first = (d: Design) => of(d).cores[0]!;
    expect(first(laid(change!, { "to.device": "-K13", "to.pin": "13", far: "" })).to).toEqual({
      device: "-K13",
      pin: "13",
    });
    expect(first(laid(change!, { "from.device": "", "from.pin": "" })).from).toBeUndefined();
    expect(lay(change!, { "from.pin": "" }).refused).toBe("from.pin: Device and pin, or neither.");
    expect(lay(change!, { "to.device": "-K13", "to.pin": "nix" }).refused).toMatch(/-K13 has no pin nix/);
    expect(of(laid(remove!)).cores).toHaveLength(cable.cores.length - 1);
    const next = laid(addCableAct(design), { type: cable.type, cores: "1-3", to: "pit" }).cables.at(-1)!;
    expect([next.type, next.to, next.cores]).toEqual([
      cable.type,
      "pit",
      [{ core: "1" }, { core: "2" }, { core: "3" }],
    ]);
    expect(laid(addNetAct(), { name: "M9", class: "signal" }).nets.at(-1)).toEqual({ name: "M9", class: "signal" });
  });

  test("options and conditions: what nothing is said of stands, all but one of three, many set as a whole", () => {
    const [choose, change] = optionActs(design.options[0]!);
    expect(laid(choose!, { choice: "fitted" }).options[0]!.chosen).toBe("fitted");
    expect(laid(change!, { choices: "fitted,not fitted , later" }).options[0]!.choices).toEqual([
      "fitted",
      "not fitted",
      "later",
    ]);
    const add = addOptionAct(design.options);
    expect(lay(add, { key: "x", text: "x", choices: "a, b", chosen: "c" }).refused).toContain("none of the choices");
    const three = laid(add, { key: "x", text: "x", choices: "a, b, c" });
    expect(three.options.at(-1)).toEqual({ key: "x", text: "x", choices: ["a", "b", "c"], chosen: "a" });
    const things = [{ thing: "device" as const, of: "-K13" }];
    const when = { x: ["a", "b"], "orchestra-lift": "fitted" };
    const shape = (act: Act, values: Record<string, string>) => act.shape!({ values, set: new Set() });
    const [one] = conditionActs(three.options, things, when);
    expect(one!.asks.map((a) => [a.field, a.now])).toContainEqual(["x", "all but c"]);
    expect(shape(one!, { x: "all but a" })).toEqual({ ok: true, payload: { things, when: { x: ["b", "c"] } } });
    expect(shape(one!, {})).toEqual({ ok: true, payload: { things, when: null } });
    const odd = conditionActs(three.options, things, { x: ["c", "a"] })[0]!;
    expect(shape(odd, { x: String(odd.asks.find((a) => a.field === "x")!.now) })).toEqual({
      ok: true,
      payload: { things, when: { x: ["c", "a"] } },
    });
    expect(conditionActs([], things)).toEqual([]);
    const [, ...many] = manyDevicesActs(["-K13", "-K14"], design);
    const set = laid(by(many, "condition"), { "orchestra-lift": "fitted" });
    expect(set.devices.filter((d) => d.when && ["-K13", "-K14"].includes(d.tag))).toHaveLength(2);
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
    const change = by(crossingActs(design, n3, lengths), "crossing");
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
    const added = laid(addCrossingAct(design, lengths), {
      tag: "N9",
      kind: "edge",
      from: "face +A1/plate",
      to: "duct W22",
      enclosure: "+A1",
      points: "0, 0, 0; 0, 10, 0",
    });
    expect(added.crossings.map((c) => c.tag)).toContain("N9");
    expect(laid(by(crossingActs(design, n3, lengths), "remove-crossing")).crossings.map((c) => c.tag)).not.toContain(
      "N3",
    );
  });
});
