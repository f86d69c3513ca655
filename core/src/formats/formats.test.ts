import { parse } from "csv-parse/sync";
import fc from "fast-check";
import readXlsx from "read-excel-file/node";
import { allFiles, FILE_NAMES, runStages } from "../run";
import { tiny } from "../test/tiny";
import { openPointsFile } from "./open-points";
import { toCsv } from "./csv";
import { toXlsx } from "./xlsx";

const text = (bytes: Uint8Array): string => new TextDecoder().decode(bytes);

test("any text survives writing and reading, and no cell is a formula", () => {
  fc.assert(
    fc.property(fc.array(fc.tuple(fc.string({ unit: "grapheme" }), fc.string()), { minLength: 1 }), (rows) => {
      const back = parse(toCsv(["a", "b"], rows), { bom: false }) as string[][];
      expect(
        back.slice(1).map((r) => r.map((c) => c.replace(/^'(?=[=+\-@\t\r\uFF1D\uFF0B\uFF0D\uFF20])/, ""))),
      ).toEqual(rows);
      for (const row of back.slice(1))
        for (const c of row) expect(c).not.toMatch(/^[=+\-@\t\r\uFF1D\uFF0B\uFF0D\uFF20]/);
    }),
    { seed: 1, numRuns: 300 },
  );
});

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
    },
  ]);
  expect(text(file.bytes)).toBe(
    "severity,stage,kind,thing,name,text,remedy\r\nstop,routes,no way,wire,7,wire 7 has no length,Mend it.\r\n",
  );
});

test("the files that are listed are the files that are made", async () => {
  const made = (await allFiles(runStages(tiny({ ducts: [{}] })))).map((f) => f.name);
  expect(made).toEqual([...FILE_NAMES].sort());
});
