import { readFileSync } from "node:fs";
import { join } from "node:path";
import Ajv from "ajv/dist/2019";
import toJsonSchema from "joi-to-json";
import { runStages } from "../run";
import { runs } from "../test/runs";
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
        { path: "ducts[0].length", found: "number -5", expected: "a number greater than 0" },
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
  });

  test.each([["[]"], ["null"], ["12"], ['{"format":"other"}'], ['{"format":"gray-bench-design","version":2}']])(
    "a file of another kind gets one sentence: %s",
    (text) => {
      expect(faultsOf(text).faults).toHaveLength(1);
    },
  );

  test("tells a bounded number of faults and how many there were", () => {
    const bad = good();
    bad.wires = Array.from({ length: 2000 }, () => ({}));
    const { faults, count } = faultsOf(JSON.stringify(bad));
    expect([faults.length, count]).toEqual([MOST_FAULTS, 2000]);
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
    const design = JSON.parse(readFileSync(join(__dirname, `../../../designs/${name}.bench.json`), "utf8")) as Design;
    const check = new Ajv({ strict: false, allErrors: true }).compile(published);
    expect(check(design)).toBe(true);
    expect(check({ ...design, wires: [{ number: 5 }] })).toBe(false);
  });
});

// ---- mutated files: never a crash, never a hang, always reasons ------------------------------------

/** Seeded numbers for the mutations (mulberry32). */
function random(seed: number): () => number {
  let a = seed;
  return () => {
    a = (a + 0x6d2b79f5) | 0;
    let t = Math.imul(a ^ (a >>> 15), 1 | a);
    t = (t + Math.imul(t ^ (t >>> 7), 61 | t)) ^ t;
    return ((t ^ (t >>> 14)) >>> 0) / 4294967296;
  };
}

const JUNK: unknown[] = [
  null,
  "",
  "x",
  -1,
  0,
  1e9,
  1e308,
  true,
  [],
  {},
  [[]],
  "__proto__",
  "=1+1",
  "\u0000",
  "-K1",
  { device: "-K1", pin: "A1" },
  "+A1/plate",
  "W1",
  99999.999,
];

/** Changes one to four places of a design: a value, a field gone, an item doubled, two items swapped. */
function mutate(design: unknown, next: () => number): unknown {
  const copy = JSON.parse(JSON.stringify(design)) as Record<string, unknown>;
  const changes = 1 + Math.floor(next() * 4);
  for (let i = 0; i < changes; i++) {
    let at: Record<string, unknown> | unknown[] = copy;
    for (;;) {
      const keys = Object.keys(at);
      if (keys.length === 0) break;
      const key = keys[Math.floor(next() * keys.length)]!;
      const value = (at as Record<string, unknown>)[key];
      if (typeof value === "object" && value !== null && next() < 0.85) {
        at = value as Record<string, unknown>;
        continue;
      }
      const what = next();
      if (Array.isArray(at) && what < 0.3) at.push(at[0]);
      else if (what < 0.5) delete (at as Record<string, unknown>)[key];
      else if (what < 0.6 && typeof value === "number") (at as Record<string, unknown>)[key] = value * (next() * 4 - 2);
      else (at as Record<string, unknown>)[key] = JUNK[Math.floor(next() * JUNK.length)];
      break;
    }
  }
  return copy;
}

test("2,000 mutated designs are refused with reasons or computed to the end", () => {
  const design = JSON.parse(readFileSync(join(__dirname, "../../../designs/hillfold.bench.json"), "utf8")) as unknown;
  const next = random(4711);
  let refused = 0;
  let computed = 0;
  for (let i = 0; i < runs(2000); i++) {
    const result = readDesign(JSON.stringify(mutate(design, next)));
    if (!result.ok) {
      refused++;
      expect(result.faults.length).toBeGreaterThan(0);
      for (const f of result.faults) expect(f.path !== "" && f.found !== "" && f.expected !== "").toBe(true);
      continue;
    }
    computed++;
    const results = runStages(result.design);
    const text = JSON.stringify(results);
    expect(text).not.toMatch(/:null,"y":null/);
    for (const p of results.open) expect(p.text !== "" && p.remedy !== "").toBe(true);
  }
  // Both kinds must occur, or the mutations test nothing.
  expect(Math.min(refused, computed)).toBeGreaterThan(runs(200));
});

test("files cut or garbled at a random place are refused with one place, or taken as what they say", () => {
  const text = readFileSync(join(__dirname, "../../../designs/hillfold.bench.json"), "utf8");
  const next = random(815);
  const seen = { cut: 0, garbled: 0, form: 0, taken: 0 };
  for (let i = 0; i < runs(600); i++) {
    const at = Math.floor(next() * text.trimEnd().length);
    const cut = next() < 0.5;
    const garbled = cut
      ? text.slice(0, at)
      : text.slice(0, at) + String.fromCharCode(33 + Math.floor(next() * 90)) + text.slice(at + 1);
    const result = readDesign(garbled);
    let parsed: unknown;
    try {
      parsed = JSON.parse(garbled);
    } catch {
      // Not JSON: one fault, which names a line and a column no later than the file is long.
      if (result.ok) throw new Error(`taken: ${garbled.slice(at - 20, at + 20)}`);
      expect([result.faults.length, result.count]).toEqual([1, 1]);
      const { path, found, expected } = result.faults[0]!;
      if (at === 0 && cut) expect(found).toBe("an empty file");
      else expect(path).toMatch(cut ? /^line \d+, column \d+$|^the end of the file$/ : /^line \d+, column \d+$/);
      expect([found.length > 0, expected.length > 0]).toEqual([true, true]);
      const line = Number(/\d+/.exec(path)?.[0] ?? garbled.split("\n").length);
      const broken = garbled.slice(0, at).split("\n").length;
      // Where a text was left open, the reader may notice at the end of that line; never before the break.
      expect([line >= broken - 1, line <= broken + 1]).toEqual([true, true]);
      seen[cut ? "cut" : "garbled"]++;
      continue;
    }
    // Still JSON: a letter within a text or a digit of a number; taken as it stands or refused by its field.
    if (result.ok) {
      seen.taken++;
      expect(result.design.wires).toEqual((parsed as Design).wires);
    } else {
      seen.form++;
      for (const f of result.faults) expect(f.path).toMatch(/^[a-zA-Z]/);
    }
  }
  expect(Object.values(seen).map((n) => n >= runs(20))).toEqual([true, true, true, true]);
});
