import { count, timeOf } from "../frame/figure";
import Joi from "joi";
import { coloursOf } from "../wiring/landings";
import type { Figure, Stage, Told } from "../frame/stage";
import { compute, type WireprepNeeds } from "./compute";
import { face } from "./face";
import { BATCH, DOCUMENT, LEADS_FILE } from "./questions";
import { explain } from "./explain";
import type { WireprepResult, WireprepSubject } from "./result";

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

export const wireprep: Stage<WireprepResult, WireprepNeeds, WireprepSubject> = {
  ...face,
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
  makeFiles: async ({ design, shop, result }) => (await import("./files")).files(design, shop.rules.wireprep, result),
  questions: [BATCH, LEADS_FILE, DOCUMENT],
};
