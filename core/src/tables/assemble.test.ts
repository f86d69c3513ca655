import { runStages } from "../run";
import { NOT_TOLD } from "../design/model";
import { assemble, type MatchedTable } from "./assemble";
import { recognise } from "./kept";
import { preview } from "./preview";

const JOB = { code: "SALT-1", title: "lift bridge", revision: "A" };
const table = (name: string, text: string | Uint8Array, as?: MatchedTable["matching"]): MatchedTable => {
  const read = recognise(typeof text === "string" ? Buffer.from(text) : text, []);
  if (!read.ok) throw new Error(read.found);
  const { sheet, matching = as } = { ...read.tables[0]!, ...(as ? { matching: as } : {}) };
  if (!matching) throw new Error(`${name} is nothing of ours`);
  return { name, sheet, matching };
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
    ["-K1", NOT_TOLD],
    ["-X1", NOT_TOLD],
    ["-K2", NOT_TOLD],
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

const kind = (name: string, text: string, wanted: string): MatchedTable => {
  const t = table(name, text);
  expect(t.matching.kind).toBe(wanted);
  return t;
};

test("terminals make strips; ends that name a terminal land on it, wires inside and cores outside", () => {
  const { design, notRead } = made(
    kind("t.csv", "Klemmleiste;Klemme;Typ;Text\n-X1;1;T4;L+\n;2;T4;\n;PE;T4P;\n-X2;1;T4;\n;1;T4;\n", "terminals"),
    kind("c.csv", "from;to;size\n-K1:A1;-X1:1;1.5\n-X1:2:b;-X2:9;1.5\n", "connections"),
    kind(
      "k.csv",
      "Cable;Core;Colour;From;To;Cable type\n-W1;1;BK;-X1:1;-M1:U;C4\n;2;BN;-M1:V;-X1:2;\n;PE;GNYE;-X1:PE;pump;\n-W1;2;BU;;;\n",
      "cables",
    ),
  );
  expect(design.strips).toEqual([
    { tag: "-X1", rail: NOT_TOLD, members: ["-X1.1", "-X1.2", "-X1.PE"] },
    { tag: "-X2", rail: NOT_TOLD, members: ["-X2.1"] },
  ]);
  expect(design.devices.map((d) => `${d.tag} ${d.part}`)).toEqual([
    "-X1.1 T4",
    "-X1.2 T4",
    "-X1.PE T4P",
    "-X2.1 T4",
    "-K1 not told",
  ]);
  expect(design.wires.map((w) => [w.from, w.to])).toEqual([
    [
      { device: "-K1", pin: "A1" },
      { device: "-X1.1", pin: "a" },
    ],
    // There is no terminal 9: the end stays what was said.
    [
      { device: "-X1.2", pin: "b" },
      { device: "-X2", pin: "9" },
    ],
  ]);
  expect(design.cables).toEqual([
    {
      tag: "-W1",
      type: "C4",
      cores: [
        { core: "1", colour: "BK", from: { device: "-X1.1", pin: "b" }, far: "-M1:U" },
        { core: "2", colour: "BN", from: { device: "-X1.2", pin: "b" }, far: "-M1:V" },
        { core: "PE", colour: "GNYE", from: { device: "-X1.PE", pin: "b" }, far: "pump" },
      ],
    },
  ]);
  expect(notRead.map((n) => [n.table, n.line, n.wanted])).toEqual([
    ["t.csv", 6, "another terminal than -X2.1, which stands in a list already"],
    ["k.csv", 5, "another core than 2 of -W1, which is listed already"],
  ]);
});

test("a list of devices may name the strip too; a chain is no core", () => {
  const { design, notRead } = made(
    kind("d.csv", "Tag;Part\n-X1;strip\n-K1;R\n", "devices"),
    kind("t.csv", "Klemmleiste;Klemme;Typ\n-X1;1;T4\n-X1;2;T4\n", "terminals"),
    table("c.csv", "Wire;Ends;Cable\n1;-K1:A1, -X1:1;\n2;-K1:A2, -X1:2;-W1\n", {
      kind: "connections",
      columns: {
        number: { from: [{ heading: "Wire" }] },
        chain: { from: [{ heading: "Ends" }] },
        cable: { from: [{ heading: "Cable" }] },
      },
    }),
  );
  expect(design.wires.map((w) => w.to)).toEqual([{ device: "-X1.1", pin: "a" }]);
  expect(design.devices.map((d) => d.tag)).toEqual(["-X1", "-K1", "-X1.1", "-X1.2"]);
  expect(design.cables).toEqual([]);
  expect(notRead.map((n) => n.wanted)).toEqual(["the two ends of a core in columns of their own"]);
});

test("a number that a point or a comma would make another is told, unless the column says which it is", () => {
  const shown = (sizes: string): string | null => {
    const t = table("p.csv", `Part;Maker;Width;Loss\n${sizes}`);
    return preview(t.sheet, t.matching!, 5).fields.w!.unclear;
  };
  expect(shown("A;x;1,250;1\nB;x;45;1\n")).toBe("1,250");
  expect(shown("A;x;1,250;1\nB;x;4,5;1\n")).toBeNull();
  expect(shown("A;x;125;1\n")).toBeNull();
});

test("a chain on one row is a wire from each pin to the next, numbered behind its number", () => {
  const { design } = made(
    kind("c.csv", "Nr;Ends;Net\n7;-K1:A1, -K2:A1, -K3:A1;24V\n7.2;-K1:A2 -K2:A2;0V\n;-K4:1 -> -K5:1;\n", "connections"),
  );
  expect(design.wires.map((w) => `${w.number} ${w.from!.device}:${w.from!.pin} ${w.to!.device}:${w.to!.pin}`)).toEqual([
    "7 -K1:A1 -K2:A1",
    "7.3 -K2:A1 -K3:A1",
    "7.2 -K1:A2 -K2:A2",
    "1 -K4:1 -K5:1",
  ]);
});

test("connections with a cable are its cores; nets say their class, voltage and size", () => {
  const { design } = made(
    kind("c.csv", "No;From;To;Cable;Core;Signal\n1;-K1:1;-K2:1;;;S1\n;-K1:2;-K2:2;-W1;1;S2\n", "connections"),
    kind("n.csv", "Net;Class;Voltage;Current;mm2\nS1;Steuerung;24 V DC;0,5 A;0,75\n", "nets"),
  );
  expect(design.wires.map((w) => w.number)).toEqual(["1"]);
  expect(design.cables[0]).toMatchObject({ tag: "-W1", cores: [{ core: "1", net: "S2" }] });
  expect(design.nets).toEqual([
    { name: "S1", class: "control", voltage: { v: 24, kind: "dc" }, currentA: 0.5, sizeMm2: 0.75 },
    { name: "S2" },
  ]);
});

test("columns are joined and cut as a matching says", () => {
  const list = table("d.csv", "Anlage;Ort;Nummer;Artikel\n=F1;A1;K1;RX-12/blau\n;A2;K2;RX-13\n", {
    kind: "devices",
    columns: {
      tag: {
        from: [
          { heading: "Ort", before: "+" },
          { heading: "Nummer", before: "-" },
        ],
      },
      part: { from: [{ heading: "Artikel", cut: { at: "/", piece: 1 } }] },
      text: {
        from: [
          { heading: "Artikel", cut: { at: "/", piece: -1 } },
          { heading: "Anlage", before: " of " },
        ],
      },
    },
  });
  expect(made(list).design.devices).toEqual([
    { tag: "-K1", part: "RX-12", enclosure: "+A1", texts: ["blau of =F1"] },
    { tag: "-K2", part: "RX-13", enclosure: "+A2", texts: ["RX-13"] },
  ]);
});

test("several devices with one tag go by their whole tags; an end that may mean more than one is listed", () => {
  const devices = kind("d.csv", "Tag;Part\n=F1+A1-K1;RX\n=F2+A1-K1;RX\n+A2-K1;RX\n-K2;RX\n+A1-K3;RX\n", "devices");
  const { design, notRead } = made(
    devices,
    kind(
      "c.csv",
      "No;From;To\n1;=F1+A1-K1:1;+A2-K1:1\n2;-K1:1;-K2:1\n3;+A1-K1:2;-K2:2\n4;+A9-K1:2;+A9-K3:2\n5;-K2:1;=F2+A1-K1:3\n",
      "connections",
    ),
  );
  expect(design.devices.map((d) => [d.tag, d.enclosure ?? null])).toEqual([
    ["=F1+A1-K1", "+A1"],
    ["=F2+A1-K1", "+A1"],
    ["+A2-K1", "+A2"],
    ["-K2", null],
    // It is the only one of its tag.
    ["-K3", "+A1"],
  ]);
  expect(design.wires.map((w) => `${w.number} ${w.from!.device} ${w.to!.device}`)).toEqual([
    "1 =F1+A1-K1 +A2-K1",
    "4 +A9-K1 -K3",
    "5 -K2 =F2+A1-K1",
  ]);
  expect(notRead.map((n) => `${n.line}: ${n.wanted}`)).toEqual([
    "3: one of =F1+A1-K1, =F2+A1-K1, +A2-K1, written in full",
    "4: one of =F1+A1-K1, =F2+A1-K1, written in full",
  ]);
});

test("strips of one tag in two enclosures, by a column too; without a list of devices ends say who there is", () => {
  const strips = kind("t.csv", "Strip;Terminal;Enclosure\n-X1;1;+A1\n-X1;1;+A2\n-X1;2;+A2\n", "terminals");
  const { design } = made(
    strips,
    kind("c.csv", "No;From;To\n1;+A1-X1:1;+A2-X1:2\n2;+A1-K1:1;+A2-K1:1\n", "connections"),
  );
  expect(design.strips.map((s) => [s.tag, s.members])).toEqual([
    ["+A1-X1", ["+A1-X1.1"]],
    ["+A2-X1", ["+A2-X1.1", "+A2-X1.2"]],
  ]);
  expect(design.wires.map((w) => `${w.from!.device}:${w.from!.pin} ${w.to!.device}:${w.to!.pin}`)).toEqual([
    "+A1-X1.1:a +A2-X1.2:a",
    "+A1-K1:1 +A2-K1:1",
  ]);
});

test("terminals that say the same jumper are joined: a name all of them, a mark those that follow one another", () => {
  const { design } = made(
    table(
      "t.csv",
      "Klemmleiste;Klemme;Brücke\n-X1;1;x\n-X1;2;x\n-X1;3;\n-X1;4;x\n-X1;5;x\n-X1;6;x\n-X1;7;\n-X1;8;x\n-X2;1;L+\n-X2;2;M\n-X2;3;L+\n",
    ),
  );
  expect(design.strips.map((s) => s.jumpers)).toEqual([
    [
      { row: 1, members: ["-X1.1", "-X1.2"] },
      { row: 1, members: ["-X1.4", "-X1.5", "-X1.6"] },
    ],
    [{ row: 1, members: ["-X2.1", "-X2.3"] }],
  ]);
});
