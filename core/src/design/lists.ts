/** What is chosen from a list in a design: the lists, and the types of what stands in them. */

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

export const SURFACE_STATES = ["free", "covered", "neighbour"] as const;
export type SurfaceState = (typeof SURFACE_STATES)[number];

/** Which side of a sheet is up. */
export const SEEN = ["outside", "inside"] as const;
export type Seen = (typeof SEEN)[number];

/** What becomes of a pattern of screws: not drilled here, or all its round and threaded holes made in one way. */
export const FIXINGS = ["not drilled", "through", "tapped", "rivet nut", "marked"] as const;
export type Fixing = (typeof FIXINGS)[number];

export const BAR_ENDS = ["start", "end"] as const;
export type BarEnd = (typeof BAR_ENDS)[number];

export const RUNS = ["right", "up"] as const;
export type Run = (typeof RUNS)[number];

export const TURNS = [0, 90, 180, 270] as const;
export type Turn = (typeof TURNS)[number];

/** What is hung on a rail between terminals. */
export const ACCESSORIES = ["end stop", "end plate", "separator"] as const;
export type AccessoryKind = (typeof ACCESSORIES)[number];

export const CLIMATE_KINDS = ["cooling unit", "filter fan", "heater", "exchanger"] as const;
export type ClimateKind = (typeof CLIMATE_KINDS)[number];

export const SIDES = ["inside", "outside"] as const;
/** Of a terminal: towards the field, or into the panel. */
export type Side = (typeof SIDES)[number];

export const END_TREATMENTS = ["ferrule", "twin ferrule", "ring", "fork", "plug", "bare"] as const;
export type EndTreatment = (typeof END_TREATMENTS)[number];
