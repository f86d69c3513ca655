import { count, distanceOf } from "../frame/figure";
import Joi from "joi";
import { coloursOf } from "../wiring/landings";
import type { Figure, Stage, Told } from "../frame/stage";
import { compute, type KitsNeeds } from "./compute";
import { face } from "./face";
import { NEEDS } from "./questions";
import { explain } from "./explain";
import type { KitsResult, KitsSubject } from "./result";
import { billChanges } from "./changes";

const name = Joi.string().max(400);

const subject = Joi.object<KitsSubject>({
  of: Joi.string().valid("quantity", "walk", "weight").required(),
  enclosure: Joi.when("of", { is: "quantity", then: name.allow("").required(), otherwise: Joi.forbidden() }),
  step: Joi.when("of", { is: "quantity", then: name.required(), otherwise: Joi.forbidden() }),
  line: Joi.when("of", { is: "quantity", then: name.required(), otherwise: Joi.forbidden() }),
  kit: Joi.when("of", {
    switch: [
      { is: "quantity", then: Joi.forbidden() },
      { is: "weight", then: name.required() },
    ],
    otherwise: name,
  }),
});

const metres = (v: number): number => Math.round(v * 10) / 10;

function figures({ bill, kits, together }: KitsResult): Figure[] {
  return [
    { id: "lines", label: "lines in the bill", ...count(bill.length), query: { show: "bill" } },
    { id: "kits", label: "kits", ...count(kits.length), query: {} },
    {
      id: "walk",
      label: "saved by one walk for all kits",
      ...distanceOf(metres(Math.max(0, kits.reduce((sum, k) => sum + k.walk.listMetres, 0) - together.metres))),
      query: { show: "walk" },
    },
  ];
}

function compare(before: KitsResult, after: KitsResult): Told[] {
  const changes = billChanges(before.bill, after.bill);
  const [more, less] = [changes.filter((c) => c.after > c.before), changes.filter((c) => c.after < c.before)];
  const told: Told[] = [];
  if (more.length > 0)
    told.push({
      text: `${more.length} ${more.length === 1 ? "line" : "lines"} of the bill ${more.length === 1 ? "needs" : "need"} more`,
    });
  if (less.length > 0)
    told.push({
      text: `${less.length} ${less.length === 1 ? "line" : "lines"} of the bill ${less.length === 1 ? "needs" : "need"} less`,
    });
  return told;
}

export const kits: Stage<KitsResult, KitsNeeds, KitsSubject> = {
  ...face,
  version: 4,
  needs: ["panel", "routes", "lineups", "metalwork"],
  reads: {
    design: {
      job: { code: true },
      enclosures: { tag: true, w: true, h: true, d: true, plate: { w: true, h: true } },
      rails: { tag: true, face: true },
      parts: {
        number: true,
        maker: true,
        text: true,
        category: true,
        w: true,
        h: true,
        d: true,
        weightKg: true,
        stock: true,
        wire: { sizeMm2: true, colour: true },
      },
      devices: { tag: true, part: true, enclosure: true, when: true },
      nets: { name: true, class: true, colour: true },
      wires: { number: true, net: true, colour: true, type: true, when: true },
      cables: { tag: true, type: true, from: true, to: true, when: true },
      strips: { tag: true, members: true },
      options: { key: true, chosen: true },
      rules: { classes: { "*": { colour: true } } },
    },
    shop: {
      rules: {
        kits: true,
        wireprep: { pieces: true },
        metalwork: { threads: true },
        classes: { "*": { colour: true } },
      },
    },
  },
  compute: ({ design, shop, results, progress }) =>
    compute(
      design,
      shop.rules.kits,
      {
        colours: coloursOf(design, shop.rules.classes),
        pieces: shop.rules.wireprep.pieces,
        threads: shop.rules.metalwork.threads,
      },
      results,
      progress,
    ),
  explain: { schema: subject, working: ({ result }, asked) => explain(result, asked) },
  figures,
  compare,
  makeFiles: async ({ design, shop, result, stock }) =>
    (await import("./files")).files(design, shop.rules.kits, result, stock ?? null),
  questions: [NEEDS],
};
