import { readFileSync } from "node:fs";
import { join } from "node:path";
import { runAll } from "../src/drill/control";
import { readTable, type MachineTable } from "../src/drill/table";

const read = (file: string): MachineTable => readTable(readFileSync(join(__dirname, "../machines", file), "utf8"));
const TALLOW = read("tallow-3.json");
const WICKETT = read("wickett.json");

/** A program with its beginning and its end. */
const program = (...lines: string[]): string =>
  ["(test)", "G21 G90", "T3 M6", "S2000 M3", ...lines, "G0 Z60", "M5", "M30"].join("\n");
const faults = (text: string, table = TALLOW): string[] =>
  runAll(text, table, 2).faults.map((f) => `${f.line}: ${f.text}`);

describe("what a real one refuses", () => {
  test.each<[string, string, string]>([
    ["a code it does not know", program("G5 X1"), "5: unknown code G5"],
    ["an M it does not know", program("M98"), "5: unknown code M98"],
    ["a letter it does not know", program("Q4"), "5: unknown letter Q"],
    ["what is no word", program("G0 X.Y"), "5: not a word: X.Y"],
    ["a place out of reach", program("G0 X2600 Y10"), "5: X2600 is out of reach: -5 to 2510"],
    ["too deep", program("G0 X10 Y10", "G1 Z-40 F100"), "6: Z-40 is out of reach: -20 to 120"],
    ["a tool that is not there", program("T9 M6"), "5: there is no tool in place 9"],
    ["into a clamp", program("G0 X430 Y2", "G0 Z5"), "6: into the clamp at X400 Y-40"],
    ["through a clamp", program("G0 X300 Y2", "G0 Z5", "G0 X600"), "7: into the clamp at X400 Y-40"],
    [
      "the spindle off in the sheet",
      program("M5", "G0 X50 Y50", "G0 Z3", "G1 Z-3 F100"),
      "8: into the sheet with the spindle off",
    ],
    ["no feed", program("G0 X50 Y50", "G0 Z3", "G1 Z-3"), "7: into the sheet without a feed"],
    ["rapid into the sheet", program("G0 X50 Y50", "G0 Z3", "G0 Z-3"), "7: a rapid move into the sheet"],
    [
      "rapid through the sheet",
      program("T32 M6", "S5000 M3", "G0 X50 Y50", "G0 Z3", "G1 Z-3 F100", "G0 X80"),
      "10: a rapid move through the sheet",
    ],
    [
      "a drill sideways",
      program("G0 X50 Y50", "G0 Z3", "G1 Z-3 F100", "G1 X60"),
      "8: a drill goes sideways in the sheet",
    ],
    [
      "tools changed in the sheet",
      program("G0 X50 Y50", "G0 Z3", "G1 Z-3 F100", "T4 M6"),
      "8: tools are changed in the sheet",
    ],
    ["turning too fast", program("S9000 M3"), "5: tool 3 may turn 6000 a minute"],
    [
      "an arc that is none",
      program("T32 M6", "S5000 M3", "G0 X50 Y50", "G0 Z3", "G1 Z-3 F100", "G3 X60 Y60 I1 J0"),
      "10: the end of an arc is not on its circle",
    ],
    [
      "an arc without its middle",
      program("T32 M6", "S5000 M3", "G0 Z3", "G1 Z-3 F100", "G3 X60 Y60"),
      "9: an arc without its middle",
    ],
    ["a cycle without its depth", program("G81 X50 Y50"), "5: a cycle without Z and R"],
    ["no end", "G21 G90\nG0 X1", "2: the program has no end"],
    ["something behind the end", `${program()}\nG0 X1`, "8: something stands behind the end of the program"],
    ["an open bracket", program("(half"), "5: a bracket stands alone"],
  ])("%s", (_what, text, said) => {
    expect(faults(text)).toContain(said);
  });

  test("cycles and arcs, where its control reads none", () => {
    expect(faults(program("G81 X50 Y50 Z-3 R3 F100", "G80"), WICKETT)).toContain("5: this control has no cycles: G81");
    expect(faults(program("G3 X50 Y50 I5 J0 F100"), WICKETT)).toContain("5: this control reads no arcs: G3");
  });
});

test("modal words: a cycle goes on with places alone, a move with its last code", () => {
  const { made, faults: none } = runAll(
    program("G0 Z3", "G81 X50 Y50 Z-4 R3 F100", "X60", "Y60 Z-3", "Y70 Z-1", "G80"),
    TALLOW,
    2,
  );
  expect(none).toEqual([]);
  expect(made.holes.map(({ x, y, depth, through }) => [x, y, depth, through])).toEqual([
    [50, 50, 4, true],
    [60, 50, 4, true],
    // The point of the drill is below the sheet, its full diameter is not.
    [60, 60, 3, false],
    [60, 70, 1, false],
  ]);
});

test("a ring comes out as its contour; a countersink as wide as it is deep twice over; time goes on", () => {
  const ring = runAll(
    program("T32 M6", "S5000 M3", "G0 X60 Y50", "G0 Z3", "G1 Z-3 F100", "G3 X40 Y50 I-10 J0 F600", "X60 I10", "G0 Z3"),
    TALLOW,
    2,
  );
  expect(ring.faults).toEqual([]);
  const [contour] = ring.made.contours;
  expect(contour!.through).toBe(true);
  for (const p of contour!.points) expect(Math.hypot(p.x - 50, p.y - 50)).toBeCloseTo(10, 6);
  expect(contour!.points.length).toBeGreaterThan(100);
  const sink = runAll(program("T20 M6", "S500 M3", "G0 X50 Y50", "G0 Z3", "G1 Z-4 F60", "G0 Z3"), TALLOW, 6);
  expect(sink.made.holes).toMatchObject([{ kind: "sink", d: 8, through: false }]);
  expect(sink.seconds).toBeGreaterThan(2 * TALLOW.changeSeconds + (7 / 60) * 60);
});

test("a machine's file that is wrong is refused with the place", () => {
  const wrong = (change: object): string => {
    try {
      readTable(JSON.stringify({ ...TALLOW, ...change }));
      return "";
    } catch (e) {
      return (e as Error).message;
    }
  };
  expect(wrong({})).toBe("");
  expect(wrong({ rapid: "fast" })).toBe("the machine's file: rapid is to be a speed above 0 in mm/min");
  expect(wrong({ area: { ...TALLOW.area, z: [5, -5] } })).toBe(
    "the machine's file: area.z is to be two numbers, the lower first",
  );
  expect(wrong({ tools: [{ place: 0, kind: "drill", d: 1 }] })).toBe(
    "the machine's file: tools[0].place is to be a whole number from 1",
  );
  expect(() => readTable("{")).toThrow("the machine's file is no JSON");
});
