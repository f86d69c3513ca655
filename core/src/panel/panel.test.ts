import { golden, pointLines } from "../test/golden";
import { DOT, dot, enclosure, tiny, wire } from "../test/tiny";
import type { Design, Device, Part, Turn } from "../design/model";
import { compute } from "./compute";

/** A plate of 2 × 2 m with a flat rail at y 500, an upright one at x 900, two dots and a duct. */
const base = (): Design => {
  const d = structuredClone(
    tiny({
      enclosures: [enclosure("+A1")],
      ducts: [{}],
      devices: [dot("-A", 100, 120), dot("-B", 300, 120)],
      wires: [wire("-A", "-B")],
    }),
  );
  d.rails.push(
    { tag: "R1", face: "+A1/plate", x: 200, y: 500, run: "right", length: 300, part: "R" },
    { tag: "R2", face: "+A1/plate", x: 900, y: 500, run: "up", length: 300, part: "R" },
  );
  return d;
};

const place = (d: Design, on: Device["on"], more: Partial<Device> = {}): void => {
  d.devices[0] = { ...d.devices[0]!, ...more, ...(on ? { on } : {}) };
};
const partOf = (d: Design): Part => d.parts.find((p) => p.number === "P")!;
const withDatum = (d: Design): void => void (partOf(d).mounts = [{ kind: "rail", datumY: 2 }]);
const withSlots = (d: Design): void => {
  partOf(d).slots = ["s", "r"].map((name) => ({ name, x: 0, y: 0, z: 0 }));
  partOf(d).mounts = [{ kind: "slot", datumX: 0, datumY: 0, datumZ: 0 }];
};
const moveBar = (d: Design, more: object): void => void Object.assign(d.ducts[0]!, more);

const CASES: [string, (d: Design) => void, string][] = [
  ["a loose device", (d) => void delete d.devices[0]!.on, "stop loose device: device -A"],
  ["an empty place", (d) => place(d, {}), "stop loose device: device -A"],
  ["a rail outside its face", (d) => void (d.rails[0]!.length = 2500), "check outside its face: rail R1"],
  ["a duct on no face", (d) => void (d.ducts[0]!.face = "+A9/plate"), "stop unknown face: duct W1"],
  ["a duct too far right", (d) => moveBar(d, { x: 1500.3 }), "check outside its face: duct W1"],
  ["a duct at the right edge: nothing", (d) => moveBar(d, { x: 1500.1 }), ""],
  ["a duct too far left", (d) => moveBar(d, { x: -0.3 }), "check outside its face: duct W1"],
  ["a duct at the left edge: nothing", (d) => moveBar(d, { x: -0.1 }), ""],
  ["a duct too low", (d) => moveBar(d, { y: -0.3 }), "check outside its face: duct W1"],
  ["a duct at the lower edge: nothing", (d) => moveBar(d, { y: -0.1 }), ""],
  ["a duct too high", (d) => moveBar(d, { y: 1960.3 }), "check outside its face: duct W1"],
  ["a duct at the upper edge: nothing", (d) => moveBar(d, { y: 1960.1 }), ""],
  ["an upright duct too high", (d) => moveBar(d, { run: "up", y: 1600 }), "check outside its face: duct W1"],
  ["an upright duct at the right edge: nothing", (d) => moveBar(d, { run: "up", x: 1960, y: 1500 }), ""],
  ["a duct of an unknown part: said by the intake", (d) => moveBar(d, { part: "?" }), ""],
  ["a device on no face", (d) => place(d, { face: "+A9/plate", x: 0, y: 0 }), "stop unknown face: device -A"],
  ["a device without x", (d) => place(d, { face: "+A1/plate", y: 0 }), "stop loose device: device -A"],
  ["a device without y", (d) => place(d, { face: "+A1/plate", x: 0 }), "stop loose device: device -A"],
  [
    "a device outside its face",
    (d) => place(d, { face: "+A1/plate", x: 1995, y: 0 }),
    "check outside its face: device -A",
  ],
  [
    "a device off the end of its rail",
    (d) => (withDatum(d), place(d, { rail: "R1", x: 290.3 })),
    "check off its rail: device -A",
  ],
  ["a device at the end of its rail: nothing", (d) => (withDatum(d), place(d, { rail: "R1", x: 290.1 })), ""],
  [
    "a device off the start of its rail",
    (d) => (withDatum(d), place(d, { rail: "R1", x: -0.3 })),
    "check off its rail: device -A",
  ],
  ["a device at the start of its rail: nothing", (d) => (withDatum(d), place(d, { rail: "R1", x: -0.1 })), ""],
  ["a device on a rail without x", (d) => (withDatum(d), place(d, { rail: "R1" })), "stop loose device: device -A"],
  ["a device on no rail", (d) => (withDatum(d), place(d, { rail: "R9", x: 0 })), "stop loose device: device -A"],
  [
    "a device on a rail of an unknown part",
    (d) => (withDatum(d), (d.rails[0]!.part = "?"), place(d, { rail: "R1", x: 0 })),
    "stop loose device: device -A",
  ],
  [
    "a device on a rail on no face",
    (d) => (withDatum(d), (d.rails[0]!.face = "?"), place(d, { rail: "R1", x: 0 })),
    "stop loose device: device -A",
  ],
  ["a part without rail datum on a rail", (d) => place(d, { rail: "R1", x: 0 }), "check no rail datum: device -A"],
  [
    "a part with a slot datum alone on a rail",
    (d) => (withSlots(d), place(d, { rail: "R1", x: 0 })),
    "check no rail datum: device -A",
  ],
  [
    "a device turned across its rail",
    (d) => (withDatum(d), place(d, { rail: "R1", x: 0 }, { turn: 270 })),
    "check turned across its rail: device -A",
  ],
  ["a device turned on its rail: nothing", (d) => (withDatum(d), place(d, { rail: "R1", x: 0 }, { turn: 180 })), ""],
  [
    "a wide part turned across reaches as far as it is high",
    (d) => {
      withDatum(d);
      Object.assign(partOf(d), { w: 50, h: 10 });
      place(d, { rail: "R1", x: 290 }, { turn: 90 });
    },
    "check turned across its rail: device -A",
  ],
  [
    "bodies in each other",
    (d) => void (d.devices[1]!.on = { face: "+A1/plate", x: 100, y: 120 }),
    "check bodies overlap: device -B",
  ],
  ["bodies that touch: nothing", (d) => void (d.devices[1]!.on = { face: "+A1/plate", x: 104.9, y: 115 }), ""],
  ["bodies that touch above: nothing", (d) => void (d.devices[1]!.on = { face: "+A1/plate", x: 95, y: 124.9 }), ""],
  ["bodies on two faces: nothing", (d) => void (d.devices[1]!.on = { face: "+A1/door", x: 95, y: 15 }), ""],
  [
    "three bodies in one place",
    (d) => {
      d.devices[1]!.on = { face: "+A1/plate", x: 100, y: 120 };
      d.devices.push({ tag: "-0", part: "P", on: { face: "+A1/plate", x: 92, y: 118 } });
    },
    "check bodies overlap: device -A",
  ],
  [
    "a body under another one that is higher",
    (d) => {
      withDatum(d);
      place(d, { rail: "R1", x: 0 });
      d.parts.push({ ...DOT, number: "LOW", d: 7.8, w: 20, h: 20 });
      d.devices[1] = { tag: "-B", part: "LOW", on: { face: "+A1/plate", x: 200, y: 510 } };
    },
    "check bodies overlap: device -B",
  ],
  ["a child in its parent: nothing", (d) => (withSlots(d), place(d, { slot: "-B", name: "s" })), ""],
  [
    "two children in one place",
    (d) => {
      withSlots(d);
      place(d, { slot: "-B", name: "s" });
      d.devices.push({ tag: "-C", part: "P", on: { slot: "-B", name: "r" } });
    },
    "check bodies overlap: device -C",
  ],
  [
    "a slot part without datum",
    (d) => (withSlots(d), delete partOf(d).mounts, place(d, { slot: "-B", name: "s" })),
    "check no slot datum: device -A",
  ],
  [
    "a slot that is not there",
    (d) => (withSlots(d), place(d, { slot: "-B", name: "t" })),
    "stop loose device: device -A",
  ],
  ["a slot without a name", (d) => (withSlots(d), place(d, { slot: "-B" })), "stop loose device: device -A"],
  ["a part without slots", (d) => place(d, { slot: "-B", name: "s" }), "stop loose device: device -A"],
  ["a slot of nobody", (d) => (withSlots(d), place(d, { slot: "-Z", name: "s" })), "stop loose device: device -A"],
  [
    "a slot of a loose device",
    (d) => (withSlots(d), place(d, { slot: "-B", name: "s" }), void delete d.devices[1]!.on),
    "stop loose device: device -A",
  ],
  [
    "devices in each other's slots, and one that hangs on them",
    (d) => {
      withSlots(d);
      place(d, { slot: "-B", name: "s" });
      d.devices[1]!.on = { slot: "-A", name: "s" };
      d.devices.unshift({ tag: "-C", part: "P", on: { slot: "-A", name: "r" } });
    },
    "stop loose device: device -C",
  ],
  [
    "a device in its own slot",
    (d) => (withSlots(d), place(d, { slot: "-A", name: "s" })),
    "stop loose device: device -A",
  ],
  ["two places: said by the intake", (d) => place(d, { face: "+A1/plate", x: 0, y: 0, rail: "R1" }), ""],
];

test.each(CASES)("%s", (_name, change, point) => {
  const d = base();
  change(d);
  const found = compute(d).open.map((p) => `${p.severity} ${p.kind}: ${p.thing} ${p.of}`);
  if (point === "") expect(found).toEqual([]);
  else expect(found).toContain(point);
});

test("every open point about places, word for word", () => {
  const text = CASES.flatMap(([name, change]) => {
    const d = base();
    change(d);
    const { open, loose } = compute(d);
    return [`# ${name}`, ...pointLines(open), ...loose.map((tag) => `loose: ${tag}`), ""];
  });
  golden("panel.txt", text.join("\n"));
});

test("a device with all that is said of it", () => {
  const d = base();
  withDatum(d);
  place(d, { rail: "R1", x: 40 }, { texts: ["pump"], sheet: "12.3", item: 7 });
  const { devices, rails, ducts, loose } = compute(d);
  expect(devices[0]).toEqual({
    tag: "-A",
    part: "P",
    text: "dot",
    category: "terminal",
    texts: ["pump"],
    face: "+A1/plate",
    carrier: "R1",
    // Datum 2 up on the centre line at 517.5: the middle of the body lies 3 above it.
    centre: { x: 245, y: 520.5 },
    turn: 0,
    w: 10,
    h: 10,
    outline: { x: 240, y: 515.5, w: 10, h: 10 },
    z: 7.5,
    top: 47.5,
    sheet: "12.3",
    item: 7,
    fallbacks: [],
  });
  expect(devices[1]).toMatchObject({ texts: [], carrier: null, sheet: null, item: null, z: 0, top: 40 });
  expect(rails[1]).toEqual({
    tag: "R2",
    part: "R",
    face: "+A1/plate",
    run: "up",
    outline: { x: 900, y: 500, w: 35, h: 300 },
    length: 300,
    height: 7.5,
  });
  expect(ducts[0]).toMatchObject({ outline: { x: 0, y: 0, w: 500, h: 40 }, height: 60 });
  expect(loose).toEqual([]);
});

// Body 30 × 10 with its datum 2 mm up: 3 mm from the datum to the middle. Centre lines: y 517.5, x 917.5.
test.each<[string, Turn, { x: number; y: number; w: number; h: number }, Turn]>([
  ["R1", 0, { x: 240, y: 515.5, w: 30, h: 10 }, 0],
  ["R1", 180, { x: 240, y: 509.5, w: 30, h: 10 }, 180],
  ["R2", 0, { x: 909.5, y: 540, w: 10, h: 30 }, 90],
  ["R2", 180, { x: 915.5, y: 540, w: 10, h: 30 }, 270],
  // Across: as long as it is high, its middle on the rail.
  ["R1", 90, { x: 240, y: 502.5, w: 10, h: 30 }, 90],
  ["R2", 270, { x: 902.5, y: 540, w: 30, h: 10 }, 0],
])("on rail %s turned by %d the datum stays on the centre line", (rail, turn, outline, stands) => {
  const d = base();
  withDatum(d);
  partOf(d).w = 30;
  place(d, { rail, x: 40 }, { turn });
  const device = compute(d).devices[0]!;
  expect(device.outline).toEqual(outline);
  expect(device.turn).toBe(stands);
  expect(device.fallbacks).toEqual(turn === 90 || turn === 270 ? ["turned-across"] : []);
});

// Parent 100 × 60, slot at 80, 10, 5; module 20 × 40 with datum 3, 8, 2: from the datum to its middle 7, 12.
test.each<[string, Turn, Turn, { x: number; y: number; w: number; h: number }]>([
  // Parent's middle 550, 530; slot 30, −20 from it; module's middle 37, −8 from it.
  ["as they are", 0, 0, { x: 577, y: 502, w: 20, h: 40 }],
  // The parent turned: 37, −8 becomes 8, 37.
  ["the parent by 90", 90, 0, { x: 538, y: 557, w: 40, h: 20 }],
  ["the parent by 180", 180, 0, { x: 503, y: 518, w: 20, h: 40 }],
  ["the parent by 270", 270, 0, { x: 522, y: 483, w: 40, h: 20 }],
  // The module turned in its slot: 30 − 7, −20 − 12 from the parent's middle.
  ["the module by 180", 0, 180, { x: 563, y: 478, w: 20, h: 40 }],
  // 7, 12 becomes −12, 7: 18, −13 from the middle, lying.
  ["the module by 90", 0, 90, { x: 548, y: 507, w: 40, h: 20 }],
  ["both by 90", 90, 90, { x: 553, y: 528, w: 20, h: 40 }],
])("in a slot, turned: %s, datum stays on datum", (_name, parent, own, outline) => {
  const d = base();
  d.parts.push(
    { ...DOT, number: "HEAD", w: 100, h: 60, slots: [{ name: "s", x: 80, y: 10, z: 5 }] },
    { ...DOT, number: "MOD", w: 20, h: 40, mounts: [{ kind: "slot", datumX: 3, datumY: 8, datumZ: 2 }] },
    { ...DOT, number: "LEAF", w: 4, h: 6 },
  );
  d.parts.find((p) => p.number === "MOD")!.slots = [{ name: "t", x: 10, y: 20, z: 10 }];
  d.devices = [
    // Children stand before their parents in the list.
    { tag: "-L", part: "LEAF", on: { slot: "-M", name: "t" } },
    { tag: "-M", part: "MOD", turn: own, on: { slot: "-H", name: "s" } },
    { tag: "-H", part: "HEAD", turn: parent, on: { face: "+A1/plate", x: 500, y: 500 } },
  ];
  const [leaf, child] = compute(d).devices;
  expect(child!.outline).toEqual(outline);
  expect([child!.z, child!.turn, child!.carrier, child!.fallbacks]).toEqual([3, (parent + own) % 360, "-H", []]);
  // The leaf has no datum: its lower left corner is taken, 13 up, and its middle 2, 3 from the module's.
  const off = { 0: [2, 3], 90: [-3, 2], 180: [-2, -3], 270: [3, -2] }[child!.turn];
  expect([leaf!.centre.x - child!.centre.x, leaf!.centre.y - child!.centre.y]).toEqual(off);
  expect([leaf!.z, leaf!.fallbacks]).toEqual([13, ["no-slot-datum"]]);
});

test("a part on a guess hands the guess on to what sits in it", () => {
  const d = base();
  withSlots(d);
  place(d, { rail: "R1", x: 0 });
  d.devices[1]!.on = { slot: "-A", name: "s" };
  delete partOf(d).mounts;
  expect(compute(d).devices.map((x) => x.fallbacks)).toEqual([["no-rail-datum"], ["no-rail-datum", "no-slot-datum"]]);
});
