import Joi from "joi";
import {
  either,
  filled,
  flag,
  form,
  kindsOf,
  listOf,
  maybe,
  objectOf,
  just,
  oneOf,
  pairOf,
  recordOf,
  type Form,
  type ObjectForm,
  type ValueOf,
} from "../form/form";
import { OWN_HEAT_RULES, type HeatRules } from "../heat/rules";
import { ROUTE_RULES } from "../routes/rules";
import { groupForm, numberForm } from "../shop/rule-forms";
import { ownRulesForm, type RuleOverrides } from "../shop/rules";
import { curveFault, type CurvePoint } from "./curve";
import {
  ACCESSORIES,
  BAR_ENDS,
  CATEGORIES,
  CLAMPS,
  CLIMATE_KINDS,
  COLOURS,
  DESIGN_FORMAT,
  DESIGN_VERSION,
  DIRECTIONS,
  EXITS,
  FACE_KINDS,
  FIXINGS,
  MATERIALS,
  NET_CLASSES,
  RUNS,
  SEEN,
  SIDES,
  STRANDS,
  SURFACE_STATES,
  TURNS,
} from "./lists";
import { ANY_KEY, LANGUAGE_NAMES, SHOWN, WORDS } from "./signs";

/**
 * The form of a design file, and the types of what stands in it: everything the shop receives about one job, at one
 * revision. Each field is said here once; the JSON Schema in docs/formats is made from it. Whether the content makes
 * sense (a tag used twice, an unknown pin) is not a matter of form: see the intake stage.
 *
 * Plain JSON. Lengths in millimetres, cross-sections in mm², temperatures in °C, power in watts, currents in amperes,
 * angles in quarter turns given in degrees. A design is a value: nothing in this project changes one in place.
 */

// Generous bounds: they keep every sum exact in micrometres and every answer finite.
const MAX_MM = 100_000;
const LEAST_MM = 0.01;
export const MAX_ITEMS = 200_000;

const text = form(Joi.string().max(500).pattern(SHOWN, WORDS));
const name = form(
  Joi.string()
    .min(1)
    .max(120)
    .pattern(SHOWN, WORDS)
    .invalid(...LANGUAGE_NAMES),
);
const mm = form(Joi.number().min(-MAX_MM).max(MAX_MM));
const length = form(Joi.number().min(0).max(MAX_MM));
/** What rounds to nothing is no length: a hundredth of a millimetre is the least. */
const positive = form(Joi.number().min(LEAST_MM).max(MAX_MM));
const amount = form(Joi.number().min(0).max(1e9));
const tempC = form(Joi.number().min(-273.15).max(1000));
const size = form(Joi.number().min(0.001).max(1000));
const count = (most: number, least = 1) => form(Joi.number().integer().min(least).max(most));
const colour = oneOf(COLOURS);
const netClass = oneOf(NET_CLASSES);
const strand = oneOf(STRANDS);
const turn = oneOf(TURNS);
const run = oneOf(RUNS);
const material = oneOf(MATERIALS);
const item = count(1e6, 0);
const stock = objectOf({ place: name, pack: form(Joi.number().greater(0).max(1e6)) });
const list = <T>(of: Form<T>) => listOf(of).max(MAX_ITEMS);
const texts = list(text.allow("")).max(3);

const job = objectOf({
  code: name.pattern(/^[A-Za-z0-9][A-Za-z0-9._-]*$/, "letters, digits, dot, dash and underscore"),
  title: name,
  customer: maybe(text),
  /** ISO date, e.g. 2027-02-19 */
  due: maybe(form(Joi.string().pattern(/^\d{4}-(0[1-9]|1[0-2])-(0[1-9]|[12]\d|3[01])$/, "a date such as 2027-02-19"))),
  revision: name,
  units: maybe(oneOf(["mm", "in"])),
});
export interface Job extends ValueOf<typeof job> {}

const surface = oneOf(SURFACE_STATES);
const hinge = oneOf(["left", "right"]);
const hingeAxis = objectOf({ x: mm, z: mm });
const opensDeg = numberForm(ROUTE_RULES.doorOpenDeg);

const enclosure = objectOf({
  tag: name,
  text: maybe(text),
  w: positive,
  h: positive,
  d: positive,
  /** Mounting plate, centred behind the door. `setback`: door plane to plate surface. */
  plate: maybe(objectOf({ w: positive, h: positive, setback: length, thickness: length, material })),
  sheet: maybe(objectOf({ thickness: length, material })),
  hinge: maybe(hinge),
  /** Where the hinge of its door turns, in its own frame; the front corner on the side of the hinge when absent. */
  hingeAxis: maybe(hingeAxis),
  /** How far its door opens, degrees; the shop's rule when absent. */
  opensDeg: maybe(opensDeg),
  surfaces: maybe(
    objectOf({
      roof: maybe(surface),
      base: maybe(surface),
      left: maybe(surface),
      right: maybe(surface),
      front: maybe(surface),
      rear: maybe(surface),
    }),
  ),
  /** Tag of the enclosure standing directly to the right, side against side, same floor and front. */
  neighbourRight: maybe(name),
  /** Enclosures of one zone share their air; without one it has its own. */
  zone: maybe(name),
  /** Where its surroundings, or what is wanted inside, differ from the job's. */
  heat: maybe(groupForm<HeatRules>(OWN_HEAT_RULES)),
});
export interface Enclosure extends ValueOf<typeof enclosure> {}

const at = { x: mm, y: mm };
const point = objectOf(at);

const hole = kindsOf({
  round: { ...at, d: positive, notch: maybe(objectOf({ to: positive, w: positive })) },
  thread: { ...at, thread: form(Joi.string().pattern(/^M\d+(\.\d+)?(x\d+(\.\d+)?)?$/, "a metric thread such as M6")) },
  countersunk: { ...at, d: positive, head: positive },
  slot: { ...at, w: positive, h: positive, angle: maybe(form(Joi.number().min(-360).max(360))) },
  rect: { ...at, w: positive, h: positive, r: maybe(length) },
  polygon: { points: list(point).min(3) },
  knockout: { ...at, d: positive },
});
export type Hole = ValueOf<typeof hole>;

const area = objectOf({ ...at, w: positive, h: positive, text: maybe(text) });
const seen = oneOf(SEEN);
const fixing = oneOf(FIXINGS);
const barEnds = listOf(oneOf(BAR_ENDS)).unique().max(BAR_ENDS.length);

/** Corrections to a face that would otherwise be derived from its enclosure. */
const face = objectOf({
  enclosure: name,
  kind: oneOf(FACE_KINDS),
  w: maybe(positive),
  h: maybe(positive),
  keepOuts: maybe(list(area)),
  holes: maybe(list(hole)),
  /** Plates in it through which cables come in. */
  entries: maybe(list(area)),
  /** How it lies on the machine; the shop's rule when absent. */
  seen: maybe(seen),
  /** The machine it is made on; the shop's when absent. */
  machine: maybe(name),
});
export interface FaceOverride extends ValueOf<typeof face> {}

const bar = {
  tag: name,
  face: name,
  /** Lower left corner of the outline on the face. */
  x: mm,
  y: mm,
  run,
  length: positive,
  part: name,
  /** How its screws are made where not as the shop's rule says. */
  fixing: maybe(fixing),
  /** Ends that are cut at 45°. */
  mitre: maybe(barEnds),
};

const rail = objectOf(bar);
export interface Rail extends ValueOf<typeof rail> {}

const duct = objectOf({
  ...bar,
  /** Only wires of these classes may lie in it; all, when absent. */
  classes: maybe(
    listOf(netClass)
      .min(1)
      .max(NET_CLASSES.length ** 2),
  ),
});
export interface Duct extends ValueOf<typeof duct> {}

/** One of the two: a named duct, or a face (then its nearest duct is taken). */
const crossingEnd = objectOf({ duct: maybe(name), face: maybe(name) }, (end) => end.xor("duct", "face"));
export interface CrossingEnd extends ValueOf<typeof crossingEnd> {}

const heldAt = count(MAX_ITEMS);

const crossing = objectOf({
  tag: name,
  kind: oneOf(["hinge", "wall", "edge"]),
  from: crossingEnd,
  to: crossingEnd,
  /** The enclosure in whose frame `points` are given. */
  enclosure: name,
  points: list(objectOf({ ...at, z: mm })).min(2),
  /** Loop allowance; the shop's rule when absent. */
  loop: maybe(length),
  /** Numbers, counted from 1, of the two points at which it is held: between them it hangs free. Its ends when absent. */
  held: maybe(pairOf(heldAt, heldAt)),
});
export interface Crossing extends ValueOf<typeof crossing> {}

const mount = kindsOf({
  rail: { datumY: mm },
  plate: {},
  door: {},
  slot: { datumX: mm, datumY: mm, datumZ: mm },
});
export type Mount = ValueOf<typeof mount>;

const pin = objectOf(
  {
    name,
    /** Position on the unturned body, from its lower left corner; z above its mounting surface. All three or none. */
    x: maybe(mm),
    y: maybe(mm),
    z: maybe(mm),
    exit: maybe(oneOf(EXITS)),
    /** Wire inside the device, stripped part included. */
    tail: maybe(length),
    clamp: maybe(oneOf(CLAMPS)),
    sizeMin: maybe(size),
    sizeMax: maybe(size),
    /** Length to strip. */
    strip: maybe(length),
    /** Conductors the clamp takes; 1 when absent. */
    conductors: maybe(count(100)),
    channel: maybe(name),
  },
  (one) => one.and("x", "y", "z"),
);
export interface Pin extends ValueOf<typeof pin> {}

const accessory = oneOf(ACCESSORIES);

const opening = objectOf({ ...at, w: positive, h: positive });

const slot = objectOf({ name, ...at, z: mm, accepts: maybe(list(name)) });
export interface Slot extends ValueOf<typeof slot> {}

/** A capacity that rises with the outside temperature is no capacity of a cooling unit. */
const curve = list(objectOf({ insideC: tempC, outsideC: tempC, capacityW: amount })).custom(
  (points: CurvePoint[], helpers) => {
    const fault = curveFault(points);
    return fault === null ? points : helpers.message({ custom: fault });
  },
);

/** Slots along a bar: the middle of the first from its end, from one to the next, how long each is. mm */
const perforation = objectOf({
  first: length,
  pitch: form(Joi.number().min(1).max(100_000)),
  slot: positive,
});
export interface Perforation extends ValueOf<typeof perforation> {}

const partFields = {
  number: name,
  maker: name,
  text,
  category: oneOf(CATEGORIES),
  /** Body. For rails and ducts: w stock length, h width across, d height above the face. */
  w: positive,
  h: positive,
  d: length,
  weightKg: maybe(amount),
  mounts: maybe(list<Mount>(mount)),
  pins: maybe(list<Pin>(pin)),
  holes: maybe(list<Hole>(hole)),
  slots: maybe(list<Slot>(slot)),
  /** On a door: what stands behind it where that is larger than the body; about its middle, `d` from the door's plane. */
  back: maybe(objectOf({ w: positive, h: positive, d: positive })),
  lossW: maybe(amount),
  maxAroundC: maybe(tempC),
  clearances: maybe(
    objectOf({
      top: maybe(length),
      bottom: maybe(length),
      left: maybe(length),
      right: maybe(length),
      front: maybe(length),
    }),
  ),
  currentA: maybe(amount),
  stock: maybe(stock),
  /** Numbers of parts that may stand for it. */
  alternates: maybe(listOf(name).max(100)),
  /** A short lead between two such parts may run without a duct. */
  directLeads: maybe(flag),
  duct: maybe(objectOf({ innerW: positive, innerH: positive })),
  /** Of a rail or duct: its slots for screws. */
  perforation: maybe<Perforation>(perforation),
  terminal: maybe(
    objectOf({
      levels: count(10),
      jumperRows: count(10, 0),
      openSide: maybe(oneOf(["left", "right", "none"])),
      endPlate: maybe(name),
      /** Takes a fuse up to this current. */
      fuseMostA: maybe(amount),
      /** A jumper may pass over it with a tooth broken off. */
      passes: maybe(flag),
    }),
  ),
  /** What is hung on a rail between terminals. */
  accessory: maybe(accessory),
  /** A comb that bridges neighbours; it can be cut shorter. */
  jumper: maybe(objectOf({ teeth: count(1000, 2), pitch: positive, currentA: amount })),
  cooling: maybe(objectOf({ curve, airflowM3h: maybe(amount), powerW: maybe(amount) })),
  /** What it does to the air of an enclosure, where it stands, and where it blows and draws, on the unturned body. */
  climate: maybe(
    objectOf({
      kind: oneOf(CLIMATE_KINDS),
      /** Faces it may be mounted on; those of its mounts when absent. */
      on: maybe(listOf(oneOf(FACE_KINDS)).max(FACE_KINDS.length)),
      /** Electric power while it runs. */
      powerW: maybe(amount),
      noiseDb: maybe(form(Joi.number().min(0).max(200))),
      /** 1 is the cheapest. */
      priceClass: maybe(count(9)),
      /** Of a fan: its flow against a pressure. */
      flow: maybe(list(objectOf({ m3h: amount, pa: amount }))),
      /** Of a heater: what it puts in. */
      heatW: maybe(amount),
      /** Of an exchanger: what it passes for each kelvin between inside and outside. */
      wPerK: maybe(amount),
      blows: maybe(opening),
      draws: maybe(opening),
      /** To be kept free before its openings, mm: what stands there is an open point. */
      freeMm: maybe(length),
      /** Of a filter fan: the part through which its air goes out again, mounted as high as the fan is low. */
      exit: maybe(name),
      /** Degree of protection that the enclosure keeps with it (IEC 60529), two digits. */
      ip: maybe(count(69, 0)),
      supplyV: maybe(form(Joi.number().min(1).max(100_000))),
      /** Fuse of its supply. */
      fuseA: maybe(form(Joi.number().min(0.01).max(10_000))),
    }),
  ),
  /** Share of its rated load at the temperature around it. */
  derating: maybe(list(objectOf({ aroundC: tempC, share: form(Joi.number().min(0).max(1)) }))),
  gland: maybe(objectOf({ thread: name, cableMin: length, cableMax: positive })),
  wire: maybe(objectOf({ sizeMm2: size, outer: positive, colour: maybe(colour), strand: maybe(strand) })),
  cable: maybe(objectOf({ cores: count(1000), sizeMm2: size, outer: positive, screened: maybe(flag) })),
  /** Fields that the library of the shop has said, not the design. No stage reads this. */
  fromLibrary: maybe(list(name)),
};

const part = objectOf(partFields);
export interface Part extends ValueOf<typeof part> {}

const { fromLibrary: _, ...ofLibrary } = partFields;
const libraryPart = objectOf({
  ...ofLibrary,
  maker: maybe(ofLibrary.maker),
  text: maybe(ofLibrary.text),
  category: maybe(ofLibrary.category),
  w: maybe(ofLibrary.w),
  h: maybe(ofLibrary.h),
  d: maybe(ofLibrary.d),
  /** Other numbers under which designs name it. */
  alsoAs: maybe(list(name)),
});
/** What the library knows of a part: any of it may be missing yet. */
export interface LibraryPart extends ValueOf<typeof libraryPart> {}

/** The fields of a library: of a part its number alone is needed. */
export const LIBRARY_FIELDS = { parts: listOf<LibraryPart>(libraryPart).max(20_000) };
export const librarySchema = objectOf(LIBRARY_FIELDS);

/** Exactly one of face, rail and slot, with its coordinates; `{}` or absent: loose. */
const place = objectOf({
  face: maybe(name),
  rail: maybe(name),
  slot: maybe(name),
  /** Name of the slot in the device named by `slot`. */
  name: maybe(name),
  /** On a face: lower left corner. On a rail: distance of the body from the rail's start. */
  x: maybe(mm),
  y: maybe(mm),
});
export interface Place extends ValueOf<typeof place> {}

/** Option key → the choice (or choices) with which the thing exists. All keys must hold. */
const when = recordOf(ANY_KEY, either(name, list(name).min(1))).max(50);
export type When = ValueOf<typeof when>;

const pinRef = objectOf({ device: name, pin: name });
export interface PinRef extends ValueOf<typeof pinRef> {}

const device = objectOf({
  tag: name,
  part: name,
  on: maybe<Place>(place),
  /** Enclosure a loose device belongs to. */
  enclosure: maybe(name),
  turn: maybe(turn),
  texts: maybe(texts),
  sheet: maybe(text),
  item: maybe(item),
  loadShare: maybe(form(Joi.number().min(0).max(10))),
  /** Share of its time at load, with the others; the job's when absent. */
  diversity: maybe(form(Joi.number().min(0).max(1))),
  /** Of a terminal for fuses: the fuse that is fitted, A. */
  fuseA: maybe(amount),
  /** Of a unit that blows: a deflector leads the air of its outlet this way, on its face as seen from outside. */
  deflector: maybe(oneOf(DIRECTIONS)),
  /** How its hole pattern is made where not as its part says. */
  fixing: maybe(fixing),
  when: maybe(when),
});
export interface Device extends ValueOf<typeof device> {}

const net = objectOf({
  name,
  class: maybe(netClass),
  voltage: maybe(objectOf({ v: amount, kind: oneOf(["ac", "dc"]) })),
  currentA: maybe(amount),
  colour: maybe(colour),
  sizeMm2: maybe(size),
});
export interface Net extends ValueOf<typeof net> {}

const wire = objectOf({
  number: name,
  net: maybe(name),
  from: maybe<PinRef>(pinRef),
  to: maybe<PinRef>(pinRef),
  colour: maybe(colour),
  sizeMm2: maybe(size),
  strand: maybe(strand),
  /** Library part to cut it from. */
  type: maybe(name),
  /** Set when it is a conductor of a cable and therefore not a lead to be cut. */
  core: maybe(objectOf({ cable: name, core: name })),
  when: maybe(when),
});
export interface Wire extends ValueOf<typeof wire> {}

const core = objectOf({
  core: name,
  colour: maybe(colour),
  sizeMm2: maybe(size),
  from: maybe<PinRef>(pinRef),
  to: maybe<PinRef>(pinRef),
  far: maybe(text),
  net: maybe(name),
});

const cable = objectOf({
  tag: name,
  type: name,
  outer: maybe(positive),
  /** Enclosure, or a place in words. */
  from: maybe(text),
  to: maybe(text),
  /** Gland it comes through; of a cable between two enclosures that of one end, `glandTo` that where it leads to. */
  gland: maybe(name),
  glandTo: maybe(name),
  cores: list(core),
  when: maybe(when),
});
export interface Cable extends ValueOf<typeof cable> {}

/** One accessory at one place of a strip, said by hand. */
const stripPiece = objectOf({
  kind: accessory,
  /** Member behind which it hangs; before the first one when absent. */
  behind: maybe(name),
  /** Hung though no rule asks for it, or left out though one does. */
  hung: flag,
});
export interface StripPiece extends ValueOf<typeof stripPiece> {}

const strip = objectOf({
  tag: name,
  rail: name,
  members: list(name),
  jumpers: maybe(list(objectOf({ row: count(10), members: list(name).min(2), part: maybe(name) }))),
  print: maybe(recordOf(ANY_KEY, text.allow(""))),
  splitAfter: maybe(list(name)),
  /** Which side a conductor lies on, where a person said so: `wire 214`, `core 3 of -W7`. */
  sides: maybe(recordOf(ANY_KEY, oneOf(SIDES))),
  /**
   * Laid on its rail: distance of its first piece from the rail's start. Its members then stand where the strip says;
   * where it is absent, each stands where it says itself.
   */
  at: maybe(mm),
  /** Members that stay side by side in this order when another order is proposed. */
  groups: maybe(list(list(name).min(2))),
  /** Accessories that are hung, or left out, against the rules. */
  pieces: maybe(list<StripPiece>(stripPiece)),
});
export interface Strip extends ValueOf<typeof strip> {}

const option = objectOf({ key: name, text, choices: list(name).min(1), chosen: name });
export interface Option extends ValueOf<typeof option> {}

const attachment = objectOf({ name, kind: name, page: maybe(count(100_000)), for: maybe(name) });
/** An attachment that the design names. */
export interface NamedAttachment extends ValueOf<typeof attachment> {}

/** By id and text: a point whose cause has changed says something else, and is open again. */
const accepted = objectOf({
  point: form(Joi.string().max(500)),
  text: form(Joi.string().max(2000)),
  why: text,
  who: name,
  /** What was named anew since, old name and new: the point is the same one with the new name in its text. */
  names: maybe(list(pairOf(name, name))),
});
export interface Accepted extends ValueOf<typeof accepted> {}

const topList = <T>(of: Form<T>) => filled<T[]>(list(of), []);

const design = objectOf({
  format: just(DESIGN_FORMAT),
  version: just(DESIGN_VERSION),
  job: job as Form<Job>,
  enclosures: list<Enclosure>(enclosure),
  faces: topList<FaceOverride>(face),
  rails: topList<Rail>(rail),
  ducts: topList<Duct>(duct),
  crossings: topList<Crossing>(crossing),
  parts: topList<Part>(part),
  devices: topList<Device>(device),
  nets: topList<Net>(net),
  wires: topList<Wire>(wire),
  cables: topList<Cable>(cable),
  strips: topList<Strip>(strip),
  options: topList<Option>(option),
  rules: filled<RuleOverrides>(ownRulesForm, {}),
  attachments: topList<NamedAttachment>(attachment),
  /** Open points that somebody has looked at and lets stand. No stage reads this. */
  accepted: maybe(list<Accepted>(accepted)),
});
export interface Design extends ValueOf<typeof design> {}

/** The whole design file. Values are taken as they stand: text is not turned into numbers. */
export const designSchema: ObjectForm<Design> = design.prefs({ abortEarly: false, convert: false });

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
