import fc from "fast-check";
import type { Design } from "../design/model";
import { SHOP_RULES } from "../shop/rules";
import { compute as panel } from "../panel/compute";
import { randomDesigns } from "../test/random-design";
import { ALL_DRAWN, runs } from "../test/runs";
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
        expect(tape.get(w.id)!.map((mm) => `${w.id} ${mm}`)).toContain(`${w.id} ${w.lengthMm}`);
        count(w.lengthMm === null ? "no length" : "length");
        for (const m of w.marks) count(m);
        if (w.way?.start || w.way?.end) count("aside at a pin");
        const kinds = w.way?.edges.map((e) => result.edges[e]!);
        if (kinds?.some((e) => e.kind === "crossing")) count("crossing");
        if (kinds?.some((e) => e.kind === "joint")) count("joint");
        if (w.terms && w.terms.loops > 0) count("loop");
        if (kinds?.some((e) => e.kind === "crossing" && e.swing && e.swing.needMm > e.swing.guidedMm)) count("swing");
        if (w.terms && w.terms.wideFrom + w.terms.wideTo > 0) count("wide");
        if ((w.sizeMm2?.value ?? 0) >= 6 && result.ducts.length > 1) count("thick");
        if (w.marks.includes("direct") && w.open!.points.some((p) => p.z > Math.max(w.from!.z, w.to!.z))) count("over");
      }
    }),
    { numRuns: runs(1000), seed: 2611 },
  );
  // What was not met was not tested.
  for (const what of [
    "crossing",
    "joint",
    "loop",
    "swing",
    "wide",
    "thick",
    "over",
    "aside at a pin",
    "round-body",
    "round-others",
    "hinge-guessed",
    "stump-passed",
    "exit-met-nothing",
    "no-pin-geometry",
    "place-unsure",
    "no-duct-size",
    "direct",
    "no length",
  ])
    if (ALL_DRAWN) expect([what, (met[what] ?? 0) >= 15]).toEqual([what, true]);
});
