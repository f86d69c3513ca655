import { OpenPoints } from "../../design/open-points";
import { toCsv } from "../../formats/csv";
import { timeOf } from "../../frame/figure";
import type { Question } from "../../frame/question";
import type { Stage, StageResult } from "../../frame/stage";
import { face } from "./face";

/**
 * A stage that nobody needs, with all that a stage can have: a rule, an edit, a kind of event, a question, an open point, a figure, a
 * file. It stands in no list; a test puts it there, and finds it wherever stages are seen, without another line.
 */

interface ToyResult extends StageResult {
  minutes: number;
  tests: { enclosure: string; minutes: number }[];
}

export const LONGEST: Question<{ panels: number }, ToyResult, number> = {
  stage: "handover",
  name: "longest",
  answer: ({ panels }, results) => panels * Math.max(...results.map((r) => r.minutes)),
};

export const toy: Stage<ToyResult> = {
  ...face,
  version: 1,
  needs: [],
  reads: { design: { enclosures: { tag: true, text: true } }, shop: { rules: { handover: true } } as never },
  compute({ design, shop }) {
    const { testMin } = (shop.rules as unknown as { handover: { testMin: number } }).handover;
    const open = new OpenPoints("handover");
    for (const { tag, text } of design.enclosures)
      if (text === undefined)
        open.add({
          severity: "check",
          kind: "nothing to test",
          text: `nobody has said what of ${tag} is tested`,
          remedy: "Say it.",
          thing: "enclosure",
          of: tag,
        });
    const tests = design.enclosures.map(({ tag }) => ({ enclosure: tag, minutes: testMin }));
    return { open: open.list(), minutes: testMin * tests.length, tests };
  },
  figures: ({ minutes }) => [{ id: "tests", label: "for tests", ...timeOf(minutes), query: {} }],
  compare: (before, after) =>
    before.minutes === after.minutes ? [] : [{ text: `tests take ${after.minutes - before.minutes} min longer` }],
  makeFiles: ({ result }) =>
    Promise.resolve([
      {
        name: "tests.csv",
        type: "text/csv",
        bytes: toCsv(
          ["enclosure", "min"],
          result.tests.map((t) => [t.enclosure, t.minutes]),
        ),
      },
    ]),
  questions: [LONGEST],
};
