import { Trials } from "@gray-bench/core/heat/trials";
import type { Answered, Question } from "./trials";

/** Works out trials beside the page. A question with a base replaces what is known; answers carry its number. */
let trials: Trials | null = null;

export function answer(question: Question): Answered | null {
  if (question.kind === "base") {
    trials = new Trials(question.base);
    return null;
  }
  const { id } = question;
  try {
    if (!trials) throw new Error("nothing is known yet");
    return question.kind === "zone"
      ? { id, tried: trials.run(question.zone, question.trial) }
      : { id, field: trials.field(question.enclosure, question.trial, new Map(question.counted)) };
  } catch (error) {
    return { id, failed: error instanceof Error ? error.message : String(error) };
  }
}

/** In a worker its global is no window. */
if (typeof window === "undefined" && typeof self !== "undefined")
  self.onmessage = ({ data }: MessageEvent<Question>) => {
    const given = answer(data);
    if (given) self.postMessage(given);
  };
