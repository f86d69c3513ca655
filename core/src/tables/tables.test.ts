import { stringify } from "csv-stringify/sync";
import fc from "fast-check";
import { ALL_DRAWN, runs } from "../test/runs";
import { textOf } from "./bytes";
import {
  chainOf,
  colourOfCell,
  decimalOf,
  endOf,
  languageOf,
  lengthOf,
  numberOf,
  sizeOfCell,
  voltageOfCell,
} from "./cells";
import { rowsOf, SEPARATORS, separatorOf } from "./csv";
import { sheetOf } from "./sheet";

const cellsOf = (text: string, separator?: string): string[][] => {
  const read = rowsOf(text, separator);
  if (!read.ok) throw new Error(read.found);
  return read.rows.map((r) => r.cells);
};
const linesOf = (text: string): number[] => {
  const read = rowsOf(text);
  return read.ok ? read.rows.map((r) => r.line) : [];
};

describe("bytes", () => {
  const text = "Gerät;Länge\n-K1;12,5 µm\n";
  test.each([
    ["UTF-8", Buffer.from(text)],
    ["UTF-8", Buffer.from(`\uFEFF${text}`)],
    ["UTF-16", Buffer.from(`\uFEFF${text}`, "utf16le")],
    ["UTF-16", Buffer.from(text, "utf16le")],
    ["UTF-16", Buffer.from(`\uFEFF${text}`, "utf16le").swap16()],
    ["UTF-16", Buffer.from(text, "utf16le").swap16()],
    ["Latin-1", Buffer.from(text, "latin1")],
  ])("%s is read as what it says", (encoding, bytes) => {
    expect(textOf(bytes)).toEqual({ ok: true, text, encoding });
  });

  test.each([
    [Buffer.from("PK\u0003\u0004…"), "a packed file, such as XLSX or ZIP"],
    [Buffer.from("%PDF-1.7"), "a PDF"],
    [Buffer.from("a;b\nc;\u0001d"), "bytes that are no text (in line 2)"],
  ])("what is no table is named: %#", (bytes, found) => {
    expect(textOf(bytes)).toMatchObject({ ok: false, found });
  });
});

describe("rows", () => {
  test("come back as they were written, whatever separator, quotes and ends of lines", () => {
    // An apostrophe before a sign of a formula is none of the cell.
    const cell = fc.stringMatching(/^[a-zA-Z0-9;,|"' .\-+=:]{0,8}$/).map((s) => s.replace(/^[\s']+/, "").trim());
    // Somewhere in it a cell has another sign that could part cells.
    let others = 0;
    fc.assert(
      fc.property(
        fc.array(fc.array(cell, { minLength: 4, maxLength: 4 }), { minLength: 6, maxLength: 12 }),
        fc.constantFrom(...SEPARATORS),
        fc.constantFrom("\n", "\r\n", "\r"),
        (body, separator, end) => {
          const rows = [["device", "from", "to", "size"], ...body.filter((r) => r.some((c) => c !== ""))];
          const text = stringify(rows, { delimiter: separator, record_delimiter: end, quoted_match: /[;,|\t"]/ });
          if (rows.some((r) => r.some((c) => [";", ",", "|"].some((s) => s !== separator && c.includes(s))))) others++;
          expect(cellsOf(text, separator)).toEqual(rows);
          expect(separatorOf(text)).toBe(separator);
        },
      ),
      { numRuns: runs(200), seed: 11 },
    );
    if (ALL_DRAWN) expect(others).toBeGreaterThan(20);
  });

  test("a decimal comma is no separator, and a sign for inches no quote", () => {
    expect(cellsOf('tag;size;note\n-W1;1,5;3/4" pipe\n-W2;0,75;\n')).toEqual([
      ["tag", "size", "note"],
      ["-W1", "1,5", '3/4" pipe'],
      ["-W2", "0,75", ""],
    ]);
  });

  test("know the line they begin in, through quoted ends of lines and mixed ones", () => {
    expect(linesOf('a,b\r\n"one\ntwo",c\nd,e\r\n\r\nf,g')).toEqual([1, 2, 4, 5, 6]);
  });

  test("a line of separators alone is refused before it is parsed", () => {
    expect(rowsOf(`a;b\r\n${";".repeat(60_000)}`)).toMatchObject({
      ok: false,
      found: "more than 50000 cells in line 2",
    });
    expect(rowsOf(`a;b\n${";".repeat(600)}`)).toMatchObject({ ok: false, found: "601 cells in line 2" });
  });

  test("a quote that does not end is refused with its line; so is a row without end", () => {
    expect(rowsOf('a;b\n"c;d\ne;f')).toMatchObject({ ok: false, found: expect.stringMatching(/quote.*line \d/) });
    expect(rowsOf(`a;b\n${"x".repeat(300_000)};d`)).toMatchObject({
      ok: false,
      found: expect.stringContaining("signs"),
    });
  });
});

describe("headings", () => {
  const sheet = (...lines: string[]) => sheetOf(lines.map((l, i) => ({ line: i + 1, cells: l.split(";") })));

  test("stand below titles; rows that are left out are named", () => {
    const s = sheet(
      "Connections of the bridge;;;",
      ";;;",
      "drawn 2026-11-02;by Ida;;",
      "From;To;mm²;Colour",
      "-K1:A1;-X1:3;1,5;bl",
      ";;;",
      "FROM;To;mm²;Colour",
      "-K1:A2;-X1:4;1,5;bl",
      "-K2:A2;-X1:5;1,5;bl;;late",
    );
    expect(s.headings).toEqual(["From", "To", "mm²", "Colour"]);
    expect(s.headingLine).toBe(4);
    expect(s.rows.map((r) => [r.line, r.cells[0]])).toEqual([
      [5, "-K1:A1"],
      [8, "-K1:A2"],
    ]);
    expect(s.leftOut.map((l) => [l.line, l.why])).toEqual([
      [1, "above the headings"],
      [2, "empty"],
      [3, "above the headings"],
      [6, "empty"],
      [7, "the headings again"],
      [9, "more cells than headings"],
    ]);
  });

  test("that stand twice are told apart, those that are missing go by their place", () => {
    expect(sheet("Tag;Pin;Tag;Pin;", "-K1;1;-K2;2;x").headings).toEqual([
      "Tag",
      "Pin",
      "Tag (2)",
      "Pin (2)",
      "column 5",
    ]);
  });

  test("a table of as many rows as there may be is laid out, with headings or without", () => {
    const rows = Array.from({ length: 200_000 }, (_, i) => ({ line: i + 1, cells: ["-K1", "A1"] }));
    expect(sheetOf(rows, null)).toMatchObject({ headings: ["column 1", "column 2"] });
    expect(sheetOf(rows).rows).toHaveLength(200_000);
  });

  test("a table without any has none, unless a person says where they are", () => {
    const rows = ["-K1;A1;-X1;3", "-K1;A2;-X1;4"].map((l, i) => ({ line: i + 1, cells: l.split(";") }));
    expect(sheetOf(rows)).toMatchObject({
      headingLine: null,
      headings: ["column 1", "column 2", "column 3", "column 4"],
    });
    expect(sheetOf(rows).rows).toHaveLength(2);
    expect(sheetOf(rows, 1)).toMatchObject({ headingLine: 1, headings: ["-K1", "A1", "-X1", "3"] });
  });
});

describe("cells", () => {
  test("the decimal sign of a column is the one its values say", () => {
    expect(decimalOf(["1.234,5", "7"])).toEqual({ decimal: ",", sure: true });
    expect(decimalOf(["0,75", "1,5"])).toEqual({ decimal: ",", sure: true });
    expect(decimalOf(["1,234.5"])).toEqual({ decimal: ".", sure: true });
    expect(decimalOf(["1,234", "12"])).toEqual({ decimal: ".", sure: false });
  });

  test("numbers written with any groups come back", () => {
    fc.assert(
      fc.property(
        fc.integer({ min: 0, max: 9_999_999 }),
        fc.constantFrom(".", ","),
        fc.boolean(),
        (n, decimal, grouped) => {
          const [whole, part] = [Math.floor(n / 100), n % 100];
          const group = decimal === "." ? "," : ".";
          const digits = grouped ? String(whole).replace(/\B(?=(\d{3})+$)/g, group) : String(whole);
          expect(numberOf(`${digits}${decimal}${String(part).padStart(2, "0")}`, decimal as "." | ",")).toBe(n / 100);
        },
      ),
      { numRuns: runs(200), seed: 3 },
    );
    expect(numberOf("12 pcs", ".")).toBeNull();
  });

  test.each([
    ["1,5", ",", 1.5],
    ["2.5 mm²", ".", 2.5],
    ["0,75qmm", ",", 0.75],
    ["4x2,5", ",", 2.5],
    ["AWG 14", ".", 2.08],
    ["14 awg", ",", 2.08],
    ["2/0 AWG", ".", 67.43],
  ] as const)("a size %s is understood", (text, decimal, mm2) => {
    expect(sizeOfCell(text, decimal)).toEqual({ ok: true, value: mm2 });
  });

  test("what is no size or length says what would be", () => {
    expect(sizeOfCell("thick", ".")).toMatchObject({ ok: false });
    expect(sizeOfCell("0", ".")).toMatchObject({ ok: false });
    expect(lengthOf("4.5 in", ".", "mm")).toEqual({ ok: true, value: 114.3 });
    expect(lengthOf("1.200", ",", "mm")).toEqual({ ok: true, value: 1200 });
    expect(lengthOf("wide", ".", "mm")).toMatchObject({ ok: false, wanted: expect.stringContaining("length") });
  });

  test.each([
    ["sw br rt or ge gn bl vi gr ws rs tk gnge", "German"],
    ["noir rouge bleu vert/jaune", "French"],
    ["BK BN RD OG YE GN BU VT GY WH PK TQ GNYE", "IEC"],
    ["svart röd blå grön-gul", "Swedish"],
  ])("colours of a column %s are read in its language", (words, language) => {
    const values = words.split(" ");
    expect(languageOf(values)).toBe(language);
    for (const v of values) expect(colourOfCell(v, languageOf(values))).toMatchObject({ ok: true });
  });

  test("green and yellow is one colour in any order; other pairs and unknown words are none", () => {
    for (const text of ["GN/YE", "YEGN", "grün-gelb", "gn ge", "gegn"])
      expect(colourOfCell(text, "German")).toEqual({ ok: true, value: "GNYE" });
    expect(colourOfCell("gr", "German")).toEqual({ ok: true, value: "GY" });
    expect(colourOfCell("gr", "IEC")).toMatchObject({ ok: false });
    expect(colourOfCell("red/white", "English")).toMatchObject({ ok: false });
  });

  test.each([
    ["-K1:A1", { device: "-K1", pin: "A1" }],
    ["K1:A1", { device: "-K1", pin: "A1" }],
    ["+A1-K1:13", { device: "-K1", pin: "13", enclosure: "+A1" }],
    ["=F1+A1-X2:3:b", { device: "-X2", pin: "3:b", enclosure: "+A1", before: "=F1+A1" }],
    ["-X1 : PE", { device: "-X1", pin: "PE" }],
    ["-X1:3-4", { device: "-X1", pin: "3-4" }],
  ])("an end %s is parted", (text, value) => {
    expect(endOf(text)).toEqual({ ok: true, value });
  });
  test.each([
    ["-K1:A1, -K2:A1; -K3:A1", ["-K1:A1", "-K2:A1", "-K3:A1"]],
    ["K1:13 -> K2:14", ["-K1:13", "-K2:14"]],
    ["-K1:A1 -K2:A1", ["-K1:A1", "-K2:A1"]],
    ["-K1:A1 →\n+A2-X1:3-4", ["-K1:A1", "-X1:3-4"]],
    ["-K1:A1", null],
    ["-K1:A1, -K2", null],
  ])("a chain %s is parted", (text, ends) => {
    const read = chainOf(text);
    expect(read.ok ? read.value.map((e) => `${e.device}:${e.pin}`) : null).toEqual(ends);
  });
  test.each([
    ["24 V DC", { v: 24, kind: "dc" }],
    ["230VAC", { v: 230, kind: "ac" }],
    ["3~ 400 V", { v: 400, kind: "ac" }],
    ["AC 24", { v: 24, kind: "ac" }],
    ["0,4 kV AC", { v: 400, kind: "ac" }],
    ["24 V", null],
    ["DC", null],
  ])("a voltage %s", (text, value) => {
    const read = voltageOfCell(text);
    expect(read.ok ? read.value : null).toEqual(value);
  });
  test("an end without a pin is none", () => {
    for (const text of ["-K1", ":A1", "-K1:", ""]) expect(endOf(text)).toMatchObject({ ok: false });
  });
});
