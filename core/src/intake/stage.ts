import type { Stage } from "../frame/stage";
import { compute } from "./compute";
import { face } from "./face";
import type { IntakeResult } from "./result";

export const intake: Stage<IntakeResult> = {
  ...face,
  version: 6,
  needs: [],
  reads: {
    design: {
      enclosures: { tag: true, neighbourRight: true },
      faces: { enclosure: true, kind: true },
      rails: { tag: true, part: true },
      ducts: { tag: true, part: true },
      crossings: { tag: true },
      parts: {
        number: true,
        text: true,
        category: true,
        w: true,
        h: true,
        d: true,
        pins: { name: true, x: true, y: true, z: true, sizeMin: true, sizeMax: true, conductors: true },
        lossW: true,
        stock: true,
        wire: { sizeMm2: true, colour: true },
        cable: { sizeMm2: true, outer: true },
        gland: { cableMin: true, cableMax: true },
      },
      devices: { tag: true, part: true, on: { face: true, rail: true, slot: true, name: true }, when: true },
      nets: { name: true, class: true, colour: true, sizeMm2: true },
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
        gland: true,
        glandTo: true,
        cores: { core: true, sizeMm2: true, from: true, to: true },
        when: true,
      },
      strips: { tag: true, rail: true, members: true, jumpers: { members: true } },
      options: true,
      attachments: { name: true, for: true },
      rules: { classes: true },
    },
    shop: { rules: { classes: true } },
  },
  compute: ({ design, shop }) => compute(design, shop.rules),
  figures: () => [],
};
