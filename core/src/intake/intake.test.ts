import { DOT, dot, tiny, wire, enclosure } from "../test/tiny";
import { compute as panel } from "../panel/compute";
import type { Design } from "../design/model";
import { SHOP_RULES } from "../design/rules";
import { compute } from "./compute";

const base = () => tiny({ ducts: [{}], devices: [dot("-A", 100, 20), dot("-B", 300, 20)], wires: [wire("-A", "-B")] });

/** Kinds of open points that a changed design has. */
const kinds = (change: (d: Design) => void): string[] => {
  const d = base();
  change(d);
  return compute(d, SHOP_RULES).open.map((p) => `${p.severity} ${p.kind}: ${p.thing} ${p.of}`);
};

test("a whole design has nothing open", () => {
  expect(kinds(() => undefined)).toEqual([]);
});

test.each<[string, (d: Design) => void, string]>([
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
])("%s", (_name, change, point) => {
  expect(kinds(change)).toContain(point);
});

describe("where things stand", () => {
  const places = (change: (d: Design) => void): string[] => {
    const d = base();
    d.enclosures = [enclosure("+A1")];
    d.rails.push({ tag: "R1", face: "+A1/plate", x: 0, y: 500, run: "right", length: 300, part: "R" });
    change(d);
    return panel(d).open.map((p) => `${p.severity} ${p.kind}: ${p.thing} ${p.of}`);
  };

  test.each<[string, (d: Design) => void, string]>([
    ["a loose device", (d) => void delete d.devices[0]!.on, "stop loose device: device -A"],
    ["a rail outside its face", (d) => void (d.rails[0]!.length = 2500), "check outside its face: rail R1"],
    ["a duct on no face", (d) => void (d.ducts[0]!.face = "+A9/plate"), "stop unknown face: duct W1"],
    [
      "a device outside its face",
      (d) => void (d.devices[0]!.on = { face: "+A1/plate", x: 1995, y: 0 }),
      "check outside its face: device -A",
    ],
    ["a device off its rail", (d) => void (d.devices[0]!.on = { rail: "R1", x: 295 }), "check off its rail: device -A"],
    [
      "a part without rail datum on a rail",
      (d) => void (d.devices[0]!.on = { rail: "R1", x: 0 }),
      "check no rail datum: device -A",
    ],
    [
      "bodies in each other",
      (d) => void (d.devices[1]!.on = { face: "+A1/plate", x: 100, y: 20 }),
      "check bodies overlap: device -B",
    ],
    [
      "devices in each other's slots",
      (d) => {
        d.parts.find((p) => p.number === "P")!.slots = [{ name: "s", x: 0, y: 0, z: 0 }];
        d.devices[0]!.on = { slot: "-B", name: "s" };
        d.devices[1]!.on = { slot: "-A", name: "s" };
      },
      "stop loose device: device -A",
    ],
  ])("%s", (_name, change, point) => {
    expect(places(change)).toContain(point);
  });

  test("on a rail the datum lies on the centre line, on an upright one turned with it", () => {
    const d = base();
    d.parts.find((p) => p.number === "P")!.mounts = [{ kind: "rail", datumY: 2 }];
    d.rails.push(
      { tag: "R1", face: "+A1/plate", x: 200, y: 500, run: "right", length: 300, part: "R" },
      { tag: "R2", face: "+A1/plate", x: 900, y: 500, run: "up", length: 300, part: "R" },
    );
    d.devices[0]!.on = { rail: "R1", x: 40 };
    d.devices[1]!.on = { rail: "R2", x: 40 };
    const [a, b] = panel(d).devices;
    expect(a!.outline).toEqual({ x: 240, y: 515.5, w: 10, h: 10 });
    expect(b!.outline).toEqual({ x: 909.5, y: 540, w: 10, h: 10 });
    expect([a!.z, b!.turn]).toEqual([7.5, 90]);
  });

  test("a child sits in its parent's slot and turns with it", () => {
    const d = base();
    d.parts.push(
      { ...DOT, number: "HEAD", w: 100, h: 60, slots: [{ name: "s", x: 80, y: 10, z: 5 }] },
      { ...DOT, number: "MOD", w: 20, h: 40, mounts: [{ kind: "slot", datumX: 0, datumY: 0, datumZ: 0 }] },
    );
    d.devices = [
      { tag: "-H", part: "HEAD", turn: 90, on: { face: "+A1/plate", x: 500, y: 500 } },
      { tag: "-M", part: "MOD", on: { slot: "-H", name: "s" } },
    ];
    const child = panel(d).devices[1]!;
    // Parent's middle is 550, 530; the slot's body middle lies 40 right of it: turned, 40 above.
    expect(child.outline).toEqual({ x: 530, y: 560, w: 40, h: 20 });
    expect([child.z, child.turn, child.carrier]).toEqual([5, 90, "-H"]);
  });
});
