import { MATERIALS, SURFACE_STATES, type Material, type SurfaceState } from "../design/lists";
import { groupForm } from "../shop/rule-forms";
import {
  countRule,
  lengthRule,
  namedAgain,
  percentRule,
  SHOP,
  type NumberRule,
  type RowNote,
  type RulesFor,
  type StageRules,
} from "../shop/rule-kinds";

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

export interface HeatTables {
  /** What a square metre of wall passes for each kelvin, by material. */
  walls: { material: Material; k: number }[];
  /** Share of a surface that counts, by which it is and how it stands. */
  stands: { surface: Surface; state: SurfaceState; b: number }[];
}

export const SURFACES = ["roof", "base", "left", "right", "front", "rear"] as const;
export type Surface = (typeof SURFACES)[number];

const tempRule = (value: number, text: string, why: string, source = SHOP): NumberRule => ({
  as: "number",
  unit: "°C",
  default: value,
  min: -60,
  max: 90,
  text,
  why,
  source,
});

/** What heat is worked out with. */
export const HEAT_RULES: RulesFor<HeatRules & HeatTables> = {
  heightM: countRule(200, 5000, "height above sea", "Thin air carries less; counts for fans.", "m"),
  outsideMinC: tempRule(15, "lowest temperature outside", "Around the enclosure, in the coldest hour of a year."),
  outsideMaxC: tempRule(35, "highest temperature outside", "Around the enclosure, in the hottest hour of a year."),
  insideMinC: tempRule(10, "lowest temperature wanted inside", "A heater keeps it."),
  insideMaxC: tempRule(40, "highest temperature wanted inside", "A cooling unit or a fan keeps it."),
  dampC: tempRule(
    15,
    "damp air that is shut in: its temperature",
    "Water settles where a wall is colder than its dew point.",
  ),
  dampPercent: {
    ...percentRule(70, "damp air that is shut in: its humidity", "Relative, at that temperature."),
    min: 1,
    max: 100,
  },
  diversity: countRule(
    1,
    1,
    "share of devices at load at once",
    "Multiplies every loss that says none of its own.",
    "",
  ),
  leastSharePercent: {
    ...percentRule(0, "losses when it is coldest", "Share of them that is there in the coldest hour."),
    max: 100,
  },
  missingAsMedian: countRule(
    0,
    1,
    "missing losses count as the median of like parts",
    "1: they do, and are marked. 0: as none, and the balance says what is missing.",
    "",
  ),
  tariffPerKWh: countRule(0.25, 100, "tariff", "Money for a kilowatt hour.", "a kWh"),
  dutyLeastPercent: percentRule(40, "duty below which a unit runs in short cycles", "In the hottest hour."),
  dutyMostPercent: percentRule(90, "duty above which a unit has nothing left", "In the hottest hour."),
  smoothingMm: lengthRule(60, "a loss on a face spreads over", "Standard deviation of the map of hot spots.", 1),
  risingPercent: {
    ...percentRule(50, "heat that rises with the air", "To the slabs above the one it is put into."),
    max: 100,
  },
  mixingWPerK: countRule(
    20,
    10_000,
    "mixing of the air between slabs",
    "What passes for each kelvin between them.",
    "W/K",
  ),
  doorMostKg: countRule(40, 1000, "a door carries", "Units that are heavier are not proposed for it.", "kg"),
  walls: {
    as: "table",
    text: "what walls pass, by material",
    why: "Heat through a square metre for each kelvin between inside and outside.",
    source: SHOP,
    ordered: false,
    columns: [
      { key: "material", label: "Material", as: "choice", choices: MATERIALS, needed: true },
      { key: "k", label: "Passes", as: "number", unit: "W/(m²K)", min: 0.1, max: 100, needed: true },
    ],
    default: [
      ["painted steel", 5.5],
      ["galvanised steel", 4.5],
      ["stainless steel", 4.5],
      ["aluminium", 12],
      ["double aluminium", 4.5],
      ["polyester", 3.5],
    ].map(([material, k]) => ({ material: material as Material, k: k as number })),
    rows: (list) => list.map((row) => ({ ...row })),
    value: (rows) => rows.map((row) => row as { material: Material; k: number }),
    check: (rows) => namedAgain(rows, "material", "this material has a row above, which counts"),
  },
  protectionIp: {
    ...countRule(
      0,
      69,
      "degree of protection that units must keep, IP",
      "Two digits (IEC 60529); a unit that states less, or nothing, is not proposed. 0: none is asked.",
      "",
    ),
    source: "IEC 60529",
  },
  stands: {
    as: "table",
    text: "share of a surface that counts, by how it stands",
    why: "A wall behind the enclosure or a neighbour beside it keeps its heat in.",
    source: "IEC 60890",
    ordered: false,
    columns: [
      { key: "surface", label: "Surface", as: "choice", choices: SURFACES, needed: true },
      { key: "state", label: "Stands", as: "choice", choices: SURFACE_STATES, needed: true },
      { key: "b", label: "Counts", as: "number", min: 0, max: 2, needed: true },
    ],
    default: SURFACES.flatMap((surface) =>
      SURFACE_STATES.map((state) => ({
        surface,
        state,
        b: surface === "base" ? 0 : surface === "roof" ? (state === "free" ? 1.4 : 0.7) : state === "free" ? 0.9 : 0.5,
      })),
    ),
    rows: (list) => list.map((row) => ({ ...row })),
    value: (rows) => rows.map((row) => row as { surface: Surface; state: SurfaceState; b: number }),
    check: (rows) =>
      rows.flatMap((row, i): RowNote[] => {
        const by = rows.findIndex((r) => r.surface === row.surface && r.state === row.state);
        return by < i && row.surface !== undefined && row.state !== undefined
          ? [{ row: i, by, text: "this surface and state have a row above, which counts" }]
          : [];
      }),
  },
};

/** What a job, or an enclosure, may say for itself: the tables are the shop's. */
export const OWN_HEAT_RULES = (({ walls: _, stands: __, ...own }) => own)(HEAT_RULES);

/** Rules of heat, as they stand in the shop. */
export interface HeatInShop {
  heat: HeatRules & HeatTables;
}

/** What a job may say of them for itself. */
export interface HeatOfJob {
  heat?: Partial<HeatRules>;
}

export const RULES: StageRules = {
  stage: "heat",
  rules: { heat: HEAT_RULES },
  own: { heat: { form: groupForm<HeatRules>(OWN_HEAT_RULES) } },
};
