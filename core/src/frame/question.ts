import type { Rules } from "../shop/rules";
import type { StageName } from "../stage-names";

/**
 * Something that a stage is asked beside its result: of several jobs together, of what somebody has chosen of it. Answered where there is
 * time for it, away from whoever asks; what is asked and what is answered can be written as JSON, bytes besides.
 */
export interface Question<Asked extends object, Result, Answer> {
  stage: StageName;
  /** Unique among those of its stage. */
  name: string;
  /** It takes as long as computing a stage may, where others take as long as reading does. */
  long?: boolean;
  /** @param results of the stage, in the order in which `asked` speaks of them; none where it is not asked of a result */
  answer(asked: Asked, results: readonly Result[], rules: Rules): Answer | Promise<Answer>;
}

/** A question as those see it who run all of them. */
export type AnyQuestion = Question<never, never, unknown>;
