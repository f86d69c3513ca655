import { fill, FILLED, writeCells } from "./fill";
import type { LibraryPart } from "./library";

const PARTS: LibraryPart[] = [
  { number: "A", lossW: 4 },
  { number: "B", stock: { place: "X", pack: 50 } },
  { number: "C", w: 45 },
];
const told = (pasted: string, id: string, shown = PARTS, unit: "mm" | "in" = "mm") => {
  const { written, same, notTaken } = fill(pasted, id, shown, PARTS, unit);
  const field = FILLED.find((f) => f.id === id)!;
  return {
    written: written.map((p) => [p.number, field.value(p)]),
    same,
    notTaken: notTaken.map((n) => `${n.line}: ${n.found}`),
  };
};

test("a column goes to the parts shown, in their order; empty cells say nothing; the decimal sign is the column's", () => {
  expect(told("4\n\n5,8 W\n9", "lossW")).toEqual({ written: [["C", 5.8]], same: 1, notTaken: ["4: 9"] });
  expect(told("1.234,5\n12", "lossW", PARTS.slice(1))).toMatchObject({
    written: [
      ["B", 1234.5],
      ["C", 12],
    ],
  });
});

test("two columns name the part first, whatever the order; headings are passed over", () => {
  expect(told("Part\tLoss [W]\nC\t2\nZ\t3\nA\tlow\nC\t4", "lossW")).toEqual({
    written: [["C", 2]],
    same: 0,
    notTaken: ["3: Z | 3", "4: A | low", "5: C | 4"],
  });
});

test("a single value goes to all that are shown; lengths in the unit of the one who pastes", () => {
  expect(told("1.5", "w", PARTS, "in").written).toEqual([
    ["A", 38.1],
    ["B", 38.1],
    ["C", 38.1],
  ]);
  expect(told("45 mm", "w", PARTS, "in")).toMatchObject({
    written: [
      ["A", 45],
      ["B", 45],
    ],
    same: 1,
  });
  expect(told("Relay", "category").written).toHaveLength(3);
  expect(told("gadget", "category").notTaken).toHaveLength(3);
});

test("a place keeps how many are in a pack, and is not taken where nobody says that", () => {
  const { written, notTaken } = fill("B-01\nB-02\nB-03, 20", "place", PARTS, PARTS, "mm");
  expect(written.map((p) => p.stock)).toEqual([
    { place: "B-02", pack: 50 },
    { place: "B-03", pack: 20 },
  ]);
  expect(notTaken.map((n) => n.line)).toEqual([1]);
});

test("cells are written from a text each; an empty one takes away, what is not read is named by its part", () => {
  const parts = new Map<string, LibraryPart>([
    ["A", { number: "A", lossW: 2, w: 10 }],
    ["B", { number: "B", lossW: 5 }],
    ["C", { number: "C" }],
  ]);
  const write = (id: string, ...texts: string[]) =>
    writeCells(
      id,
      ["A", "B", "C"].map((number, i) => ({ number, text: texts[i]! })),
      parts,
      "in",
    );
  expect(write("lossW", "2,5", "", "viel")).toEqual({
    written: [{ number: "A", lossW: 2.5, w: 10 }, { number: "B" }],
    notTaken: [{ number: "C", found: "viel", wanted: "a number, such as 5.8 or 5.8 W" }],
  });
  expect(write("lossW", "2", "5 W", "").written).toEqual([]);
  expect(write("w", "2", "", "10 mm").written.map((p) => p.w)).toEqual([50.8, 10]);
  expect(write("place", "B-1, 5", "", "C-1").notTaken).toHaveLength(1);
});
