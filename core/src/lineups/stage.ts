import { count } from "../frame/figure";
import Joi from "joi";
import type { Stage } from "../frame/stage";
import { compare } from "./compare";
import { face } from "./face";
import { compute } from "./compute";
import { LARGEST_SCALE, type LineupsResult, type WantedDrawing } from "./result";

/** How a strip is drawn on demand: as the drawing says, in one of three formats. */
const drawingOf = Joi.object<WantedDrawing, true>({
  strip: Joi.string().min(1).max(120).required().description("tag of the strip"),
  as: Joi.string().valid("pdf", "svg", "dxf").default("pdf"),
  stand: Joi.string().valid("lying", "upright").default("lying"),
  swap: Joi.boolean().default(false).description("inside and outside change places"),
  scale: Joi.number().min(0.1).max(LARGEST_SCALE).allow(null).default(null).description("paper to strip"),
  turn: Joi.number().valid(0, 90, 180, 270).default(0).description("quarter turns of the whole sheet"),
  joined: Joi.boolean().default(false).description("on one sheet, as long as it takes"),
});

export const lineups: Stage<LineupsResult, object, never, WantedDrawing> = {
  ...face,
  version: 5,
  needs: [],
  reads: {
    design: {
      enclosures: { tag: true },
      rails: { tag: true, face: true, length: true },
      parts: {
        number: true,
        w: true,
        h: true,
        d: true,
        pins: { name: true, channel: true, conductors: true, sizeMax: true },
        terminal: true,
        accessory: true,
        jumper: true,
        wire: { sizeMm2: true, colour: true },
        cable: { cores: true, sizeMm2: true, outer: true },
      },
      devices: { tag: true, part: true, on: true, enclosure: true, turn: true, fuseA: true, when: true },
      nets: { name: true, class: true, voltage: true, currentA: true, colour: true, sizeMm2: true },
      wires: {
        number: true,
        net: true,
        from: true,
        to: true,
        colour: true,
        sizeMm2: true,
        type: true,
        core: true,
        when: true,
      },
      cables: {
        tag: true,
        type: true,
        outer: true,
        from: true,
        to: true,
        cores: { core: true, colour: true, sizeMm2: true, from: true, to: true, far: true, net: true },
        when: true,
      },
      strips: true,
      options: { key: true, chosen: true },
      rules: { classes: true },
    },
    shop: { rules: { classes: true, lineups: true } },
  },
  compute: ({ design, shop }) => compute(design, shop.rules),
  figures: ({ strips }) => [
    {
      id: "members",
      label: "members on strips",
      ...count(strips.reduce((sum, s) => sum + s.items.filter((i) => i.kind === "member").length, 0)),
      query: {},
    },
    {
      id: "jumpers",
      label: "jumpers, and those proposed",
      ...count(strips.reduce((sum, s) => sum + s.jumpers.length, 0)),
      outOf: strips.reduce((sum, s) => sum + s.jumpers.length + s.proposed.length, 0),
      query: {},
    },
  ],
  compare,
  drawing: {
    of: "strip",
    schema: drawingOf,
    draw: async ({ design, result }, wanted) => (await import("./files")).drawn(design, result, wanted),
  },
  makeFiles: async ({ design, result }) => (await import("./files")).files(design, result),
};
