import { runStages } from "../run";
import { assemble, NO_PART, type MatchedTable } from "./assemble";
import { readTable } from "./read";

const JOB = { code: "SALT-1", title: "lift bridge", revision: "A" };
const table = (name: string, text: string | Uint8Array): MatchedTable => {
  const read = readTable(typeof text === "string" ? Buffer.from(text) : text);
  if (!read.ok) throw new Error(read.found);
  if (!read.matching) throw new Error(`${name} is nothing of ours`);
  return { name, sheet: read.sheet, matching: read.matching };
};
const made = (...tables: MatchedTable[]) => {
  const all = assemble(JOB, tables);
  if (!all.ok) throw new Error(JSON.stringify(all.faults));
  return all;
};

const DEVICES = "Betriebsmittel;Artikelnummer;Funktionstext;Ort\n-K1;RX-12;Pumpe;+A1\nK2;RX-12;;+A1\n";
const WIRES = `Verbindungsliste Klappbrücke;;;;
Nr;von;nach;Querschnitt (mm²);Farbe
1;-K1:A1;-X1:3;1,5;bl
;-K1:A2;-X1:4;0,75;gnge
2;-K2:A1;-X1;0,75;sw
10;-K2:A2;-X1:5;dick;sw
`;

test("devices and connections become a design; rows and cells that cannot be read are listed with what was wanted", () => {
  const { design, notRead } = made(table("devices.csv", DEVICES), table("wires.csv", Buffer.from(WIRES, "latin1")));
  expect(design.devices).toEqual([
    { tag: "-K1", part: "RX-12", texts: ["Pumpe"], enclosure: "+A1" },
    { tag: "-K2", part: "RX-12", enclosure: "+A1" },
  ]);
  expect(design.wires).toEqual([
    { number: "1", from: { device: "-K1", pin: "A1" }, to: { device: "-X1", pin: "3" }, sizeMm2: 1.5, colour: "BU" },
    // 2 stands in the row that is left out.
    { number: "3", from: { device: "-K1", pin: "A2" }, to: { device: "-X1", pin: "4" }, sizeMm2: 0.75, colour: "GNYE" },
    { number: "10", from: { device: "-K2", pin: "A2" }, to: { device: "-X1", pin: "5" }, colour: "BK" },
  ]);
  expect(notRead).toEqual([
    {
      table: "wires.csv",
      line: 5,
      heading: "nach",
      found: "-X1",
      wanted: "a device and a pin, such as -K1:A1",
      row: true,
    },
    {
      table: "wires.csv",
      line: 6,
      heading: "Querschnitt (mm²)",
      found: "dick",
      wanted: "a cross-section, such as 1.5, 2.5 mm² or AWG 14",
      row: false,
    },
  ]);
  // A device list that lacks a device is an open point of intake, not a fault of the file.
  const { open } = runStages(design);
  expect(open.some((p) => p.stage === "intake" && p.text.includes("-X1"))).toBe(true);
});

test("connections alone are a job too: whoever is connected is there, with a part that is not told", () => {
  const { design } = made(table("wires.csv", WIRES));
  expect(design.devices.map((d) => [d.tag, d.part])).toEqual([
    ["-K1", NO_PART],
    ["-X1", NO_PART],
    ["-K2", NO_PART],
  ]);
  expect(Object.keys(runStages(design).stages).length).toBeGreaterThan(5);
});

test("a list of parts describes those whose size it says; inches are inches", () => {
  const { design, notRead } = made(
    table(
      "parts.csv",
      "Order number,Manufacturer,Width [in],Height [in],Depth [in],Loss\nRX-12,Ludd,1,2,3,2.4\nRX-13,Ludd,1,,3,1\n",
    ),
  );
  expect(design.parts).toEqual([
    { number: "RX-12", maker: "Ludd", text: "RX-12", category: "other", w: 25.4, h: 50.8, d: 76.2, lossW: 2.4 },
  ]);
  expect(notRead).toEqual([
    expect.objectContaining({ line: 3, heading: null, wanted: "width, height and depth of a part", row: true }),
  ]);
});

test("a tag that stands twice in a list of devices is taken once, and said", () => {
  const { design, notRead } = made(table("d.csv", "Tag,Part\n-K1,A\n-K1,B\n-K2,A\n"));
  expect(design.devices.map((d) => d.part)).toEqual(["A", "A"]);
  expect(notRead.map((n) => [n.line, n.row])).toEqual([[3, true]]);
});
