import { guess } from "./guess";
import { sheetOf } from "./sheet";

const sheet = (...lines: string[]) => sheetOf(lines.map((l, i) => ({ line: i + 1, cells: l.split(";") })));
const headingsOf = (...lines: string[]): Record<string, string> | null => {
  const matching = guess(sheet(...lines));
  return (
    matching && Object.fromEntries(Object.entries(matching.columns).map(([field, m]) => [field, m.from[0]!.heading]))
  );
};

test("a list of connections with both ends in a cell each", () => {
  const matching = guess(
    sheet(
      "Draht-Nr.;Von;Nach;Querschnitt [mm²];Farbe",
      "101;-K1:A1;-X1:3;1,5;bl",
      "102;-K1:A2;-X1:4;0,75;sw",
      "103;-K2:A1;-X1:5;0,75;gnge",
    ),
  );
  expect(matching).toEqual({
    kind: "connections",
    columns: {
      number: { from: [{ heading: "Draht-Nr." }] },
      from: { from: [{ heading: "Von" }] },
      to: { from: [{ heading: "Nach" }] },
      size: { from: [{ heading: "Querschnitt [mm²]" }], decimal: ",", unit: "mm2" },
      colour: { from: [{ heading: "Farbe" }], language: "German" },
    },
  });
});

test("the same headings twice are the two ends, in their order", () => {
  expect(headingsOf("Device;Pin;Device;Pin;Color;Gauge (AWG)", "-K1;A1;-X1;3;blue;14", "-K1;A2;-X1;4;red;16")).toEqual({
    fromDevice: "Device",
    fromPin: "Pin",
    toDevice: "Device (2)",
    toPin: "Pin (2)",
    colour: "Color",
    size: "Gauge (AWG)",
  });
});

test("columns in any order come to the same matching", () => {
  const rows = [
    ["From device", "From pin", "To device", "To pin", "Net", "Colour"],
    ["-K1", "A1", "-X1", "3", "24V", "BU"],
    ["-K1", "A2", "-X1", "4", "0V", "RD"],
  ];
  const first = headingsOf(...rows.map((r) => r.join(";")));
  const turned = headingsOf(...rows.map((r) => [...r].reverse().join(";")));
  expect(first).toEqual({
    fromDevice: "From device",
    fromPin: "From pin",
    toDevice: "To device",
    toPin: "To pin",
    net: "Net",
    colour: "Colour",
  });
  expect(turned).toEqual(first);
});

test("lists of devices and of parts are told apart, units stand in brackets", () => {
  expect(
    headingsOf("BMK;Artikelnummer;Funktionstext;Einbauort", "-K1;RX-12;Pump on;+A1", "-K2;RX-12;Pump off;+A1"),
  ).toEqual({
    tag: "BMK",
    part: "Artikelnummer",
    text: "Funktionstext",
    enclosure: "Einbauort",
  });
  const parts = guess(
    sheet("Order number;Manufacturer;Width [in];Height [in];Depth;Power loss", "RX-12;Ludd;1.77;3.5;60;2.4"),
  );
  expect(parts?.kind).toBe("parts");
  expect(parts?.columns).toMatchObject({
    w: { unit: "in" },
    h: { unit: "in" },
    d: { unit: "mm" },
    lossW: { decimal: "." },
  });
});

test("a heading whose values are something else is not taken for it, and what is nothing of ours is nothing", () => {
  // "From" that holds dates is no end of a wire.
  expect(headingsOf("From;To;Task", "2026-11-02;2026-11-03;drawing", "2026-11-04;2026-11-05;check")).toBeNull();
  expect(headingsOf("Name;Phone", "Ida;555-1", "Ole;555-2")).toBeNull();
  // Sentences are no tags, whatever stands above them.
  expect(headingsOf("BMK;Artikelnummer", "the pump on the left;RX-12", "another one;RX-13")).toBeNull();
});

test("lines that are empty do not make a title of two words the headings", () => {
  const read = sheet("Works;Saltmere", "", "", "", "", "", "Device;Pin;Net;Colour;Size", "-K1;A1;24V;BU;1", "", "");
  expect([read.headingLine, read.rows.length, read.leftOut[0]]).toEqual([
    7,
    1,
    { line: 1, why: "above the headings", cells: ["Works", "Saltmere"] },
  ]);
});
