import { readFileSync } from "node:fs";
import { join } from "node:path";
import { lookUp } from "./design/lookup";
import type { Design } from "./design/model";
import { EDITS } from "./edits";
import { runStages } from "./run";
import type { RoutesResult } from "./routes/result";
import { barActs } from "./panel/bar-acts";
import { addDeviceAct, deviceActs, manyDevicesActs } from "./panel/device-acts";
import { addCableAct, addNetAct, cableActs, coreActs, coreNames } from "./intake/cable-acts";
import { addOptionAct, optionActs } from "./intake/option-acts";
import { addCrossingAct, crossingActs, type Lengths } from "./routes/crossing-acts";
import { addWireAct, manyWiresActs, netActs, wireActs } from "./routes/wire-acts";
import { mendTogether, shaped, withAnswer, type Act, type Answers, type Value } from "./frame/act";
import type { Ask, Mend, OpenPoint } from "./design/open-points";
import { loadAct, mountAct, outletAct, surfacesAct, valueActs } from "./heat/acts";
import type { HeatResult } from "./heat/result";
import { dropJumper, dropWires, makeAct, manyActs, memberActs, orderAct, stripActs, takeJumper } from "./lineups/acts";
import { membersOf, type LineupsResult } from "./lineups/result";
import {
  addHoleActs,
  areaActs,
  bodyActs,
  fixingAct,
  glandsAct,
  mitreAct,
  ownHoleActs,
  sheetAct,
} from "./metalwork/acts";
import type { MetalworkResult } from "./metalwork/result";
import { DEFAULT_SHOP } from "./shop/shop";
import { golden } from "./test/golden";
import { conditionActs } from "./intake/condition-acts";

const design = JSON.parse(readFileSync(join(__dirname, "../../designs/whole/larkmoor.bench.json"), "utf8")) as Design;
const routes = runStages(design).stages.routes as RoutesResult;
const wire = routes.wires.find((w) => w.id === "214")!;
const lengths: Lengths = {
  unit: "mm",
  write: String,
  read: (text) => {
    const value = Number(text);
    return text.trim() === "" || Number.isNaN(value) ? { ok: false, reason: "Write a number." } : { ok: true, value };
  },
};

const NUMBERS: ReadonlySet<string> = new Set(["size", "watts", "count", "length", "amount", "temperature"]);

/** Answers an act as a person would, everything in the unit it is kept in, and lays what comes out. */
function lay(act: Act, typed: Record<string, string> = {}) {
  const values: Record<string, Value | undefined> = {};
  const set = new Set<string>();
  for (const { field, as, now, optional } of act.asks) {
    const text = typed[field];
    values[field] = now;
    if (text === undefined || text === String(now ?? "")) continue;
    if (text === "" && !optional) return { refused: `${field}: This is needed.` };
    values[field] = text === "" ? (now === undefined ? undefined : null) : NUMBERS.has(as) ? Number(text) : text;
    if (values[field] !== undefined) set.add(field);
  }
  let now = design;
  for (const first of act.payloads) {
    const made = shaped(act, first, { values, set });
    if (!made.ok) return { refused: `${made.field ?? "all"}: ${made.reason}` };
    const edit = { kind: act.kind, payload: made.payload };
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
    expect(of(laid(by(acts, "size"), { sizeMm2: "2.5" })).sizeMm2).toBe(2.5);
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
    const places = by(acts, "place").asks[0]!.choices!;
    const rail = places.find((p) => p.startsWith("rail R4 "))!;
    expect(of(laid(by(acts, "place"), { where: rail, x: "304.8" })).on).toEqual({ rail: "R4", x: 304.8 });
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
    const changed = laid(change, { points: "1, 2, 3; 101.6, 5, 6", loop: "40" });
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

test("an answer goes to its place in the payload and leaves the rest", () => {
  expect(withAnswer({ a: 1, stock: { place: "A", pack: 2 } }, "stock.place", "B")).toEqual({
    a: 1,
    stock: { place: "B", pack: 2 },
  });
  expect(withAnswer({}, "from.device", "-K1")).toEqual({ from: { device: "-K1" } });
});

test("points are settled together where all ask the same; of many a dozen are named", () => {
  const point = (of: string, mend: Partial<Mend> = {}): OpenPoint => ({
    id: of,
    stage: "intake",
    severity: "check",
    kind: "no colour",
    thing: "wire",
    of,
    text: "t",
    remedy: "r",
    mend: {
      label: "Set",
      kind: "set wires",
      payload: { wires: [of] },
      asks: [{ field: "colour", label: "Colour", as: "colour" }],
      ...mend,
    },
  });
  const act = mendTogether(Array.from({ length: 13 }, (_, i) => point(String(i + 1))));
  expect(act).toMatchObject({ label: "Set, all 13", title: "Set", kind: "set wires" });
  expect(act!.about).toBe(
    "13 open points are settled alike: wire 1, wire 2, wire 3, wire 4, wire 5, wire 6, wire 7, wire 8, wire 9, wire 10, wire 11, wire 12 and 1 more.",
  );
  expect(act!.payloads[12]).toEqual({ wires: ["13"] });
  expect(mendTogether([point("1"), point("2")])!.about).toBe("2 open points are settled alike: wire 1, wire 2.");
  const { mend: _, ...bare } = point("2");
  expect([
    mendTogether([point("1")]),
    mendTogether([point("1"), point("2", { label: "Other" })]),
    mendTogether([point("1"), point("2", { kind: "set net" })]),
    mendTogether([point("1"), point("2", { asks: [] })]),
    mendTogether([point("1"), bare]),
    mendTogether([bare, point("1")]),
  ]).toEqual([null, null, null, null, null, null]);
});

test("members are made like another one, never like themselves alone", () => {
  const strip = { tag: "-X1", items: [{ kind: "member", tag: "-X1.1", levels: [] }] } as unknown as Parameters<
    typeof manyActs
  >[0];
  const copy = manyActs(strip, ["-X1.1"]).find((a) => a.id === "copy")!;
  const made = (from?: string, what = "fuse") =>
    shaped(copy, {}, { values: { from, what }, set: new Set(["from", "what"]) });
  expect(made()).toEqual({ ok: false, field: "from", reason: "Choose the one to copy from." });
  expect(made("-X1.1", "nothing")).toEqual({ ok: false, field: "what", reason: "Choose what is copied." });
  expect(made("-X1.1")).toEqual({ ok: false, field: "from", reason: "It is the only one that is chosen." });
  expect(made("-X1.2")).toMatchObject({ ok: true, payload: { from: "-X1.2", to: ["-X1.1"], what: ["fuse"] } });
});

// ---- every act that is offered somewhere --------------------------------------------------------------

/** What somebody may answer who answers everything: another choice, one more, a word. */
function otherThan({ as, choices, now }: Ask): Value {
  if (choices && choices.length > 0) return choices.filter((c) => c !== now).at(-1) ?? choices[0]!;
  switch (as) {
    case "colour":
      return now === "VT" ? "PK" : "VT";
    case "class":
      return now === "signal" ? "drive" : "signal";
    case "strand":
      return now === "solid" ? "fine" : "solid";
    case "text":
      return "Q9";
    case "part":
      return "FW-R6";
    default:
      return Number(now ?? 1) + 1;
  }
}

/** What an act says and asks, and what is laid, said and touched where all of it is answered, and where nothing is. */
function linesOf(d: Design, of: string, act: Act): string[] {
  const all = {
    values: Object.fromEntries(act.asks.map((a) => [a.field, otherThan(a)])),
    set: new Set(act.asks.map((a) => a.field)),
  };
  const none = { values: Object.fromEntries(act.asks.map((a) => [a.field, a.now])), set: new Set<string>() };
  const comes = (answers: Answers): string => {
    const made = act.payloads.map((payload) => shaped(act, payload, answers));
    const refused = made.find((m) => !m.ok);
    if (refused && !refused.ok) return `refused${refused.field ? ` at ${refused.field}` : ""}: ${refused.reason}`;
    const edits = made.map((m) => ({ kind: act.kind, payload: m.ok ? m.payload : {} }));
    const [fault] = edits.flatMap((e) => EDITS.faults(e.kind, e.payload));
    if (fault) return `no such payload: ${fault.path}, ${fault.expected}`;
    if (edits.length === 0) return "nothing";
    const first = EDITS.settled(d, edits[0]!, "M");
    const applied = EDITS.apply(d, first);
    if (applied.ok) offered.set(first.kind, first.payload as object);
    const touched = EDITS.touches(first).map((t) => `${t.thing} ${t.of}`);
    return `${EDITS.sentence(first)} [${touched.slice(0, 4).join(", ")}] ${applied.ok ? "" : `refused: ${applied.reason} ${applied.remedy}`}`.trim();
  };
  const note = act.note?.(all);
  return [
    `${of} · ${act.id}: ${act.label} | ${act.title}`,
    `  ${act.about}`,
    ...act.asks.map(
      (a) =>
        `  ${a.field}: ${a.label} (${a.as}${a.optional ? ", may be empty" : ""}${a.now === undefined ? "" : `, now ${a.now}`}${a.choices ? `: ${a.choices.slice(0, 6).join(" / ")}` : ""})`,
    ),
    `  all answered: ${comes(all)}`,
    ...(act.asks.length > 0 ? [`  as it stands: ${comes(none)}`] : []),
    ...(note ? [`  note: ${note}`] : []),
  ];
}

/** What acts made that could be laid, by the kind of edit. */
const offered = new Map<string, object>();

/** A payload with each text in it once another, and each number: where, and the payload. */
function* spoilt(value: unknown, path: readonly string[] = []): Generator<[string, unknown]> {
  if (typeof value === "string") yield [path.join("."), "no such"];
  else if (typeof value === "number") yield [path.join("."), -7.5];
  else if (typeof value === "object" && value !== null)
    for (const [key, one] of Object.entries(value))
      for (const [where, other] of spoilt(one, [...path, key]))
        yield [where, Array.isArray(value) ? value.with(Number(key), other) : { ...value, [key]: other }];
}

test("every act says what it is for, and what comes of it; an edit that names what is not there says so", () => {
  const shop = DEFAULT_SHOP.rules;
  const stages = runStages(design).stages as { lineups: LineupsResult; heat: HeatResult; metalwork: MetalworkResult };
  const faults: string[] = [];
  const seen = new Set<string>();
  const lines: string[] = [];
  const take = (of: string, acts: readonly (Act | null)[]): void => {
    const ids = acts.flatMap((a) => (a ? [a.id] : []));
    if (new Set(ids).size !== ids.length) faults.push(`${of}: two acts are called the same`);
    for (const act of acts) {
      // What a thing is called is no part of what kind of act it is.
      const kind =
        act && `${of.split(" ")[0]} ${act.id.replace(/[-+]?[A-Z]?\d.*$/, "")} ${act.label.replace(/\S*\d\S*/g, "")}`;
      if (!act || seen.has(kind!)) continue;
      seen.add(kind!);
      lines.push(...linesOf(design, of, act));
    }
  };
  for (const w of routes.wires.slice(0, 40)) take(`wire ${w.id}`, wireActs(design, w));
  take("wires 1, 2, 3", manyWiresActs(["1", "2", "3"]));
  for (const n of design.nets.slice(0, 3)) take(`net ${n.name}`, netActs(design, n.name));
  for (const c of design.cables.slice(0, 4)) {
    take(`cable ${c.tag}`, cableActs(design, c));
    take(`core of ${c.tag}`, coreActs(design, c, c.cores[0]!));
  }
  take("nothing", [
    addCableAct(design),
    addNetAct(),
    addOptionAct(design.options),
    addWireAct(design, "-K13", "13"),
    addDeviceAct(design),
    addCrossingAct(design, lengths),
    makeAct(design),
  ]);
  for (const o of design.options) take(`option ${o.key}`, optionActs(o));
  for (const d of design.devices) {
    take(`device ${d.tag}`, deviceActs(design, d.tag));
    take(`body ${d.tag}`, bodyActs(d.tag, design));
    take(`holes of device ${d.tag}`, [fixingAct({ thing: "device", of: d.tag }, design)]);
  }
  take("devices -K1, -K2", manyDevicesActs(["-K1", "-K2"], design));
  for (const r of design.rails.slice(0, 2))
    take(`rail ${r.tag}`, [...barActs(design, "rail", r.tag), mitreAct("rail", r.tag, design)]);
  for (const r of design.ducts.slice(0, 2))
    take(`duct ${r.tag}`, [...barActs(design, "duct", r.tag), mitreAct("duct", r.tag, design)]);
  for (const c of design.crossings) take(`crossing ${c.tag}`, crossingActs(design, c, lengths));
  const { strips } = stages.lineups;
  for (const strip of strips) {
    const others = strips.filter((s) => s !== strip).map((s) => s.tag);
    take(`strip ${strip.tag}`, [...stripActs(strip, others, design, shop.lineups), orderAct(strip, "any")]);
    const members = membersOf(strip);
    for (const m of members) take(`member ${m.tag}`, memberActs(strip, m, design));
    take(
      `members of ${strip.tag}`,
      manyActs(
        strip,
        members.slice(1, 4).map((m) => m.tag),
      ),
    );
    for (const j of strip.jumpers)
      take(`jumper of ${strip.tag}`, [takeJumper(strip.tag, j), dropJumper(strip.tag, j), dropWires(j)]);
  }
  for (const zone of stages.heat.zones) {
    take(`zone ${zone.zone}`, [
      ...valueActs(zone),
      ...zone.enclosures.map((e) => surfacesAct(design, e)),
      ...zone.fits.map((f) => mountAct(zone, f, design)),
    ]);
    if (zone.devices.length > 1) take(`losses of ${zone.zone}`, [loadAct(zone.devices.slice(0, 2))]);
    if (zone.devices.length > 0) take(`loss of ${zone.zone}`, [loadAct(zone.devices.slice(0, 1))]);
  }
  take("outlet -E1", [outletAct("-E1", "up"), outletAct("-E1", null)]);
  const own = {
    enclosure: "+A1",
    kind: "door" as const,
    holes: [
      { kind: "round" as const, x: 1, y: 2, d: 5 },
      { kind: "slot" as const, x: 1, y: 2, w: 9, h: 4, angle: 3 },
    ],
    keepOuts: [{ x: 1, y: 2, w: 3, h: 4, text: "lock" }],
    entries: [{ x: 5, y: 6, w: 7, h: 8 }],
  };
  for (const work of stages.metalwork.faces.slice(0, 2))
    take(`face ${work.face}`, [
      sheetAct(work, own, shop.metalwork),
      ...areaActs(work.face, own),
      ...addHoleActs(work.face),
    ]);
  take("own hole", ownHoleActs("+A1/door", 1, own));
  take("own slot", ownHoleActs("+A1/door", 2, own));
  for (const plan of stages.metalwork.entries) take("entry", [glandsAct(plan, design)]);
  expect(faults).toEqual([]);
  golden("acts.txt", `${lines.join("\n")}\n`);
  const refusals = [...offered].flatMap(([kind, payload]) =>
    [...spoilt(payload)].map(([where, other]) => {
      const [fault] = EDITS.faults(kind, other);
      if (fault) return `${kind}, ${where}: ${fault.path} is no such, expected ${fault.expected}`;
      const applied = EDITS.apply(design, { kind, payload: other });
      return `${kind}, ${where}: ${applied.ok ? `"${EDITS.sentence({ kind, payload: other as object })}"` : `${applied.reason}. ${applied.remedy}`}`;
    }),
  );
  golden("refusals.txt", `${refusals.join("\n")}\n`);
});
