import Joi from "joi";
import {
  ACCESSORIES,
  CATEGORIES,
  CLIMATE_KINDS,
  CLAMPS,
  COLOURS,
  DESIGN_FORMAT,
  DESIGN_VERSION,
  DIRECTIONS,
  EXITS,
  BAR_ENDS,
  FACE_KINDS,
  FIXINGS,
  SEEN,
  MATERIALS,
  SURFACE_STATES,
  NET_CLASSES,
  SIDES,
  STRANDS,
  type Accepted,
  type Attachment,
  type Cable,
  type Crossing,
  type Design,
  type Device,
  type Duct,
  type Enclosure,
  type FaceOverride,
  type Job,
  type Net,
  type Option,
  type Part,
  type Pin,
  type Place,
  type Rail,
  type Strip,
  type Wire,
} from "./model";
import { OWN_HEAT_RULES } from "../heat/rules";
import { ROUTE_RULES } from "../routes/rules";
import { groupForm, numberForm } from "../shop/rule-forms";
import { ownRulesForm } from "../shop/rules";
import { curveFault, type CurvePoint } from "./curve";
import { ANY_KEY, LANGUAGE_NAMES, SHOWN, WORDS } from "./signs";

/**
 * The form of a design file. Everything a file may contain is said here once; the JSON Schema in
 * docs/formats is made from it. Whether the content makes sense (a tag used twice, an unknown pin)
 * is not a matter of form: see the intake stage.
 */

// Generous bounds: they keep every sum exact in micrometres and every answer finite.
const MAX_MM = 100_000;
const LEAST_MM = 0.01;
export const MAX_ITEMS = 200_000;

const text = Joi.string().max(500).pattern(SHOWN, WORDS);
const name = Joi.string()
  .min(1)
  .max(120)
  .pattern(SHOWN, WORDS)
  .invalid(...LANGUAGE_NAMES);
const mm = Joi.number().min(-MAX_MM).max(MAX_MM);
const length = Joi.number().min(0).max(MAX_MM);
/** What rounds to nothing is no length: a hundredth of a millimetre is the least. */
const positive = Joi.number().min(LEAST_MM).max(MAX_MM);
const amount = Joi.number().min(0).max(1e9);
const tempC = Joi.number().min(-273.15).max(1000);
const size = Joi.number().min(0.001).max(1000);
const colour = Joi.string().valid(...COLOURS);
const netClass = Joi.string().valid(...NET_CLASSES);
const strand = Joi.string().valid(...STRANDS);
const clamp = Joi.string().valid(...CLAMPS);
const exit = Joi.string().valid(...EXITS);
const turn = Joi.number().valid(0, 90, 180, 270);
const run = Joi.string().valid("right", "up");
const item = Joi.number().integer().min(0).max(1e6);
const place = Joi.object<Place, true>({ face: name, rail: name, slot: name, name, x: mm, y: mm });
const stock = Joi.object({ place: name.required(), pack: Joi.number().greater(0).max(1e6).required() });
const list = (item: Joi.Schema) => Joi.array().items(item).max(MAX_ITEMS);
const texts = list(text.allow("")).max(3);
const topList = (item: Joi.Schema) => list(item).default([]);

const job = Joi.object<Job, true>({
  code: name.pattern(/^[A-Za-z0-9][A-Za-z0-9._-]*$/, "letters, digits, dot, dash and underscore"),
  title: name,
  customer: text,
  due: Joi.string().pattern(/^\d{4}-(0[1-9]|1[0-2])-(0[1-9]|[12]\d|3[01])$/, "a date such as 2027-02-19"),
  revision: name,
  units: Joi.string().valid("mm", "in"),
}).fork(["code", "title", "revision"], (s) => s.required());

const surface = Joi.string().valid(...SURFACE_STATES);

const hinge = Joi.string().valid("left", "right");
const hingeAxis = Joi.object({ x: mm.required(), z: mm.required() });
const opensDeg = numberForm(ROUTE_RULES.doorOpenDeg);

const enclosure = Joi.object<Enclosure, true>({
  tag: name.required(),
  text,
  w: positive.required(),
  h: positive.required(),
  d: positive.required(),
  plate: Joi.object({
    w: positive.required(),
    h: positive.required(),
    setback: length.required(),
    thickness: length.required(),
    material: Joi.string()
      .valid(...MATERIALS)
      .required(),
  }),
  sheet: Joi.object({
    thickness: length.required(),
    material: Joi.string()
      .valid(...MATERIALS)
      .required(),
  }),
  hinge,
  hingeAxis,
  opensDeg,
  surfaces: Joi.object({
    roof: surface,
    base: surface,
    left: surface,
    right: surface,
    front: surface,
    rear: surface,
  }),
  neighbourRight: name,
  zone: name,
  heat: groupForm(OWN_HEAT_RULES),
});

const at = { x: mm.required(), y: mm.required() };
const only = (kinds: string | string[], schema: Joi.Schema, need: "required" | "optional" = "required") =>
  Joi.when("kind", { is: Joi.valid(...[kinds].flat()), then: schema[need](), otherwise: Joi.forbidden() });

const hole = Joi.object({
  kind: Joi.string().valid("round", "thread", "countersunk", "slot", "rect", "polygon", "knockout").required(),
  x: only(["round", "thread", "countersunk", "slot", "rect", "knockout"], mm),
  y: only(["round", "thread", "countersunk", "slot", "rect", "knockout"], mm),
  d: only(["round", "countersunk", "knockout"], positive),
  notch: only("round", Joi.object({ to: positive.required(), w: positive.required() }), "optional"),
  thread: only("thread", Joi.string().pattern(/^M\d+(\.\d+)?(x\d+(\.\d+)?)?$/, "a metric thread such as M6")),
  head: only("countersunk", positive),
  w: only(["slot", "rect"], positive),
  h: only(["slot", "rect"], positive),
  angle: only("slot", Joi.number().min(-360).max(360), "optional"),
  r: only("rect", length, "optional"),
  points: only("polygon", list(Joi.object(at)).min(3)),
});

const area = Joi.object({ ...at, w: positive.required(), h: positive.required(), text });
const seen = Joi.string().valid(...SEEN);
const fixing = Joi.string().valid(...FIXINGS);
const barEnds = Joi.array()
  .items(Joi.string().valid(...BAR_ENDS))
  .unique()
  .max(BAR_ENDS.length);

const face = Joi.object<FaceOverride, true>({
  enclosure: name.required(),
  kind: Joi.string()
    .valid(...FACE_KINDS)
    .required(),
  w: positive,
  h: positive,
  keepOuts: list(area),
  holes: list(hole),
  entries: list(area),
  seen,
  machine: name,
});

const bar = {
  tag: name.required(),
  face: name.required(),
  x: mm.required(),
  y: mm.required(),
  run: run.required(),
  length: positive.required(),
  part: name.required(),
  fixing,
  mitre: barEnds,
};

const crossingEnd = Joi.object({ duct: name, face: name }).xor("duct", "face").required();

const heldAt = Joi.number().integer().min(1).max(MAX_ITEMS).required();

const crossing = Joi.object<Crossing, true>({
  tag: name.required(),
  kind: Joi.string().valid("hinge", "wall", "edge").required(),
  from: crossingEnd,
  to: crossingEnd,
  enclosure: name.required(),
  points: list(Joi.object({ ...at, z: mm.required() }))
    .min(2)
    .required(),
  loop: length,
  held: Joi.array().ordered(heldAt, heldAt).length(2),
});

const mount = Joi.object({
  kind: Joi.string().valid("rail", "plate", "door", "slot").required(),
  datumX: only("slot", mm),
  datumY: only(["rail", "slot"], mm),
  datumZ: only("slot", mm),
});

const pin = Joi.object<Pin, true>({
  name: name.required(),
  x: mm,
  y: mm,
  z: mm,
  exit,
  tail: length,
  clamp,
  sizeMin: size,
  sizeMax: size,
  strip: length,
  conductors: Joi.number().integer().min(1).max(100),
  channel: name,
}).and("x", "y", "z");

const accessory = Joi.string().valid(...ACCESSORIES);

const opening = Joi.object({ x: mm.required(), y: mm.required(), w: positive.required(), h: positive.required() });

/** A capacity that rises with the outside temperature is no capacity of a cooling unit. */
const curve = list(
  Joi.object({ insideC: tempC.required(), outsideC: tempC.required(), capacityW: amount.required() }),
).custom((points: CurvePoint[], helpers) => {
  const fault = curveFault(points);
  return fault === null ? points : helpers.message({ custom: fault });
});

const partFields = {
  number: name.required(),
  maker: name.required(),
  text: text.required(),
  category: Joi.string()
    .valid(...CATEGORIES)
    .required(),
  w: positive.required(),
  h: positive.required(),
  d: length.required(),
  weightKg: amount,
  mounts: list(mount),
  pins: list(pin),
  holes: list(hole),
  slots: list(Joi.object({ name: name.required(), ...at, z: mm.required(), accepts: list(name) })),
  back: Joi.object({ w: positive.required(), h: positive.required(), d: positive.required() }),
  lossW: amount,
  maxAroundC: tempC,
  clearances: Joi.object({ top: length, bottom: length, left: length, right: length, front: length }),
  currentA: amount,
  stock,
  alternates: Joi.array().items(name).max(100),
  directLeads: Joi.boolean(),
  duct: Joi.object({ innerW: positive.required(), innerH: positive.required() }),
  perforation: Joi.object({
    first: length.required(),
    pitch: Joi.number().min(1).max(100_000).required(),
    slot: positive.required(),
  }),
  terminal: Joi.object({
    levels: Joi.number().integer().min(1).max(10).required(),
    jumperRows: Joi.number().integer().min(0).max(10).required(),
    openSide: Joi.string().valid("left", "right", "none"),
    endPlate: name,
    fuseMostA: amount,
    passes: Joi.boolean(),
  }),
  accessory,
  jumper: Joi.object({
    teeth: Joi.number().integer().min(2).max(1000).required(),
    pitch: positive.required(),
    currentA: amount.required(),
  }),
  cooling: Joi.object({
    curve: curve.required(),
    airflowM3h: amount,
    powerW: amount,
  }),
  climate: Joi.object({
    kind: Joi.string()
      .valid(...CLIMATE_KINDS)
      .required(),
    on: Joi.array()
      .items(Joi.string().valid(...FACE_KINDS))
      .max(FACE_KINDS.length),
    powerW: amount,
    noiseDb: Joi.number().min(0).max(200),
    priceClass: Joi.number().integer().min(1).max(9),
    flow: list(Joi.object({ m3h: amount.required(), pa: amount.required() })),
    heatW: amount,
    wPerK: amount,
    blows: opening,
    draws: opening,
    freeMm: length,
    exit: name,
    ip: Joi.number().integer().min(0).max(69),
    supplyV: Joi.number().min(1).max(100_000),
    fuseA: Joi.number().min(0.01).max(10_000),
  }),
  derating: list(Joi.object({ aroundC: tempC.required(), share: Joi.number().min(0).max(1).required() })),
  gland: Joi.object({ thread: name.required(), cableMin: length.required(), cableMax: positive.required() }),
  wire: Joi.object({ sizeMm2: size.required(), outer: positive.required(), colour, strand }),
  cable: Joi.object({
    cores: Joi.number().integer().min(1).max(1000).required(),
    sizeMm2: size.required(),
    outer: positive.required(),
    screened: Joi.boolean(),
  }),
  fromLibrary: list(name),
};

const part = Joi.object<Part, true>(partFields);

const { fromLibrary: _, ...libraryFields } = partFields;
const libraryPart = Joi.object({ ...libraryFields, alsoAs: list(name) }).fork(
  ["maker", "text", "category", "w", "h", "d"],
  (s) => s.optional(),
);
/** The form of a library: of a part its number alone is needed. */
export const librarySchema = Joi.object({ parts: Joi.array().items(libraryPart).max(20_000).required() });

const when = Joi.object()
  .pattern(ANY_KEY, Joi.alternatives(name, list(name).min(1)))
  .max(50);

const pinRef = Joi.object({ device: name.required(), pin: name.required() });

const device = Joi.object<Device, true>({
  tag: name.required(),
  part: name.required(),
  on: place,
  enclosure: name,
  turn,
  texts,
  sheet: text,
  item,
  loadShare: Joi.number().min(0).max(10),
  diversity: Joi.number().min(0).max(1),
  fuseA: amount,
  deflector: Joi.string().valid(...DIRECTIONS),
  fixing,
  when,
});

const net = Joi.object<Net, true>({
  name: name.required(),
  class: netClass,
  voltage: Joi.object({ v: amount.required(), kind: Joi.string().valid("ac", "dc").required() }),
  currentA: amount,
  colour,
  sizeMm2: size,
});

const wire = Joi.object<Wire, true>({
  number: name.required(),
  net: name,
  from: pinRef,
  to: pinRef,
  colour,
  sizeMm2: size,
  strand,
  type: name,
  core: Joi.object({ cable: name.required(), core: name.required() }),
  when,
});

const core = Joi.object<Cable["cores"][number], true>({
  core: name.required(),
  colour,
  sizeMm2: size,
  from: pinRef,
  to: pinRef,
  far: text,
  net: name,
});

const cable = Joi.object<Cable, true>({
  tag: name.required(),
  type: name.required(),
  outer: positive,
  from: text,
  to: text,
  gland: name,
  glandTo: name,
  cores: list(core).required(),
  when,
});

const strip = Joi.object<Strip, true>({
  tag: name.required(),
  rail: name.required(),
  members: list(name).required(),
  jumpers: list(
    Joi.object({
      row: Joi.number().integer().min(1).max(10).required(),
      members: list(name).min(2).required(),
      part: name,
    }),
  ),
  print: Joi.object().pattern(ANY_KEY, text.allow("")),
  splitAfter: list(name),
  sides: Joi.object().pattern(ANY_KEY, Joi.string().valid(...SIDES)),
  at: mm,
  groups: list(list(name).min(2)),
  pieces: list(Joi.object({ kind: accessory.required(), behind: name, hung: Joi.boolean().required() })),
});

const option = Joi.object<Option, true>({
  key: name.required(),
  text: text.required(),
  choices: list(name).min(1).required(),
  chosen: name.required(),
});

const attachment = Joi.object<Attachment, true>({
  name: name.required(),
  kind: name.required(),
  page: Joi.number().integer().min(1).max(100_000),
  for: name,
});

const accepted = Joi.object<Accepted, true>({
  point: Joi.string().max(500).required(),
  text: Joi.string().max(2000).required(),
  why: text.required(),
  who: name.required(),
  names: list(Joi.array().ordered(name.required(), name.required()).length(2)),
});

/** The whole design file. Values are taken as they stand: text is not turned into numbers. */
export const designSchema = Joi.object<Design, true>({
  format: Joi.string().valid(DESIGN_FORMAT).required(),
  version: Joi.number().valid(DESIGN_VERSION).required(),
  job: job.required(),
  enclosures: list(enclosure).required(),
  faces: topList(face),
  rails: topList(Joi.object<Rail, true>(bar)),
  ducts: topList(
    Joi.object<Duct, true>({
      ...bar,
      classes: Joi.array()
        .items(netClass)
        .min(1)
        .max(NET_CLASSES.length ** 2),
    }),
  ),
  crossings: topList(crossing),
  parts: topList(part),
  devices: topList(device),
  nets: topList(net),
  wires: topList(wire),
  cables: topList(cable),
  strips: topList(strip),
  options: topList(option),
  rules: ownRulesForm.default({}),
  attachments: topList(attachment),
  accepted: list(accepted),
}).prefs({ abortEarly: false, convert: false });

/** The pieces forms are made of: kinds of edit say what they take with the same ones. */
export const FORM = {
  name,
  text,
  mm,
  positive,
  size,
  amount,
  colour,
  netClass,
  strand,
  turn,
  run,
  texts,
  item,
  pinRef,
  place,
  wire,
  net,
  cable,
  core,
  option,
  when,
  crossing,
  hinge,
  hingeAxis,
  opensDeg,
  stock,
  accepted,
  list,
  hole,
  area,
  seen,
  fixing,
  barEnds,
} as const;
