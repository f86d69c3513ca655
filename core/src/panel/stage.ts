import Joi from "joi";
import { SHOWN, WORDS } from "../design/signs";
import { count } from "../frame/figure";
import type { Stage } from "../frame/stage";
import { fitRules } from "./clashes";
import { compute } from "./compute";
import { face } from "./face";
import type { WantedLayout } from "./files";
import { FIGURE_UNITS, PAPERS } from "./layout-sheets";
import type { PanelResult } from "./result";

const bar = { tag: true, face: true, x: true, y: true, run: true, length: true, part: true } as const;

const words = Joi.string().allow("").max(80).pattern(SHOWN, WORDS);
const layoutOf = Joi.object<WantedLayout, true>({
  face: Joi.string().min(1).max(300).required().description("id of the face, such as +A1/plate"),
  as: Joi.string().valid("pdf", "svg", "dxf").default("pdf"),
  paper: Joi.string()
    .valid(...Object.keys(PAPERS))
    .default("A3"),
  units: Joi.string()
    .valid(...FIGURE_UNITS)
    .default("mm"),
  scale: Joi.string()
    .valid("ruler", "fit")
    .default("ruler")
    .description("to a scale that stands on rulers, or as large as it goes"),
  who: words.default("").description("who drew it, for the title"),
  date: words.default("").description("when, for the title"),
});

export const panel: Stage<PanelResult, object, never, WantedLayout> = {
  ...face,
  version: 6,
  needs: [],
  reads: {
    design: {
      enclosures: {
        tag: true,
        w: true,
        h: true,
        d: true,
        plate: { w: true, h: true, setback: true, thickness: true },
        neighbourRight: true,
        zone: true,
        hinge: true,
        hingeAxis: true,
        opensDeg: true,
      },
      faces: { enclosure: true, kind: true, w: true, h: true },
      rails: bar,
      ducts: bar,
      parts: {
        number: true,
        text: true,
        category: true,
        w: true,
        h: true,
        d: true,
        mounts: true,
        back: true,
        clearances: true,
        slots: { name: true, x: true, y: true, z: true },
        terminal: { openSide: true, endPlate: true },
        accessory: true,
      },
      devices: {
        tag: true,
        part: true,
        on: true,
        turn: true,
        texts: true,
        sheet: true,
        item: true,
        when: true,
      },
      // Members of strips that are laid stand where the strip says, with separators between classes and voltages.
      nets: { name: true, class: true, voltage: true },
      wires: { number: true, net: true, from: true, to: true, when: true },
      cables: { tag: true, cores: { from: true, to: true, net: true }, when: true },
      strips: { tag: true, rail: true, members: true, at: true, pieces: true },
      options: { key: true, chosen: true },
    },
    shop: {
      rules: {
        lineups: { endStopEvery: true, separateVolts: true, separate: true },
        routes: { doorOpenDeg: true },
        metalwork: { frameMm: true },
      },
    },
  },
  compute: ({ design, shop }) => compute(design, shop.rules.lineups, fitRules(shop.rules)),
  drawing: {
    of: "face",
    schema: layoutOf,
    draw: async ({ design, result }, wanted) => (await import("./files")).drawn(design, result, wanted),
  },
  makeFiles: async ({ design, result }) => (await import("./files")).files(design, result),
  figures: ({ devices, loose }) => [
    {
      id: "devices",
      label: "devices placed",
      ...count(devices.length),
      outOf: devices.length + loose.length,
      short: `${devices.length + loose.length} devices`,
      query: {},
    },
  ],
};
