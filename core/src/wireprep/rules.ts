import { FIELDS, LEAD_FIELDS, parseWith } from "../design/pattern";
import { END_TREATMENTS, type EndTreatment } from "../design/lists";
import {
  countRule,
  namedAgain,
  sameAgain,
  percentRule,
  type NumberRule,
  type Row,
  type RowNote,
  type TextRule,
  tableRule as table,
  textRule,
  type RulesFor,
  type StageRules,
} from "../shop/rule-kinds";

/** What the shop decides about leads: material for their ends, labels, machines, times, reels. */
export interface PrepRules {
  /** What is written on the end a lead comes from, and on the one it goes to. */
  labelFrom: string;
  labelTo: string;
  /** Of how many bundles leads may lie mixed; they are sorted apart at the bench. */
  mixed: number;
  /** So many leads may hang together by shared crimps on a machine. */
  chainMost: number;
  reelEndM: number;
  reelWastePercent: number;
  cutS: number;
  stripS: number;
  crimpS: number;
  markS: number;
  handCutS: number;
  handStripS: number;
  handCrimpS: number;
  handMarkS: number;
  hourPrice: number;
  pieces: readonly EndPiece[];
  labels: readonly LabelRow[];
  machines: readonly PrepMachine[];
  profiles: readonly Profile[];
  columns: readonly ProfileColumn[];
  codes: readonly ProfileCode[];
  reels: readonly ReelRow[];
}

/** What goes on an end: by treatment and size the first row that fits. */
export interface EndPiece {
  end: Exclude<EndTreatment, "bare">;
  sizeMinMm2?: number;
  sizeMaxMm2?: number;
  part: string;
  /** Colour of its sleeve, in words. */
  sleeve?: string;
  /** Length to strip for it. */
  stripMm: number;
  /** A clamp takes it only if it takes this cross-section; that of the wire when absent. */
  needsMm2?: number;
}

export const LABEL_ON = ["printed", "sleeve", "flag", "none"] as const;
export type LabelOn = (typeof LABEL_ON)[number];

/** How ends of a size are labelled, and how many signs that holds; the first row that fits. */
export interface LabelRow {
  sizeMaxMm2?: number;
  on: LabelOn;
  holds: number;
}

export interface PrepMachine {
  name: string;
  sizeMinMm2: number;
  sizeMaxMm2: number;
  shortestMm: number;
  longestMm: number;
  /** Lengths it strips; any when absent. */
  stripMinMm?: number;
  stripMaxMm?: number;
  ferrules?: boolean;
  twins?: boolean;
  rings?: boolean;
  forks?: boolean;
  plugs?: boolean;
  prints?: boolean;
  /** How its files are written; without one it is given none. */
  profile?: string;
  /** Change of the reel, of what is put on an end; each lead; each metre. s */
  reelS: number;
  endS: number;
  leadS: number;
  metreS: number;
}

export const FILE_KINDS = ["csv", "xml"] as const;
export const FILE_UNITS = ["mm", "0.1 mm", "in"] as const;
export const ENCODINGS = ["utf-8", "latin-1"] as const;

/** How the file of a machine is written. */
export interface Profile {
  profile: string;
  as: (typeof FILE_KINDS)[number];
  unit: (typeof FILE_UNITS)[number];
  encoding: (typeof ENCODINGS)[number];
  /** Of CSV: between two cells, `;` or `tab`; the sign in numbers; a line of names first; lines end with CR LF. */
  separator?: string;
  decimal?: string;
  heads?: boolean;
  crlf?: boolean;
  /** Of XML: the elements of the list and of one lead. */
  list?: string;
  lead?: string;
}

export const COLUMN_KINDS = ["text", "number", "whole"] as const;

/** A column of such a file, from left to right: its name, and a pattern for what stands in it. */
export interface ProfileColumn {
  profile: string;
  name: string;
  as: (typeof COLUMN_KINDS)[number];
  value: string;
}

export const CODED = ["end", "strand", "colour"] as const;

/** What a machine calls something; what has no row is called as we do. */
export interface ProfileCode {
  profile: string;
  of: (typeof CODED)[number];
  ours: string;
  theirs: string;
}

/** A reel that is there. */
export interface ReelRow {
  reel: string;
  part: string;
  metres: number;
}

/** A pattern for a label. */
const text = (value: string, said: string, why: string): TextRule => ({
  ...textRule(value, 80, said, why),
  fields: FIELDS,
});

const named = { as: "text", most: 60 } as const;
const size = { as: "number", unit: "mm²", min: 0.01, max: 1000 } as const;
const seconds = { as: "number", unit: "s", min: 0, max: 100_000, needed: true } as const;
const s = (value: number, said: string, why: string): NumberRule => countRule(value, 100_000, said, why, "s");

/** Sleeve colours of DIN 46228-4; lengths to strip of the common long barrels. */
const FERRULES: readonly [mm2: number, sleeve: string, stripMm: number][] = [
  [0.5, "white", 10],
  [0.75, "grey", 10],
  [1, "red", 10],
  [1.5, "black", 10],
  [2.5, "blue", 10],
  [4, "grey", 12],
  [6, "yellow", 14],
  [10, "red", 14],
  [16, "blue", 14],
  [25, "yellow", 18],
  [35, "red", 18],
];
const TWIN_UP_TO = 16;
const LUGS = [0.5, 1.5, 2.5, 6, 10, 16, 25, 35, 50, 70, 95] as const;

const PIECES: readonly EndPiece[] = [
  ...FERRULES.map(([mm2, sleeve, stripMm], i): EndPiece => ({
    end: "ferrule",
    ...(i > 0 ? { sizeMinMm2: FERRULES[i - 1]![0] + 0.01 } : {}),
    sizeMaxMm2: mm2,
    part: `S-F${mm2}`,
    sleeve,
    stripMm,
  })),
  ...FERRULES.filter(([mm2]) => mm2 <= TWIN_UP_TO).map(([mm2, sleeve, stripMm], i): EndPiece => ({
    end: "twin ferrule",
    ...(i > 0 ? { sizeMinMm2: FERRULES[i - 1]![0] + 0.01 } : {}),
    sizeMaxMm2: mm2,
    part: `S-T${mm2}`,
    sleeve,
    stripMm: stripMm + 2,
    // Two wires side by side want a clamp for as much as both.
    needsMm2: Math.round(mm2 * 1.6 * 10) / 10,
  })),
  ...LUGS.flatMap((mm2, i): EndPiece[] =>
    (["ring", "fork"] as const).map((end) => ({
      end,
      ...(i > 0 ? { sizeMinMm2: LUGS[i - 1]! + 0.01 } : {}),
      sizeMaxMm2: mm2,
      part: `S-${end === "ring" ? "R" : "K"}${mm2}`,
      stripMm: mm2 <= 2.5 ? 7 : mm2 <= 16 ? 12 : 18,
    })),
  ),
  { end: "plug", sizeMaxMm2: 0.5, part: "S-P0.5", stripMm: 5 },
  { end: "plug", sizeMinMm2: 0.51, sizeMaxMm2: 2.5, part: "S-P2.5", stripMm: 6 },
];

const column =
  (profile: string) =>
  ([name, as, value]: readonly [string, ProfileColumn["as"], string]): ProfileColumn => ({ profile, name, as, value });

/** A list for a machine that counts in tenths of millimetres. */
const SEDGELEY = (
  [
    ["No", "whole", "{order}"],
    ["Wire", "text", "{wire}"],
    ["Material", "text", "{type}"],
    ["Section", "number", "{size}"],
    ["Colour", "text", "{colour}"],
    ["Length", "whole", "{length}"],
    ["StripA", "whole", "{from_strip}"],
    ["EndA", "text", "{from_end}"],
    ["PartA", "text", "{from_part}"],
    ["TextA", "text", "{from_label}"],
    ["StripB", "whole", "{to_strip}"],
    ["EndB", "text", "{to_end}"],
    ["PartB", "text", "{to_part}"],
    ["TextB", "text", "{to_label}"],
    ["Bundle", "text", "{bundle}"],
  ] as const
).map(column("Sedgeley list"));

/** Orders for a machine that reads XML. */
const BRACK = (
  [
    ["id", "text", "{batch}/{wire}"],
    ["pos", "whole", "{order}"],
    ["wire", "text", "{wire}"],
    ["reel", "text", "{type}"],
    ["mm2", "number", "{size}"],
    ["strand", "text", "{strand}"],
    ["colour", "text", "{colour}"],
    ["mm", "number", "{length}"],
    ["left", "text", "{from_end}[ {from_part}]"],
    ["left_strip", "number", "{from_strip}"],
    ["left_text", "text", "{from_label}"],
    ["right", "text", "{to_end}[ {to_part}]"],
    ["right_strip", "number", "{to_strip}"],
    ["right_text", "text", "{to_label}"],
    ["pair", "text", "{pair}"],
  ] as const
).map(column("Brack orders"));

/** Rows of which one above fits all they fit. */
function covered(rows: readonly Row[]): RowNote[] {
  const least = (r: Row): number => (r.sizeMinMm2 as number | undefined) ?? 0;
  const most = (r: Row): number => (r.sizeMaxMm2 as number | undefined) ?? Infinity;
  return rows.flatMap((row, i): RowNote[] => {
    const by = rows.findIndex((o, k) => k < i && o.end === row.end && least(o) <= least(row) && most(o) >= most(row));
    return by < 0 ? [] : [{ row: i, by, text: "never reached: a row above fits all it fits" }];
  });
}

export const PREP_RULES: RulesFor<PrepRules> = {
  labelFrom: text(
    "{wire}",
    "label where a lead comes from",
    "A pattern: fields in braces, what may be left out in brackets.",
  ),
  labelTo: text(
    "{wire}",
    "label where a lead goes to",
    "A pattern: fields in braces, what may be left out in brackets.",
  ),
  mixed: countRule(
    12,
    1000,
    "bundles that may lie mixed",
    "1: leads come bundle by bundle as they are wired; more saves change-over, and is sorted apart at the bench. 0: as little change-over as can be.",
    "",
  ),
  chainMost: countRule(
    2,
    1000,
    "leads that may be crimped together",
    "Longer strings are parted at a clamp, where the bench puts the twin ferrule on: one bad crimp throws all away that hangs together. 1: none on a machine.",
    "",
    1,
  ),
  reelEndM: countRule(0.5, 100, "end of a reel that is not used", "What the machine cannot feed any more.", "m"),
  reelWastePercent: percentRule(
    2,
    "waste of wire on the machine",
    "Scrap and test leads, put on what is taken from reels.",
  ),
  cutS: s(6, "cutting a lead at the bench", "With the cutter, by its length."),
  stripS: s(4, "stripping an end at the bench", "With the stripper."),
  crimpS: s(5, "crimping an end at the bench", "With the crimper."),
  markS: s(6, "labelling an end at the bench", "With labels from the printer."),
  handCutS: s(25, "measuring and cutting by hand", "With the tape, in the panel."),
  handStripS: s(8, "stripping an end by hand", "With pliers."),
  handCrimpS: s(12, "crimping an end by hand", "With pliers, the piece looked for."),
  handMarkS: s(20, "labelling an end by hand", "Written, or looked for in a book of numbers."),
  hourPrice: countRule(55, 100_000, "an hour of work costs", "What is saved is told in money by it.", ""),
  pieces: table<EndPiece>(
    {
      text: "what goes on an end",
      why: "By treatment and cross-section; the first row that fits says part, sleeve and length to strip.",
      source: "shop default, sleeve colours after DIN 46228-4",
    },
    [
      {
        key: "end",
        label: "Treatment",
        as: "choice",
        choices: END_TREATMENTS.filter((e) => e !== "bare"),
        needed: true,
      },
      { key: "sizeMinMm2", label: "From", ...size, role: "from" },
      { key: "sizeMaxMm2", label: "To", ...size, role: "to" },
      { key: "part", label: "Part", ...named, needed: true, role: "result" },
      { key: "sleeve", label: "Sleeve", ...named, role: "result" },
      { key: "stripMm", label: "Strip", as: "number", unit: "mm", min: 0, max: 200, needed: true, role: "result" },
      { key: "needsMm2", label: "Clamp for", ...size, role: "result" },
    ],
    PIECES,
    covered,
  ),
  labels: table<LabelRow>(
    {
      text: "labels of ends",
      why: "How ends of a cross-section are labelled, and how many signs that holds; the first row that fits.",
    },
    [
      { key: "sizeMaxMm2", label: "To", ...size, role: "to" },
      { key: "on", label: "On", as: "choice", choices: LABEL_ON, needed: true, role: "result" },
      { key: "holds", label: "Signs", as: "number", min: 0, max: 200, needed: true, role: "result" },
    ],
    [
      { sizeMaxMm2: 0.5, on: "sleeve", holds: 10 },
      { sizeMaxMm2: 6, on: "printed", holds: 24 },
      { on: "flag", holds: 24 },
    ],
  ),
  machines: table<PrepMachine>(
    { text: "machines for leads", why: "What each can make, and how long it takes." },
    [
      { key: "name", label: "Machine", ...named, needed: true },
      { key: "sizeMinMm2", label: "From", ...size, needed: true },
      { key: "sizeMaxMm2", label: "To", ...size, needed: true },
      { key: "shortestMm", label: "Shortest", as: "number", unit: "mm", min: 0, max: 100_000, needed: true },
      { key: "longestMm", label: "Longest", as: "number", unit: "mm", min: 0, max: 100_000, needed: true },
      { key: "stripMinMm", label: "Strips from", as: "number", unit: "mm", min: 0, max: 500 },
      { key: "stripMaxMm", label: "Strips to", as: "number", unit: "mm", min: 0, max: 500 },
      ...(["ferrules", "twins", "rings", "forks", "plugs", "prints"] as const).map((key) => ({
        key,
        label: key === "prints" ? "Prints" : key[0]!.toUpperCase() + key.slice(1),
        as: "flag" as const,
      })),
      { key: "profile", label: "Files as", ...named },
      { key: "reelS", label: "Reel change", ...seconds },
      { key: "endS", label: "End change", ...seconds },
      { key: "leadS", label: "A lead", ...seconds },
      { key: "metreS", label: "A metre", ...seconds },
    ],
    [
      {
        name: "Sedgeley",
        sizeMinMm2: 0.25,
        sizeMaxMm2: 6,
        shortestMm: 80,
        longestMm: 20_000,
        stripMinMm: 3,
        stripMaxMm: 20,
        ferrules: true,
        prints: true,
        profile: "Sedgeley list",
        reelS: 60,
        endS: 45,
        leadS: 3.2,
        metreS: 0.6,
      },
      {
        name: "Brack 2",
        sizeMinMm2: 0.5,
        sizeMaxMm2: 16,
        shortestMm: 120,
        longestMm: 12_000,
        stripMinMm: 3,
        stripMaxMm: 20,
        ferrules: true,
        twins: true,
        rings: true,
        prints: true,
        profile: "Brack orders",
        reelS: 60,
        endS: 45,
        leadS: 5,
        metreS: 0.9,
      },
    ],
    (rows) => namedAgain(rows, "name", "a machine of this name has a row above, which counts"),
  ),
  profiles: table<Profile>(
    {
      text: "files of machines",
      why: "How the file of a machine is written; its columns and codes stand in the tables below.",
    },
    [
      { key: "profile", label: "Profile", ...named, needed: true },
      { key: "as", label: "Kind", as: "choice", choices: FILE_KINDS, needed: true },
      { key: "unit", label: "Lengths in", as: "choice", choices: FILE_UNITS, needed: true },
      { key: "encoding", label: "Encoding", as: "choice", choices: ENCODINGS, needed: true },
      { key: "separator", label: "Between cells", as: "text", most: 3 },
      { key: "decimal", label: "Decimal sign", as: "text", most: 1 },
      { key: "heads", label: "Names first", as: "flag" },
      { key: "crlf", label: "CR LF", as: "flag" },
      { key: "list", label: "List element", ...named },
      { key: "lead", label: "Lead element", ...named },
    ],
    [
      {
        profile: "Sedgeley list",
        as: "csv",
        unit: "0.1 mm",
        encoding: "latin-1",
        separator: ";",
        decimal: ",",
        heads: true,
        crlf: true,
      },
      { profile: "Brack orders", as: "xml", unit: "mm", encoding: "utf-8", list: "orders", lead: "order" },
    ],
    (rows) => namedAgain(rows, "profile", "this profile has a row above, which counts"),
  ),
  columns: table<ProfileColumn>(
    {
      text: "columns of these files",
      why: "From left to right: a name, and a pattern for what stands in it, with the fields of a lead.",
    },
    [
      { key: "profile", label: "Profile", ...named, needed: true },
      { key: "name", label: "Column", ...named, needed: true },
      { key: "as", label: "Kind", as: "choice", choices: COLUMN_KINDS, needed: true },
      { key: "value", label: "Pattern", as: "text", most: 200, needed: true, role: "result" },
    ],
    [...SEDGELEY, ...BRACK],
    (rows) => [
      ...rows.flatMap((row, i): RowNote[] => {
        const parsed = parseWith(String(row.value ?? ""), LEAD_FIELDS);
        return parsed.ok ? [] : [{ row: i, by: i, text: `sign ${parsed.at + 1}: ${parsed.reason}` }];
      }),
      ...sameAgain(rows, "the same as a row above: it is written twice"),
    ],
  ),
  codes: table<ProfileCode>(
    {
      text: "what machines call things",
      why: "Treatments, strand classes and colours; what has no row is called as we do.",
    },
    [
      { key: "profile", label: "Profile", ...named, needed: true },
      { key: "of", label: "Of", as: "choice", choices: CODED, needed: true },
      { key: "ours", label: "Ours", ...named, needed: true },
      { key: "theirs", label: "Theirs", ...named, needed: true, role: "result" },
    ],
    [
      ...(
        [
          ["bare", "0"],
          ["ferrule", "10"],
          ["twin ferrule", "12"],
          ["ring", "20"],
          ["fork", "21"],
          ["plug", "30"],
        ] as const
      ).map(([ours, theirs]): ProfileCode => ({ profile: "Sedgeley list", of: "end", ours, theirs })),
      { profile: "Brack orders", of: "end", ours: "bare", theirs: "none" },
      { profile: "Brack orders", of: "end", ours: "twin ferrule", theirs: "double" },
      { profile: "Brack orders", of: "colour", ours: "GNYE", theirs: "GN-YE" },
    ],
  ),
  reels: table<ReelRow>(
    {
      text: "reels that are there",
      why: "Rests that are used first; full reels are as long as the pack of their wire.",
    },
    [
      { key: "reel", label: "Reel", ...named, needed: true },
      { key: "part", label: "Wire", ...named, needed: true },
      { key: "metres", label: "Metres left", as: "number", unit: "m", min: 0, max: 100_000, needed: true },
    ],
    [],
  ),
};

/** Its rules, as they stand in the shop. */
export interface WireprepInShop {
  wireprep: PrepRules;
}

export const RULES: StageRules = { stage: "wireprep", rules: { wireprep: PREP_RULES } };
