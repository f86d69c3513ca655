import { CATEGORIES, type Category } from "../design/lists";
import {
  countRule,
  lengthRule,
  namedAgain,
  sameAgain,
  percentRule,
  type Row,
  type RowNote,
  type TextRule,
  tableRule as table,
  textRule,
  type RulesFor,
  type StageRules,
} from "../shop/rule-kinds";

/** What the shop decides about kits: build steps, what goes with what, what fixes what, the store and the ways through it. */
export interface KitRules {
  wireWastePercent: number;
  /** Pieces from this weight, and from this length, are a kit of their own. */
  heavyKg: number;
  longMm: number;
  /** 1: a kit for each enclosure; 0: one for the whole job. */
  apart: number;
  /** 1: enclosures that need the same for a step share a kit. */
  alike: number;
  /** Days before a job is due on which its kits are wanted. */
  daysBefore: number;
  /** Where a walk begins and ends. */
  start: string;
  end: string;
  steps: readonly StepRow[];
  screws: readonly ScrewRow[];
  along: readonly AlongRow[];
  articles: readonly Article[];
  open: readonly Beginning[];
  packs: readonly Beginning[];
  aisles: readonly Aisle[];
  places: readonly StorePlace[];
  plan: readonly PlanPlace[];
}

export const BUILD_WHERE = ["other faces", "plate", "door", "strips", "wiring", "loose"] as const;
export type BuildWhere = (typeof BUILD_WHERE)[number];

/** The step of a thing: by where it goes, what it is, how its number or its text begins. The first row that fits counts. */
export interface StepRow {
  where?: BuildWhere;
  category?: Category;
  begins?: string;
  step: string;
}

export const SCREW_MADE = ["tapped", "through", "rivet nut", "marked"] as const;
export type ScrewMade = (typeof SCREW_MADE)[number];

/** What goes into one hole for a screw. */
export interface ScrewRow {
  made: ScrewMade;
  /** Any when absent. */
  thread?: string;
  screw: string;
  also?: string;
}

export const ALONG_TO = ["device", "strip member", "wire", "cable", "enclosure", "spare gland"] as const;
export type AlongTo = (typeof ALONG_TO)[number];

/** What comes along with each thing of a kind; every row that fits counts. */
export interface AlongRow {
  to: AlongTo;
  category?: Category;
  begins?: string;
  article: string;
  each: number;
}

/** What the shop knows of things that stand in no library: screws, ferrules, labels. */
export interface Article {
  article: string;
  number?: string;
  place?: string;
  pack?: number;
  weightKg?: number;
}

/** How numbers or texts begin. */
export interface Beginning {
  begins: string;
}

/** A way between two places of the store, both ways. */
export interface Aisle {
  from: string;
  to: string;
  metres: number;
}

/** Where stock places that begin so are reached: at a place of the ways, so far from it. */
export interface StorePlace {
  begins: string;
  at: string;
  metres: number;
}

export const SHELF_RUNS = ["up", "down", "left", "right"] as const;

/** Where a place of the ways lies on the plan of the store, and which way its shelf runs from there. Metres, y up. */
export interface PlanPlace {
  at: string;
  x: number;
  y: number;
  shelf?: (typeof SHELF_RUNS)[number];
}

const text = (value: string, said: string, why: string): TextRule => textRule(value, 40, said, why);

/** Rows of which one above fits all they fit: they are never reached. */
const neverReached =
  (fields: readonly string[]) =>
  (rows: readonly Row[]): RowNote[] =>
    rows.flatMap((row, i): RowNote[] => {
      const by = rows.findIndex(
        (other, k) =>
          k < i &&
          fields.every((f) => {
            const [wide, narrow] = [other[f], row[f]];
            if (wide === undefined) return true;
            return f === "begins" ? typeof narrow === "string" && narrow.startsWith(String(wide)) : wide === narrow;
          }),
      );
      return by < 0 ? [] : [{ row: i, by, text: "never reached: a row above fits all it fits" }];
    });

const named = { as: "text", most: 60 } as const;
const category = { key: "category", label: "Category", as: "choice", choices: CATEGORIES } as const;
const begins = { key: "begins", label: "Begins", ...named } as const;

/** A store of four racks along one aisle and one for reels, shelves of two metres. */
const RACKS = ["A", "B", "C", "D", "R"] as const;

/** What a shop takes from open bins: sizes of ferrules, screws. Its labels and markers lie at the end of the store. */
const ARTICLES: readonly Article[] = [
  { article: "enclosure *", place: "yard" },
  { article: "mounting plate *", place: "yard" },
  { article: "marker", number: "S-MARK", place: "R-08-01", pack: 100 },
  { article: "device label", number: "S-LABD", place: "R-08-02", pack: 50 },
  { article: "wire label", number: "S-LABW", place: "R-08-03", pack: 500 },
  { article: "cable label", number: "S-LABC", place: "R-08-04", pack: 50 },
  { article: "blind plug", number: "S-PLUG", place: "C-05-09", pack: 10 },
];

export const KIT_RULES: RulesFor<KitRules> = {
  wireWastePercent: percentRule(5, "waste of wire", "Put on the metres of every type."),
  heavyKg: countRule(15, 1000, "a kit of its own from a weight of", "What one does not carry beside others.", "kg"),
  longMm: lengthRule(1200, "a kit of its own from a length of", "What does not go into a bin."),
  apart: countRule(
    1,
    1,
    "a kit for each enclosure",
    "1: each enclosure has its kits; 0: one kit a step for the whole job.",
    "",
  ),
  alike: countRule(
    1,
    1,
    "equal enclosures share a kit",
    "1: enclosures that need just the same for a step are picked at once.",
    "",
  ),
  daysBefore: countRule(
    10,
    365,
    "kits are wanted before the job is due",
    "Against deliveries it counts what is there by then.",
    "days",
  ),
  start: text("desk", "a walk through the store begins at", "A place of the ways."),
  end: text("desk", "a walk through the store ends at", "A place of the ways."),
  steps: table<StepRow>(
    {
      text: "build steps",
      why: "Which step things belong to, by where they go, what they are and how their number or text begins; the first row that fits counts.",
    },
    [
      { key: "where", label: "What goes", as: "choice", choices: BUILD_WHERE },
      category,
      begins,
      { key: "step", label: "Step", ...named, needed: true, role: "result" },
    ],
    [
      { where: "other faces", step: "enclosure work" },
      { where: "plate", step: "plate" },
      { where: "door", step: "door" },
      { where: "strips", step: "strips" },
      { where: "wiring", step: "wiring" },
      { where: "loose", step: "loose delivery" },
    ],
    neverReached(["where", "category", "begins"]),
  ),
  screws: table<ScrewRow>(
    { text: "what fixes what", why: "What goes into each hole for a screw; the first row that fits counts." },
    [
      { key: "made", label: "Hole", as: "choice", choices: SCREW_MADE, needed: true },
      { key: "thread", label: "Thread", ...named, most: 12 },
      { key: "screw", label: "Screw", ...named, needed: true, role: "result" },
      { key: "also", label: "And", ...named, role: "result" },
    ],
    [
      { made: "tapped", thread: "M4", screw: "screw M4 × 8" },
      { made: "tapped", thread: "M5", screw: "screw M5 × 10" },
      { made: "tapped", thread: "M6", screw: "screw M6 × 12" },
      { made: "through", thread: "M5", screw: "screw M5 × 16", also: "nut M5" },
      { made: "through", thread: "M6", screw: "screw M6 × 20", also: "nut M6" },
      { made: "rivet nut", thread: "M5", screw: "screw M5 × 10", also: "rivet nut M5" },
      { made: "rivet nut", thread: "M6", screw: "screw M6 × 12", also: "rivet nut M6" },
      { made: "marked", screw: "screw 4.8 × 13, drills itself" },
    ],
    neverReached(["made", "thread"]),
  ),
  along: table<AlongRow>(
    {
      text: "what goes with what",
      why: "Labels, markers and accessories for each thing of a kind; every row that fits counts.",
    },
    [
      { key: "to", label: "For each", as: "choice", choices: ALONG_TO, needed: true },
      category,
      begins,
      { key: "article", label: "Article", ...named, needed: true, role: "result" },
      { key: "each", label: "Pieces", as: "number", min: 0, max: 1000, needed: true, role: "result" },
    ],
    [
      { to: "device", article: "device label", each: 1 },
      { to: "strip member", article: "marker", each: 1 },
      { to: "wire", article: "wire label", each: 2 },
      { to: "cable", article: "cable label", each: 2 },
      { to: "spare gland", article: "blind plug", each: 1 },
    ],
    (rows) => sameAgain(rows, "the same as a row above: both count"),
  ),
  articles: table<Article>(
    {
      text: "articles of the shop",
      why: "Number, place and pack of what stands in no library: screws, ferrules, labels; * at the end of a name stands for anything. The first row that fits counts.",
    },
    [
      { key: "article", label: "Article", ...named, needed: true },
      { key: "number", label: "Number", ...named, role: "result" },
      { key: "place", label: "Place", ...named, role: "result" },
      { key: "pack", label: "Pack", as: "number", min: 0.001, max: 1_000_000, role: "result" },
      { key: "weightKg", label: "Weight", as: "number", unit: "kg", min: 0, max: 100_000, role: "result" },
    ],
    ARTICLES,
    (rows) => namedAgain(rows, "article", "this article has a row above, which counts"),
  ),
  open: table<Beginning>(
    { text: "taken from open bins", why: "Parts whose number or text begins so are not picked into kits." },
    [{ ...begins, needed: true }],
    [
      { begins: "screw" },
      { begins: "nut" },
      { begins: "rivet nut" },
      ...["ferrule", "twin ferrule", "ring", "fork", "plug"].map((e) => ({ begins: `${e} ` })),
    ],
    (rows) => namedAgain(rows, "begins", "a row above says the same"),
  ),
  packs: table<Beginning>(
    {
      text: "issued in whole packs",
      why: "Parts whose number or text begins so leave the store in whole packs; the remainder comes back.",
    },
    [{ ...begins, needed: true }],
    [{ begins: "marker" }, { begins: "device label" }, { begins: "wire label" }, { begins: "cable label" }],
    (rows) => namedAgain(rows, "begins", "a row above says the same"),
  ),
  aisles: table<Aisle>(
    { text: "ways through the store", why: "Between its places, walked both ways." },
    [
      { key: "from", label: "From", ...named, needed: true },
      { key: "to", label: "To", ...named, needed: true },
      { key: "metres", label: "Metres", as: "number", unit: "m", min: 0, max: 10_000, needed: true },
    ],
    [
      { from: "desk", to: "rack A", metres: 6 },
      { from: "desk", to: "yard", metres: 14 },
      ...RACKS.slice(1).map((rack, i) => ({ from: `rack ${RACKS[i]!}`, to: `rack ${rack}`, metres: 4 })),
    ],
  ),
  places: table<StorePlace>(
    { text: "where stock places are", why: "The row with the longest beginning that fits a stock place counts." },
    [
      { key: "begins", label: "Place begins", ...named, needed: true },
      { key: "at", label: "Reached at", ...named, needed: true },
      { key: "metres", label: "So far from it", as: "number", unit: "m", min: 0, max: 1000, needed: true },
    ],
    [
      { begins: "yard", at: "yard", metres: 0 },
      ...RACKS.flatMap((rack) => [
        { begins: `${rack}-`, at: `rack ${rack}`, metres: 1 },
        ...Array.from({ length: 12 }, (_, i) => ({
          begins: `${rack}-${String(i + 1).padStart(2, "0")}-`,
          at: `rack ${rack}`,
          metres: 2 * (i + 1),
        })),
      ]),
    ],
    (rows) => namedAgain(rows, "begins", "this beginning has a row above, which counts"),
  ),
  plan: table<PlanPlace>(
    {
      text: "plan of the store",
      why: "Where its places lie, so that walks can be drawn; nothing is measured on it.",
    },
    [
      { key: "at", label: "Place", ...named, needed: true },
      { key: "x", label: "To the right", as: "number", unit: "m", min: -10_000, max: 10_000, needed: true },
      { key: "y", label: "Up", as: "number", unit: "m", min: -10_000, max: 10_000, needed: true },
      { key: "shelf", label: "Shelf runs", as: "choice", choices: SHELF_RUNS },
    ],
    [
      { at: "yard", x: -14, y: 0 },
      { at: "desk", x: 0, y: 0 },
      ...RACKS.map((rack, i) => ({ at: `rack ${rack}`, x: 6 + 4 * i, y: 0, shelf: "up" as const })),
    ],
    (rows) => namedAgain(rows, "at", "this place has a row above, which counts"),
  ),
};

/** Its rules, as they stand in the shop. */
export interface KitsInShop {
  kits: KitRules;
}

export const RULES: StageRules = { stage: "kits", rules: { kits: KIT_RULES } };
