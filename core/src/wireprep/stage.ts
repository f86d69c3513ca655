import { count, timeOf } from "../frame/figure";
import Joi from "joi";
import { coloursOf } from "../wiring/landings";
import { parsePattern, writeLabel } from "../design/pattern";
import type { Figure, Stage, Told } from "../frame/stage";
import { compute, type WireprepNeeds } from "./compute";
import { explain } from "./explain";
import { endValues } from "./leads";
import { RULE_USE } from "./rule-use";
import type { WireprepResult, WireprepSubject } from "./result";

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

const name = Joi.string().max(400);
const only = (of: string, then: Joi.Schema): Joi.Schema => Joi.when("of", { is: of, then, otherwise: Joi.forbidden() });

const subject = Joi.object<WireprepSubject>({
  of: Joi.string().valid("strip", "minutes", "reel", "saved").required(),
  wire: only("strip", name.required()),
  end: only("strip", Joi.string().valid("from", "to").required()),
  batch: only("minutes", name.allow("").required()),
  by: only("minutes", Joi.string().valid("machine", "bench", "hand").required()),
  nth: only("reel", Joi.number().integer().min(1).max(1e6).required()),
  than: only("saved", Joi.string().valid("bench", "hand").required()),
});

const tenth = (v: number): number => Math.round(v * 10) / 10;

function figures({ leads, notMade, batches, saved }: WireprepResult): Figure[] {
  const onMachine = batches.reduce((sum, b) => sum + b.chains.flat().length, 0);
  return [
    {
      id: "leads",
      label: "wires that are leads",
      ...count(leads.length),
      outOf: leads.length + notMade.length,
      query: { show: "leads" },
    },
    { id: "machine", label: "leads on machines", ...count(onMachine), outOf: leads.length, query: {} },
    {
      id: "saved",
      label: "saved against all by hand",
      ...timeOf(tenth(saved.hand - saved.machine)),
      query: {},
    },
  ];
}

function compare(before: WireprepResult, after: WireprepResult): Told[] {
  const told: Told[] = [];
  const byWire = new Map(before.leads.map((l) => [l.wire, l]));
  let changed = 0;
  let fresh = 0;
  for (const l of after.leads) {
    const was = byWire.get(l.wire);
    if (!was) fresh++;
    else if (was !== l && JSON.stringify(was) !== JSON.stringify(l)) changed++;
  }
  const gone = before.leads.length + fresh - after.leads.length;
  const say = (n: number, what: string): void => {
    if (n > 0) told.push({ text: `${n === 1 ? "1 lead" : `${n} leads`} ${what}` });
  };
  say(fresh, "more");
  say(gone, "fewer");
  say(changed, "made otherwise");
  return told;
}

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

export const wireprep: Stage<WireprepResult, WireprepNeeds, WireprepSubject> = {
  name: "wireprep",
  version: 3,
  needs: ["panel", "routes"],
  reads: {
    design: {
      job: { code: true },
      parts: {
        number: true,
        pins: { name: true, clamp: true, sizeMax: true, strip: true },
        stock: true,
        wire: true,
      },
      devices: { tag: true, part: true, when: true },
      nets: { name: true, class: true, colour: true },
      wires: {
        number: true,
        net: true,
        from: true,
        to: true,
        colour: true,
        type: true,
        core: true,
        when: true,
      },
      cables: { tag: true, cores: { core: true, from: true, to: true }, when: true },
      options: { key: true, chosen: true },
      rules: { classes: { "*": { colour: true } } },
    },
    shop: { rules: { wireprep: true, classes: { "*": { colour: true } } } },
  },
  compute: ({ design, shop, results, progress }) =>
    compute(design, shop.rules, coloursOf(design, shop.rules.classes), results, progress),
  explain: { schema: subject, working: ({ shop, result }, asked) => explain(result, asked, shop.rules.wireprep) },
  figures,
  compare,
  files: WIREPREP_FILES,
  filesEach: EACH_BATCH,
  makeFiles: async ({ design, shop, result }) => (await import("./files")).files(design, shop.rules.wireprep, result),
  ruleUse: RULE_USE,
  examples: { "wireprep.labelFrom": example("from"), "wireprep.labelTo": example("to") },
  edits: [],
};
