import { Edits } from "./frame/edits";
import { STAGES } from "./stages";

/** Every kind of edit there is, each written in the folder of its stage. */
export const EDITS = new Edits(STAGES.flatMap((s) => s.edits));
