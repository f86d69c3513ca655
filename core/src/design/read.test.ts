import { readFileSync } from "node:fs";
import { join } from "node:path";
import Ajv from "ajv/dist/2019";
import toJsonSchema from "joi-to-json";
import { tiny, wire, dot } from "../test/tiny";
import { MOST_FAULTS } from "./faults";
import { contentHash } from "./hash";
import type { Design } from "./model";
import { readDesign } from "./read";
import { designSchema } from "./schema";

const good = (): Record<string, unknown> =>
  JSON.parse(JSON.stringify(tiny({ ducts: [{}], devices: [dot("-A", 10, 20)], wires: [wire("-A", "-B")] }))) as Record<
    string,
    unknown
  >;

function faultsOf(text: string) {
  const result = readDesign(text);
  if (result.ok) throw new Error("was taken");
  return result;
}

describe("readDesign", () => {
  test("takes a design and fills in absent lists", () => {
    const { job, enclosures, format, version } = good();
    const result = readDesign(`\uFEFF${JSON.stringify({ job, enclosures, format, version })}`);
    expect(result.ok && result.design.wires).toEqual([]);
  });

  test("reports all faults of form at once, each with place, found and expected", () => {
    const bad = good() as { wires: object[]; ducts: object[]; job: Record<string, unknown>; extra?: number };
    bad.wires = [{ number: 7, from: { device: "-A" } }];
    bad.ducts = [{ tag: "W1", face: "f", x: "12", y: 0, run: "down", length: -5, part: "D" }];
    bad.job.due = "19.2.2027";
    bad.extra = 1;
    expect(faultsOf(JSON.stringify(bad)).faults).toEqual(
      expect.arrayContaining([
        { path: "wires[0].number", found: "number 7", expected: "text" },
        { path: "wires[0].from.pin", found: "nothing", expected: "a value: this field is needed" },
        { path: "ducts[0].x", found: 'text "12"', expected: "a number" },
        { path: "ducts[0].run", found: 'text "down"', expected: "one of: right, up" },
        { path: "ducts[0].length", found: "number -5", expected: "a number of at least 0.01" },
        { path: "job.due", found: 'text "19.2.2027"', expected: "a date such as 2027-02-19" },
        {
          path: "extra",
          found: "a field this format does not know",
          expected: "one of the fields in the format's description",
        },
      ]),
    );
    expect(faultsOf(JSON.stringify(bad)).count).toBe(7);
  });

  test("says where the JSON breaks", () => {
    expect(faultsOf('{\n  "format": "x",,\n}').faults[0]).toMatchObject({ path: "line 2, column 17" });
    expect(faultsOf('{"format": ').faults[0]).toMatchObject({ found: "the file breaks off" });
    expect(faultsOf("").faults[0]).toMatchObject({ found: "an empty file" });
    expect(faultsOf('{\n  "a": 1 // one\n}').faults[0]).toEqual({
      path: "line 2, column 10",
      found: '"// one"',
      expected: "JSON: check commas, quotes and brackets at this place and just before it",
    });
    expect(faultsOf('{"a": [1,]}').faults[0]!.path).toBe("line 1, column 10");
    expect(faultsOf('\uFEFF{"a": x}').faults[0]!.path).toBe("line 1, column 7");
    const nameless = good() as { devices: { tag: string }[] };
    nameless.devices[0]!.tag = "";
    expect(faultsOf(JSON.stringify(nameless)).faults).toEqual([
      { path: "devices[0].tag", found: "empty text", expected: "at least one character" },
    ]);
  });

  test.each([["[]"], ["null"], ["12"], ['{"format":"other"}'], ['{"format":"gray-bench-design","version":2}']])(
    "a file of another kind gets one sentence: %s",
    (text) => {
      expect(faultsOf(text).faults).toHaveLength(1);
    },
  );

  test("stops after so many faults", () => {
    const bad = good();
    bad.wires = Array.from({ length: 2000 }, () => ({}));
    const { faults, count } = faultsOf(JSON.stringify(bad));
    expect([faults.length, count]).toEqual([MOST_FAULTS, MOST_FAULTS]);
  });

  test("a hole asks for the fields of its kind", () => {
    const bad = good() as { parts: { holes?: object[] }[] };
    bad.parts[0]!.holes = [
      { kind: "round", x: 1, y: 1 },
      { kind: "thread", x: 1, y: 1, thread: "5/16", d: 3 },
    ];
    expect(faultsOf(JSON.stringify(bad)).faults.map((f) => f.path)).toEqual([
      "parts[0].holes[0].d",
      "parts[0].holes[1].d",
      "parts[0].holes[1].thread",
    ]);
  });
});

describe("content hash", () => {
  test("does not depend on the order of fields or on white space", () => {
    const a = readDesign(JSON.stringify(good()));
    const b = readDesign(JSON.stringify(Object.fromEntries(Object.entries(good()).reverse()), null, 3));
    expect(a.ok && b.ok && contentHash(a.design) === contentHash(b.design)).toBe(true);
  });

  test("is SHA-256 of the canonical JSON", () => {
    // printf '{"a":[1,null],"b":"ä"}' | sha256sum
    expect(contentHash({ b: "ä", a: [1, undefined], c: undefined })).toBe(
      "fad634130efff3d1ac62456e24cd521510a4c43d913b745ae2b6a3e8c68f2ad0",
    );
  });
});

describe("the published JSON Schema", () => {
  const file = join(__dirname, "../../../docs/formats/design.schema.json");
  const published = JSON.parse(readFileSync(file, "utf8")) as object;

  test("is made from the schema in use", () => {
    expect(published).toMatchObject(toJsonSchema(designSchema, "json-draft-2019-09") as object);
  });

  test.each(["larkmoor", "hillfold"])("takes the demo design %s, and refuses it broken", (name) => {
    const design = JSON.parse(
      readFileSync(join(__dirname, `../../../designs/whole/${name}.bench.json`), "utf8"),
    ) as Design;
    const check = new Ajv({ strict: false, allErrors: true }).compile(published);
    expect(check(design)).toBe(true);
    expect(check({ ...design, wires: [{ number: 5 }] })).toBe(false);
  });
});

test.each([1e-9, 0.009, 0, -1])(
  "a duct of %d mm is refused with its place: what rounds to nothing is no length",
  (length) => {
    const read = readDesign(JSON.stringify(tiny({ ducts: [{ length }] })));
    expect(read.ok ? [] : read.faults).toEqual([
      { path: "ducts[0].length", found: `number ${length}`, expected: "a number of at least 0.01" },
    ]);
  },
);
