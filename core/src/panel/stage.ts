import { count } from "../frame/figure";
import type { Stage } from "../frame/stage";
import { fitRules } from "./clashes";
import { compute } from "./compute";
import { face } from "./face";
import type { PanelResult } from "./result";

const bar = { tag: true, face: true, x: true, y: true, run: true, length: true, part: true } as const;

export const panel: Stage<PanelResult> = {
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
