/**
 * The design: everything the shop receives about one job, at one revision. Its types are made of its form, which says
 * of each field what it is: see `schema.ts`.
 */
export * from "./lists";
export type {
  Accepted,
  Cable,
  Crossing,
  CrossingEnd,
  Design,
  Device,
  Duct,
  Enclosure,
  FaceOverride,
  Hole,
  Job,
  Mount,
  NamedAttachment,
  Net,
  Option,
  Part,
  Perforation,
  Pin,
  PinRef,
  Place,
  Rail,
  Slot,
  Strip,
  StripPiece,
  When,
  Wire,
} from "./schema";
