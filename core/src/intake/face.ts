import type { Face } from "../frame/face";
import { INTAKE_EDITS } from "./edits";

export const face = {
  name: "intake",
  edits: INTAKE_EDITS,
  files: {},
} satisfies Face;
