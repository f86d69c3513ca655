import { count, lengthOf, lengthsOf, shareOf } from "../frame/figure";
import Joi from "joi";
import type { Figure, Stage } from "../frame/stage";
import type { PanelResult } from "../panel/result";
import { compare } from "./compare";
import { face } from "./face";
import { compute } from "./compute";
import { explain, type Subject } from "./explain";
import { isFallback, type RoutesResult } from "./result";

const name = Joi.string().max(200).required();

export const routes: Stage<RoutesResult, { panel: PanelResult }, Subject> = {
  ...face,
  version: 8,
  needs: ["panel"],
  reads: {
    design: {
      enclosures: {
        tag: true,
        w: true,
        h: true,
        d: true,
        plate: { w: true, h: true, setback: true },
        hinge: true,
        hingeAxis: true,
        opensDeg: true,
        neighbourRight: true,
      },
      faces: { enclosure: true, kind: true, w: true, h: true },
      ducts: { tag: true, classes: true },
      crossings: true,
      parts: {
        number: true,
        category: true,
        w: true,
        h: true,
        d: true,
        pins: { name: true, x: true, y: true, z: true, exit: true, tail: true, clamp: true },
        directLeads: true,
        duct: true,
        wire: { sizeMm2: true, outer: true, strand: true },
        cable: { sizeMm2: true },
      },
      devices: { tag: true, part: true, when: true },
      nets: { name: true, class: true, sizeMm2: true },
      // Not their colours: a wire painted over lies where it lay.
      wires: {
        number: true,
        net: true,
        from: true,
        to: true,
        sizeMm2: true,
        strand: true,
        type: true,
        core: true,
        when: true,
      },
      cables: { tag: true, type: true, cores: { core: true, sizeMm2: true, from: true, to: true }, when: true },
      options: { key: true, chosen: true },
      rules: { routes: true, classes: { "*": { sizeMm2: true } }, ends: true },
    },
    shop: { rules: { routes: true, classes: { "*": { sizeMm2: true } }, outer: true, ends: true } },
  },
  compute: ({ design, shop, results, progress }) =>
    compute(design, shop.rules, results.panel, (done, total) => progress?.(done / total)),
  explain: {
    schema: Joi.object<Subject>({
      of: Joi.string().valid("length", "colour", "size", "fill").required(),
      wire: Joi.when("of", { is: "fill", then: Joi.forbidden(), otherwise: name }),
      piece: Joi.when("of", { is: "fill", then: name, otherwise: Joi.forbidden() }),
    }),
    working: ({ design, shop, result }, subject) => explain(result, subject, { design, shop: shop.rules }),
  },
  figures,
  compare,
  // What writes files is large: it comes in only where files are written.
  makeFiles: async ({ design, shop, result }) => (await import("./files")).files(result, design, shop.rules),
};

function figures({ wires, edges, totalMm }: RoutesResult): Figure[] {
  const number = (fits: (w: RoutesResult["wires"][number]) => boolean): number => wires.filter(fits).length;
  const figures: Figure[] = [
    {
      id: "wires",
      label: "wires with a length",
      ...count(number((w) => w.lengthMm !== null)),
      outOf: wires.length,
      short: `${wires.length} wires`,
      query: {},
    },
    { id: "total", label: "wire to cut", ...lengthsOf(totalMm), query: {} },
  ];
  let longest: { of: string; mm: number } | null = null;
  for (const { id, lengthMm } of wires)
    if (lengthMm !== null && lengthMm > (longest?.mm ?? 0)) longest = { of: id, mm: lengthMm };
  if (longest)
    figures.push({
      id: "longest",
      label: `longest: wire ${longest.of}`,
      ...lengthOf(longest.mm),
      query: { wire: longest.of },
    });
  let fullest: { of: string; percent: number } | null = null;
  for (const e of edges)
    if (e.kind === "piece" && e.fillPercent > (fullest?.percent ?? 0)) fullest = { of: e.id, percent: e.fillPercent };
  if (fullest)
    figures.push({
      id: "fill",
      label: `fullest duct: ${fullest.of}`,
      ...shareOf(fullest.percent),
      query: { piece: fullest.of },
    });
  figures.push({
    id: "fallbacks",
    label: "wires with a fallback",
    ...count(number((w) => w.marks.some(isFallback))),
    query: { show: "fallback" },
  });
  return figures;
}
