import { golden, pointLines } from "../test/golden";
import { DOT, dot, tiny, wire, enclosure } from "../test/tiny";
import type { Design, Part, Pin } from "../design/model";
import { SHOP_RULES } from "../shop/rules";
import { compute } from "./compute";

/** A copy of its own for each case: parts are changed in place. */
const base = (): Design =>
  structuredClone(tiny({ ducts: [{}], devices: [dot("-A", 100, 20), dot("-B", 300, 20)], wires: [wire("-A", "-B")] }));

/** Kinds of open points that a changed design has. */
const kinds = (change: (d: Design) => void): string[] => {
  const d = base();
  change(d);
  return compute(d, SHOP_RULES).open.map((p) => `${p.severity} ${p.kind}: ${p.thing} ${p.of}`);
};

test("a whole design has nothing open", () => {
  expect(kinds(() => undefined)).toEqual([]);
});

const partOf = (d: Design): Part => d.parts.find((p) => p.number === "P")!;
const pinOf = (d: Design, more: Partial<Pin>): void => void (partOf(d).pins = [{ ...DOT.pins![0]!, ...more }]);
const option = (key: string, chosen = "b") => ({ key, text: "", choices: ["a", "b"], chosen });
const cable = (tag: string, more: Partial<Design["cables"][number]> = {}) => ({ tag, type: "CT", cores: [], ...more });
const CABLE_TYPE: Part = {
  ...DOT,
  number: "CT",
  cable: { cores: 3, sizeMm2: 1.5, outer: 9 },
};
const GLAND: Part = { ...DOT, number: "G", gland: { thread: "M20", cableMin: 9, cableMax: 14 } };
const WIRE_TYPE: Part = { ...DOT, number: "WT", wire: { sizeMm2: 1.5, outer: 3 } };

const CASES: [string, (d: Design) => void, string][] = [
  ["a tag used twice", (d) => void d.devices.push(d.devices[0]!), "stop name used twice: device -A"],
  ["a wire number used twice", (d) => void d.wires.push(d.wires[0]!), "check name used twice: wire 1"],
  ["an unknown part", (d) => void (d.devices[0]!.part = "?"), "stop unknown part: device -A"],
  ["an unknown pin", (d) => void (d.wires[0]!.from!.pin = "?"), "stop unknown pin: wire 1"],
  ["an unknown device", (d) => void (d.wires[0]!.from!.device = "?"), "stop unknown device: wire 1"],
  ["a wire with one end", (d) => void delete d.wires[0]!.to, "stop end missing: wire 1"],
  ["both ends on one pin", (d) => void (d.wires[0]!.to = d.wires[0]!.from!), "stop both ends on one pin: wire 1"],
  ["an unknown net", (d) => void (d.wires[0]!.net = "?"), "check unknown net: wire 1"],
  ["a net without class", (d) => void delete d.nets[0]!.class, "check no class: net n"],
  ["a device on two places", (d) => void (d.devices[0]!.on!.rail = "R"), "stop two places: device -A"],
  [
    "an option set to what it cannot be",
    (d) => void d.options.push({ key: "o", text: "", choices: ["a"], chosen: "b" }),
    "stop unknown choice: option o",
  ],
  ["a condition on no option", (d) => void (d.wires[0]!.when = { nix: "a" }), "check unknown option: wire 1"],
  [
    "an end left out by options",
    (d) => (
      d.options.push({ key: "o", text: "", choices: ["a", "b"], chosen: "b" }),
      (d.devices[0]!.when = { o: "a" })
    ),
    "stop end left out: wire 1",
  ],
  [
    "a neighbour that is not there",
    (d) => void (d.enclosures[0]!.neighbourRight = "+X"),
    "check neighbour unclear: enclosure +A1",
  ],
  [
    "enclosures whose files would be named alike",
    (d) => void d.enclosures.push({ ...d.enclosures[0]!, tag: "+B-1" }, { ...d.enclosures[0]!, tag: "+B/1" }),
    "note names of files alike: enclosure +B/1",
  ],
  [
    "a size outside the clamp",
    (d) => void (d.parts.find((p) => p.number === "P")!.pins = [{ ...DOT.pins![0]!, sizeMax: 0.75 }]),
    "check size outside the clamp: wire 1",
  ],
  [
    "a clamp overfilled",
    (d) => (
      void (d.parts.find((p) => p.number === "P")!.pins = [{ ...DOT.pins![0]!, conductors: 1 }]),
      void d.wires.push({ ...d.wires[0]!, number: "2" })
    ),
    "check clamp overfilled: device -A",
  ],
  [
    "an unknown rail of a strip",
    (d) => void d.strips.push({ tag: "-X", rail: "R", members: ["-A"] }),
    "check unknown rail: strip -X",
  ],
  [
    "a strip with an unknown member",
    (d) => void d.strips.push({ tag: "-X", rail: "R", members: ["-Z"] }),
    "stop unknown device: strip -X",
  ],
  [
    "a jumper off its strip",
    (d) =>
      void d.strips.push({
        tag: "-X",
        rail: "R",
        members: ["-A"],
        jumpers: [{ row: 1, members: ["-A", "-B"] }],
      }),
    "stop jumper off the strip: strip -X",
  ],
  [
    "an unknown gland",
    (d) => void d.cables.push({ tag: "-W1", type: "c", gland: "-G", cores: [] }),
    "check unknown gland: cable -W1",
  ],
  [
    "an attachment for nobody",
    (d) => void d.attachments.push({ name: "a", kind: "manual", for: "-Z" }),
    "note attachment without a place: attachment a",
  ],
  [
    "a part without stock place",
    (d) => void delete d.parts.find((p) => p.number === "P")!.stock,
    "note no stock place: part P",
  ],
  ["three of one tag", (d) => void d.devices.push(d.devices[0]!, d.devices[0]!), "stop name used twice: device -A"],
  ["an enclosure twice", (d) => void d.enclosures.push(d.enclosures[0]!), "stop name used twice: enclosure +A1"],
  ["a part twice", (d) => void d.parts.push(partOf(d)), "stop name used twice: part P"],
  ["a duct twice", (d) => void d.ducts.push(d.ducts[0]!), "stop name used twice: duct W1"],
  [
    "rails, crossings, nets, strips, options and cables twice",
    (d) => {
      const rail = { tag: "R1", face: "+A1/plate", x: 0, y: 500, run: "right" as const, length: 300, part: "R" };
      const crossing = { tag: "N1", kind: "wall" as const, from: { duct: "W1" }, to: { duct: "W1" } };
      d.rails.push(rail, rail);
      for (let i = 0; i < 2; i++) d.crossings.push({ ...crossing, enclosure: "+A1", points: [] });
      d.nets.push(d.nets[0]!);
      for (let i = 0; i < 2; i++) d.strips.push({ tag: "-X", rail: "R1", members: [] });
      for (let i = 0; i < 2; i++) d.options.push(option("o"));
      for (let i = 0; i < 2; i++) d.cables.push(cable("-W1"));
    },
    "stop name used twice: crossing N1",
  ],
  [
    "one tag for two variants of which one is chosen: nothing",
    (d) => {
      d.options.push(option("o"));
      d.devices.push({ ...d.devices[0]!, when: { o: "a" } });
      d.wires.push({ ...d.wires[0]!, when: { o: "a" } });
      d.cables.push(cable("-W1"), cable("-W1", { when: { o: "a" } }));
    },
    "",
  ],
  [
    "conditions of devices and cables on no option",
    (d) => {
      d.devices.push({ ...d.devices[0]!, tag: "-C", when: { nix: "a", more: "b" } });
      d.cables.push(cable("-W1", { when: { nix: "a" } }));
    },
    "check unknown option: device -C",
  ],
  [
    "its own neighbour",
    (d) => void (d.enclosures[0]!.neighbourRight = "+A1"),
    "check neighbour unclear: enclosure +A1",
  ],
  [
    "a neighbour of two",
    (d) => {
      d.enclosures.push(enclosure("+A3"), enclosure("+A2", { neighbourRight: "+A3" }));
      d.enclosures[0]!.neighbourRight = "+A3";
    },
    "check neighbour unclear: enclosure +A2",
  ],
  [
    "a neighbour of two, listed backwards",
    (d) => {
      d.enclosures[0]!.neighbourRight = "+A3";
      d.enclosures.unshift(enclosure("+A3"), enclosure("+A2", { neighbourRight: "+A3" }));
    },
    "check neighbour unclear: enclosure +A2",
  ],
  [
    "a face of an unknown enclosure",
    (d) => void d.faces.push({ enclosure: "+A9", kind: "door", w: 500 }, { enclosure: "+A1", kind: "door", w: 500 }),
    "check unknown enclosure: face +A9/door",
  ],
  ...["breaker", "contactor", "relay", "safety relay", "controller", "module", "supply", "drive", "chopper"]
    .concat(["transformer", "filter", "terminal"])
    .map((category): [string, (d: Design) => void, string] => [
      `a ${category} without a loss`,
      (d) => void (partOf(d).category = category as Part["category"]),
      category === "terminal" ? "" : "note no loss stated: part P",
    ]),
  ["a drive with a loss of nought: nothing", (d) => void Object.assign(partOf(d), { category: "drive", lossW: 0 }), ""],
  ["a part nobody uses: nothing", (d) => void d.parts.push({ ...DOT, number: "Q", stock: undefined! }), ""],
  [
    "parts of rails and ducts count as used",
    (d) => {
      d.rails.push({ tag: "R1", face: "+A1/plate", x: 0, y: 500, run: "right", length: 300, part: "R" });
      for (const p of d.parts) if (p.number !== "P") delete p.stock;
    },
    "note no stock place: part R",
  ],
  [
    "two pins of one name",
    (d) => void partOf(d).pins!.push(DOT.pins![0]!, { name: "q" }, { name: "q" }),
    "check name used twice: part P",
  ],
  ["a pin 20.1 mm left of its body", (d) => pinOf(d, { x: -20.1 }), "check pin outside its body: part P"],
  ["a pin 20 mm left of its body: nothing", (d) => pinOf(d, { x: -20 }), ""],
  ["a pin 20.06 mm above its body", (d) => pinOf(d, { y: 30.06 }), "check pin outside its body: part P"],
  ["a pin 20 mm above its body: nothing", (d) => pinOf(d, { y: 30 }), ""],
  ["a pin far before its body", (d) => pinOf(d, { x: 40, y: -25, z: 340 }), "check pin outside its body: part P"],
  [
    "rails and ducts of unknown parts",
    (d) => {
      d.rails.push({ tag: "R1", face: "+A1/plate", x: 0, y: 500, run: "right", length: 300, part: "?" });
      d.ducts[0]!.part = "!";
    },
    "stop unknown part: rail R1",
  ],
  [
    "a device on three places",
    (d) => void (d.devices[0]!.on = { face: "+A1/plate", x: 95, y: 15, rail: "R", slot: "-B" }),
    "stop two places: device -A",
  ],
  [
    "a slot taken twice",
    (d) => {
      partOf(d).slots = [{ name: "s", x: 0, y: 0, z: 0 }];
      for (const tag of ["-D", "-C"]) d.devices.push({ tag, part: "P", on: { slot: "-A", name: "s" } });
      d.devices.push({ tag: "-E", part: "P", on: { slot: "-A", name: "t" } });
      for (const tag of ["-F", "-G"]) d.devices.push({ tag, part: "P", on: { slot: "-B" } });
    },
    "stop slot taken twice: device -D",
  ],
  ["no pins at all", (d) => void delete partOf(d).pins, "check no pins: part P"],
  [
    "a hint of twelve pins",
    (d) => void (partOf(d).pins = Array.from({ length: 12 }, (_, i) => ({ name: `p${i}` }))),
    "stop unknown pin: wire 1",
  ],
  [
    "a hint of more pins than it names",
    (d) => void (partOf(d).pins = Array.from({ length: 13 }, (_, i) => ({ name: `p${i}` }))),
    "stop unknown pin: wire 1",
  ],
  [
    "a wire without ends",
    (d) => void Object.assign(d.wires[0]!, { from: undefined, to: undefined }),
    "stop end missing: wire 1",
  ],
  ["a wire of no net", (d) => void delete d.wires[0]!.net, "check unknown net: wire 1"],
  ["an unknown wire type", (d) => void (d.wires[0]!.type = "?"), "check unknown wire type: wire 1"],
  ["a type that is no wire", (d) => void (d.wires[0]!.type = "P"), "check unknown wire type: wire 1"],
  [
    "a type of another size than the net's",
    (d) => (d.parts.push(WIRE_TYPE), void (d.wires[0]!.type = "WT")),
    "check size differs from type: wire 1",
  ],
  [
    "a type's size fills a missing one: nothing",
    (d) => (d.parts.push(WIRE_TYPE), (d.wires[0]!.type = "WT"), void delete d.nets[0]!.sizeMm2),
    "",
  ],
  [
    "a core of an unknown cable",
    (d) => void (d.wires[0]!.core = { cable: "-W1", core: "1" }),
    "check unknown cable: wire 1",
  ],
  [
    "cores to pins that are not there",
    (d) =>
      void d.cables.push(
        cable("-W1", {
          cores: [
            { core: "1", from: { device: "-A", pin: "p" }, to: { device: "-Z", pin: "p" } },
            { core: "2", from: { device: "-A", pin: "z" } },
          ],
        }),
      ),
    "stop unknown device: cable -W1",
  ],
  [
    "a gland that is too large",
    (d) => {
      d.parts.push(GLAND, CABLE_TYPE);
      d.devices.push({ tag: "-G", part: "G", on: { face: "+A1/base", x: 0, y: 0 } });
      d.cables.push(cable("-W1", { gland: "-G", outer: 8.9 }), cable("-W2", { gland: "-G", outer: 14.1 }));
      d.cables.push(cable("-W3", { gland: "-G" }), cable("-W4", { gland: "-G", outer: 14 }));
      d.cables.push(cable("-W5", { gland: "-G", type: "?" }), cable("-W6", { gland: "-A" }));
    },
    "check gland does not fit: cable -W1",
  ],
  ["a wire too thin for its clamp", (d) => pinOf(d, { sizeMin: 1.5 }), "check size outside the clamp: wire 1"],
  ["a wire just thick enough: nothing", (d) => pinOf(d, { sizeMin: 1.004, sizeMax: 0.996 }), ""],
  [
    "a wire without a size fits any clamp: nothing",
    (d) => (pinOf(d, { sizeMin: 1.5 }), void delete d.nets[0]!.sizeMm2),
    "",
  ],
  [
    "a lead and a core under one clamp",
    (d) => {
      pinOf(d, { conductors: 1 });
      d.parts.push(CABLE_TYPE);
      const cores = [{ core: "1", to: { device: "-B", pin: "p" } }];
      d.cables.push(cable("-W1", { cores }));
    },
    "check clamp overfilled: device -B",
  ],
  [
    "a core that is listed as a wire too counts once: nothing",
    (d) => {
      pinOf(d, { conductors: 1 });
      d.parts.push(CABLE_TYPE);
      d.wires[0]!.core = { cable: "-W1", core: "1" };
      const [from, to] = [d.wires[0]!.from!, d.wires[0]!.to!];
      d.cables.push(cable("-W1", { cores: [{ core: "1", from, to }] }));
    },
    "",
  ],
  [
    "a clamp that states nothing takes one",
    (d) => {
      pinOf(d, {});
      delete partOf(d).pins![0]!.conductors;
      d.wires.push({ ...d.wires[0]!, number: "2" });
    },
    "check clamp overfilled: device -B",
  ],
  [
    "a jumper with two members off its strip",
    (d) => {
      d.rails.push({ tag: "R1", face: "+A1/plate", x: 0, y: 500, run: "right", length: 300, part: "R" });
      d.strips.push({
        tag: "-X",
        rail: "R1",
        members: ["-A"],
        jumpers: [
          { row: 1, members: ["-B", "-A", "-Z"] },
          { row: 2, members: ["-A"] },
        ],
      });
    },
    "stop jumper off the strip: strip -X",
  ],
  [
    "attachments for all that has a tag: nothing",
    (d) => {
      d.cables.push(cable("-W1"));
      d.rails.push({ tag: "R1", face: "+A1/plate", x: 0, y: 500, run: "right", length: 300, part: "R" });
      d.strips.push({ tag: "-X", rail: "R1", members: [] });
      for (const to of ["-A", "+A1", "-W1", "-X", undefined])
        d.attachments.push({ name: `for ${to}`, kind: "manual", ...(to ? { for: to } : {}) });
    },
    "",
  ],
];

test.each(CASES)("%s", (_name, change, point) => {
  if (point === "") expect(kinds(change)).toEqual([]);
  else expect(kinds(change)).toContain(point);
});

test("every open point of a design's content, word for word", () => {
  const text = CASES.flatMap(([name, change]) => {
    const d = base();
    change(d);
    return [`# ${name}`, ...pointLines(compute(d, SHOP_RULES).open), ""];
  });
  golden("intake.txt", text.join("\n"));
});

test("what the design holds is counted with the options chosen, and what they leave out", () => {
  const d = base();
  d.options.push(option("o"), option("p", "a"));
  d.devices.push({ tag: "-C", part: "P", when: { o: "a" } });
  d.wires.push({ ...d.wires[0]!, number: "2", when: { o: "a" } }, { ...d.wires[0]!, number: "3", when: { p: "a" } });
  // Both conditions must hold.
  d.wires.push({ ...d.wires[0]!, number: "4", when: { o: "a", p: "a" } });
  d.wires.push({ ...d.wires[0]!, number: "5", when: { o: ["a", "b"], p: "a" } });
  d.cables.push(cable("-W1", { when: { o: "b", p: "b" } }), cable("-W2"), cable("-W3"));
  d.strips.push({ tag: "-X", rail: "R", members: [] });
  d.rails.push({ tag: "R", face: "+A1/plate", x: 0, y: 500, run: "right", length: 300, part: "R" });
  const { counts, leftOut } = compute(d, SHOP_RULES);
  expect(counts).toEqual({
    enclosures: 1,
    rails: 1,
    ducts: 1,
    devices: 2,
    nets: 1,
    wires: 3,
    cables: 2,
    strips: 1,
    options: 2,
  });
  expect(leftOut).toEqual({ devices: 1, wires: 2, cables: 1 });
});
