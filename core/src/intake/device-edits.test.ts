import type { Design } from "../design/model";
import { EDITS } from "../edits";
import { dot, tiny, wire } from "../test/tiny";

const design: Design = {
  ...tiny({
    devices: [
      { ...dot("-K1", 100, 100), texts: ["pump"], item: 4 },
      { ...dot("-K2", 200, 100), enclosure: "+A1" },
      dot("-K9", 300, 100),
      { tag: "-U1", on: { slot: "-K9", name: "1" } },
      { tag: "-X1.1" },
    ],
    wires: [
      { ...wire("-K1", "-K2"), number: "7", colour: "BU" },
      { ...wire("-K2", "-X1.1"), number: "8" },
      { ...wire("-K9", "-X1.1"), number: "12" },
    ],
  }),
  strips: [{ tag: "-X1", rail: "R", members: ["-X1.1"] }],
  cables: [
    { tag: "-W1", type: "c", gland: "-K9", cores: [{ core: "1", from: { device: "-K9", pin: "p" }, far: "field" }] },
  ],
};

const laid = (kind: string, payload: object) => {
  const doing = EDITS.settled(design, { kind, payload }, "M");
  const applied = EDITS.apply(design, doing);
  return { doing, applied, sentence: EDITS.sentence(doing) };
};
const made = (kind: string, payload: object): Design => {
  const { applied } = laid(kind, payload);
  if (!applied.ok) throw new Error(applied.reason);
  return applied.design;
};
const refused = (kind: string, payload: object): string => {
  const { applied } = laid(kind, payload);
  return applied.ok ? "it fits" : `${applied.reason}. ${applied.remedy}`;
};
const ends = ({ wires }: Design): string[] =>
  wires.map((w) => `${w.number} ${w.from?.device ?? "?"} ${w.to?.device ?? "?"}`);

test("a device is added loose; a tag that is taken is refused with the next free one", () => {
  const next = made("add device", { tag: "-K3", part: "P", enclosure: "+A1", texts: ["fan"] });
  expect(next.devices.at(-1)).toEqual({ tag: "-K3", part: "P", enclosure: "+A1", texts: ["fan"] });
  expect(refused("add device", { tag: "-K2", part: "P" })).toBe(
    "there is a device -K2 already. The next free tag is -K3.",
  );
  expect(refused("add device", { tag: "-K3", part: "Q" })).toContain("there is no part Q");
  expect(refused("add device", { tag: "-K3", part: "P", enclosure: "+B7" })).toContain("there is no enclosure +B7");
});

test("devices are copied together, loose, under the next free tags, with the wires between them and to others", () => {
  const { doing, sentence } = laid("copy devices", { devices: ["-K1", "-K2"], withWires: true });
  expect(doing.payload).toEqual({
    devices: ["-K1", "-K2"],
    withWires: true,
    as: ["-K3", "-K4"],
    wires: [
      { wire: "7", as: "9" },
      { wire: "8", as: "10" },
    ],
  });
  expect(sentence).toBe("-K1, -K2 copied as -K3, -K4, with wires 9, 10");
  const next = made("copy devices", { devices: ["-K1", "-K2"], withWires: true });
  // Where they stood is where they hang now; an item number is of one device.
  expect(next.devices.slice(-2)).toEqual([
    { tag: "-K3", part: "P", texts: ["pump"], enclosure: "+A1" },
    { tag: "-K4", part: "P", enclosure: "+A1" },
  ]);
  expect(ends(next).slice(-2)).toEqual(["9 -K3 -K4", "10 -K4 -X1.1"]);
  expect(next.wires[3]!.colour).toBe("BU");
  expect(ends(made("copy devices", { devices: ["-K1"], withWires: false }))).toEqual(ends(design));
  expect(refused("copy devices", { devices: ["-K1"], withWires: false, as: ["-K9"] })).toBe(
    "there is a device -K9 already. The next free tag is -K10.",
  );
  expect(
    refused("copy devices", { devices: ["-K1"], withWires: true, as: ["-K3"], wires: [{ wire: "7", as: "8" }] }),
  ).toBe("there is a wire 8 already. The next free number is 9.");
  expect(refused("copy devices", { devices: ["-K1", "-K2"], withWires: false, as: ["-K3"] })).toContain("under 1 tags");
});

test("a device that goes leaves its wires loose, or takes them along; cables lose what led to it", () => {
  expect(ends(made("remove devices", { devices: ["-K2"], withWires: false }))).toEqual([
    "7 -K1 ?",
    "8 ? -X1.1",
    "12 -K9 -X1.1",
  ]);
  const next = made("remove devices", { devices: ["-K9", "-U1", "-K1"], withWires: true });
  expect([next.devices.map((d) => d.tag), ends(next)]).toEqual([["-K2", "-X1.1"], ["8 -K2 -X1.1"]]);
  expect(next.cables).toEqual([{ tag: "-W1", type: "c", cores: [{ core: "1", far: "field" }] }]);
  expect(next.strips).toBe(design.strips);
  expect(refused("remove devices", { devices: ["-K9"], withWires: true })).toBe(
    "-U1 sits in -K9. Place it elsewhere first, or delete it too.",
  );
  expect(refused("remove devices", { devices: ["-X1.1"], withWires: true })).toBe(
    "-X1.1 is a member of strip -X1. Take it off the strip, out of the design.",
  );
  expect(refused("remove devices", { devices: ["-K5"], withWires: true })).toContain("there is no device -K5");
});
