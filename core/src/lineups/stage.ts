import { LINEUP_RULES } from "../design/rules";
import type { Stage } from "../design/stage";
import { compute } from "./compute";
import { LINEUP_EDITS } from "./edits";
import type { LineupsResult } from "./result";

const LINEUP_FILES = {
  "terminals.csv": "every terminal with what lies inside and outside",
  "jumpers.csv": "every jumper with its comb and its net",
  "markers.csv": "what markers show, in order of hanging on",
  "cores.csv": "every core with the clamp it lands on",
  "lineups.xlsx": "terminals, jumpers, markers and cores, for people",
  "strips.pdf": "every strip on sheets, for the bench",
  "strips.svg": "the same as one drawing",
  "strips.dxf": "the same for drawing programs",
  "markers.pdf": "markers at 1:1, in order of hanging on",
} as const;

export const lineups: Stage<LineupsResult> = {
  name: "lineups",
  version: 2,
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
      value: strips.reduce((sum, s) => sum + s.items.filter((i) => i.kind === "member").length, 0),
      unit: "",
      query: {},
    },
    {
      id: "jumpers",
      label: "jumpers, and those proposed",
      value: strips.reduce((sum, s) => sum + s.jumpers.length, 0),
      outOf: strips.reduce((sum, s) => sum + s.jumpers.length + s.proposed.length, 0),
      unit: "",
      query: {},
    },
  ],
  files: LINEUP_FILES,
  makeFiles: async ({ design, result }) => (await import("./files")).files(design, result),
  rules: { lineups: LINEUP_RULES },
  edits: LINEUP_EDITS,
};
