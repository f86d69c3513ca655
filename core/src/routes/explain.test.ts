import { SHOP_RULES } from "../shop/rules";
import type { Working } from "../frame/working";
import { compute as panel } from "../panel/compute";
import { BARE, DOT, dot, enclosure, tiny, wire, type TinyOptions } from "../test/tiny";
import { compute } from "./compute";
import { explain, type Subject } from "./explain";
import { piecesIn, stepsOf, stretchesOf, wayInWords, wiresIn } from "./way";

const make = (o: TinyOptions) => {
  const design = tiny(o);
  const result = compute(design, SHOP_RULES, panel(design));
  return { result, explain: (subject: Subject) => explain(result, subject, { design, shop: SHOP_RULES })! };
};

const line: TinyOptions = {
  ducts: [{}, { tag: "W2", run: "up", x: 480, y: 0, length: 400 }],
  devices: [dot("-A", 100, 20), dot("-B", 500, 300)],
  wires: [wire("-A", "-B")],
};

const texts = (w: Working): string[] => w.terms.map((t) => t.text);

describe("the working of a length", () => {
  test("names every term in the order of the way, each with value and source", () => {
    const w = make(line).explain({ of: "length", wire: "1" });
    expect(texts(w)).toEqual([
      "-A:p straight into W1",
      "right along W1",
      "up along W2",
      "-B:p straight out of W2",
      "tail inside -A",
      "tail inside -B",
      "slack at -A",
      "slack at -B",
      "rounded up",
    ]);
    expect(w.terms.find((t) => t.text === "slack at -A")!.source).toBe("slack at an end 30 mm (shop default)");
    expect([w.total, w.unit]).toEqual([740, "mm"]);
  });

  test("shows reserve, shortest lead and loops only when they count", () => {
    const short = make({ ...line, devices: [dot("-A", 100, 20), dot("-B", 110, 20)] });
    expect(texts(short.explain({ of: "length", wire: "1" }))).toContain("raised to the shortest lead");
    const more = make({ ...line, rules: { routes: { reservePercent: 5 } } }).explain({ of: "length", wire: "1" });
    expect(more.terms.find((t) => t.text === "reserve")).toMatchObject({
      value: 37,
      source: "reserve on the sum 5 % (rule of this job)",
    });
  });

  test("a term that rests on a fallback says so, the others do not", () => {
    const blind = { ...DOT, number: "X", pins: [{ name: "p", clamp: "screw" as const }] };
    const w = make({
      ...line,
      parts: [blind],
      devices: [{ tag: "-A", part: "X", on: { face: "+A1/plate", x: 95, y: 15 } }, dot("-B", 500, 300)],
    }).explain({ of: "length", wire: "1" });
    expect(w.terms.filter((t) => t.fallback).map((t) => t.text)).toEqual(["-A:p straight into W1", "tail inside -A"]);
  });

  test("links lead to devices and pieces", () => {
    const w = make(line).explain({ of: "length", wire: "1" });
    expect(w.terms[0]!.link).toEqual({ thing: "device", of: "-A" });
    expect(w.terms[1]!.link).toEqual({ thing: "piece", of: "W1.1" });
  });

  test("without a way it says why and gives no number", () => {
    const w = make({ ...line, ducts: [{}], devices: [dot("-A", 100, 20), dot("-B", 100, 100, "+A1/door")] }).explain({
      of: "length",
      wire: "1",
    });
    expect([w.total, texts(w)]).toEqual([null, ["there is no duct on +A1/door, where -B sits"]]);
  });

  test("what is not there has no working", () => {
    const { result } = make(line);
    const context = { design: tiny(line), shop: SHOP_RULES };
    expect(explain(result, { of: "length", wire: "nix" }, context)).toBeNull();
    expect(explain(result, { of: "fill", piece: "W9.1" }, context)).toBeNull();
  });
});

describe("the working of colour and size", () => {
  const nets = [{ name: "n", class: "earth" as const, sizeMm2: 2.5 }];

  test("says where it was looked for and where it was found", () => {
    const { explain } = make({ ...line, nets });
    expect(explain({ of: "colour", wire: "1" })).toMatchObject({
      total: "GNYE",
      terms: [
        { text: "not given on the wire itself" },
        { text: "not given on its net" },
        { text: "not by a rule of the job for its class" },
        { text: "rule of the shop for its class: earth" },
      ],
    });
    expect(explain({ of: "size", wire: "1" })).toMatchObject({
      total: 2.5,
      unit: "mm2",
      terms: [{ text: "not given on the wire itself" }, { text: "given on its net: n" }],
    });
  });

  test("found nowhere: five places, no value", () => {
    const { explain } = make({ ...line, nets: [{ name: "n", class: "control" }] });
    expect(explain({ of: "size", wire: "1" }).terms).toHaveLength(5);
    expect(explain({ of: "size", wire: "1" }).total).toBeNull();
  });
});

describe("the working of a fill", () => {
  test("groups the wires by diameter; the shares add up to the fill", () => {
    const nets = [
      { name: "n", class: "control" as const, colour: "BU" as const, sizeMm2: 1 },
      { name: "m", class: "supply" as const, colour: "BK" as const, sizeMm2: 6 },
    ];
    const wires = [wire("-A", "-B"), wire("-A", "-B"), wire("-A", "-B", { net: "m" })];
    const { explain, result } = make({ ...line, nets, wires });
    const w = explain({ of: "fill", piece: "W1.1" });
    expect(texts(w).slice(0, 2)).toEqual(["1 wire of 5.3 mm diameter", "2 wires of 2.8 mm diameter"]);
    const sum = w.terms.reduce((s, t) => s + (t.value ?? 0), 0);
    expect(sum).toBeCloseTo(w.total as number, 1);
    expect(wiresIn(result, 0)).toHaveLength(3);
  });

  test("a duct without inside size has no fill, and wires through it are marked", () => {
    const bare = { number: "B", maker: "m", text: "bare duct", category: "duct" as const, w: 2000, h: 40, d: 60 };
    const { explain, result } = make({ ...line, parts: [bare], ducts: [{ part: "B" }, line.ducts![1]!] });
    expect(explain({ of: "fill", piece: "W1.1" }).total).toBeNull();
    expect(result.wires[0]!.marks).toEqual(["no-duct-size"]);
    expect(result.open.map((p) => `${p.kind} ${p.of}`)).toEqual(["no inside size W1"]);
  });
});

describe("the way of a wire", () => {
  test("pieces of one duct in one direction are one step", () => {
    const { result } = make({
      ducts: [
        { length: 900 },
        { tag: "V1", run: "up", x: 300, y: 0, length: 300 },
        { tag: "V2", run: "up", x: 600, y: 0, length: 300 },
      ],
      devices: [dot("-A", 20, 20), dot("-B", 880, 20)],
      wires: [wire("-A", "-B")],
      rules: BARE,
    });
    const w = result.wires[0]!;
    expect(stepsOf(result, w).filter((s) => s.kind === "along")).toEqual([
      { kind: "along", mm: 860, duct: "W1", pieces: ["W1.1", "W1.2", "W1.3"], heading: "right" },
    ]);
    expect(wayInWords(result, w)).toBe("into W1, right along W1, to -B");
    expect(piecesIn(result, w)).toHaveLength(3);
  });

  test("there and back in one duct reads as two steps of other duct pieces", () => {
    const { result } = make({
      ducts: [{ length: 900 }],
      devices: [dot("-A", 700, 20), dot("-B", 200, 20)],
      wires: [wire("-A", "-B")],
      rules: BARE,
    });
    expect(wayInWords(result, result.wires[0]!)).toBe("into W1, left along W1, to -B");
  });

  test("lines on a face turn square", () => {
    const { result } = make({ ...line, devices: [dot("-A", 100, 120), dot("-B", 560, 300)] });
    for (const s of stretchesOf(result, result.wires[0]!)) {
      for (let i = 1; i < s.points.length; i++) {
        const [a, b] = [s.points[i - 1]!, s.points[i]!];
        expect(a.x === b.x || a.y === b.y).toBe(true);
      }
    }
  });

  test("a wire without a way has no words, no lines and lies in nothing", () => {
    const { result } = make({ ...line, ducts: [] });
    const w = result.wires[0]!;
    expect([wayInWords(result, w), stretchesOf(result, w), piecesIn(result, w), stepsOf(result, w)]).toEqual([
      "",
      [],
      [],
      [],
    ]);
  });

  test("a core of a cable is led nowhere and is no open point", () => {
    const { result } = make({ ...line, wires: [wire("-A", "-B", { core: { cable: "-W1", core: "1" } })] });
    expect(result.wires[0]).toMatchObject({ lengthMm: null, noWay: null, marks: ["core"] });
    expect(result.open).toEqual([]);
  });
});

describe("why there is no way", () => {
  const why = (o: TinyOptions): string | null => make(o).result.wires[0]!.noWay;

  test.each<[string, TinyOptions, string]>([
    ["an end is missing", { ...line, wires: [{ from: { device: "-A", pin: "p" } }] }, "one of its ends is missing"],
    ["a device is unknown", { ...line, wires: [wire("-A", "-Z")] }, "-Z is not in the design"],
    ["a device is loose", { ...line, devices: [dot("-A", 100, 20), { tag: "-B" }] }, "-B has no place"],
    [
      "a pin is unknown",
      { ...line, wires: [{ from: { device: "-A", pin: "p" }, to: { device: "-B", pin: "q" } }] },
      "-B has no pin q",
    ],
    [
      "no duct on the face",
      { ...line, devices: [dot("-A", 100, 20), dot("-B", 10, 10, "+A1/left")] },
      "there is no duct on +A1/left, where -B sits",
    ],
    [
      "nothing joins two faces",
      {
        ...line,
        ducts: [{}, { tag: "W2", face: "+A1/door" }],
        devices: [dot("-A", 100, 20), dot("-B", 100, 20, "+A1/door")],
      },
      "no way leads from W1 to W2: no crossing joins +A1/door and +A1/plate",
    ],
    [
      "another row of enclosures",
      {
        ...line,
        enclosures: [enclosure("+A1"), enclosure("+A2")],
        ducts: [{}, { tag: "W2", face: "+A2/plate" }],
        crossings: [
          {
            tag: "N",
            kind: "wall",
            from: { duct: "W1" },
            to: { duct: "W2" },
            enclosure: "+A1",
            points: [
              { x: 200, y: 120, z: 373 },
              { x: 300, y: 120, z: 373 },
            ],
          },
        ],
        devices: [dot("-A", 100, 20), dot("-B", 100, 20, "+A2/plate")],
      },
      "no way leads from W1 to W2: crossing N hangs free (duct W2 is in another row of enclosures than +A1)",
    ],
  ])("%s", (_name, options, reason) => {
    expect(why(options)).toBe(reason);
  });
});
