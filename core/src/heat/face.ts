import type { Face } from "../frame/face";
import { HEAT_EDITS } from "./edits";

const HEAT_FILES = {
  "heat.csv": "the balance of every zone, figure by figure",
  "heat-devices.csv": "every device with its loss and the air around it",
  "heat.xlsx": "both, for people",
  "heat.pdf": "the balance of every zone with its workings, a report",
} as const;

export const face = {
  name: "heat",
  edits: HEAT_EDITS,
  files: HEAT_FILES,
} satisfies Face;
