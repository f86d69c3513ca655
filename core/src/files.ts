import { FACES } from "./faces";
import type { StageName } from "./stage-names";

/** Every output file of a job with what it is, in words, and the stage it belongs to. */
export const FILES: readonly { name: string; text: string; stage: StageName | null }[] = [
  ...FACES.flatMap((s) => Object.entries(s.files).map(([name, text]) => ({ name, text, stage: s.name }))),
  { name: "open-points.csv", text: "what is open, with remedies", stage: null },
];

/** Whether a name is that of an output file some job may have. */
export const isFile = (name: string): boolean =>
  FILES.some((f) => f.name === name) || FACES.some((s) => s.filesEach?.some((f) => f.like.test(name)));
