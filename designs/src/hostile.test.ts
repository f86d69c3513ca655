import { readDesign } from "@gray-bench/core/design/read";
import { MOST_OF_A_KIND, type OpenPoint } from "@gray-bench/core/design/open-points";
import { runStages } from "@gray-bench/core/run";
import { HOSTILE } from "./hostile";

/** Nothing that is said of one thing repeats what a whole list of the design says. */
const MOST_TEXT = 8000;

const compute = (name: string, n?: number): { open: OpenPoint[] } => {
  const found = HOSTILE.find((h) => h.name === name)!;
  const read = readDesign(JSON.stringify(found.make(n ?? found.short)));
  if (!read.ok) throw new Error(JSON.stringify(read.faults[0]));
  return runStages(read.design);
};
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
    const { open } = compute("ducts on one spot", 1500);
    expect(kinds(open)).toContain("too many ducts on one spot");
    expect(kinds(open)).toContain("too many ducts side by side");
    expect(open.find((p) => p.kind === "too many ducts on one spot")).toMatchObject({
      severity: "stop",
      of: "+A1/plate",
    });
  });

  test("crowds of devices are cut, and it is said where", () => {
    const { open } = compute("devices on one spot", 1500);
    expect(open.find((p) => p.kind === "too many bodies on one spot")!.text).toContain("1500 devices of +A1/plate");
    expect(open.find((p) => p.stands && p.kind === "bodies overlap")!.stands).toBeGreaterThan(MOST_OF_A_KIND);
  });

  test("a grid of ducts as large as a panel may have is joined wherever it touches", () => {
    expect(kinds(compute("ducts that all cross", 300).open)).not.toContain("too many ducts on one spot");
    expect(kinds(compute("ducts that all cross", 800).open)).toContain("too many ducts on one spot");
  });
});
