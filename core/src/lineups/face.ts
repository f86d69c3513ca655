import type { Face } from "../frame/face";
import { LINEUP_EDITS } from "./edits";

const LINEUP_FILES = {
  "terminals.csv": "every terminal with what lies inside and outside",
  "jumpers.csv": "every jumper with its comb and its net",
  "markers.csv": "what markers show, in order of hanging on",
  "cores.csv": "every core with the clamp it lands on",
  "lineups.xlsx": "terminals, jumpers, markers and cores, for people",
  "strips.pdf": "every strip on sheets, for the bench",
  "strips.svg": "the same as one drawing",
  "strips.dxf": "the same for drawing programs",
  "markers.pdf": "markers at 1:1, in order of hanging on",
} as const;

export const face = {
  name: "lineups",
  edits: LINEUP_EDITS,
  files: LINEUP_FILES,
} satisfies Face;
