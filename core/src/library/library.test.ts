import fc from "fast-check";
import { randomDesigns } from "../test/random-design";
import { ALL_DRAWN, runs } from "../test/runs";
import { contentHash } from "../design/hash";
import { disagree, doublesOf, gained, mergedPart } from "./doubles";
import { likeLoss, median } from "./like-parts";
import { complete, libraryHash, libraryText, readLibrary, type Library, type LibraryPart } from "./library";
import { NOT_TOLD, type Design, type Part } from "../design/model";
import { checkDesign } from "../design/read";

const part = (number: string, more: Partial<Part> = {}): Part => ({
  number,
  maker: "Oakhollow",
  text: `part ${number}`,
  category: "relay",
  w: 10,
  h: 80,
  d: 60,
  ...more,
});
const design = (more: Partial<Design> = {}): Design => {
  const read = checkDesign({
    format: "gray-bench-design",
    version: 1,
    job: { code: "J-1", title: "t", revision: "A" },
    enclosures: [],
    ...more,
  });
  if (!read.ok) throw new Error(JSON.stringify(read.faults));
  return read.design;
};
const numbers = (d: Design): string[] => d.parts.map((p) => p.number);

test("a part that only the library knows comes in with its sizes, and not without one of them", () => {
  const devices = [{ tag: "-K1", part: "X" }];
  const from = (known: Omit<LibraryPart, "number">) =>
    complete(design({ devices }), { parts: [{ number: "X", ...known }] }).parts.map((p) => [p.number, p.w, p.h, p.d]);
  expect(from({ w: 10, h: 20, d: 30 })).toEqual([["X", 10, 20, 30]]);
  for (const lacking of [
    { h: 20, d: 30 },
    { w: 10, d: 30 },
    { w: 10, h: 20 },
  ])
    expect(from(lacking)).toEqual([]);
});

test("what the design says of a part stands; what it leaves out is completed, and named", () => {
  const pins = [{ name: "A1" }];
  const own = part("R1", { lossW: 2, currentA: 6 });
  const library: Library = { parts: [part("R1", { w: 99, lossW: 5, pins, weightKg: 1 })] };
  expect(complete(design({ parts: [own], devices: [{ tag: "-K1", part: "R1" }] }), library).parts).toEqual([
    { ...own, pins, weightKg: 1, fromLibrary: ["pins", "weightKg"] },
  ]);
});

test("what tables could not say counts as not said: kind, maker, a text that is the number", () => {
  const own = part("R1", { maker: NOT_TOLD, text: "R1", category: "other" });
  const [whole] = complete(design({ parts: [own], devices: [{ tag: "-K1", part: "R1" }] }), {
    parts: [part("R1")],
  }).parts;
  expect(whole).toEqual({ ...part("R1"), fromLibrary: ["category", "maker", "text"] });
});

test("parts that are named are added, and those that they name; one without a size stays unknown", () => {
  const library: Library = {
    parts: [
      part("T1", { category: "terminal", terminal: { levels: 1, jumperRows: 1, endPlate: "T1E" } }),
      part("T1E"),
      part("FAN", { climate: { kind: "filter fan", exit: "OUT" } }),
      part("OUT"),
      part("W15", { category: "wire" }),
      part("END", { category: "terminal accessory" }),
      part("R1", { alternates: ["R2"] }),
      part("R2"),
      part("NOBODY"),
      { number: "BARE", lossW: 3 },
    ],
  };
  const devices = ["T1", "R1", "BARE", NOT_TOLD].map((p, i) => ({ tag: `-K${i}`, part: p }));
  expect(numbers(complete(design({ devices }), library))).toEqual([
    "END",
    "FAN",
    "OUT",
    "R1",
    "R2",
    "T1",
    "T1E",
    "W15",
  ]);
});

test("completing again changes nothing, the order of the library nothing, and a design keeps all it says", () => {
  const known: fc.Arbitrary<LibraryPart> = fc.record(
    {
      number: fc.constantFrom("A", "B", "C", "D", "PK"),
      w: fc.integer({ min: 1, max: 100 }),
      h: fc.constant(50),
      d: fc.constant(40),
      lossW: fc.integer({ min: 0, max: 9 }),
      category: fc.constantFrom("relay" as const, "wire" as const),
      text: fc.constant("of the library"),
    },
    { requiredKeys: ["number"] },
  );
  let [filled, added] = [0, 0];
  fc.assert(
    fc.property(randomDesigns, fc.uniqueArray(known, { selector: (p) => p.number, maxLength: 5 }), (drawn, parts) => {
      // Half of what is drawn is named as the library has it.
      const renamed = new Map(drawn.parts.slice(0, 3).map((p, i) => [p.number, "ABC"[i]!]));
      const as = (n: string): string => renamed.get(n) ?? n;
      const own: Design = {
        ...drawn,
        parts: drawn.parts.slice(0, 2).map((p) => ({ ...p, number: as(p.number) })),
        devices: drawn.devices.map((d) => ({ ...d, part: as(d.part) })),
      };
      const whole = complete(own, { parts });
      expect(contentHash(complete(whole, { parts }))).toBe(contentHash(whole));
      expect(contentHash(complete(own, { parts: [...parts].reverse() }))).toBe(contentHash(whole));
      expect(checkDesign(structuredClone(whole) as object).ok).toBe(checkDesign(structuredClone(own) as object).ok);
      for (const p of own.parts) {
        const { fromLibrary = [], ...now } = whole.parts.find((w) => w.number === p.number)!;
        filled += fromLibrary.length;
        for (const [field, value] of Object.entries(p))
          if (!fromLibrary.includes(field)) expect(now[field as keyof typeof now]).toEqual(value);
      }
      added += whole.parts.length - own.parts.length;
    }),
    { numRuns: runs(150), seed: 9 },
  );
  if (!ALL_DRAWN) return;
  expect(filled).toBeGreaterThan(20);
  expect(added).toBeGreaterThan(20);
});

test("a library file reads back; two parts of one number are a fault, a number alone is enough", () => {
  const library: Library = { parts: [part("R1", { pins: [{ name: "A1" }] }), { number: "R2" }] };
  expect(readLibrary(libraryText(library))).toEqual({ ok: true, value: library });
  expect(libraryHash({ parts: [...library.parts].reverse() })).toBe(libraryHash(library));
  const twice = readLibrary(libraryText({ parts: [part("R1"), part("R2"), part("R1")] }));
  expect(twice).toMatchObject({
    ok: false,
    faults: [{ path: "parts[2].number", found: "R1, which parts[0] has already" }],
  });
  const wrong = readLibrary(libraryText({ parts: [{ number: "R1", w: -1 }] }));
  expect(wrong).toMatchObject({ ok: false, faults: [{ path: "parts[0].w" }] });
});

test("a part is found under its other numbers too, and keeps the one by which the design names it", () => {
  const library: Library = { parts: [{ ...part("R1", { lossW: 2 }), alsoAs: ["R-1", "77"] }] };
  const whole = complete(
    design({
      parts: [part("77", { maker: NOT_TOLD })],
      devices: ["R-1", "77", "78"].map((p) => ({ tag: `-K${p}`, part: p })),
    }),
    library,
  );
  expect(whole.parts).toEqual([
    { ...part("77"), maker: "Oakhollow", lossW: 2, fromLibrary: ["lossW", "maker"] },
    { ...part("R1"), number: "R-1", lossW: 2, fromLibrary: ["category", "d", "h", "lossW", "maker", "text", "w"] },
  ]);
  expect(checkDesign(whole).ok).toBe(true);
  const text = (parts: LibraryPart[]) => {
    const read = readLibrary(libraryText({ parts }));
    return read.ok ? "ok" : read.faults.map((f) => `${f.path}: ${f.found}`).join();
  };
  expect(text([{ number: "A" }, { number: "B", alsoAs: ["A"] }])).toBe(
    "parts[1].alsoAs[0]: A, which parts[0] has already",
  );
  expect(text([{ number: "A", alsoAs: ["C", "C"] }])).toContain("alsoAs[1]");
});

test("numbers alike are found together; one part of two says what either says, the first where they disagree", () => {
  const parts: LibraryPart[] = [
    { number: "OHK9", lossW: 3, w: 45 },
    { number: "OH-K9", w: 46, maker: "Oak", h: 80, alsoAs: ["9"] },
    { number: "oh k 9", h: 80 },
    { number: "OH-K90" },
    { number: "--" },
    { number: "==" },
  ];
  expect(doublesOf(parts).map((g) => g.map((p) => p.number))).toEqual([["OH-K9", "OHK9", "oh k 9"]]);
  const [one, other] = [parts[1]!, parts[0]!];
  expect([disagree(one, other), gained(one, other)]).toEqual([["w"], ["lossW"]]);
  expect(mergedPart(one, other)).toEqual({ ...one, lossW: 3, alsoAs: ["9", "OHK9"] });
  expect(mergedPart(other, one).alsoAs).toEqual(["OH-K9", "9"]);
});

test("the median of like parts: of its own kind, without the part itself; none where no other states a loss", () => {
  expect([median([3, 1, 2]), median([4, 1]), median([])]).toEqual([2, 2.5, undefined]);
  const parts = [
    part("A", { lossW: 1 }),
    part("B", { lossW: 4 }),
    part("C", { category: "drive", lossW: 90 }),
    part("D"),
  ];
  expect(likeLoss(parts[3]!, parts)).toEqual({ watts: 2.5, of: 2 });
  expect(likeLoss(parts[0]!, parts)).toEqual({ watts: 4, of: 1 });
  expect([likeLoss(parts[2]!, parts), likeLoss({ number: "E" }, parts)]).toEqual([null, null]);
});
