import { readFileSync } from "node:fs";
import { join } from "node:path";
import { facesOf } from "../design/geometry";
import type { Design } from "../design/model";
import { searchPattern } from "../design/wildcards";
import { dot, enclosure, tiny, wire } from "../test/tiny";
import { searchEntries } from "./entries";
import { Finder, findEntries, isGuess, isNamed, slipOf } from "./find";

describe("search", () => {
  const entries = searchEntries(
    tiny({
      ducts: [{}],
      devices: ["-K1", "-K11", "-K12", "-S1"].map((t) => dot(t, 0, 0)),
      wires: [wire("-K1", "-K11", { number: "214" }), wire("-K1", "-S1", { number: "14" })],
    }),
  );
  const find = (q: string): string[] => findEntries(entries, q, 20).map((e) => e.of);

  test("the name itself comes first, then names that begin with it", () => {
    expect(find("-K1").slice(0, 3)).toEqual(["-K1", "-K11", "-K12"]);
    expect(find("k1")[0]).toBe("-K1");
    expect(find("14").slice(0, 2)).toEqual(["14", "214"]);
    // A name that begins with it before one that has it inside, whatever their order in the design.
    const listed = searchEntries(tiny({ devices: ["-XK4", "-K41", "-K4"].map((t) => dot(t, 0, 0)) }));
    expect(findEntries(listed, "K4", 9).map((e) => e.of)).toEqual(["-K4", "-K41", "-XK4"]);
  });

  test("wildcards fit the whole name, with or without its sign", () => {
    expect(find("-K1?")).toEqual(["-K11", "-K12"]);
    expect(find("k*2")).toEqual(["-K12"]);
    expect(find("2*4")).toEqual(["214"]);
  });

  test("a number, a text beside the name, nothing typed, no more than asked for", () => {
    expect(find("  ")).toEqual([]);
    expect(find("214")).toEqual(["214"]);
    // The device with that pin, then what names it in its text; never with a wildcard.
    expect(find("-K11:p")).toEqual(["-K11", "214"]);
    expect(find("-K11:?")).toEqual([]);
    expect(findEntries(entries, "K", 2).map((e) => e.of)).toEqual(["-K1", "-K11"]);
    expect(find("plate")).toEqual(["+A1/plate", "W1"]);
  });

  test("everything that has a name is listed with what stands beside it", () => {
    const design = tiny({
      ducts: [{}],
      devices: [
        { ...dot("-K1", 0, 0), texts: ["pump", "left"] },
        { tag: "-K2", part: "?" },
      ],
      wires: [{ ...wire("-K1", "-K2") }, { net: undefined! }],
      nets: [{ name: "n", class: "control" }, { name: "m" }],
      enclosures: [enclosure("+A1", { text: "stage left" }), enclosure("+A2")],
      crossings: [{ tag: "N1", kind: "wall", from: { duct: "W1" }, to: { duct: "W1" }, enclosure: "+A1", points: [] }],
    });
    design.rails.push({ tag: "R1", face: "+A1/plate", x: 0, y: 0, run: "right", length: 9, part: "R" });
    design.cables.push({ tag: "-W1", type: "c", from: "here", to: "there", cores: [] });
    design.cables.push({ tag: "-W2", type: "c", to: "there", cores: [] });
    design.strips.push({ tag: "-X1", rail: "R1", members: ["-K1", "-K2"] });
    expect(
      searchEntries(design)
        .filter((e) => e.thing !== "face")
        .map((e) => `${e.thing} ${e.of}: ${e.text}`),
    ).toEqual([
      "device -K1: dot, pump, left",
      "device -K2: ?",
      "wire 1: -K1:p to -K2:p, n",
      "wire 2: ? to ?",
      "duct W1: duct on +A1/plate",
      "rail R1: rail on +A1/plate",
      "crossing N1: wall",
      "net n: control",
      "net m: no class",
      "cable -W1: here to there",
      "cable -W2: there",
      "strip -X1: 2 members",
      "part D: duct",
      "part R: rail",
      "part P: dot",
      "enclosure +A1: stage left",
      "enclosure +A2: ",
    ]);
    const { also, pins } = searchEntries(design)[0]!;
    expect([also, pins]).toEqual([["+A1-K1"], ["p"]]);
    expect(searchEntries(design).filter((e) => e.thing === "face")).toHaveLength(facesOf(design).size);
  });

  test("signs of patterns are taken as they are", () => {
    expect(searchPattern("a.(b").test("xa.(by")).toBe(true);
    expect(searchPattern("*a*a*").test("banana")).toBe(true);
    expect(searchPattern("b*b?").test("bananx")).toBe(false);
    expect(find("[")).toEqual([]);
  });
});

describe("what people of the trade type finds what they mean first", () => {
  const design = JSON.parse(
    readFileSync(join(__dirname, "../../../designs/whole/larkmoor.bench.json"), "utf8"),
  ) as Design;
  const finder = new Finder(searchEntries(design));
  const first = (q: string): string | undefined => {
    const [hit] = finder.find(q, 5);
    return hit && `${hit.found.thing} ${hit.found.of}${hit.found.pin === undefined ? "" : `:${hit.found.pin}`}`;
  };

  test.each<[string, string]>([
    // Tags, as they are written here and elsewhere.
    ["-K13", "device -K13"],
    ["K13", "device -K13"],
    ["k13", "device -K13"],
    ["K 13", "device -K13"],
    ["-k 13", "device -K13"],
    ["+A1-K13", "device -K13"],
    ["A1-K13", "device -K13"],
    ["a1 k13", "device -K13"],
    ["device K13", "device -K13"],
    ["devices K13", "device -K13"],
    [" -K13 ", "device -K13"],
    ["\u2013K13", "device -K13"],
    ["\u2212K13", "device -K13"],
    ["\u2011K13", "device -K13"],
    ["-\u2060K13", "device -K13"],
    ["\u200B-K13\uFEFF", "device -K13"],
    ["\uFF0DK13", "device -K13"],
    ["U20", "device -U20"],
    ["=U20", "device -U20"],
    ["-XPE1", "device -XPE1"],
    ["xpe1", "device -XPE1"],
    // Terminals and pins.
    ["X5:2", "device -X5.2"],
    ["-X5:2", "device -X5.2"],
    ["X5.2", "device -X5.2"],
    ["X5/2", "device -X5.2"],
    ["X5 2", "device -X5.2"],
    ["terminal X5:2", "device -X5.2"],
    ["-X1.PE", "device -X1.PE"],
    ["K13:13", "device -K13:13"],
    ["-K13:13", "device -K13:13"],
    ["+A1-K13:13", "device -K13:13"],
    ["K13 13", "device -K13:13"],
    ["U20 24V", "device -U20:24V"],
    ["U20:24v", "device -U20:24V"],
    ["-A10:B-", "device -A10:B-"],
    // Wires.
    ["214", "wire 214"],
    ["wire 214", "wire 214"],
    ["Wire 214", "wire 214"],
    ["w214", "wire 214"],
    ["W 214", "wire 214"],
    ["lead 214", "wire 214"],
    ["wires 214", "wire 214"],
    // Bars, ways, places.
    ["W21", "duct W21"],
    ["duct W21", "duct W21"],
    ["W21.5", "duct W21"],
    ["duct W21.5", "duct W21"],
    ["rail R4", "rail R4"],
    ["R4", "rail R4"],
    ["+A1/door", "face +A1/door"],
    ["A1/door", "face +A1/door"],
    ["A1 door", "face +A1/door"],
    ["face A1/plate", "face +A1/plate"],
    ["+A2", "enclosure +A2"],
    ["A2", "enclosure +A2"],
    ["A1", "enclosure +A1"],
    ["wire", "wire 1"],
    ["cabinet A2", "enclosure +A2"],
    ["enclosure +B1", "enclosure +B1"],
    ["crossing D1", "crossing D1"],
    ["D1", "crossing D1"],
    // Strips, cables, nets, parts.
    ["X5", "strip -X5"],
    ["-X5", "strip -X5"],
    ["strip X5", "strip -X5"],
    ["-W11", "cable -W11"],
    ["cable W11", "cable -W11"],
    ["cable -W1", "cable -W1"],
    ["net PE", "net PE"],
    ["L1", "net L1"],
    ["OH-K9", "part OH-K9"],
    ["OHK9", "part OH-K9"],
    ["oh k9", "part OH-K9"],
    ["part OHK9", "part OH-K9"],
    ["FW D60", "part FW-D60"],
    // Wildcards, words, slips of the finger.
    ["K1*", "device -K1"],
    ["-K1?", "device -K11"],
    ["wire 21?", "wire 210"],
    ["emergency stop", "device -S10"],
    ["contacter", "device -K1"],
    ["savety relay", "device -K11"],
    ["-XPF1", "device -XPE1"],
  ])("%s: %s", (typed, wanted) => {
    expect(first(typed)).toBe(wanted);
  });

  test("what is called so, or is the whole of it, is named; what is a letter away is a guess", () => {
    const ranks = [0, 0.5, 1, 2, 3, 4, 5, 6, 7, 8];
    expect([ranks.filter(isNamed), ranks.filter(isGuess)]).toEqual([[0, 0.5, 1, 2, 3, 4], [8]]);
  });
  test("one slip is a letter more, less, another, or two that changed places", () => {
    for (const [a, b] of [
      ["relay", "relax"],
      ["relay", "rela"],
      ["rela", "relay"],
      ["relay", "relya"],
      ["relay", "elay"],
    ])
      expect(slipOf(a!, b!)).toBe(true);
    for (const [a, b] of [
      ["relay", "relay"],
      ["relay", "rel"],
      ["relay", "yalre"],
      ["relay", "lerax"],
    ])
      expect(slipOf(a!, b!)).toBe(false);
    // Of three letters all is near to all: nothing is guessed.
    expect(finder.find("Q9Q", 5)).toEqual([]);
  });
});
