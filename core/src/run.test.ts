import fc from "fast-check";
import type { Design } from "./design/model";
import { runStages } from "./run";
import { randomDesigns } from "./test/random-design";
import { ALL_DRAWN, runs } from "./test/runs";

/** Orders that mean something: the first rule counts, points follow each other, members stand in a row. */
const ORDERED = new Set(["points", "held", "ends", "apart", "members", "texts", "choices"]);

/** The same value with every list in another order. */
function shuffled<T>(value: T, next: () => number, key = ""): T {
  if (Array.isArray(value)) {
    const list = value.map((v) => shuffled(v as unknown, next));
    if (ORDERED.has(key)) return list as T;
    for (let i = list.length - 1; i > 0; i--) {
      const j = Math.floor(next() * (i + 1));
      [list[i], list[j]] = [list[j], list[i]];
    }
    return list as T;
  }
  if (typeof value !== "object" || value === null) return value;
  return Object.fromEntries(Object.entries(value).map(([k, v]) => [k, shuffled(v as unknown, next, k)])) as T;
}

const seeded = (seed: number) => () => {
  seed = (Math.imul(seed, 1664525) + 1013904223) >>> 0;
  return seed / 2 ** 32;
};

/** Everything a design comes to, with the rows of every list in one order. */
function outcome(design: Design): unknown {
  const { stages, open } = runStages(design);
  const { wires, ducts, nodes, edges, totalMm } = stages.routes as unknown as Record<
    string,
    { id?: string; tag?: string }[]
  >;
  const byName = (list: { id?: string; tag?: string }[]) =>
    [...list].sort((a, b) => ((a.id ?? a.tag)! < (b.id ?? b.tag)! ? -1 : 1));
  return { wires: byName(wires!), ducts: byName(ducts!), nodes, edges, totalMm, open: byName(open) };
}

const CLASSES = ["drive", "signal", "control"] as const;

/** Wires many times over and in several classes, so that ducts fill up and classes meet. */
const crowded = fc.tuple(randomDesigns, fc.integer({ min: 10, max: 40 })).map(([design, copies]): Design => {
  const wires = design.wires.flatMap((w, i) =>
    Array.from({ length: copies }, (_, c) => ({ ...w, number: `${w.number}-${c}`, net: CLASSES[(i + c) % 3]! })),
  );
  const nets = CLASSES.map((c, i) => ({ name: c, class: c, colour: "BU" as const, sizeMm2: [16, 0.5, 2.5][i]! }));
  return { ...design, nets, wires, rules: {} };
});

test("what a part has is named in one order, however its pins and slots are listed", () => {
  const design = fc.sample(randomDesigns, { numRuns: 1, seed: 2613 })[0]!;
  const lost: Design = {
    ...design,
    devices: [
      { tag: "-A", part: "wide", on: { face: "+A1/plate", x: 0, y: 0 } },
      { tag: "-B", part: "module", on: { slot: "-A", name: "9" } },
    ],
    wires: [{ number: "1", net: "n", from: { device: "-A", pin: "nix" }, to: { device: "-A", pin: "up" } }],
  };
  const remedies = (d: Design) =>
    runStages(d)
      .open.map((p) => p.remedy)
      .filter((r) => r.startsWith("It has"))
      .sort();
  expect(remedies(lost)).toEqual(["It has: 1, 2.", "It has: any, blind, down, edge, left, off, out, right, rim, up."]);
  expect(remedies(shuffled(lost, seeded(7)))).toEqual(remedies(lost));
});

test("shuffling any list of a design changes nothing but the order of rows", () => {
  let detours = 0;
  let apart = 0;
  fc.assert(
    fc.property(crowded, fc.nat(1e6), (design, seed) => {
      const one = outcome(design);
      for (const w of (one as { wires: { marks: string[] }[] }).wires) {
        if (w.marks.includes("detour-fill")) detours++;
        if (w.marks.includes("detour-class") || w.marks.includes("shared-duct")) apart++;
      }
      expect(outcome(shuffled(design, seeded(seed)))).toEqual(one);
    }),
    { numRuns: runs(80), seed: 2612 },
  );
  // Otherwise the panels were too empty to show anything.
  if (ALL_DRAWN) expect([detours > 20, apart > 20]).toEqual([true, true]);
});
