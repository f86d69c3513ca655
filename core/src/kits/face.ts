import type { AnyEventKind } from "../frame/event-kind";
import type { Face } from "../frame/face";
import { PICK } from "./event-kind";

const KITS_FILES = {
  "bom.csv": "the bill of material, by enclosure and build step",
  "picks.csv": "every kit line by line, in the order of its walk",
  "shortages.csv": "what the store lacks, as far as it says its levels",
  "purchase.csv": "what is to be bought, in whole packs",
  "kits.xlsx": "bill, kits and picks, for people",
  "shortages.xlsx": "shortages and purchases, for people",
  "kits.pdf": "a pick list for each kit, with its code",
  "bin-labels.pdf": "labels for kits and for places of the store, with codes",
} as const;

export const face = {
  name: "kits",
  edits: [],
  events: [PICK as AnyEventKind],
  files: KITS_FILES,
} satisfies Face;
