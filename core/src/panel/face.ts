import type { Face } from "../frame/face";
import { PANEL_EDITS } from "./edits";

export const face = {
  name: "panel",
  edits: PANEL_EDITS,
  files: {},
} satisfies Face;
