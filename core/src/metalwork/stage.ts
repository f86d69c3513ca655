import { count, timeOf } from "../frame/figure";
import Joi from "joi";
import { BAR_KINDS } from "./rules";
import type { Figure, Stage, Told } from "../frame/stage";
import type { PanelResult } from "../panel/result";
import { compute } from "./compute";
import { face } from "./face";
import { CUTS } from "./questions";
import { explain } from "./explain";
import type { MetalworkResult, MetalworkSubject, WantedFace } from "./result";

const fixing = { fixing: true, mitre: true } as const;
const name = Joi.string().min(1).max(300);

const subject = Joi.object({
  of: Joi.string().valid("x", "y", "minutes", "bars").required(),
  face: name.when("of", { is: "bars", then: Joi.forbidden(), otherwise: Joi.required() }),
  hole: Joi.number()
    .integer()
    .min(1)
    .when("of", { is: Joi.valid("x", "y"), then: Joi.required(), otherwise: Joi.forbidden() }),
  kind: Joi.string()
    .valid(...BAR_KINDS)
    .when("of", { is: "bars", then: Joi.required(), otherwise: Joi.forbidden() }),
  part: name.when("of", { is: "bars", then: Joi.required(), otherwise: Joi.forbidden() }),
});

const drawingOf = Joi.object<WantedFace, true>({
  face: name.required().description("id of the face, such as +A1/door"),
  as: Joi.string().valid("pdf", "svg", "dxf", "nc").default("pdf"),
  full: Joi.boolean().default(false).description("at 1:1 on several sheets of A4"),
  setUp: Joi.number().integer().min(1).max(1000).default(1).description("of a program"),
});

const minutesOf = ({ faces }: MetalworkResult): number =>
  faces.reduce((sum, f) => sum + f.setUps.reduce((s, u) => s + u.minutes, 0), 0);
const holesIn = ({ faces }: MetalworkResult): number => faces.reduce((sum, f) => sum + f.holes.length, 0);
const freshIn = ({ bars }: MetalworkResult): number => bars.reduce((sum, b) => sum + b.list.fresh, 0);

function compare(before: MetalworkResult, after: MetalworkResult): Told[] {
  const told: Told[] = [];
  const say = (n: number, what: string): void => {
    if (n !== 0) told.push({ text: `${Math.abs(n)} ${what} ${n > 0 ? "more" : "fewer"}` });
  };
  say(holesIn(after) - holesIn(before), "holes");
  say(freshIn(after) - freshIn(before), "new bars");
  const minutes = Math.round((minutesOf(after) - minutesOf(before)) * 10) / 10;
  if (minutes !== 0) told.push({ text: `machines take ${Math.abs(minutes)} min ${minutes > 0 ? "longer" : "less"}` });
  return told;
}

export const metalwork: Stage<MetalworkResult, { panel: PanelResult }, MetalworkSubject, WantedFace> = {
  ...face,
  version: 5,
  needs: ["panel"],
  reads: {
    design: {
      enclosures: {
        tag: true,
        w: true,
        h: true,
        d: true,
        plate: true,
        sheet: true,
        neighbourRight: true,
      },
      faces: true,
      rails: { tag: true, ...fixing },
      ducts: { tag: true, ...fixing },
      parts: {
        number: true,
        w: true,
        h: true,
        holes: true,
        back: true,
        gland: true,
        perforation: true,
        cable: { outer: true },
      },
      devices: { tag: true, part: true, fixing: true, when: true },
      cables: { tag: true, type: true, outer: true, from: true, to: true, gland: true, glandTo: true, when: true },
      options: { key: true, chosen: true },
    },
    shop: { rules: { metalwork: true } },
  },
  compute: ({ design, shop, results, progress }) => compute(design, shop.rules.metalwork, results.panel, progress),
  explain: {
    schema: subject,
    working: ({ design, shop, result, results }, asked) =>
      explain(result, asked, { design, rules: shop.rules.metalwork, panel: results.panel }),
  },
  drawing: {
    of: "face",
    schema: drawingOf,
    draw: async ({ design, shop, result }, wanted) =>
      (await import("./files")).drawn(design, shop.rules.metalwork, result, wanted),
  },
  figures: (result): Figure[] => [
    { id: "holes", label: "holes and openings", ...count(holesIn(result)), query: {} },
    {
      id: "minutes",
      label: "on the machines",
      ...timeOf(Math.round(minutesOf(result) * 10) / 10),
      query: {},
    },
    {
      id: "bars",
      label: "new bars for rails, ducts and covers",
      ...count(freshIn(result)),
      query: { page: "bars" },
    },
  ],
  compare,
  makeFiles: async ({ design, shop, result }) => (await import("./files")).files(design, shop.rules.metalwork, result),
  questions: [CUTS],
};
