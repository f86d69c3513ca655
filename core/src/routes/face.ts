import type { Face } from "../frame/face";
import { ROUTES_EDITS } from "./edits";
import { RULE_USE } from "./rule-use";

const ROUTES_FILES = {
  "wires.csv": "every wire with its length, for machines",
  "wires.xlsx": "every wire with its length, for people",
  "ducts.csv": "ducts piece by piece with their fill",
} as const;

export const face = {
  name: "routes",
  edits: ROUTES_EDITS,
  ruleUse: RULE_USE,
  files: ROUTES_FILES,
} satisfies Face;
