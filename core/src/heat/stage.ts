import { count, powerOf } from "../frame/figure";
import Joi from "joi";
import type { Figure, Stage } from "../frame/stage";
import type { PanelResult } from "../panel/result";
import type { RoutesResult } from "../routes/result";
import { compute } from "./compute";
import { face } from "./face";
import { explain } from "./explain";
import { FIGURES, type HeatResult, type HeatSubject } from "./result";
import { keeps } from "./verdict";

export const heat: Stage<HeatResult, { panel: PanelResult; routes: RoutesResult }, HeatSubject> = {
  ...face,
  version: 7,
  needs: ["panel", "routes"],
  reads: {
    design: {
      enclosures: {
        tag: true,
        w: true,
        h: true,
        d: true,
        plate: { setback: true },
        sheet: { material: true },
        surfaces: true,
        neighbourRight: true,
        zone: true,
        heat: true,
      },
      faces: { enclosure: true, kind: true, keepOuts: true, entries: true, holes: true },
      parts: {
        number: true,
        category: true,
        w: true,
        h: true,
        d: true,
        weightKg: true,
        mounts: { kind: true },
        pins: { name: true },
        lossW: true,
        maxAroundC: true,
        cooling: true,
        climate: true,
        currentA: true,
        derating: true,
        wire: { sizeMm2: true },
      },
      devices: {
        tag: true,
        part: true,
        enclosure: true,
        loadShare: true,
        diversity: true,
        deflector: true,
        when: true,
      },
      nets: { name: true, class: true, currentA: true, sizeMm2: true },
      wires: { number: true, net: true, from: true, to: true, sizeMm2: true, type: true, when: true },
      cables: { tag: true, cores: { from: true, to: true }, when: true },
      options: { key: true, chosen: true },
      rules: { classes: { "*": { sizeMm2: true } }, heat: true },
    },
    shop: { rules: { classes: { "*": { sizeMm2: true } }, heat: true } },
  },
  compute: ({ design, shop, results }) => compute(design, shop.rules, results.panel, results.routes),
  explain: {
    schema: Joi.object<HeatSubject>({
      zone: Joi.string().max(200).required(),
      of: Joi.string()
        .valid(...FIGURES)
        .required(),
    }),
    working: ({ result }, subject) => explain(result, subject),
  },
  figures: ({ zones }): Figure[] => [
    {
      id: "loss",
      label: "losses in all zones",
      ...powerOf(Math.round(zones.reduce((sum, z) => sum + z.lossW, 0))),
      query: {},
    },
    {
      id: "kept",
      label: "zones that stay within their limits",
      ...count(zones.filter(keeps).length),
      outOf: zones.length,
      query: {},
    },
  ],
  makeFiles: async ({ design, result }) => (await import("./files")).files(design, result),
};
