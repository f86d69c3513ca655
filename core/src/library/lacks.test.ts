import { demo } from "../test/demo";
import { fitsText, lackingParts, LACKS, lacksByKind, lacksOf } from "./lacks";
import { NOT_TOLD, type Design } from "../design/model";
import type { LibraryPart } from "./library";

test("a number alone lacks everything but holes, which only some mounts want; what has it all lacks nothing", () => {
  expect(lacksOf({ number: "R1" })).toEqual(LACKS.filter((l) => l.id !== "holes").map((l) => l.text));
  const whole: LibraryPart = {
    number: "R1",
    category: "relay",
    w: 6,
    h: 80,
    d: 70,
    lossW: 0,
    pins: [{ name: "A1" }],
    mounts: [{ kind: "rail", datumY: 40 }],
    stock: { place: "A-01-01", pack: 1 },
  };
  expect(lacksOf(whole)).toEqual([]);
  expect(lacksOf({ ...whole, d: undefined as never, pins: [] })).toEqual(["without a size", "without pins"]);
});

test("parts of a design that lack something: nobody describes them first, then those that most devices are of", () => {
  const design = {
    ...demo("hillfold"),
    rails: [],
    ducts: [],
    devices: ["A", "B", "B", "C", "D", "D", NOT_TOLD].map((part, i) => ({ tag: `-K${i}`, part })),
    parts: [
      { number: "A", text: "a" },
      {
        number: "B",
        text: "b",
        category: "relay",
        w: 1,
        h: 1,
        d: 1,
        mounts: [{ kind: "door" }],
        pins: [{ name: "1" }],
      },
      {
        number: "C",
        category: "terminal",
        w: 1,
        h: 1,
        d: 1,
        mounts: [{ kind: "plate" }],
        pins: [{ name: "1" }],
        holes: [{}],
        stock: {},
      },
    ] as unknown as Design["parts"],
  };
  const lacking = lackingParts(design);
  expect(lacking.map((l) => [l.number, l.devices, l.lacks?.map((k) => k.id) ?? null])).toEqual([
    ["D", 2, null],
    ["B", 2, ["loss", "holes", "store"]],
    ["A", 1, ["size", "kind", "pins", "loss", "mount", "store"]],
  ]);
  expect(lacksByKind(lacking).map((k) => [k.lack.stage, k.lack.id, k.parts, k.devices])).toEqual([
    ["panel", "size", 2, 3],
    ["lineups", "kind", 1, 1],
    ["routes", "pins", 1, 1],
    ["heat", "loss", 2, 3],
    ["panel", "mount", 1, 1],
    ["metalwork", "holes", 1, 2],
    ["kits", "store", 2, 3],
  ]);
});

test("what a kind cannot have is not missing: pins of a duct, the loss of a terminal, a mount of a wire", () => {
  const stock = { place: "A-01-01", pack: 1 };
  const size = { w: 1, h: 1, d: 1, stock };
  expect(lacksOf({ number: "D", category: "duct", ...size })).toEqual([]);
  expect(lacksOf({ number: "W", category: "wire", ...size })).toEqual([]);
  expect(lacksOf({ number: "T", category: "terminal", ...size })).toEqual([
    "without pins",
    "without a way to mount them",
  ]);
  expect(lacksOf({ number: "F", category: "fan", ...size })).not.toContain("without a loss");
});

test("the parts of the theatre lack little", () => {
  const parts = demo("larkmoor").parts;
  expect(parts.filter((p) => lacksOf(p).includes("without a size"))).toEqual([]);
  // Outlets of fans are no kind of ours, and nothing lands on them.
  expect(parts.filter((p) => lacksOf(p).length > 2).map((p) => p.number)).toEqual(["TT-EF230", "TT-EF560"]);
});

test.each<[string, boolean]>([
  ["", true],
  ["oh-k", true],
  ["OH-*", true],
  ["*K9", true],
  ["OH-?9", true],
  ["OH-K", true],
  ["K?", false],
  ["contactor", true],
  ["brasslark", false],
  ["OH.K9", false],
  ["(", false],
])("a part is found by %s: %s", (text, found) => {
  expect(fitsText({ number: "OH-K9", maker: "Oakhollow", text: "contactor 9 A" }, text)).toBe(found);
});
