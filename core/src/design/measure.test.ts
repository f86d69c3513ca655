import fc from "fast-check";
import { beyond } from "./measure";
import { readDesign } from "./read";
import { ALL_DRAWN, runs } from "../test/runs";

const ALL = Infinity;

/** Objects and lists of a value, and the entries of all of them; an empty one counts as if it had one. */
function count(value: unknown): { nests: number; entries: number } {
  if (typeof value !== "object" || value === null) return { nests: 0, entries: 0 };
  const inner = Object.values(value);
  return inner.map(count).reduce((sum, c) => ({ nests: sum.nests + c.nests, entries: sum.entries + c.entries }), {
    nests: 1,
    entries: Math.max(1, inner.length),
  });
}

test("what stands in a text is measured without parsing it, whatever signs stand in its strings", () => {
  let quoted = 0;
  fc.assert(
    fc.property(fc.jsonValue({ maxDepth: 4 }), fc.constantFrom('\\"{[,', "\\\\", '"', "{,["), (value, sign) => {
      const json = JSON.stringify([value, sign, { [sign]: value }]);
      const { nests, entries } = count(JSON.parse(json));
      if (/\\"/.test(json)) quoted++;
      expect(beyond(json, { nests, entries: ALL })).toBeNull();
      expect(beyond(json, { nests: nests - 1, entries: ALL })).toBe("nests");
      // A comma comes before the entry that it stands for, and another nest after it.
      expect(beyond(json, { nests: ALL, entries })).toBeNull();
    }),
    { numRuns: runs(300), seed: 7 },
  );
  if (ALL_DRAWN) expect(quoted).toBeGreaterThan(20);
});

test("entries are counted with their commas; what ends nowhere is no more than it says", () => {
  expect(beyond("[1,2,3,4]", { nests: 9, entries: 3 })).toBe("entries");
  expect(beyond("[1,2,3,4]", { nests: 9, entries: 4 })).toBeNull();
  expect(beyond('["1,2,3,4', { nests: 9, entries: 3 })).toBeNull();
  expect(beyond('["1\\",2,3,4"]', { nests: 9, entries: 1 })).toBeNull();
});

test("a design file of more objects than any design has is refused before it takes fifty times its memory", () => {
  const file = `{"format":"gray-bench-design","wires":[${"{},".repeat(2_000_000)}{}]}`;
  expect(readDesign(file)).toEqual({
    ok: false,
    count: 1,
    faults: [
      {
        path: "the whole file",
        found: "more than 2,000,000 objects and lists",
        expected: "at most 2,000,000 objects and lists",
      },
    ],
  });
});
