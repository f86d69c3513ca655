import type { ArrivedTable, TableLook } from "@gray-bench/contract/intake";
import { columnsText, fieldsOf, ofKind, unusedHeadings, withColumn, withField, withTable } from "./matchingActs";

const guesses = {
  devices: { tag: { from: [{ heading: "A" }] } },
  connections: {
    from: { from: [{ heading: "A" }] },
    to: { from: [{ heading: "B" }] },
    size: { from: [{ heading: "C" }], unit: "mm2", decimal: "," },
  },
  terminals: {},
  cables: {},
  nets: {},
  parts: {},
} as unknown as TableLook["guesses"];
const look = { headings: ["A", "B", "C", "D"], guesses } as TableLook;
const table = {
  file: "f",
  name: "w.csv",
  asked: {},
  by: "Saltmere",
  matching: { kind: "connections", columns: guesses.connections },
} as unknown as ArrivedTable;

test("a column that another field has is given up by it, unless pieces of it are taken", () => {
  const moved = withColumn(table.matching!, "net", "C", look);
  expect(Object.keys(moved.columns).sort()).toEqual(["from", "net", "to"]);
  const pieces = withField("size", { from: [{ heading: "C", cut: { at: "/", piece: 1 } }] })(table).matching!;
  expect(Object.keys(withColumn(pieces, "net", "C", look).columns).sort()).toEqual(["from", "net", "size", "to"]);
});

test("back on the column that was guessed it is read as guessed; on another as it was read before", () => {
  const other = withColumn(table.matching!, "size", "D", look);
  expect(other.columns.size).toEqual({ from: [{ heading: "D" }], unit: "mm2", decimal: "," });
  const awg = { ...other, columns: { ...other.columns, size: { ...other.columns.size!, unit: "awg" } } };
  expect(withColumn(awg, "size", "C", look).columns.size).toEqual(guesses.connections.size);
});

test("what a person says is no kept matching any more; another kind is guessed anew; tables stay apart", () => {
  expect(withField("size", null)(table)).toMatchObject({ by: null });
  expect(withField("size", null)(table).matching!.columns.size).toBeUndefined();
  expect(ofKind("devices", look)(table)).toMatchObject({
    by: null,
    matching: { kind: "devices", columns: guesses.devices },
  });
  expect(ofKind(null, look)(table).matching).toBeNull();
  const said = { job: {} as never, drawings: [], attachments: [], tables: [table, { ...table, name: "x.csv" }] };
  const next = withTable(2, ofKind(null, look))(said);
  expect(next.tables.map((t) => [t.name, t.matching?.kind])).toEqual([
    ["w.csv", "connections"],
    ["x.csv", undefined],
  ]);
});

test("columns in words, fields that a table has first, columns that nobody reads", () => {
  expect(
    columnsText({
      from: [
        { heading: "Ort", before: "+" },
        { heading: "Nr", cut: { at: "/", piece: -1 } },
      ],
    }),
  ).toBe("Ort + Nr, piece last");
  expect(unusedHeadings(look, table.matching)).toEqual(["D"]);
  expect(unusedHeadings(look, null)).toEqual(["A", "B", "C", "D"]);
  expect(fieldsOf(table.matching!).read.map((f) => f.id)).toEqual(["from", "to", "size"]);
});
