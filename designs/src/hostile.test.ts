import { readDesign } from "@gray-bench/core/design/read";
import { MOST_OF_A_KIND, type OpenPoint } from "@gray-bench/core/design/open-points";
import { DEFAULT_SHOP } from "@gray-bench/core/shop/shop";
import { runStage, runStages } from "@gray-bench/core/run";
import { STAGES } from "@gray-bench/core/stages";
import type { Design } from "@gray-bench/core/design/model";
import type { RoutesResult } from "@gray-bench/core/routes/result";
import { HOSTILE, threeLines } from "./hostile";

/** Nothing that is said of one thing repeats what a whole list of the design says. */
const MOST_TEXT = 8000;

const computed = (design: Design): { open: OpenPoint[]; routes: RoutesResult } => {
  const read = readDesign(JSON.stringify(design));
  if (!read.ok) throw new Error(JSON.stringify(read.faults[0]));
  const { open, stages } = runStages(read.design);
  return { open, routes: stages.routes as unknown as RoutesResult };
};
const stagesOf = (name: string, n?: number) => {
  const found = HOSTILE.find((h) => h.name === name)!;
  return computed(found.make(n ?? found.short));
};
/** Stages that know of ducts, and no others. */
const routed = (name: string, n: number): OpenPoint[] => {
  const design = HOSTILE.find((h) => h.name === name)!.make(n);
  const results: Parameters<typeof runStage>[3] = {};
  for (const stage of STAGES.filter((s) => ["intake", "panel", "routes"].includes(s.name)))
    results[stage.name] = runStage(stage, design, DEFAULT_SHOP, results);
  return Object.values(results).flatMap((r) => r.open);
};
const compute = (name: string, n?: number): { open: OpenPoint[] } => stagesOf(name, n);
const kinds = (open: readonly OpenPoint[]): Set<string> => new Set(open.map((p) => p.kind));

describe("designs that nobody draws", () => {
  test.each(HOSTILE.map((h) => h.name))("%s", (name) => {
    const { open } = compute(name);
    for (const p of open) expect(JSON.stringify(p).length).toBeLessThan(MOST_TEXT);
  });

  test("names of long lists are not repeated in every open point", () => {
    for (const name of ["pins that a part with many does not have", "slots that a part with many does not have"]) {
      const { open } = compute(name, 1000);
      expect(open.length).toBeGreaterThan(900);
      for (const p of open) expect(JSON.stringify(p).length).toBeLessThan(MOST_TEXT);
    }
  });

  test("crowds of ducts are cut, and it is said where", () => {
    const { open } = compute("ducts on one spot", 300);
    expect(kinds(open)).toContain("too many ducts on one spot");
    expect(kinds(open)).toContain("too many ducts side by side");
    expect(open.find((p) => p.kind === "too many ducts on one spot")).toMatchObject({
      severity: "stop",
      of: "+A1/plate",
    });
  });

  test("a pin that stands before a crowd of ducts says that not all were tried", () => {
    const { routes } = stagesOf("ducts on one spot", 100);
    const led = routes.wires.filter((w) => w.lengthMm !== null);
    expect(led.length).toBeGreaterThan(1000);
    for (const w of led) expect(w.marks).toContain("crowded-ducts");
    const few = stagesOf("ducts on one spot", 4).routes;
    expect(few.wires.some((w) => w.marks.includes("crowded-ducts"))).toBe(false);
  });

  test("parts of the network that are not joined name their places until that takes too long", () => {
    const { routes } = computed(threeLines(1300));
    const said = routes.wires.map((w) => w.noWay!.replace(/^.*: /, ""));
    expect(said.slice(0, 2)).toEqual([expect.stringMatching(/stand \d+ mm apart$/), expect.stringMatching(/apart$/)]);
    expect(said[2]).toBe("they are not joined, nor are very many others");
    const short = computed(threeLines(30)).routes.wires.map((w) => w.noWay!);
    for (const text of short) expect(text).toMatch(/stand \d+ mm apart$/);
  });

  test("crowds of devices are cut, and it is said where", () => {
    const { open } = compute("devices on one spot", 1500);
    expect(open.find((p) => p.kind === "too many bodies on one spot")!.text).toContain("1500 things of +A1/plate");
    expect(open.find((p) => p.stands && p.kind === "bodies overlap")!.stands).toBeGreaterThan(MOST_OF_A_KIND);
  });

  test("a grid of ducts as large as a panel may have is joined wherever it touches", () => {
    expect(kinds(routed("ducts that all cross", 300))).not.toContain("too many ducts on one spot");
    expect(kinds(routed("ducts that all cross", 400))).toContain("too many ducts on one spot");
  });
});
