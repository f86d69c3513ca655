import type { AnyEventKind } from "../frame/event-kind";
import type { Face } from "../frame/face";
import { LEAD } from "./event-kind";
import { parsePattern, writeLabel } from "../design/pattern";
import { endValues } from "./leads";
import type { WireprepResult } from "./result";
import { RULE_USE } from "./rule-use";

const WIREPREP_FILES = {
  "leads.csv": "every lead with both ends, batch by batch in the order it is made",
  "bench.csv": "what is made at the bench, with the reason",
  "lead-labels.csv": "labels that come from the printer",
  "reels.csv": "which reel for which wire, and what is left on it",
  "wireprep.xlsx": "leads, bench, labels, reels and batches, for people",
  "bench.pdf": "the cut list of the bench",
  "lead-labels.pdf": "labels on sheets",
  "lead-labels.txt": "labels as the printer takes them",
  "bundles.pdf": "a ticket for each bundle, with its code",
} as const;

const EACH_BATCH = [
  { like: /^machine-.*\.(csv|xml)$/, name: "machine-+A1.csv", text: "leads of an enclosure as the machine takes them" },
  { like: /^machine-.*\.xsd$/, name: "machine-….xsd", text: "the form of these files, as XML Schema" },
] as const;

/** What a pattern says of the first leads of a job; of one that cannot be read, nothing. */
const example =
  (end: "from" | "to") =>
  (text: string, { job, leads }: WireprepResult): string[] => {
    const parsed = parsePattern(text);
    if (!parsed.ok) return [];
    return leads
      .slice(0, MOST_EXAMPLES)
      .map((lead) => writeLabel(parsed.parts, endValues(lead, lead[end], lead[end === "from" ? "to" : "from"], job)));
  };

const MOST_EXAMPLES = 5;

export const face = {
  name: "wireprep",
  edits: [],
  events: [LEAD as AnyEventKind],
  ruleUse: RULE_USE,
  examples: { "wireprep.labelFrom": example("from"), "wireprep.labelTo": example("to") },
  files: WIREPREP_FILES,
  filesEach: EACH_BATCH,
} satisfies Face<WireprepResult>;
