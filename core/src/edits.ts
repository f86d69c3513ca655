import { Edits } from "./frame/edits";
import { FACES } from "./faces";

/** Every kind of edit there is, each written in the folder of its stage. */
export const EDITS = new Edits(FACES.flatMap((s) => s.edits));
