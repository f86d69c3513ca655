import fc from "fast-check";
import type { Design } from "../design/model";
import { SHOP_RULES } from "../design/rules";
import { compute as panel } from "../panel/compute";
import { randomDesigns } from "../test/random-design";
import { runs } from "../test/runs";
import { tapeLengths } from "../test/tape";
import { compute } from "./compute";
import type { RoutesResult } from "./result";

const route = (design: Design): RoutesResult => compute(design, SHOP_RULES, panel(design));

test("lengths agree with those worked out a second time in exact fractions", () => {
  const met: Record<string, number> = {};
  const count = (what: string): void => void (met[what] = (met[what] ?? 0) + 1);
  fc.assert(
    fc.property(randomDesigns, (design) => {
      const tape = tapeLengths(design);
      const result = route(design);
      for (const w of result.wires) {
        expect(`${w.id} ${w.lengthMm}`).toBe(`${w.id} ${tape.get(w.id)}`);
        count(w.lengthMm === null ? "no length" : "length");
        for (const m of w.marks) count(m);
        if (w.way?.start || w.way?.end) count("aside at a pin");
        const kinds = w.way?.edges.map((e) => result.edges[e]!);
        if (kinds?.some((e) => e.kind === "crossing")) count("crossing");
        if (kinds?.some((e) => e.kind === "joint")) count("joint");
        if (w.terms && w.terms.loops > 0) count("loop");
      }
    }),
    { numRuns: runs(1500), seed: 2611 },
  );
  // What was not met was not tested.
  for (const what of [
    "crossing",
    "joint",
    "loop",
    "aside at a pin",
    "round-body",
    "stump-passed",
    "exit-met-nothing",
    "no-pin-geometry",
    "place-unsure",
    "no-duct-size",
    "direct",
    "no length",
  ])
    expect([what, (met[what] ?? 0) >= runs(20)]).toEqual([what, true]);
});
