import fc from "fast-check";
import { runs } from "../test/runs";
import { FIELDS, parsePattern, writeLabel, type Field, type PatternPart, type Values } from "./pattern";

/** A pattern as it is written down; read back it is the same. */
const patternText = (parts: readonly PatternPart[]): string =>
  parts
    .map((p) =>
      p.kind === "text"
        ? p.text.replace(/[{}[\]\\]/g, "\\$&")
        : p.kind === "field"
          ? `{${p.field}}`
          : `[${patternText(p.parts)}]`,
    )
    .join("");

const NAMES = Object.keys(FIELDS) as Field[];
const values = (more: Partial<Values> = {}): Values =>
  ({ ...Object.fromEntries(NAMES.map((n) => [n, n.toUpperCase()])), ...more }) as Values;
const written = (text: string, more: Partial<Values> = {}): string => {
  const parsed = parsePattern(text);
  if (!parsed.ok) throw new Error(`${parsed.at}: ${parsed.reason}`);
  return writeLabel(parsed.parts, values(more));
};

test("fields, what may be left out, and signs as they are", () => {
  expect(written("{wire}")).toBe("WIRE");
  expect(written("{ wire } to {there}")).toBe("WIRE to THERE");
  expect(written("{wire}[ {net}]", { net: "" })).toBe("WIRE");
  expect(written("{wire}[ {net}/{size}]", { net: "P24" })).toBe("WIRE P24/SIZE");
  expect(written("{wire}[ {net}/{size}]", { size: "" })).toBe("WIRE");
  expect(written("\\{a\\} \\[b\\] \\\\")).toBe("{a} [b] \\");
  expect(written("")).toBe("");
});

test.each([
  ["{wire", 0, "this brace is not closed"],
  ["a}", 1, "this brace was not opened"],
  ["{}", 1, "a field has a name"],
  ["{wires}", 1, 'there is no field "wires"'],
  ["{toString}", 1, 'there is no field "toString"'],
  ["[{net}", 0, "this bracket is not closed"],
  ["{net}]", 5, "this bracket was not opened"],
  ["[[{net}]]", 1, "brackets do not stand within brackets"],
  ["[ - ]", 0, "nothing in these brackets can be left out: they have no field"],
  ["a\\", 1, "a backslash stands before a sign"],
  ["x".repeat(201), 200, "a pattern has 200 signs at most"],
])("%s is refused at its place", (text, at, reason) => {
  expect(parsePattern(text)).toEqual({ ok: false, at, reason });
});

test("whatever is typed is read or refused with a place in it", () => {
  fc.assert(
    fc.property(
      fc.oneof(fc.string({ maxLength: 40 }), fc.string({ unit: fc.constantFrom(..."{}[]\\wirenet ") })),
      (text) => {
        const parsed = parsePattern(text);
        if (parsed.ok) writeLabel(parsed.parts, values());
        else {
          expect(parsed.at).toBeGreaterThanOrEqual(0);
          expect(parsed.at).toBeLessThanOrEqual(text.length);
        }
      },
    ),
    { seed: 3, numRuns: runs(2000) },
  );
});

test("a pattern written down reads back as the same", () => {
  const text = fc.string({ minLength: 1, maxLength: 6 }).map((t): PatternPart => ({ kind: "text", text: t }));
  const field = fc.constantFrom(...NAMES).map((f): PatternPart => ({ kind: "field", field: f }));
  /** Two texts side by side are one. */
  const apart = (parts: PatternPart[]): PatternPart[] =>
    parts.filter((p, i) => p.kind !== "text" || parts[i - 1]?.kind !== "text");
  const maybe = fc
    .tuple(fc.array(fc.oneof(text, field), { maxLength: 3 }), field)
    .map(([parts, f]): PatternPart => ({ kind: "maybe", parts: apart([...parts, f]) }));
  fc.assert(
    fc.property(fc.array(fc.oneof(text, field, maybe), { maxLength: 5 }).map(apart), (parts) => {
      fc.pre(patternText(parts).length <= 200);
      expect(parsePattern(patternText(parts))).toEqual({ ok: true, parts });
    }),
    { seed: 4, numRuns: runs(500) },
  );
});
