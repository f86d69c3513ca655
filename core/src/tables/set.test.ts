import fc from "fast-check";
import { contentHash } from "../design/hash";
import type { Design } from "../design/model";
import { readDesign } from "../design/read";
import { demo } from "../test/demo";
import { randomDesigns } from "../test/random-design";
import { ALL_DRAWN, runs } from "../test/runs";
import { strToU8, zipSync } from "fflate";
import { designTables, packTables, readPacked } from "./set";

const back = (design: Design): Design => {
  const read = readPacked(packTables(design));
  if (!read.ok) throw new Error(JSON.stringify(read.faults.slice(0, 3)));
  return read.design;
};
const text = (design: Design, table: string): string => new TextDecoder().decode(designTables(design).get(table));

test.each(["larkmoor", "hillfold"] as const)("%s comes back from its tables with the same hash", (name) => {
  const design = demo(name);
  expect(contentHash(back(design))).toBe(contentHash(design));
  expect(Buffer.compare(packTables(design), packTables(design))).toBe(0);
});

test("random designs come back, whatever texts stand in them", () => {
  // Texts that spreadsheets, quotes, ends of lines and numbers would spoil.
  const odd = fc.oneof(
    fc.constantFrom(
      "=1+1",
      "'-K1",
      "''",
      "-5",
      "1.50",
      "true",
      "{}",
      '"',
      "a\r\nb",
      " x ",
      ";,\t|",
      "@",
      "\uFF1Dx",
      "\uD800",
      "ÿ😀",
    ),
    fc.string({ maxLength: 6 }),
  );
  let [oddOnes, json] = [0, 0];
  fc.assert(
    fc.property(randomDesigns, fc.array(odd, { maxLength: 6 }), (drawn, texts) => {
      const design = structuredClone(drawn);
      texts.forEach((t, i) => {
        const device = design.devices[i % design.devices.length];
        if (!device) return;
        if (i % 3 === 0) device.sheet = t;
        else if (i % 3 === 1) device.texts = [t, ""];
        else device.when = { [t || "k"]: ["a", t] };
        oddOnes++;
      });
      const read = readDesign(JSON.stringify(design));
      // Some texts are none that a design may have; those that are come back.
      if (!read.ok) return;
      if (text(read.design, "devices").includes("[JSON]")) json++;
      expect(contentHash(back(read.design))).toBe(contentHash(read.design));
    }),
    { numRuns: runs(150), seed: 4 },
  );
  if (!ALL_DRAWN) return;
  expect(oddOnes).toBeGreaterThan(100);
  expect(json).toBeGreaterThan(20);
});

test("headings say the place and what its cells are", () => {
  const lines = text(demo("hillfold"), "devices").split("\r\n");
  expect(lines[0]).toBe("tag,part,on.rail,on.x [number],on.face,on.y [number],texts [JSON]");
  expect(lines[1]).toBe(`'-Q1,OH-M25,R1,5,,,"[""dome motor""]"`);
});

describe("what is not as it should be is told with its table, line and column", () => {
  const files = (change: (tables: Map<string, Uint8Array>) => void): Uint8Array => {
    const tables = designTables(demo("hillfold"));
    change(tables);
    return zipSync(Object.fromEntries([...tables].map(([n, b]) => [`hill/${n}.csv`, b])));
  };
  const edit = (table: string, from: string, to: string) => (t: Map<string, Uint8Array>) => {
    const was = new TextDecoder().decode(t.get(table));
    expect(was).toContain(from);
    t.set(table, strToU8(was.replace(from, to)));
  };
  test("in a folder of its own it is read all the same", () => {
    expect(readPacked(files(() => undefined)).ok).toBe(true);
  });
  test.each<[string, (t: Map<string, Uint8Array>) => void, string, string]>([
    [
      "a number",
      edit("devices", ",R1,5,", ",R1,five,"),
      "devices.csv, line 2, on.x [number]",
      "a number, with a decimal point",
    ],
    ["the form", edit("devices", "OH-M25", ""), "devices.csv, line 2, part", "this field is needed"],
    ["a heading", edit("devices", "on.x [number]", "on.x [count]"), "devices.csv, headings", "[number]"],
    ["a place twice", edit("devices", "on.face", "on.rail"), "devices.csv, headings", "each place once"],
    ["an end of a quote", edit("devices", '"[""dome motor""]"', '"[""dome'), "devices.csv", "a table as CSV"],
    ["what it is", (t) => t.delete("design"), "the whole file", "design.csv"],
  ])("%s", (_, change, path, expected) => {
    const read = readPacked(files(change));
    if (read.ok) throw new Error("it was read");
    expect(read.faults[0]!.path).toContain(path);
    expect(read.faults[0]!.expected).toContain(expected);
  });
  test("names that are none of ours do not become part of a design", () => {
    const read = readPacked(files(edit("devices", "tag,", "__proto__.polluted,tag,")));
    expect(read.ok).toBe(false);
    expect(({} as { polluted?: unknown }).polluted).toBeUndefined();
  });
});

test("tables of a packed design lie at its top or in one folder, not deeper", () => {
  const packed = (folder: string): Uint8Array =>
    zipSync(
      Object.fromEntries([...designTables(demo("hillfold"))].map(([name, bytes]) => [`${folder}${name}.csv`, bytes])),
    );
  for (const folder of ["", "job/"]) expect(readPacked(packed(folder))).toMatchObject({ ok: true });
  expect(readPacked(packed("a/job/"))).toMatchObject({ ok: false });
});
