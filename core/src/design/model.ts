/**
 * The design: everything the shop receives about one job, at one revision.
 * Plain JSON. Lengths in millimetres, cross-sections in mm², temperatures in °C,
 * power in watts, currents in amperes, angles in quarter turns given in degrees.
 * A design is a value: nothing in this project changes one in place.
 */

export const DESIGN_FORMAT = "gray-bench-design";
export const DESIGN_VERSION = 1;

/** Stands for a part, a type or a rail that the tables a design was made of do not name. */
export const NOT_TOLD = "not told";

export const FACE_KINDS = ["plate", "door", "left", "right", "roof", "base", "rear"] as const;
export type FaceKind = (typeof FACE_KINDS)[number];

export const NET_CLASSES = ["supply", "drive", "control", "signal", "earth"] as const;
export type NetClass = (typeof NET_CLASSES)[number];

/** IEC 60757 letter codes of the colours a single conductor may have. */
export const COLOURS = ["BK", "BN", "RD", "OG", "YE", "GN", "BU", "VT", "GY", "WH", "PK", "TQ", "GNYE"] as const;
export type Colour = (typeof COLOURS)[number];

export const CLAMPS = ["screw", "push-in", "spring", "stud", "plug"] as const;
export type Clamp = (typeof CLAMPS)[number];

export const EXITS = ["up", "down", "left", "right", "out"] as const;
export type Exit = (typeof EXITS)[number];
export const DIRECTIONS = ["up", "down", "left", "right"] as const;
export type Direction = (typeof DIRECTIONS)[number];

/** How a conductor is built: one solid core, a few thick strands, many fine strands. */
export const STRANDS = ["solid", "stranded", "fine"] as const;
export type Strand = (typeof STRANDS)[number];

export const CATEGORIES = [
  "rail",
  "duct",
  "terminal",
  "terminal accessory",
  "breaker",
  "fuse",
  "contactor",
  "relay",
  "safety relay",
  "controller",
  "module",
  "supply",
  "drive",
  "chopper",
  "transformer",
  "filter",
  "switch",
  "operator",
  "lamp",
  "socket",
  "cooling",
  "fan",
  "heater",
  "gland",
  "earth",
  "wire",
  "cable",
  "other",
] as const;
export type Category = (typeof CATEGORIES)[number];

export const MATERIALS = [
  "painted steel",
  "galvanised steel",
  "stainless steel",
  "aluminium",
  "double aluminium",
  "polyester",
] as const;
export type Material = (typeof MATERIALS)[number];

export interface Job {
  code: string;
  title: string;
  customer?: string;
  /** ISO date, e.g. 2027-02-19 */
  due?: string;
  revision: string;
  units?: "mm" | "in";
}

export const SURFACE_STATES = ["free", "covered", "neighbour"] as const;
export type SurfaceState = (typeof SURFACE_STATES)[number];

export interface Enclosure {
  tag: string;
  text?: string;
  w: number;
  h: number;
  d: number;
  /** Mounting plate, centred behind the door. `setback`: door plane to plate surface. */
  plate?: { w: number; h: number; setback: number; thickness: number; material: Material };
  sheet?: { thickness: number; material: Material };
  hinge?: "left" | "right";
  /** Where the hinge of its door turns, in its own frame; the front corner on the side of the hinge when absent. */
  hingeAxis?: { x: number; z: number };
  /** How far its door opens, degrees; the shop's rule when absent. */
  opensDeg?: number;
  surfaces?: Partial<Record<"roof" | "base" | "left" | "right" | "front" | "rear", SurfaceState>>;
  /** Tag of the enclosure standing directly to the right, side against side, same floor and front. */
  neighbourRight?: string;
  /** Enclosures of one zone share their air; without one it has its own. */
  zone?: string;
  /** Where its surroundings, or what is wanted inside, differ from the job's. */
  heat?: Partial<HeatRules>;
}

/** Corrections to a face that would otherwise be derived from its enclosure. */
export interface FaceOverride {
  enclosure: string;
  kind: FaceKind;
  w?: number;
  h?: number;
  keepOuts?: { x: number; y: number; w: number; h: number; text?: string }[];
  holes?: Hole[];
  /** Plates in it through which cables come in. */
  entries?: { x: number; y: number; w: number; h: number; text?: string }[];
  /** How it lies on the machine; the shop's rule when absent. */
  seen?: Seen;
  /** The machine it is made on; the shop's when absent. */
  machine?: string;
}

/** Which side of a sheet is up. */
export const SEEN = ["outside", "inside"] as const;
export type Seen = (typeof SEEN)[number];

/** What becomes of a pattern of screws: not drilled here, or all its round and threaded holes made in one way. */
export const FIXINGS = ["not drilled", "through", "tapped", "rivet nut", "marked"] as const;
export type Fixing = (typeof FIXINGS)[number];

export const BAR_ENDS = ["start", "end"] as const;
export type BarEnd = (typeof BAR_ENDS)[number];

export type Run = "right" | "up";

/** `x`, `y`: lower left corner of the outline on the face. */
export interface Rail {
  tag: string;
  face: string;
  x: number;
  y: number;
  run: Run;
  length: number;
  part: string;
  /** How its screws are made where not as the shop's rule says. */
  fixing?: Fixing;
  /** Ends that are cut at 45°. */
  mitre?: BarEnd[];
}

export interface Duct extends Rail {
  /** Only wires of these classes may lie in it; all, when absent. */
  classes?: NetClass[];
}

/** One of the two: a named duct, or a face (then its nearest duct is taken). */
export interface CrossingEnd {
  duct?: string;
  face?: string;
}

export interface Crossing {
  tag: string;
  kind: "hinge" | "wall" | "edge";
  from: CrossingEnd;
  to: CrossingEnd;
  /** The enclosure in whose frame `points` are given. */
  enclosure: string;
  points: { x: number; y: number; z: number }[];
  /** Loop allowance; the shop's rule when absent. */
  loop?: number;
  /** Numbers, counted from 1, of the two points at which it is held: between them it hangs free. Its ends when absent. */
  held?: [number, number];
}

export type Mount =
  | { kind: "rail"; datumY: number }
  | { kind: "plate" }
  | { kind: "door" }
  | { kind: "slot"; datumX: number; datumY: number; datumZ: number };

export interface Pin {
  name: string;
  /** Position on the unturned body, from its lower left corner; z above its mounting surface. All three or none. */
  x?: number;
  y?: number;
  z?: number;
  exit?: Exit;
  /** Wire inside the device, stripped part included. */
  tail?: number;
  clamp?: Clamp;
  sizeMin?: number;
  sizeMax?: number;
  /** Length to strip. */
  strip?: number;
  /** Conductors the clamp takes; 1 when absent. */
  conductors?: number;
  channel?: string;
}

export type Hole =
  | { kind: "round"; x: number; y: number; d: number; notch?: { to: number; w: number } }
  | { kind: "thread"; x: number; y: number; thread: string }
  | { kind: "countersunk"; x: number; y: number; d: number; head: number }
  | { kind: "slot"; x: number; y: number; w: number; h: number; angle?: number }
  | { kind: "rect"; x: number; y: number; w: number; h: number; r?: number }
  | { kind: "polygon"; points: { x: number; y: number }[] }
  | { kind: "knockout"; x: number; y: number; d: number };

export interface Slot {
  name: string;
  x: number;
  y: number;
  z: number;
  accepts?: string[];
}

/** Slots along a bar: the middle of the first from its end, from one to the next, how long each is. mm */
export interface Perforation {
  first: number;
  pitch: number;
  slot: number;
}

export interface Part {
  number: string;
  maker: string;
  text: string;
  category: Category;
  /** Body. For rails and ducts: w stock length, h width across, d height above the face. */
  w: number;
  h: number;
  d: number;
  weightKg?: number;
  mounts?: Mount[];
  pins?: Pin[];
  holes?: Hole[];
  slots?: Slot[];
  /** On a door: what stands behind it where that is larger than the body; about its middle, `d` from the door's plane. */
  back?: { w: number; h: number; d: number };
  lossW?: number;
  maxAroundC?: number;
  clearances?: { top?: number; bottom?: number; left?: number; right?: number; front?: number };
  currentA?: number;
  stock?: { place: string; pack: number };
  /** Numbers of parts that may stand for it. */
  alternates?: string[];
  /** A short lead between two such parts may run without a duct. */
  directLeads?: boolean;
  duct?: { innerW: number; innerH: number };
  /** Of a rail or duct: its slots for screws. */
  perforation?: Perforation;
  terminal?: {
    levels: number;
    jumperRows: number;
    openSide?: "left" | "right" | "none";
    endPlate?: string;
    /** Takes a fuse up to this current. */
    fuseMostA?: number;
    /** A jumper may pass over it with a tooth broken off. */
    passes?: boolean;
  };
  /** What is hung on a rail between terminals. */
  accessory?: AccessoryKind;
  /** A comb that bridges neighbours; it can be cut shorter. */
  jumper?: { teeth: number; pitch: number; currentA: number };
  cooling?: {
    curve: { insideC: number; outsideC: number; capacityW: number }[];
    airflowM3h?: number;
    powerW?: number;
  };
  /** What it does to the air of an enclosure, where it stands, and where it blows and draws, on the unturned body. */
  climate?: {
    kind: ClimateKind;
    /** Faces it may be mounted on; those of its mounts when absent. */
    on?: FaceKind[];
    /** Electric power while it runs. */
    powerW?: number;
    noiseDb?: number;
    /** 1 is the cheapest. */
    priceClass?: number;
    /** Of a fan: its flow against a pressure. */
    flow?: { m3h: number; pa: number }[];
    /** Of a heater: what it puts in. */
    heatW?: number;
    /** Of an exchanger: what it passes for each kelvin between inside and outside. */
    wPerK?: number;
    blows?: { x: number; y: number; w: number; h: number };
    draws?: { x: number; y: number; w: number; h: number };
    /** To be kept free before its openings, mm: what stands there is an open point. */
    freeMm?: number;
    /** Of a filter fan: the part through which its air goes out again, mounted as high as the fan is low. */
    exit?: string;
    /** Degree of protection that the enclosure keeps with it (IEC 60529), two digits. */
    ip?: number;
    supplyV?: number;
    /** Fuse of its supply. */
    fuseA?: number;
  };
  /** Share of its rated load at the temperature around it. */
  derating?: { aroundC: number; share: number }[];
  gland?: { thread: string; cableMin: number; cableMax: number };
  wire?: { sizeMm2: number; outer: number; colour?: Colour; strand?: Strand };
  cable?: { cores: number; sizeMm2: number; outer: number; screened?: boolean };
  /** Fields that the library of the shop has said, not the design. No stage reads this. */
  fromLibrary?: string[];
}

/** Exactly one of face, rail and slot, with its coordinates; `{}` or absent: loose. */
export interface Place {
  face?: string;
  rail?: string;
  slot?: string;
  /** Name of the slot in the device named by `slot`. */
  name?: string;
  /** On a face: lower left corner. On a rail: distance of the body from the rail's start. */
  x?: number;
  y?: number;
}

export type Turn = 0 | 90 | 180 | 270;

/** Option key → the choice (or choices) with which the thing exists. All keys must hold. */
export type When = Record<string, string | string[]>;

export interface Device {
  tag: string;
  part: string;
  on?: Place;
  /** Enclosure a loose device belongs to. */
  enclosure?: string;
  turn?: Turn;
  texts?: string[];
  sheet?: string;
  item?: number;
  loadShare?: number;
  /** Share of its time at load, with the others; the job's when absent. */
  diversity?: number;
  /** Of a terminal for fuses: the fuse that is fitted, A. */
  fuseA?: number;
  /** Of a unit that blows: a deflector leads the air of its outlet this way, on its face as seen from outside. */
  deflector?: Direction;
  /** How its hole pattern is made where not as its part says. */
  fixing?: Fixing;
  when?: When;
}

export interface Net {
  name: string;
  class?: NetClass;
  voltage?: { v: number; kind: "ac" | "dc" };
  currentA?: number;
  colour?: Colour;
  sizeMm2?: number;
}

export interface PinRef {
  device: string;
  pin: string;
}

export interface Wire {
  number: string;
  net?: string;
  from?: PinRef;
  to?: PinRef;
  colour?: Colour;
  sizeMm2?: number;
  strand?: Strand;
  /** Library part to cut it from. */
  type?: string;
  /** Set when it is a conductor of a cable and therefore not a lead to be cut. */
  core?: { cable: string; core: string };
  when?: When;
}

export interface Cable {
  tag: string;
  type: string;
  outer?: number;
  /** Enclosure, or a place in words. */
  from?: string;
  to?: string;
  /** Gland it comes through; of a cable between two enclosures that of one end, `glandTo` that where it leads to. */
  gland?: string;
  glandTo?: string;
  cores: {
    core: string;
    colour?: Colour;
    sizeMm2?: number;
    from?: PinRef;
    to?: PinRef;
    far?: string;
    net?: string;
  }[];
  when?: When;
}

export interface Strip {
  tag: string;
  rail: string;
  members: string[];
  jumpers?: { row: number; members: string[]; part?: string }[];
  print?: Record<string, string>;
  splitAfter?: string[];
  /** Which side a conductor lies on, where a person said so: `wire 214`, `core 3 of -W7`. */
  sides?: Record<string, Side>;
  /**
   * Laid on its rail: distance of its first piece from the rail's start. Its members then stand where the strip says;
   * where it is absent, each stands where it says itself.
   */
  at?: number;
  /** Members that stay side by side in this order when another order is proposed. */
  groups?: string[][];
  /** Accessories that are hung, or left out, against the rules. */
  pieces?: StripPiece[];
}

export const ACCESSORIES = ["end stop", "end plate", "separator"] as const;
export type AccessoryKind = (typeof ACCESSORIES)[number];

export const CLIMATE_KINDS = ["cooling unit", "filter fan", "heater", "exchanger"] as const;
export type ClimateKind = (typeof CLIMATE_KINDS)[number];

/** One accessory at one place of a strip, said by hand. */
export interface StripPiece {
  kind: AccessoryKind;
  /** Member behind which it hangs; before the first one when absent. */
  behind?: string;
  /** Hung though no rule asks for it, or left out though one does. */
  hung: boolean;
}

/** Of a terminal: towards the field, or into the panel. */
export type Side = (typeof SIDES)[number];

export interface Option {
  key: string;
  text: string;
  choices: string[];
  chosen: string;
}

export const SIDES = ["inside", "outside"] as const;

export interface Attachment {
  name: string;
  kind: string;
  page?: number;
  for?: string;
}

/** How wires are led and how their cut length is made up. */
export interface RouteRules {
  slackMm: number;
  slackDoorMm: number;
  /** Thick wires get more slack for bending: from this size on … */
  bendFromMm2: number;
  /** … so many outer diameters an end. */
  bendDiameters: number;
  /** Of what a duct is wider inside than this, each end that enters it gets half more. */
  wideFromMm: number;
  /** From this cross-section on, wires change between ducts side by side only at ends and joints. */
  stiffFromMm2: number;
  /** On top of what the swing of the door needs. */
  loopHingeMm: number;
  /** How far a door opens that does not say it itself, degrees. */
  doorOpenDeg: number;
  loopWallMm: number;
  loopEdgeMm: number;
  reservePercent: number;
  stepMm: number;
  shortestLeadMm: number;
  /** From a pin or the end of a crossing to the outline of a duct. */
  reachMm: number;
  /** Half the width of the corridor in which a pin looks ahead. */
  corridorMm: number;
  /** A duct that is met is doubted when another one is nearer by more than this. */
  nearerMm: number;
  /** An end of a crossing farther off its duct, in the plane or in height, is doubted. */
  crossingOffMm: number;
  /** Between bodies nearer to each other than this no lead passes. */
  passGapMm: number;
  joinGapMm: number;
  watchGapMm: number;
  directReachMm: number;
  fillWatchPercent: number;
  fillLimitPercent: number;
  /** Longest extra way a wire may take to leave a full duct, or to stay clear of another class. 0: none. */
  detourMostMm: number;
  /** Pairs of classes that do not share a duct. The first of a pair chooses its way first. */
  apart: [NetClass, NetClass][];
  /** Where pins stand that nobody has drawn. */
  pins: PinPlaceRule[];
}

/** Those that a job can have of its own: where pins stand is the shop's to say. */
export type OwnRouteRules = Omit<RouteRules, "pins">;

export const PIN_EDGES = ["upper", "lower", "left", "right", "middle"] as const;
export const FIGURES = ["odd", "even"] as const;

/** Where a pin stands by its name. Absent fields match anything; the first row that fits counts. */
export interface PinPlaceRule {
  category?: Category;
  /** `*` stands for any letters, `?` for one. */
  name?: string;
  /** With which figure the name ends. */
  figure?: (typeof FIGURES)[number];
  /** In the middle of the body, and led to the nearest duct, where no edge is likely. */
  edge: (typeof PIN_EDGES)[number];
}

/** Which end treatment a conductor gets. Absent fields match anything; the first match counts. */
export interface EndRule {
  clamp?: Clamp;
  strand?: Strand;
  twin?: boolean;
  sizeMinMm2?: number;
  sizeMaxMm2?: number;
  end: EndTreatment;
}

export const END_TREATMENTS = ["ferrule", "twin ferrule", "ring", "fork", "plug", "bare"] as const;
export type EndTreatment = (typeof END_TREATMENTS)[number];

/** What heat is worked out with: a job's surroundings, what is wanted inside, and the figures of the shop. */
export interface HeatRules {
  heightM: number;
  outsideMinC: number;
  outsideMaxC: number;
  insideMinC: number;
  insideMaxC: number;
  /** The dampest air that is shut in before it gets cold. */
  dampC: number;
  dampPercent: number;
  diversity: number;
  /** Share of the losses that is there when it is coldest. */
  leastSharePercent: number;
  /** Missing losses: 0 counted as none, 1 as the median of like parts. */
  missingAsMedian: number;
  tariffPerKWh: number;
  /** Duty of a unit below which it runs in short cycles, and above which it has nothing left. */
  dutyLeastPercent: number;
  dutyMostPercent: number;
  smoothingMm: number;
  risingPercent: number;
  mixingWPerK: number;
  doorMostKg: number;
  /** Degree of protection that units must keep; 0: none is asked. */
  protectionIp: number;
}

export interface RuleOverrides {
  /**
   * `crossingLoopMm`: older files state one loop for crossings of every kind. `apartWeight`: older files state how far
   * a wire went for less way beside another class; it does not count any more.
   */
  routes?: Partial<OwnRouteRules> & { crossingLoopMm?: number; apartWeight?: number };
  classes?: Partial<Record<NetClass, { colour?: Colour; sizeMm2?: number }>>;
  ends?: EndRule[];
  heat?: Partial<HeatRules>;
}

export interface Design {
  format: typeof DESIGN_FORMAT;
  version: typeof DESIGN_VERSION;
  job: Job;
  enclosures: Enclosure[];
  faces: FaceOverride[];
  rails: Rail[];
  ducts: Duct[];
  crossings: Crossing[];
  parts: Part[];
  devices: Device[];
  nets: Net[];
  wires: Wire[];
  cables: Cable[];
  strips: Strip[];
  options: Option[];
  rules: RuleOverrides;
  attachments: Attachment[];
  /** Open points that somebody has looked at and lets stand. No stage reads this. */
  accepted?: Accepted[];
}

/** By id and text: a point whose cause has changed says something else, and is open again. */
export interface Accepted {
  point: string;
  text: string;
  why: string;
  who: string;
  /** What was named anew since, old name and new: the point is the same one with the new name in its text. */
  names?: [string, string][];
}
