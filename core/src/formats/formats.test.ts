import { parse } from "csv-parse/sync";
import ExcelJS from "exceljs";
import fc from "fast-check";
import { unzipSync } from "fflate";
import readXlsx from "read-excel-file/node";
import { FILES, isFile } from "../files";
import { allFiles, runStages } from "../run";
import { tiny } from "../test/tiny";
import { openPointsFile } from "./open-points";
import { toCsv } from "./csv";
import { toXlsx } from "./xlsx";

// Writing and reading PDF takes long on a busy machine.
jest.setTimeout(180_000);

const text = (bytes: Uint8Array): string => new TextDecoder().decode(bytes);

/** Where a spreadsheet begins a formula, and all that a table is cut by. */
const SIGNS = [
  "=",
  "+",
  "-",
  "@",
  "\t",
  "\r",
  "\uFF1D",
  "\uFF0B",
  "\uFF0D",
  "\uFF20",
  "'",
  '"',
  ",",
  ";",
  "\n",
  "\r\n",
  " ",
];
const RISKY = /^[=+\-@\t\r\uFF1D\uFF0B\uFF0D\uFF20]/;
const anyText = fc.oneof(
  fc.string(),
  fc.string({ unit: "grapheme" }),
  fc.array(fc.oneof(fc.constantFrom(...SIGNS), fc.string({ maxLength: 2 })), { maxLength: 6 }).map((l) => l.join("")),
);

test("any text survives writing and reading, and no cell is a formula", () => {
  const met = { risky: 0, quoted: 0, lines: 0, plain: 0 };
  fc.assert(
    fc.property(fc.array(fc.tuple(anyText, anyText), { minLength: 1 }), (rows) => {
      const back = parse(toCsv(["a", "b"], rows), { bom: false }) as string[][];
      expect(back[0]).toEqual(["a", "b"]);
      rows.flat().forEach((given, i) => {
        const cell = back[1 + (i >> 1)]![i % 2]!;
        // An apostrophe is put in front of what would be a formula, and of nothing else.
        expect(cell).toBe(RISKY.test(given) ? `'${given}` : given);
        if (RISKY.test(given)) met.risky++;
        else if (/["]/.test(given)) met.quoted++;
        else if (/[\r\n]/.test(given)) met.lines++;
        else met.plain++;
      });
      expect(back).toHaveLength(rows.length + 1);
    }),
    { seed: 1, numRuns: 300 },
  );
  expect(Object.values(met).map((n) => n > 100)).toEqual([true, true, true, true]);
});

test.each(["=", "+", "-", "@", "\t", "\r", "\uFF1D", "\uFF0B", "\uFF0D", "\uFF20"])(
  "a cell that begins with %j is text",
  (sign) => {
    expect(parse(toCsv(["a"], [[`${sign}1`], [`x${sign}1`]]))).toEqual([["a"], [`'${sign}1`], [`x${sign}1`]]);
  },
);

test("lines end with CR LF, quotes are doubled, numbers are plain", () => {
  expect(
    text(
      toCsv(
        ["n", "t"],
        [
          [1234.5, 'a "b", c'],
          [1e-9, null],
          [85, "=1+1"],
        ],
      ),
    ),
  ).toBe('n,t\r\n1234.5,"a ""b"", c"\r\n0,\r\n85,\'=1+1\r\n');
});

test.each(["a\rb", "a\nb", "a\r\nb"])("a cell with a line end in it is quoted: %j", (cell) => {
  expect(text(toCsv(["a", "b"], [[cell, "x"]]))).toBe(`a,b\r\n"${cell}",x\r\n`);
});

test("a spreadsheet keeps tags as text and numbers as numbers, byte for byte the same", async () => {
  const sheet = {
    name: "Wires",
    header: ["tag", "mm"],
    widths: [8, 8],
    rows: [
      ["-K1", 1385],
      ["=1+1", null],
    ],
  };
  const [one, two] = [await toXlsx(sheet), await toXlsx(sheet)];
  expect(Buffer.compare(one, two)).toBe(0);
  expect(await readXlsx(Buffer.from(one))).toEqual([
    ["tag", "mm"],
    ["-K1", 1385],
    ["=1+1", null],
  ]);
});

test("numbers of a spreadsheet are those of the CSV: three decimals at most", async () => {
  const rows = [[1 / 3, 2 / 3, 0.1 + 0.2, -1e-7, 1385]];
  const header = ["a", "b", "c", "d", "e"];
  const [, read] = await readXlsx(Buffer.from(await toXlsx({ name: "x", header, widths: [], rows })));
  const csv = new TextDecoder().decode(toCsv(header, rows)).split("\r\n")[1]!;
  expect(read!.map(Number)).toEqual([0.333, 0.667, 0.3, -0, 1385].map((v) => v + 0));
  expect(read!.map((v) => String(Number(v) + 0))).toEqual(csv.split(",").map((v) => String(Number(v) + 0)));
});

test("the sheet has its name, its frozen and filtered head in bold, and its widths", async () => {
  const bytes = await toXlsx({ name: "Wires", header: ["tag", "mm", "way"], widths: [8, 30], rows: [["-K1", 1, "x"]] });
  const book = new ExcelJS.Workbook();
  await book.xlsx.load(bytes.buffer as ArrayBuffer);
  const page = book.worksheets[0]!;
  expect([book.creator, book.created.toISOString(), book.modified.toISOString()]).toEqual([
    "Gray Bench",
    "2000-01-01T00:00:00.000Z",
    "2000-01-01T00:00:00.000Z",
  ]);
  expect([book.worksheets.length, page.name, page.autoFilter]).toEqual([1, "Wires", "A1:C1"]);
  expect(page.views[0]).toMatchObject({ state: "frozen", ySplit: 1 });
  expect([page.getRow(1).font?.bold, page.getRow(2).font?.bold ?? false]).toEqual([true, false]);
  expect([1, 2, 3].map((n) => page.getColumn(n).width)).toEqual([8, 30, 12]);
  const entries = Object.keys(unzipSync(bytes));
  expect(entries).toEqual([...entries].sort());
});

test("open points as a table", () => {
  const file = openPointsFile([
    {
      id: "x",
      stage: "routes",
      severity: "stop",
      kind: "no way",
      thing: "wire",
      of: "7",
      text: "wire 7 has no length",
      remedy: "Mend it.",
      accepted: { who: "M. Orr", why: "a test lead" },
    },
  ]);
  expect(text(file.bytes)).toBe(
    "severity,stage,kind,thing,name,text,remedy,accepted_by,accepted_why\r\n" +
      "stop,routes,no way,wire,7,wire 7 has no length,Mend it.,M. Orr,a test lead\r\n",
  );
});

test("the files that are listed are the files that are made", async () => {
  const files = await allFiles(runStages(tiny({ ducts: [{}] })));
  const each = files.filter((f) => !FILES.some((known) => known.name === f.name));
  expect(files.filter((f) => !each.includes(f)).map((f) => f.name)).toEqual(FILES.map((f) => f.name).sort());
  expect(each.map((f) => isFile(f.name))).toEqual(each.map(() => true));
  expect([isFile("holes-.dxf"), isFile("holes-+A1-door.exe"), isFile("../holes-a.nc")]).toEqual([false, false, false]);
  expect(files.map((f) => `${f.name} ${f.type}`)).toEqual([
    "bench.csv text/csv",
    "bench.pdf application/pdf",
    "bin-labels.pdf application/pdf",
    "bom.csv text/csv",
    "bundles.pdf application/pdf",
    "cores.csv text/csv",
    "cut-labels.pdf application/pdf",
    "cuts.csv text/csv",
    "cuts.pdf application/pdf",
    "ducts.csv text/csv",
    "heat-devices.csv text/csv",
    "heat.csv text/csv",
    "heat.pdf application/pdf",
    "heat.xlsx application/vnd.openxmlformats-officedocument.spreadsheetml.sheet",
    "holes-+A1-plate-full.pdf application/pdf",
    "holes-+A1-plate.dxf image/vnd.dxf",
    "holes-+A1-plate.nc text/plain",
    "holes-+A1-plate.pdf application/pdf",
    "holes-+A1-plate.svg image/svg+xml",
    "holes.csv text/csv",
    "jumpers.csv text/csv",
    "kits.pdf application/pdf",
    "kits.xlsx application/vnd.openxmlformats-officedocument.spreadsheetml.sheet",
    "layout-+A1-plate.dxf image/vnd.dxf",
    "layout-+A1-plate.pdf application/pdf",
    "layout-+A1-plate.svg image/svg+xml",
    "lead-labels.csv text/csv",
    "lead-labels.pdf application/pdf",
    "lead-labels.txt text/plain",
    "leads.csv text/csv",
    "legend.csv text/csv",
    "lineups.xlsx application/vnd.openxmlformats-officedocument.spreadsheetml.sheet",
    "markers.csv text/csv",
    "markers.pdf application/pdf",
    "open-points.csv text/csv",
    "picks.csv text/csv",
    "purchase.csv text/csv",
    "reels.csv text/csv",
    "shortages.csv text/csv",
    "shortages.xlsx application/vnd.openxmlformats-officedocument.spreadsheetml.sheet",
    "strips.dxf image/vnd.dxf",
    "strips.pdf application/pdf",
    "strips.svg image/svg+xml",
    "terminals.csv text/csv",
    "wireprep.xlsx application/vnd.openxmlformats-officedocument.spreadsheetml.sheet",
    "wires.csv text/csv",
    "wires.xlsx application/vnd.openxmlformats-officedocument.spreadsheetml.sheet",
  ]);
});
