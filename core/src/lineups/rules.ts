import { NET_CLASSES, SIDES, type NetClass, type Side } from "../design/lists";
import {
  countRule,
  pairRule,
  percentRule,
  SHOP,
  type RowNote,
  type RulesFor,
  type StageRules,
} from "../shop/rule-kinds";

/** What the shop decides about strips. */
export interface LineupRules {
  /** Members after which another end stop is hung; 0: at both ends only. */
  endStopEvery: number;
  /** Share of clamps of each size that shall stay free. */
  sparePercent: number;
  /** A separator comes between terminals whose voltages differ by more, V; 0: by none. */
  separateVolts: number;
  /** Classes between whose terminals a separator comes, whichever stands first. */
  separate: [NetClass, NetClass][];
  /** Side of a wire that leads to another enclosure: the first row that fits its class; outside where none does. */
  farSide: FarSideRule[];
  /** What stands beside a member on which nothing lands. */
  spareWord: string;
  /** Characters that fit on a marker. */
  markerHolds: number;
  /** Renumbering: the first number, and from one member to the next. */
  numberFrom: number;
  numberStep: number;
  /** Renumbering by groups: each begins at the next multiple of this. */
  groupStart: number;
}

export interface FarSideRule {
  class?: NetClass;
  side: Side;
}

/** Strips: what is hung between members, how much stays free, what lies on which side, what markers show. */
export const LINEUP_RULES: RulesFor<LineupRules> = {
  endStopEvery: countRule(
    50,
    1000,
    "another end stop after every",
    "Long strips are held between their ends too. 0: at both ends only.",
    "members",
  ),
  sparePercent: {
    ...percentRule(
      10,
      "clamps that shall stay free",
      "Field cables come with more cores than drawn; fewer free clamps of a size are told as a note.",
    ),
    max: 100,
  },
  separateVolts: countRule(
    60,
    100_000,
    "a separator where voltages differ by more than",
    "Comes between two terminals side by side, so that no probe bridges them. 0: nowhere for voltage alone.",
    "V",
  ),
  separate: pairRule(
    {
      text: "classes with a separator between them",
      why: "Comes between two terminals side by side, whichever of the two stands first.",
      source: SHOP,
      ordered: false,
      default: [],
    },
    ["One", "The other"],
    (rows) =>
      rows.flatMap(({ first, second }, i): RowNote[] => {
        if (first === undefined || second === undefined) return [];
        if (first === second) return [{ row: i, by: i, text: "a class has no separator from itself" }];
        const by = rows.findIndex(
          (r) => (r.first === first && r.second === second) || (r.first === second && r.second === first),
        );
        return by < i ? [{ row: i, by, text: "says what a row above says" }] : [];
      }),
  ),
  farSide: {
    as: "table",
    text: "side of wires to another enclosure",
    why: "The first row that fits a wire says on which side of a terminal it lies; without one it lies outside.",
    source: SHOP,
    ordered: true,
    columns: [
      { key: "class", label: "Class", as: "choice", choices: NET_CLASSES },
      { key: "side", label: "Lies", as: "choice", choices: SIDES, needed: true, role: "result" },
    ],
    default: [],
    rows: (list) => list.map((row) => ({ ...row })),
    value: (rows) => rows.map((row) => row as unknown as FarSideRule),
    check: (rows) =>
      rows.flatMap((row, i): RowNote[] => {
        const by = rows.findIndex((other, j) => j < i && (other.class === undefined || other.class === row.class));
        return by < 0 ? [] : [{ row: i, by, text: "never reached: a row above takes it" }];
      }),
  },
  spareWord: {
    as: "text",
    default: "",
    most: 20,
    text: "word for a free terminal",
    why: "Stands in drawings and lists where nothing lands; left empty, nothing stands there.",
    source: SHOP,
  },
  markerHolds: countRule(8, 60, "a marker holds", "Longer texts are told; drawings shrink them.", "characters", 1),
  numberFrom: countRule(1, 100_000, "renumbering begins at", "Offered when a strip is numbered anew.", ""),
  numberStep: countRule(1, 1000, "renumbering goes on by", "Offered when a strip is numbered anew.", "numbers", 1),
  groupStart: countRule(
    10,
    10_000,
    "each group begins at a multiple of",
    "Where a strip is numbered by groups, each leaves numbers free behind it.",
    "numbers",
    1,
  ),
};

/** Rules of strips, as they stand in the shop. */
export interface LineupsInShop {
  lineups: LineupRules;
}

export const RULES: StageRules = { stage: "lineups", rules: { lineups: LINEUP_RULES } };
