import { everTogether, leftBehind, withBoth } from "../design/conditions";
import type { Design, Option, When } from "../design/model";
import type { OpenPoint } from "../design/open-points";
import { DEFAULT_SHOP } from "../shop/shop";
import { EDITS } from "../edits";
import { dot, tiny, wire } from "../test/tiny";
import { lookUp } from "../design/lookup";
import { noColourOf } from "./causes";
import { compute } from "./compute";

const lift: Option = { key: "lift", text: "lift", choices: ["fitted", "half", "none"], chosen: "fitted" };
const door: Option = { key: "door", text: "door", choices: ["left", "right"], chosen: "left" };
const K2: When = { lift: ["fitted", "half"] };

const base = (): Design => ({
  ...tiny({
    devices: [dot("-K1", 100, 100), { ...dot("-K2", 200, 100), when: K2 }, dot("-K3", 300, 100)],
    wires: [
      { ...wire("-K1", "-K3"), number: "1", net: "24V" },
      { ...wire("-K1", "-K2"), number: "2", when: K2 },
      { ...wire("-K3", "-K1"), number: "3", net: "0V", core: { cable: "-W1", core: "2" } },
    ],
  }),
  nets: [{ name: "24V" }, { name: "0V" }],
  options: [lift, door],
  cables: [
    {
      tag: "-W1",
      type: "c",
      gland: "-K3",
      cores: [
        { core: "1", from: { device: "-K1", pin: "p" }, net: "24V" },
        { core: "2", far: "field" },
      ],
    },
  ],
  strips: [{ tag: "-X1", rail: "R", members: ["-K3", "-K1"], sides: { "core 2 of -W1": "outside" } }],
});

const laid = (kind: string, payload: object, design = base()) => {
  expect(EDITS.faults(kind, payload)).toEqual([]);
  return EDITS.apply(design, { kind, payload });
};
const made = (kind: string, payload: object, design = base()): Design => {
  const applied = laid(kind, payload, design);
  if (!applied.ok) throw new Error(applied.reason);
  return applied.design;
};
const refused = (kind: string, payload: object): string => {
  const applied = laid(kind, payload);
  return applied.ok ? "it fits" : `${applied.reason}. ${applied.remedy}`;
};
const netsOf = (d: Design): unknown[] => [...d.wires, ...d.cables.flatMap((c) => c.cores)].map((w) => w.net ?? null);

test("nets come with all that is said of them; their wires and cores go into another, or into none", () => {
  const net = { name: "PE", class: "earth" as const, colour: "GNYE" as const, sizeMm2: 2.5 };
  expect(made("add net", net).nets.at(-1)).toEqual(net);
  expect(refused("add net", { name: "24V" })).toBe("there is a net 24V already. The next free name is 24V2.");
  expect(netsOf(made("remove nets", { nets: ["24V"] }))).toEqual([null, "n", "0V", null, null]);
  const joined = made("remove nets", { nets: ["24V"], into: "0V" });
  expect([joined.nets, netsOf(joined)]).toEqual([[{ name: "0V" }], ["0V", "n", "0V", "0V", null]]);
  expect(refused("remove nets", { nets: ["24V"], into: "24V" })).toContain("Name one that stays.");
});

test("cables and cores: added, changed, named anew with the wire that is one, taken away with it", () => {
  const cores = [{ core: "1" }, { core: "2", colour: "BU" as const }];
  expect(made("add cable", { tag: "-W2", type: "c", cores }).cables[1]).toEqual({ tag: "-W2", type: "c", cores });
  expect(refused("add cable", { tag: "-W2", type: "c", cores: [{ core: "1" }, { core: "1" }] })).toContain(
    "core 1 twice",
  );
  const changed = made("change cable", { cable: "-W1", outer: 9.5, gland: null, to: "+A2" }).cables[0]!;
  expect([changed.outer, changed.gland, changed.to, changed.type]).toEqual([9.5, undefined, "+A2", "c"]);
  expect(
    made("add cores", { cable: "-W1", cores: [{ core: "3", net: "0V" }] }).cables[0]!.cores.map((c) => c.core),
  ).toEqual(["1", "2", "3"]);
  expect(refused("add cores", { cable: "-W1", cores: [{ core: "2" }] })).toBe(
    "-W1 would have core 2 twice. Give every core of a cable a name of its own.",
  );
  const named = made("change core", { cable: "-W1", core: "2", as: "GNYE", far: null, net: "0V" });
  expect(named.cables[0]!.cores[1]).toEqual({ core: "GNYE", net: "0V" });
  expect([named.wires[2]!.core, named.strips[0]!.sides]).toEqual([
    { cable: "-W1", core: "GNYE" },
    { "core GNYE of -W1": "outside" },
  ]);
  expect(refused("change core", { cable: "-W1", core: "9", far: "x" })).toBe("-W1 has no core 9. It has: 1, 2.");
  expect(refused("change core", { cable: "-W1", core: "1", as: "2" })).toContain("twice");
  const fewer = made("remove cores", { cable: "-W1", cores: ["2"] });
  expect([fewer.cables[0]!.cores.map((c) => c.core), fewer.wires.map((w) => w.number)]).toEqual([["1"], ["1", "2"]]);
  const without = made("remove cables", { cables: ["-W1"] });
  expect([without.cables, without.wires.map((w) => w.number)]).toEqual([[], ["1", "2"]]);
});

test("all that leads to one tag leads to another; a strip goes alone, or with its members and the wires to them", () => {
  const led = made("lead elsewhere", { from: "-K1", to: "-K2" });
  expect(led.wires.map((w) => [w.from!.device, w.to!.device])).toEqual([
    ["-K2", "-K3"],
    ["-K2", "-K2"],
    ["-K3", "-K2"],
  ]);
  expect(led.cables[0]!.cores[0]!.from).toEqual({ device: "-K2", pin: "p" });
  expect(refused("lead elsewhere", { from: "-K9", to: "-K2" })).toContain("nothing leads to -K9");
  expect(made("remove strip", { strip: "-X1", members: "stay" })).toMatchObject({ strips: [], devices: { length: 3 } });
  const gone = made("remove strip", { strip: "-X1", members: "go" });
  expect([gone.devices.map((d) => d.tag), gone.wires.map((w) => w.number)]).toEqual([["-K2"], ["3"]]);
  expect(gone.cables[0]).toEqual({
    tag: "-W1",
    type: "c",
    cores: [
      { core: "1", net: "24V" },
      { core: "2", far: "field" },
    ],
  });
});

test("options and conditions: what hangs on a choice holds it, variants are told apart by what is there", () => {
  expect(refused("add option", { ...lift, key: "x", chosen: "nix" })).toContain("option x would have no choice nix");
  expect(refused("add option", { ...lift, key: "x", choices: ["a", "a"], chosen: "a" })).toContain("a twice");
  expect(refused("remove option", { option: "lift" })).toBe(
    "device -K2 hangs on option lift. Take its condition away first, or the thing.",
  );
  expect(made("remove option", { option: "door" }).options).toEqual([lift]);
  expect(refused("change option", { option: "lift", choices: ["fitted", "none"] })).toContain(
    "device -K2 is there with lift half",
  );
  expect(refused("change option", { option: "door", choices: ["right"] })).toContain("no choice left");
  expect(made("change option", { option: "door", text: "Door", choices: ["left"] }).options[1]).toEqual({
    ...door,
    text: "Door",
    choices: ["left"],
  });
  const when = { door: "right" };
  const set = (things: object[], design = base()) => made("set condition", { things, when }, design);
  const whens = (d: Design): unknown[] => [d.devices, d.wires, d.cables].map((l) => l.map((t) => t.when?.door ?? null));
  expect(
    whens(
      set([
        { thing: "strip", of: "-X1" },
        { thing: "cable", of: "-W1" },
      ]),
    ),
  ).toEqual([["right", null, "right"], [null, null, null], ["right"]]);
  expect(
    whens(
      set([
        { thing: "net", of: "24V" },
        { thing: "wire", of: "3" },
      ]),
    )[1],
  ).toEqual(["right", null, "right"]);
  const always = made("set condition", { things: [{ thing: "device", of: "-K2" }], when: null });
  expect(always.devices[1]!.when).toBeUndefined();
  const bad = (when: object): string => refused("set condition", { things: [{ thing: "device", of: "-K1" }], when });
  expect(bad({ roof: "a" })).toContain("there is no option roof");
  expect(bad({ lift: ["half", "nix"] })).toBe("option lift has no choice nix. Choose one of: fitted, half, none.");
  const two = base();
  two.devices.push({ ...two.devices[1]!, when: { lift: "none" } });
  expect(whens(set([{ thing: "device", of: "-K2" }], two))[0]).toEqual([null, "right", null, null]);
  two.options = [{ ...lift, chosen: "none" }, door];
  expect(whens(set([{ thing: "device", of: "-K2" }], two))[0]).toEqual([null, null, null, "right"]);
});

const told = (change: (d: Design) => void): string[] => {
  const d = base();
  change(d);
  return pointsOf(d)
    .filter((p) => p.kind === "conditions contradict" || p.kind === "unknown choice")
    .map((p) => `${p.severity} ${p.text}`);
};
const pointsOf = (d: Design): OpenPoint[] => compute(d, DEFAULT_SHOP.rules).open;

test("what a choice would leave behind is told, and what can never be together, whatever is chosen now", () => {
  expect(told(() => undefined)).toEqual([]);
  expect(told((d) => void delete d.wires[1]!.when)).toEqual([
    "note with lift none wire 2 would lead to -K2, which is there only with lift fitted or half",
  ]);
  // What is there now without its device is told with its end.
  expect(
    told((d) => {
      delete d.wires[1]!.when;
      d.options[0] = { ...lift, chosen: "none" };
    }),
  ).toEqual([]);
  expect(told((d) => void (d.wires[1]!.when = { lift: "none" }))).toEqual([
    "check wire 2 leads to -K2, but is there with lift none, and -K2 with lift fitted or half: never both",
  ]);
  expect(told((d) => void (d.wires[1]!.when = { lift: ["half", "none"], door: "right" }))).toEqual([
    "note with lift none and door right wire 2 would lead to -K2, which is there only with lift fitted or half",
  ]);
  // Another variant stands in for it.
  const variant = (d: Design, when: When) => void d.devices.push({ ...d.devices[1]!, when });
  expect(told((d) => (delete d.wires[1]!.when, variant(d, { lift: "none" })))).toEqual([]);
  expect(told((d) => (delete d.wires[1]!.when, variant(d, { lift: "none", door: "left" })))).toEqual([
    "note with lift none and door right wire 2 would lead to -K2, which is there only with lift fitted or half, or lift none and door left",
  ]);
  expect(told((d) => void (d.devices[2]!.when = { lift: "fitted" }))).toEqual([
    "note with lift half cable -W1 would come in through -K3, which is there only with lift fitted",
    "note with lift half wires 1, 3 would lead to -K3, which is there only with lift fitted",
  ]);
  expect(told((d) => void d.devices.push({ tag: "-U1", part: "P", on: { slot: "-K2", name: "1" } }))).toEqual([
    "note with lift none device -U1 would sit in -K2, which is there only with lift fitted or half",
  ]);
  expect(told((d) => void (d.devices[0]!.when = { door: ["left", "up"] }))[0]).toBe(
    'check device -K1 hangs on "up" of option door, which has left, right',
  );
});

test("conditions: both at once keep what they share, and too many cases are not guessed", () => {
  expect(withBoth({ lift: ["half", "none"], door: "left" }, { lift: ["fitted", "half"], roof: "a" })).toEqual({
    lift: "half",
    door: "left",
    roof: "a",
  });
  expect(withBoth({ lift: "none" }, K2)).toEqual(K2);
  const many = Array.from({ length: 15 }, (_, i): Option => ({
    key: `o${i}`,
    text: "o",
    choices: ["a", "b"],
    chosen: "a",
  }));
  const all: When = Object.fromEntries(many.map((o) => [o.key, "a"]));
  expect([leftBehind(many, undefined, [all]), everTogether(many, [all])]).toEqual([null, true]);
  expect(
    leftBehind(many.slice(0, 14), undefined, [Object.fromEntries(Object.entries(all).slice(0, 14))])?.get("o13"),
  ).toBe("b");
});

test("points of one cause say the same of it, and settling that settles them all", () => {
  const d = base();
  d.wires.push(
    { ...wire("-K9", "-K1"), number: "4", net: "M" },
    { ...wire("-K9", "-K3"), number: "5", net: "M" },
    { ...wire("-K1", "-K3"), number: "6", net: "24V", core: { cable: "-W7", core: "1" } },
  );
  d.strips[0]!.members.push("-K9");
  const caused = (design: Design, text: string) => pointsOf(design).filter((p) => p.cause?.text === text);
  const settles = (text: string, kind: string, answers: object, left = 0): string[] => {
    const points = caused(d, text);
    const mend = points[0]!.cause!.mends.find((m) => m.kind === kind)!;
    expect(points.every((p) => JSON.stringify(p.cause) === JSON.stringify(points[0]!.cause))).toBe(true);
    const next = made(kind, { ...mend.payload, ...answers }, d);
    expect(caused(next, text)).toHaveLength(left);
    return points.map((p) => `${p.thing} ${p.of}`);
  };
  expect(caused(d, "-K9 is not in the design").map((p) => p.of)).toEqual(["4", "5", "-X1"]);
  expect(settles("net M is not in the design", "add net", { class: "control" })).toEqual(["wire 4", "wire 5"]);
  expect(settles("cable -W7 is not in the design", "add cable", { type: "c" })).toEqual(["wire 6"]);
  // One who names it still: the strip.
  const wires = caused(d, "-K9 is not in the design")[0]!.cause!;
  expect(wires.mends.map((m) => m.label)).toEqual(["Add -K9", "Lead all to another device"]);
  settles("-K9 is not in the design", "add device", { part: "P" });
  settles("-K9 is not in the design", "lead elsewhere", { to: "-K2" }, 1);
});

test("wires without a colour are settled where the colour comes from: their class, else their net", () => {
  const design = { ...tiny({}), nets: [{ name: "N1" }, { name: "N2", class: "control" }] } as unknown as Design;
  const look = lookUp(design);
  const asks = [{ field: "colour", label: "Colour", as: "colour" }];
  expect(noColourOf(look, "N1")).toEqual({
    cause: {
      text: "net N1 says no colour",
      mends: [{ label: "Give net N1 a colour", kind: "set net", payload: { net: "N1" }, asks }],
    },
  });
  expect(noColourOf(look, "N2")).toEqual({
    cause: {
      text: "class control says no colour",
      mends: [{ label: "Give class control a colour", kind: "set class", payload: { class: "control" }, asks }],
    },
  });
  expect(noColourOf(look, undefined)).toEqual({});
  expect(noColourOf(look, "N9")).toEqual({});
});
