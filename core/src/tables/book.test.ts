import ExcelJS from "exceljs";
import fc from "fast-check";
import { strToU8, zipSync } from "fflate";
import readXlsx from "read-excel-file/node";
import { runs } from "../test/runs";
import { assemble } from "./assemble";
import { keptFile, readKept, recognise, type KeptMatching } from "./kept";
import { readTables } from "./read";
import { readBook } from "./xlsx";

type Sheets = Record<string, (string | number | boolean | null)[][]>;

async function book(sheets: Sheets, change?: (b: ExcelJS.Workbook) => void): Promise<Uint8Array> {
  const b = new ExcelJS.Workbook();
  for (const [name, rows] of Object.entries(sheets)) b.addWorksheet(name).addRows(rows);
  change?.(b);
  return new Uint8Array((await b.xlsx.writeBuffer()) as ArrayBuffer);
}
const rowsIn = (bytes: Uint8Array) => {
  const read = readBook(bytes);
  if (!read.ok) throw new Error(read.found);
  return read.sheets;
};

test("cells come as an independent reader has them", async () => {
  let numbers = 0;
  const cell = fc.oneof(
    fc.stringMatching(/^[a-zA-Z0-9äß<&>"' :;_=+-]{0,8}$/).map((s) => s.trim().replace(/^'+/, "")),
    fc.integer({ min: -1e9, max: 1e9 }),
    fc.double({ min: -1e6, max: 1e6, noNaN: true }).map((n) => Number(n.toPrecision(6))),
  );
  await fc.assert(
    fc.asyncProperty(fc.array(fc.array(cell, { maxLength: 6 }), { minLength: 1, maxLength: 8 }), async (rows) => {
      const bytes = await book({ Wires: [["first"], ...rows] });
      const [sheet] = rowsIn(bytes);
      const there = (await readXlsx(Buffer.from(bytes))) as unknown as unknown[][];
      const wanted = there.map((r) => {
        const cells = r.map((c) => (c === null ? "" : String(c === 0 ? 0 : c).trim()));
        while (cells.at(-1) === "") cells.pop();
        return cells;
      });
      const ours = there.map((_, i) => sheet!.rows.find((r) => r.line === i + 1)?.cells ?? []);
      expect(ours).toEqual(wanted);
      for (const { cells, plain = new Set<number>() } of sheet!.rows)
        for (const column of plain) {
          numbers++;
          expect(Number.isFinite(Number(cells[column]))).toBe(true);
        }
    }),
    { numRuns: runs(25), seed: 3 },
  );
  expect(numbers).toBeGreaterThan(10);
}, 30_000);

test("merged cells say the same all over, hidden rows and formulas without a value are told, hidden sheets marked", async () => {
  const bytes = await book(
    {
      List: [
        ["Cable", "Core", "Size"],
        ["-W1", 1, 1.5],
        [null, 2, 1.5],
        [null, 3, null],
        ["-W2", 1, null],
      ],
      Old: [["x"]],
    },
    (b) => {
      const [list, old] = [b.getWorksheet("List")!, b.getWorksheet("Old")!];
      list.mergeCells("A2:A4");
      list.getRow(5).hidden = true;
      list.getCell("C4").value = { formula: "C3*1" } as ExcelJS.CellFormulaValue;
      old.state = "hidden";
    },
  );
  const read = readTables(bytes);
  if (!read.ok) throw new Error(read.found);
  expect(read.tables.map((t) => [t.sheetName, t.hidden])).toEqual([
    ["List", false],
    ["Old", true],
  ]);
  const { sheet } = read.tables[0]!;
  expect(sheet.rows.map((r) => r.cells)).toEqual([
    ["-W1", "1", "1.5"],
    ["-W1", "2", "1.5"],
    ["-W1", "3", ""],
  ]);
  expect(sheet.leftOut).toEqual([
    { line: 5, why: "hidden in the file", cells: ["-W2", "1"] },
    { line: 4, why: "a formula without a value", cells: ["=C3*1"] },
  ]);
});

test("a number of a book keeps its value in a column that is written with commas", async () => {
  const bytes = await book({
    Wires: [
      ["Nr", "von", "nach", "Querschnitt"],
      ["1", "-K1:A1", "-K2:A1", "0,75"],
      ["2", "-K1:A2", "-K2:A2", 1.125],
      ["3", "-K1:A3", "-K2:A3", "1,5"],
    ],
  });
  const read = recognise(bytes, []);
  if (!read.ok) throw new Error(read.found);
  const { sheet, matching } = read.tables[0]!;
  const made = assemble({ code: "S-1", title: "s", revision: "A" }, [{ name: "w", sheet, matching: matching! }]);
  expect(made.ok && made.design.wires.map((w) => w.sizeMm2)).toEqual([0.75, 1.125, 1.5]);
});

describe("a book that is none, or more than one, is refused by name", () => {
  const parts = (sheet: string): Record<string, Uint8Array> => ({
    "xl/workbook.xml": strToU8('<workbook xmlns:r="r"><sheets><sheet name="S" r:id="a"/></sheets></workbook>'),
    "xl/_rels/workbook.xml.rels": strToU8(
      '<Relationships><Relationship Id="a" Target="worksheets/s.xml"/></Relationships>',
    ),
    "xl/worksheets/s.xml": strToU8(sheet),
  });
  const data = (rows: string, more = ""): string => `<worksheet><sheetData>${rows}</sheetData>${more}</worksheet>`;
  const cell = '<row r="1"><c r="A1" t="str"><v>x</v></c></row>';
  test("this one is read", () => {
    expect(rowsIn(zipSync(parts(data(cell))))[0]!.rows).toEqual([{ line: 1, cells: ["x"] }]);
  });
  test("texts in pieces are one, what stands between them and what is spoken is none; numbers are told from words", () => {
    const list = `<sst><si>
      <r><t>-K</t></r> <r><t>1</t></r><rPh><t>ka</t></rPh>
    </si><si><t>1.5</t></si></sst>`;
    const rows =
      '<row r="3"><c r="A3" t="s"><v>0</v></c><c r="B3" t="s"><v>1</v></c><c r="C3"><v>1.50</v></c><c r="D3" t="n"><v>2</v></c><c r="E3" t="b"><v>1</v></c></row>';
    const book = zipSync({ ...parts(data(rows)), "xl/sharedStrings.xml": strToU8(list) });
    expect(rowsIn(book)[0]!.rows).toEqual([
      { line: 3, cells: ["-K1", "1.5", "1.5", "2", "TRUE"], plain: new Set([2, 3]) },
    ]);
  });
  test("a part that is there twice, and a package of something else, say what to do", () => {
    const twice = readBook(zipSync({ ...parts(data(cell)), "XL/workbook.xml": strToU8("<workbook/>") }));
    expect(twice).toEqual({ ok: false, found: "XL/workbook.xml twice in it", remedy: "Save the sheet anew." });
    expect(readBook(zipSync({ "a.txt": strToU8("a") }))).toMatchObject({
      remedy: "Unpack it, or save the sheet as XLSX or CSV.",
    });
  });
  test.each<[string, Uint8Array, string]>([
    ["a package of something else", zipSync({ "a.txt": strToU8("a") }), "a packed file that is no XLSX"],
    ["one that ends too soon", zipSync(parts(data(cell))).subarray(0, 120), "a package that ends too soon"],
    [
      "entities of its own",
      zipSync(parts(`<!DOCTYPE a [<!ENTITY b "bb"><!ENTITY c "&b;&b;">]>${data(cell)}`)),
      "sheet S is not as it should be (it declares a type of its own)",
    ],
    [
      "much packed into little",
      zipSync(parts(" ".repeat(300_000_000)), { level: 1 }),
      "more than 256 MB when it is unpacked",
    ],
    [
      "merged cells without end",
      zipSync(parts(data(cell, `<mergeCells>${'<mergeCell ref="A1:XFD1048576"/>'.repeat(3)}</mergeCells>`))),
      "merged cells all over sheet S",
    ],
    ["broken XML", zipSync(parts("<worksheet><sheetData>")), "sheet S is not as it should be"],
    [
      "a column far out",
      zipSync(parts(data('<row r="1"><c r="XFD1" t="str"><v>x</v></c></row>'))),
      "a cell in column 16384 of line 1 of sheet S",
    ],
  ])("%s", (_, bytes, found) => {
    const read = readBook(bytes);
    expect(read.ok ? null : read.found).toContain(found);
  });
});

describe("kept matchings", () => {
  const LIST = Buffer.from("Start;Ende;Was\n-K1:A1;-K2:A1;x\n-K1:A2;-K2:A2;y\n");
  const kept: KeptMatching = {
    name: "Saltmere",
    tables: [
      {
        headings: ["Start", "Ende", "Was"],
        matching: {
          kind: "connections",
          columns: {
            from: { from: [{ heading: "Start" }] },
            to: { from: [{ heading: "Ende" }] },
            net: { from: [{ heading: "Was", before: "N " }] },
          },
        },
      },
    ],
  };
  test("are found again by the headings, and say so; a file of one reads back to it", () => {
    const read = recognise(LIST, [kept]);
    expect(read.ok && read.tables[0]).toMatchObject({ by: "Saltmere", matching: kept.tables[0]!.matching });
    expect(readKept(keptFile(kept))).toEqual({ ok: true, value: kept });
    // One heading more does no harm, one less does.
    const more = recognise(Buffer.from("Start;Ende;Was;Neu\n-K1:A1;-K2:A1;x;1\n"), [kept]);
    expect(more.ok && more.tables[0]!.by).toBe("Saltmere");
    const less = recognise(Buffer.from("Start;Ende;Neu\n-K1:A1;-K2:A1;1\n"), [kept]);
    expect(less.ok && less.tables[0]!.by).toBeNull();
  });
  test("one that says where the headings are reads the file so", () => {
    const file = Buffer.from("A;B;C\nStart;Ende;Was\n-K1:A1;-K2:A1;x\n");
    expect(recognise(file, [kept])).toMatchObject({ tables: [{ by: null }] });
    const where: KeptMatching = { ...kept, tables: [{ ...kept.tables[0]!, asked: { headings: 2 } }] };
    expect(recognise(file, [where])).toMatchObject({ tables: [{ by: "Saltmere", asked: { headings: 2 } }] });
    // Said for another file: here no such headings stand there.
    const elsewhere: KeptMatching = { ...kept, tables: [{ ...kept.tables[0]!, asked: { headings: 3 } }] };
    expect(recognise(file, [elsewhere])).toMatchObject({ tables: [{ by: null, asked: {} }] });
  });
  test("a field of another kind is refused", () => {
    const wrong = keptFile(kept).replace('"net"', '"strip"');
    expect(readKept(wrong)).toMatchObject({ ok: false, faults: [{ path: "tables[0].matching.columns.strip" }] });
  });
});
