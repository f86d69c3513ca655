import type { Design } from "./design/model";
import type { Rules } from "./design/rules";
import type { PlacedRule } from "./design/shop-changes";
import { rulesOf } from "./design/stage";
import { STAGES } from "./stages";

/** Every rule of the shop, in the order of the stages they belong to. */
export const RULES: readonly (PlacedRule & { stage: string })[] = STAGES.flatMap((s) =>
  rulesOf(s).map((r) => ({ ...r, stage: s.name })),
);

/** Which wires each row of an ordered table takes now, by the table's place. */
export const RULE_USE: Readonly<Record<string, (design: Design, shop: Rules) => string[][]>> = Object.assign(
  {},
  ...STAGES.map((s) => s.ruleUse ?? {}),
) as Record<string, (design: Design, shop: Rules) => string[][]>;
