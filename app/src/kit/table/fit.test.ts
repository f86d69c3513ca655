import fc from "fast-check";
import type { TableColumn } from "./column";
import { figureColumns, fitted, textPx } from "./fit";

interface Row {
  no: string;
  mm: number | null;
  text: string;
}
const COLUMNS: TableColumn<Row>[] = [
  { id: "no", label: "No.", width: 40, value: (r) => r.no },
  { id: "mm", label: "Length", width: 60, value: (r) => r.mm, cell: (r) => (r.mm === null ? "none" : `${r.mm} mm`) },
  { id: "text", label: "What it is", width: 150, value: (r) => r.text },
];
const row = (no: string, mm: number | null, text: string): Row => ({ no, mm, text });

test("a letter is narrow, usual or wide", () => {
  expect(textPx("")).toBe(0);
  // 1 narrow, 3 usual, 1 narrow, 2 wide
  expect(textPx("1255 mm")).toBeCloseTo(4.4 + 3 * 7.1 + 4.4 + 2 * 10.2, 6);
});

test("short texts and headings are whole, a long one has what its column says and then what room is left", () => {
  const long = "a".repeat(60);
  const rows = [row("1", 2000, long), row("24", null, "b")];
  // "Length" and its arrow: 6 letters, 14 and 14 px; "2000 mm": 4 digits, a space, two wide letters.
  const lengths = Math.ceil(Math.max(6 * 7.1 + 14, 4 * 7.1 + 4.4 + 2 * 10.2) + 14);
  const none = fitted(COLUMNS, rows, 0);
  expect(none).toEqual({ no: Math.ceil(2 * 7.1 + 4.4 + 14 + 14), mm: lengths, text: 150 });
  const all = fitted(COLUMNS, rows, 2000);
  expect(all).toEqual({ ...none, text: Math.ceil(60 * 7.1 + 14) });
  // Half of what is lacking is there: half of it is given.
  const lacking = Math.ceil(60 * 7.1 + 14) - 150;
  const half = fitted(COLUMNS, rows, none.no! + none.mm! + 150 + lacking / 2);
  expect(half.text).toBe(150 + Math.floor(lacking / 2));
});

test("figures stand at the right, words and columns that are empty do not", () => {
  expect([...figureColumns(COLUMNS, [row("1", 5, "a"), row("2", null, "b")])]).toEqual(["mm"]);
  expect(figureColumns(COLUMNS, [row("1", null, "a")]).size).toBe(0);
  expect(figureColumns(COLUMNS, []).size).toBe(0);
});

test("never wider than the room where the least has room, never narrower than the least", () => {
  let shared = 0;
  fc.assert(
    fc.property(
      fc.array(fc.string({ minLength: 10, maxLength: 80 }), { maxLength: 12 }),
      fc.integer({ min: 0, max: 1500 }),
      (texts, room) => {
        const rows = texts.map((t, i) => row(String(i), i, t));
        const least = fitted(COLUMNS, rows, 0);
        const now = fitted(COLUMNS, rows, room);
        const sum = (w: Record<string, number>): number => Object.values(w).reduce((a, b) => a + b, 0);
        for (const c of COLUMNS) expect(now[c.id]).toBeGreaterThanOrEqual(least[c.id]!);
        expect(sum(now)).toBeLessThanOrEqual(Math.max(room, sum(least)));
        if (sum(now) > sum(least)) shared++;
      },
    ),
    { seed: 27 },
  );
  expect(shared).toBeGreaterThan(5);
});
