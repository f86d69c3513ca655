import {
  countRule,
  lengthRule,
  percentRule,
  SHOP,
  type NumberRule,
  type Row,
  type TableRule,
  type TextRule,
} from "./rule-kinds";

/** What the shop decides about kits: build steps, what fixes what, the store and the ways through it. */
export interface KitRules {
  wireWastePercent: number;
  /** Pieces from this weight, and from this length, are a kit of their own. */
  heavyKg: number;
  longMm: number;
  /** Where a walk begins and ends. */
  start: string;
  end: string;
  steps: readonly StepRow[];
  screws: readonly ScrewRow[];
  ends: readonly EndPartRow[];
  open: readonly { begins: string }[];
  aisles: readonly Aisle[];
  places: readonly StorePlace[];
}

export const BUILD_WHERE = ["plate", "door", "other faces", "strips", "wiring", "loose"] as const;
export type BuildWhere = (typeof BUILD_WHERE)[number];

export interface StepRow {
  where: BuildWhere;
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

/** The article for an end of a wire. */
export interface EndPartRow {
  end: string;
  sizeMm2: number;
  part: string;
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

const text = (value: string, said: string, why: string): TextRule => ({
  as: "text",
  default: value,
  most: 40,
  text: said,
  why,
  source: SHOP,
});

const table = <T>(
  said: { text: string; why: string },
  columns: TableRule["columns"],
  rows: readonly T[],
): TableRule<readonly T[]> => ({
  as: "table",
  source: SHOP,
  ...said,
  ordered: true,
  columns,
  default: rows,
  rows: (list) => list.map((row) => ({ ...row }) as Row),
  value: (list) => list.map((row) => row as unknown as T),
  check: () => [],
});

const named = { as: "text", most: 60 } as const;

/** A store of four racks along one aisle, shelves of two metres. */
const RACKS = ["A", "B", "C", "D", "R"] as const;

export const KIT_RULES: {
  readonly [K in keyof KitRules]: KitRules[K] extends number
    ? NumberRule
    : KitRules[K] extends string
      ? TextRule
      : TableRule<KitRules[K]>;
} = {
  wireWastePercent: percentRule(5, "waste of wire", "Put on the metres of every type."),
  heavyKg: countRule(15, 1000, "a kit of its own from a weight of", "What one does not carry beside others.", "kg"),
  longMm: lengthRule(1200, "a kit of its own from a length of", "What does not go into a bin."),
  start: text("desk", "a walk through the store begins at", "A place of the ways."),
  end: text("desk", "a walk through the store ends at", "A place of the ways."),
  steps: table<StepRow>(
    { text: "build steps", why: "Which step things belong to, by where they go." },
    [
      { key: "where", label: "What goes", as: "choice", choices: BUILD_WHERE, needed: true },
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
  ),
  ends: table<EndPartRow>(
    {
      text: "articles for ends of wires",
      why: "By treatment and cross-section; without a row the end stands in the bill by its name.",
    },
    [
      { key: "end", label: "Treatment", ...named, needed: true },
      { key: "sizeMm2", label: "Size", as: "number", unit: "mm²", min: 0.01, max: 1000, needed: true },
      { key: "part", label: "Part", ...named, needed: true, role: "result" },
    ],
    [],
  ),
  open: table<{ begins: string }>(
    { text: "taken from open bins", why: "Parts whose number or text begins so are not picked into kits." },
    [{ key: "begins", label: "Begins", ...named, needed: true }],
    [{ begins: "screw" }, { begins: "nut" }, { begins: "rivet nut" }, { begins: "ferrule" }],
  ),
  aisles: table<Aisle>(
    { text: "ways through the store", why: "Between its places, walked both ways." },
    [
      { key: "from", label: "From", ...named, needed: true },
      { key: "to", label: "To", ...named, needed: true },
      { key: "metres", label: "Metres", as: "number", min: 0, max: 10_000, needed: true },
    ],
    [
      { from: "desk", to: "rack A", metres: 6 },
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
    RACKS.flatMap((rack) => [
      { begins: `${rack}-`, at: `rack ${rack}`, metres: 1 },
      ...Array.from({ length: 12 }, (_, i) => ({
        begins: `${rack}-${String(i + 1).padStart(2, "0")}-`,
        at: `rack ${rack}`,
        metres: 2 * (i + 1),
      })),
    ]),
  ),
};
