import fc from "fast-check";
import { all, clicked, moved, NONE, only, type Selection } from "./selection";
import { fromTsv, toTsv } from "./tsv";

const ORDER = ["a", "b", "c", "d", "e"];
const keys = (s: Selection): string => [...s.keys].sort().join("");

describe("choosing rows", () => {
  test("a click alone, with Shift the range, with Ctrl one more or one less", () => {
    let s = clicked(NONE, "b", ORDER, { shift: false, ctrl: false });
    expect(keys(s)).toBe("b");
    s = clicked(s, "d", ORDER, { shift: true, ctrl: false });
    expect(keys(s)).toBe("bcd");
    s = clicked(s, "a", ORDER, { shift: true, ctrl: false });
    expect(keys(s)).toBe("ab");
    s = clicked(s, "e", ORDER, { shift: false, ctrl: true });
    expect(keys(s)).toBe("abe");
    s = clicked(s, "a", ORDER, { shift: false, ctrl: true });
    expect(keys(s)).toBe("be");
  });

  test("arrows move on from the last row and stop at the ends; with Shift the range grows and shrinks", () => {
    expect(moved(NONE, 1, ORDER, false).at).toBe("a");
    expect(moved(only("e"), 1, ORDER, false).at).toBe("e");
    let s = moved(only("b"), 1, ORDER, true);
    s = moved(s, 1, ORDER, true);
    expect(keys(s)).toBe("bcd");
    expect(keys(moved(s, -1, ORDER, true))).toBe("bc");
    expect(moved(only("b"), 3, [], true)).toEqual(only("b"));
  });

  test("a range from a row that is not listed any more is the row alone", () => {
    expect(keys(clicked(only("z"), "c", ORDER, { shift: true, ctrl: false }))).toBe("c");
    expect(keys(all(ORDER, only("c")))).toBe("abcde");
  });

  test("whatever is done, only listed rows are chosen and the last one is among the rows", () => {
    fc.assert(
      fc.property(
        fc.array(fc.tuple(fc.constantFrom(...ORDER), fc.boolean(), fc.boolean(), fc.integer({ min: -9, max: 9 }))),
        (steps) => {
          let s: Selection = NONE;
          for (const [key, shift, ctrl, by] of steps) {
            s = ctrl ? clicked(s, key, ORDER, { shift, ctrl }) : moved(s, by, ORDER, shift);
            expect([...s.keys].every((k) => ORDER.includes(k))).toBe(true);
            expect(ORDER).toContain(s.at);
          }
        },
      ),
      { seed: 6 },
    );
  });
});

describe("tables as text", () => {
  const cell = fc.string({ maxLength: 8 }).map((s) => s.replace(/[\t\r\n]/g, "").trim());

  test("a column copied and pasted comes back", () => {
    fc.assert(
      fc.property(fc.array(cell, { minLength: 2, maxLength: 9 }), (column) => {
        fc.pre(column[column.length - 1] !== "");
        const rows = column.map((_, i) => `${i}`);
        expect(fromTsv(toTsv(column.map((c) => [c])), rows)).toEqual(column.map((text, i) => ({ key: `${i}`, text })));
      }),
      { seed: 6 },
    );
  });

  test("one value goes to all rows, more values than rows are left over, of several columns the first counts", () => {
    expect(fromTsv("BU\n", ["1", "2"])).toEqual([
      { key: "1", text: "BU" },
      { key: "2", text: "BU" },
    ]);
    expect(fromTsv("BU\tx\r\nRD\ty\r\nPK\tz", ["1", "2"])).toEqual([
      { key: "1", text: "BU" },
      { key: "2", text: "RD" },
    ]);
    expect(fromTsv("a\nb", [])).toEqual([]);
    expect(toTsv([["a\tb", 1.5, null]])).toBe("a b\t1.5\t");
  });
});
