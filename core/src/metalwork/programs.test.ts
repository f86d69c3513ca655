import type { ControlRow, MetalworkRules, ShopTool } from "./rules";
import { forFile, uniqueNames } from "../frame/file-out";
import { faceWith, METALWORK, onMachine } from "../test/metalwork";
import { programsOf } from "./files";
import type { Cut, Drilled, FaceWork, Move } from "./result";
import { legMm } from "./legs";
import { tipMm } from "./times";
import type { Tool } from "./tools";

/** What stands in a program: what the one at the machine reads, how deep tools go, what its control wants. */

const HEADING = { job: "LARK-2601", revision: "C" };
const round = (x: number, y: number, d: number): Cut => ({ kind: "round", x, y, d });
const controlled = (machine: string, more: Partial<ControlRow>, tools: readonly ShopTool[] = []): MetalworkRules => ({
  ...METALWORK,
  controls: METALWORK.controls.map((c) => (c.machine === machine ? { ...c, ...more } : c)),
  tools: [...METALWORK.tools, ...tools],
});
const linesOf = (face: Drilled, machine = "Tallow 3", rules = METALWORK): string[] =>
  programsOf(onMachine(face, machine, rules), rules, HEADING, "n")[0]!.text.split("\r\n");
const bare = (lines: readonly string[]): string[] => lines.map((l) => l.replace(/^N\d+ /, ""));
const pathOf = (cut: Cut, rules = METALWORK): Move[] => {
  const [o] = onMachine(faceWith([cut]), "Tallow 3", rules).setUps[0]!.steps[0]!.operations;
  return o!.kind === "mill" ? o!.path : [];
};

test("a program says how the sheet lies before anything moves", () => {
  const door = faceWith([round(300, 1300, 4.2)], { face: "+A1/door", kind: "door", w: 800, h: 1400 });
  const lines = linesOf(door, "Wickett");
  // 1400 high; the machine reaches 1100 up and 1500 across.
  expect(lines.slice(0, 9)).toEqual([
    "(LARK-2601 +A1/door, seen from outside)",
    "(job LARK-2601, revision C)",
    "(face +A1/door, outside up)",
    "(sheet 800 x 1400 x 2 mm, galvanised steel)",
    "(machine Wickett, set-up 1 of 1)",
    "(sheet a quarter turn counter-clockwise)",
    "(zero of the machine on its upper right corner as it lies)",
    "(tools: T3 drill D4.2)",
    "G21",
  ]);
  const both = programsOf(
    onMachine(faceWith([round(300, 100, 4.2), round(300, 2900, 4.2)], { kind: "door", w: 800, h: 3000 }), "Wickett"),
    METALWORK,
    HEADING,
    "n",
  );
  expect(both.map((p) => [p.name, /\(machine.*\)/.exec(p.text)![0]])).toEqual([
    ["n-1.nc", "(machine Wickett, set-up 1 of 2)"],
    ["n-2.nc", "(machine Wickett, set-up 2 of 2)"],
  ]);
  // The second lies 2902.1 mm from its corner; the machine reaches 1500 mm: 1402.1, by steps of 5.
  expect(both[1]!.text).toContain("zero of the machine at X 1405 Y 0 mm");
});

test("each tool goes as deep as it must: the point of a drill, the lead of a tap, the edge of a mill", () => {
  // A drill of 9 mm with 118° has a point of 4.5 / tan 59° = 2.704 mm; a tap M8 leads by 4 pitches of 1.25 mm.
  const tool = (id: string): Tool => ({ ...METALWORK.tools.find((t) => t.id === id)! }) as Tool;
  expect(tipMm(tool("T8"))).toBeCloseTo(2.7039, 4);
  expect(tipMm({ ...tool("T8"), pointDeg: 90 })).toBeCloseTo(4.5, 9);
  expect([tipMm(tool("T14")), tipMm(tool("T33"))]).toEqual([5, 0]);
  const face = faceWith(
    [round(100, 100, 9), { kind: "thread", x: 300, y: 100, d: 6.8, thread: "M8" }, round(600, 400, 80)],
    {
      thicknessMm: 3,
    },
  );
  const deepest = (machine: string, of: RegExp): string[] =>
    bare(linesOf(face, machine))
      .filter((l) => of.test(l))
      .map((l) => /Z(-[\d.]+)/.exec(l)![1]!);
  // Sheet 3, margin 1.5 of Tallow 3, 2 of Wickett.
  expect(deepest("Tallow 3", /^G81|^G84/)).toEqual(["-6.543", "-7.204", "-9.5"]);
  expect(new Set(deepest("Tallow 3", /^G1 Z-/))).toEqual(new Set(["-4.5"]));
  expect(deepest("Wickett", /^G1 Z-/).slice(0, 3)).toEqual(["-7.04", "-7.7", "-10"]);
});

test("what comes further out below than a machine has room is not made; nor a head wider than its sheet bears", () => {
  const low = { ...METALWORK, machines: METALWORK.machines.map((m) => ({ ...m, underMm: 4 })) };
  const why = (cut: Cut, rules = METALWORK, more: Partial<Drilled> = {}): string[] =>
    onMachine(faceWith([cut], more), "Tallow 3", rules).lacks.map((l) => `${l.kind}: ${l.why}`);
  expect(why({ kind: "thread", x: 100, y: 100, d: 5, thread: "M6" }, low)).toEqual([
    "no room below: T13 comes 5.5 mm out below the sheet; Tallow 3 has 4 mm there",
  ]);
  expect(why(round(100, 100, 4.2), low)).toEqual([]);
  const sunk = (thicknessMm: number): string[] =>
    why({ kind: "countersunk", x: 100, y: 100, d: 6.6, head: 12.6 }, METALWORK, { thicknessMm });
  // 12.6 of 6.6 wants 3 mm of sheet.
  expect(sunk(3)).toEqual([]);
  expect(sunk(1.5)).toEqual([
    "sunk too deep: countersunk to 12.6 mm it would open the lower side: 1.5 mm of sheet take Ø 9.6 at most",
  ]);
  expect(why(round(2, 100, 5))).toEqual(["beyond the sheet: it reaches 0.5 mm beyond the sheet"]);
});

test("what a control wants is its own row: points, offsets, coolant, taps, strokes", () => {
  const rules = controlled(
    "Wickett",
    {
      pointAlways: true,
      workOffset: "G55",
      lengthOffset: "G43 H{n}",
      coolantOn: "M8",
      coolantOff: "M9",
      tapBottom: "G4 P0.2|M4",
      tapTop: "M5|M3",
      stroke: "M70",
    },
    [{ id: "T40", kind: "punch", d: 30 }],
  );
  const face = faceWith([{ kind: "thread", x: 200, y: 200, d: 4.2, thread: "M5" }, round(500, 200, 30)]);
  const lines = linesOf(face, "Wickett", rules);
  const after = lines.slice(lines.indexOf("G90") + 1);
  // Upper right corner on the zero: 1000 - 500, 800 - 200. A punch strikes over its place, and goes nowhere.
  expect(after.slice(0, 8)).toEqual(["G55", "G0 Z80.", "M9", "M5", "T40 M6", "G43 H40", "G0 X500. Y600.", "G0 Z5."]);
  expect(after[8]).toBe("M70");
  expect(after.join(" ")).toContain(
    "T12 M6 G43 H12 S500 M3 M8 G0 X800. Y600. G0 Z5. G1 Z-7.2 F400. G4 P0.2 M4 G1 Z5. F400. M5 M3",
  );
  expect(after.slice(-4, -1)).toEqual(["M9", "M5", "M2"]);
  const cycles = bare(linesOf(face, "Tallow 3", controlled("Tallow 3", { tapCycle: "P0.3" })));
  expect(cycles.find((l) => l.startsWith("G84"))).toMatch(/F400 P0\.3$/);
  expect(cycles.find((l) => l.startsWith("G81"))).not.toMatch(/P0/);
});

test("a text is a text: patterns of replacement, brackets, ends of lines never become words", () => {
  for (const name of ["$'M3S9000", "$&$`", "a)M30(b", "a\r\nM30", "Größe Ø"]) {
    const face = faceWith([round(100, 100, 4.2)], { face: `${name}/plate`, enclosure: name });
    for (const machine of ["Tallow 3", "Wickett"]) {
      const lines = linesOf(face, machine);
      const words = lines.filter((l) => !l.startsWith("(")).join("\n");
      expect(words).not.toMatch(/M30(?!\n%)|S9000|\$|a\)/);
      expect(words).toBe(
        linesOf(faceWith([round(100, 100, 4.2)]), machine)
          .filter((l) => !l.startsWith("("))
          .join("\n"),
      );
    }
  }
});

test("what falls out is held by tabs, whatever its form", () => {
  const tabs = (cut: Cut): number => pathOf(cut).filter((m) => "over" in m && m.over).length;
  const rect = (w: number, h: number): Cut => ({ kind: "rect", x: 100, y: 100, w, h, r: 0 });
  expect([tabs(rect(300, 100)), tabs(rect(200, 20)), tabs(rect(119, 119))]).toEqual([4, 2, 0]);
  // A slot that is as wide as two mills leaves nothing that could fall.
  expect([
    tabs({ kind: "slot", x: 400, y: 400, w: 200, h: 60, angle: 30 }),
    tabs({ kind: "slot", x: 400, y: 400, w: 200, h: 20, angle: 0 }),
  ]).toEqual([2, 0]);
  expect(tabs({ kind: "round", x: 400, y: 400, d: 140, notch: { to: 150, w: 12, angle: 90 } })).toBe(4);
  const ring = Array.from({ length: 48 }, (_, i) => ({
    x: 400 + 150 * Math.cos((i * Math.PI) / 24),
    y: 400 + 150 * Math.sin((i * Math.PI) / 24),
  }));
  const path = pathOf({ kind: "polygon", points: ring });
  expect(path.filter((m) => "over" in m && m.over)).toHaveLength(4);
  // Tabs alone are missing from the whole way: each a tab and the mill, 3 + 6.
  const whole = pathOf({ kind: "polygon", points: ring }, { ...METALWORK, tabFromMm: 0 });
  const long = (p: readonly Move[], from: number): number =>
    p.reduce((sum, m, i) => {
      const before = p[(i + p.length - 1) % p.length]!;
      return i < from || ("over" in m && m.over) ? sum : sum + legMm(before, m);
    }, 0);
  expect(long(whole, 1) - long(path, 1)).toBeCloseTo(4 * 9, 0);
});

test("a mill goes in beside its contour where the control asks for a lead-in", () => {
  const bareOf = (cut: Cut): Move[] => pathOf(cut, controlled("Tallow 3", { leadInMm: 0 }));
  const cut: Cut = { kind: "rect", x: 100, y: 100, w: 100, h: 50, r: 4 };
  const path = pathOf(cut);
  // From 2 mm inside onto the middle of its lower side: y 103 of the mill's middle.
  expect([path[path.length - 1], path[0]]).toEqual([
    { x: 150, y: 105 },
    { x: 150, y: 103 },
  ]);
  expect(path).toHaveLength(bareOf(cut).length + 3);
  const circle = pathOf(round(400, 400, 80));
  expect(circle[circle.length - 1]).toMatchObject({ x: 433, y: 400 });
  // As wide as its mill: no room beside it.
  expect(pathOf({ kind: "slot", x: 400, y: 400, w: 60, h: 10, angle: 0 })).toEqual(
    bareOf({ kind: "slot", x: 400, y: 400, w: 60, h: 10, angle: 0 }),
  );
});

test("names of files are told apart, also where only their letters' size differs", () => {
  // Letters of other alphabets are spelt: no two of these fall on one name, in whatever order they come.
  expect(["+Ä1", "+Ö1", "+é1", "+Ж1", "+A/1", "+ß"].map(forFile)).toEqual([
    "+AE1",
    "+OE1",
    "+e1",
    "+u4161",
    "+A-1",
    "+ss",
  ]);
  expect(uniqueNames(["a", "A", "b", "a", "a~2"])).toEqual(["a", "A~2", "b", "a~3", "a~2~2"]);
  const two = ["+A/1", "+A-1"].map((enclosure): FaceWork =>
    onMachine(faceWith([round(100, 100, 4.2)], { enclosure, face: `${enclosure}/plate` })),
  );
  expect(new Set(two.map((w) => w.face)).size).toBe(2);
});
