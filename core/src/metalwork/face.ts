import type { AnyEventKind } from "../frame/event-kind";
import type { Face } from "../frame/face";
import { SHEET } from "./event-kind";
import { METALWORK_EDITS } from "./edits";

const METALWORK_FILES = {
  "holes.csv": "every hole with its tool, its order and where it comes from",
  "cuts.csv": "rails, ducts and covers as cut from bars",
  "cuts.pdf": "the same as bars to scale, for the saw",
  "cut-labels.pdf": "a label for each piece",
} as const;

/** What each face with holes has, by the end of the name. */
const EACH_FACE = [
  {
    name: "holes-ENCLOSURE-FACE.dxf",
    like: /^holes-.+\.dxf$/,
    text: "a face for the machine, a layer for each operation",
  },
  { name: "holes-ENCLOSURE-FACE.nc", like: /^holes-.+\.nc$/, text: "its program, one for each set-up" },
  { name: "holes-ENCLOSURE-FACE.svg", like: /^holes-.+\.svg$/, text: "its drawing" },
  {
    name: "holes-ENCLOSURE-FACE.pdf",
    like: /^holes-.+\.pdf$/,
    text: "its drawing with the hole table; with -full at 1:1",
  },
] as const;

export const face = {
  name: "metalwork",
  edits: METALWORK_EDITS,
  events: [SHEET as AnyEventKind],
  files: METALWORK_FILES,
  filesEach: EACH_FACE,
} satisfies Face;
