import type { NumberRule } from "../design/rules";

/** What the shop decides about strips. */
export interface LineupRules {
  /** Members after which another end stop is hung; 0: at both ends only. */
  endStopEvery: number;
  /** Share of clamps of each size that shall stay free. */
  sparePercent: number;
}

export const LINEUP_RULES: { readonly [K in keyof LineupRules]: NumberRule } = {
  endStopEvery: {
    as: "number",
    unit: "members",
    default: 50,
    min: 0,
    max: 1000,
    text: "another end stop after every",
    why: "Long strips are held between their ends too. 0: at both ends only.",
    source: "shop default",
  },
  sparePercent: {
    as: "number",
    unit: "%",
    default: 10,
    min: 0,
    max: 100,
    text: "clamps that shall stay free",
    why: "Field cables come with more cores than drawn; fewer free clamps of a size are told as a note.",
    source: "shop default",
  },
};

/** The rules that ship with the product. */
export const LINEUP_DEFAULTS: LineupRules = {
  endStopEvery: LINEUP_RULES.endStopEvery.default,
  sparePercent: LINEUP_RULES.sparePercent.default,
};
