import { flag, form, listOf, maybe, objectOf, oneOf, recordOf, type ValueOf } from "../form/form";
import Joi from "joi";
import { FACE_KINDS, MATERIALS } from "../design/model";
import { plainHeading } from "../tables/fields";
import type { Drawing } from "./read";

/** What the things of a layer are; `by shape`: long narrow frames are ducts and rails, others with a tag are devices. */
export const MEANINGS = ["by shape", "ducts", "rails", "devices", "holes", "nothing"] as const;
export type Meaning = (typeof MEANINGS)[number];

const text = (most: number) => form(Joi.string().trim().min(1).max(most));
const mm = form(Joi.number().positive().max(100_000));
const units = form(Joi.number().min(-1e9).max(1e9));

export const MOST_VIEWS = 60;
const MOST_LAYERS = 2000;
const MOST_NAME = 255;

const view = objectOf({
  enclosure: text(60),
  face: oneOf(FACE_KINDS),
  /** The edge of the face, in units of the drawing. */
  frame: objectOf({
    x: units,
    y: units,
    w: form(Joi.number().positive().max(1e9)),
    h: form(Joi.number().positive().max(1e9)),
  }),
  /** Millimetres of a unit. */
  mm: form(Joi.number().positive().max(1e6)),
  /** Drawn as seen from behind. */
  mirrored: maybe(flag),
});
/** A region of the sheet that is a face. */
export interface ViewSaid extends ValueOf<typeof view> {}

const enclosure = objectOf({
  tag: text(60),
  w: maybe(mm),
  h: maybe(mm),
  d: maybe(mm),
  /** From the plane of the door to the surface of the plate, and what that is made of. */
  setback: maybe(mm),
  thickness: maybe(mm),
  material: maybe(oneOf(MATERIALS)),
  /** What door and sides are made of. */
  sheet: maybe(objectOf({ thickness: mm, material: oneOf(MATERIALS) })),
  hinge: maybe(oneOf(["left", "right"])),
  /** Heights above the foot of the enclosure at which wires cross to the door. */
  crossings: maybe(listOf(form(Joi.number().min(0).max(100_000))).max(20)),
});
/** What a drawing of faces does not say of an enclosure. mm */
export interface EnclosureSaid extends ValueOf<typeof enclosure> {}

const bar = objectOf({
  kind: oneOf(["duct", "rail"]),
  /** Whole mm. */
  across: form(Joi.number().integer().min(1).max(10_000)),
  part: text(120),
});
/** The part of all ducts, or rails, that are drawn so wide. */
export interface BarSaid extends ValueOf<typeof bar> {}

/** The form of what is said of a drawing. */
export const drawingSchema = objectOf({
  layers: recordOf(form(Joi.string().min(1).max(MOST_NAME)), oneOf(MEANINGS)).max(MOST_LAYERS),
  views: listOf<ViewSaid>(view).max(MOST_VIEWS),
  enclosures: listOf<EnclosureSaid>(enclosure).unique("tag").max(MOST_VIEWS),
  bars: listOf<BarSaid>(bar)
    .unique((a: BarSaid, b: BarSaid) => a.kind === b.kind && a.across === b.across)
    .max(200),
});
/** What a drawing is taken for. */
export interface DrawingSaid extends ValueOf<typeof drawingSchema> {}

/** Words that say what is on a layer, in the languages drawings come in. The first that fits counts. */
const WORDS: readonly [Meaning, RegExp][] = [
  [
    "nothing",
    /\b(frame|border|title|rahmen|schriftfeld|cartouche|cartiglio|cajetin|kader|dim|dims|dimension|mass|masse|bemassung|cotes?|quote|cotas|defpoints|hatch|schraffur|hilfslinien?|mitte|cent(er|re))/,
  ],
  ["ducts", /(duct|trunking|wireway|kanal|goulotte|canalin|canalet|kabelgoot|goot\b|ledningskanal)/],
  ["rails", /(\brails?\b|schiene|hutprofil|profile? omega|guida|carril|montagerail|skena|din 35)/],
  [
    "holes",
    /(\bholes?\b|drill|bohr|cut ?outs?|ausschnitt|durchbruch|percage|decoupe|\bfor[io]\b|taladro|gaten|\bgat\b|boring)/,
  ],
  [
    "devices",
    /(devices?|equipment|component|gerate|geraete|betriebsmittel|apparat|appareil|apparecchi|equipos?|aparatos?|toestel|komponent|bauteil)/,
  ],
];

/** What a layer is by its name. */
export function meaningOf(layer: string): Meaning {
  const { words } = plainHeading(layer.replace(/[_-]+/g, " "));
  return WORDS.find(([, word]) => word.test(words))?.[0] ?? "by shape";
}

/** What a layer is: as somebody said, else by its name. */
export const meaningIn = ({ layers }: DrawingSaid, layer: string): Meaning =>
  Object.hasOwn(layers, layer) ? layers[layer]! : meaningOf(layer);

/** What a drawing is taken for before anybody has said anything: its layers by their names, those that are off are nothing. */
export const firstSaid = ({ layers }: Drawing): DrawingSaid => ({
  // Those beyond are taken by their names all the same, but nothing can be said of them.
  layers: Object.fromEntries(
    layers
      .filter((l) => l.name.length <= MOST_NAME && l.name !== "__proto__")
      .sort((a, b) => Number(b.hidden) - Number(a.hidden))
      .slice(0, MOST_LAYERS)
      .map((l) => [l.name, l.hidden ? "nothing" : meaningOf(l.name)]),
  ),
  views: [],
  enclosures: [],
  bars: [],
});

const without = <T>(some: Record<string, T>, others: object): Record<string, T> =>
  Object.fromEntries(Object.entries(some).filter(([key]) => !Object.hasOwn(others, key)));

/** What was said of a drawing, for one that takes its place: layers that are new are taken by their names. */
export const saidOfNext = (said: DrawingSaid, next: Drawing): DrawingSaid => ({
  ...said,
  layers: Object.fromEntries(
    Object.entries({ ...said.layers, ...without(firstSaid(next).layers, said.layers) }).slice(0, MOST_LAYERS),
  ),
});
