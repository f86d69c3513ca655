import type { Design } from "./design/model";
import type { Rules } from "./shop/rules";
import type { PlacedRule } from "./shop/shop-changes";
import { placedRules } from "./shop/rules";
import { STAGE_RULES } from "./shop/stage-rules";
import type { StageName } from "./stage-names";
import { FACES } from "./faces";

/** Every rule of the shop, in the order of the stages they belong to. */
export const RULES: readonly (PlacedRule & { stage: string })[] = STAGE_RULES.flatMap((s) =>
  placedRules(s).map((r) => ({ ...r, stage: s.stage })),
);

/** Which wires each row of an ordered table takes now, by the table's place. */
export const RULE_USE: Readonly<Record<string, (design: Design, shop: Rules) => string[][]>> = Object.assign(
  {},
  ...FACES.map((s) => s.ruleUse ?? {}),
) as Record<string, (design: Design, shop: Rules) => string[][]>;

/** What patterns of the shop come to on things of a job, by the pattern's place, with the stage whose result they are of. */
export const EXAMPLES: Readonly<Record<string, { stage: StageName; of(text: string, result: unknown): string[] }>> =
  Object.fromEntries(
    FACES.flatMap((s) =>
      Object.entries(s.examples ?? {}).map(([place, of]) => [
        place,
        { stage: s.name, of: (text: string, result: unknown) => of(text, result as never) },
      ]),
    ),
  );
