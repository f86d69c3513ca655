import { compute as standing } from "../panel/compute";
import { SHOP_RULES } from "../shop/rules";
import { BARE, dot, tiny, wire } from "../test/tiny";
import { compute } from "./compute";
import type { RoutesResult } from "./result";

/** Forty thick wires along one of two ducts of a loop, each from a place of its own. */
const design = tiny({
  ducts: [
    { x: 0, y: 100, length: 1000 },
    { x: 0, y: 300, length: 1000 },
    { x: 0, y: 100, run: "up", length: 240 },
    { x: 960, y: 100, run: "up", length: 240 },
  ],
  devices: Array.from({ length: 40 }, (_, i) => [dot(`-A${i}`, 60 + 5 * i, 90), dot(`-B${i}`, 700 + 5 * i, 90)]).flat(),
  wires: Array.from({ length: 40 }, (_, i) => wire(`-A${i}`, `-B${i}`, { sizeMm2: 16 })),
  rules: BARE,
});
const led = (most?: number): RoutesResult => compute(design, SHOP_RULES, standing(design), undefined, most);
const kinds = (r: RoutesResult): string[] => r.open.map((p) => p.kind);
const moved = (r: RoutesResult): number => r.wires.filter((w) => w.marks.includes("detour-fill")).length;

test("full ducts are relieved as long as it takes, and it is said when it takes too long", () => {
  const whole = led();
  expect(moved(whole)).toBeGreaterThan(0);
  expect(kinds(whole)).not.toContain("other ways not looked for");
  const cut = led(0);
  expect(moved(cut)).toBeLessThan(moved(whole));
  const said = cut.open.find((p) => p.kind === "other ways not looked for")!;
  expect(said.text).toMatch(
    /^\d+ pieces of duct are over-full, and not all other ways out of them were looked for: W1\.\d/,
  );
  // What is said to be over-full is.
  const over = cut.edges.flatMap((e) => (e.kind === "piece" && e.state === "over" ? [e.id] : []));
  expect(over).toContain(said.of);
});

test("progress goes up and stays below the whole until the end", () => {
  const shares: number[] = [];
  compute(design, SHOP_RULES, standing(design), (done, total) => shares.push(done / total));
  expect(shares.length).toBeGreaterThan(0);
  expect(shares).toEqual([...shares].sort((a, b) => a - b));
  expect(shares[shares.length - 1]).toBeLessThan(1);
});
