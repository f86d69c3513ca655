import Joi from "joi";
import type { ObjectForm } from "../form/form";
import type { HeatInShop, HeatOfJob } from "../heat/rules";
import type { IntakeInShop, IntakeOfJob } from "../intake/rules";
import type { KitsInShop } from "../kits/rules";
import type { LineupsInShop } from "../lineups/rules";
import type { MetalworkInShop } from "../metalwork/rules";
import type { RoutesInShop, RoutesOfJob } from "../routes/rules";
import type { WireprepInShop } from "../wireprep/rules";
import { ruleForm, withDefaults } from "./rule-forms";
import { defaultsOf, type AnyRule, type OwnRules, type RuleTree, type StageRules } from "./rule-kinds";
import { STAGE_RULES } from "./stage-rules";

/** The rules of a shop, those of each stage. A job's own lie on top. */
export interface Rules
  extends IntakeInShop, RoutesInShop, LineupsInShop, HeatInShop, MetalworkInShop, KitsInShop, WireprepInShop {}

/** What a job says of rules for itself. */
export interface RuleOverrides extends IntakeOfJob, RoutesOfJob, HeatOfJob {}

const isRule = (one: RuleTree[string]): one is AnyRule => typeof one.as === "string";

/** The rules of a stage, each with its place in the shop's rules: `routes.slackMm`. */
export const placedRules = ({ rules }: StageRules): { place: string; rule: AnyRule }[] =>
  Object.entries(rules).flatMap(([place, one]) =>
    isRule(one)
      ? [{ place, rule: one }]
      : Object.entries(one).map(([key, rule]) => ({ place: `${place}.${key}`, rule })),
  );

const PLACES = STAGE_RULES.flatMap((s) => Object.entries(s.rules));
const OWN: ReadonlyMap<string, OwnRules> = new Map(STAGE_RULES.flatMap((s) => Object.entries(s.own ?? {})));

/** The rules that ship with the product. The stages' own types say what each place is. */
export const SHOP_RULES = Object.fromEntries(
  PLACES.map(([place, one]) => [place, isRule(one) ? one.default : defaultsOf(one)]),
) as unknown as Rules;

/** Rules as they were kept, with what later ones say too: where they do not, what ships with the product counts. */
export const wholeRules = (kept: Rules): Rules =>
  ({
    ...SHOP_RULES,
    ...kept,
    ...Object.fromEntries(
      PLACES.filter(([, one]) => !isRule(one)).map(([place]) => [
        place,
        { ...(SHOP_RULES[place as keyof Rules] as object), ...(kept[place as keyof Rules] as object) },
      ]),
    ),
  }) as Rules;

/** The form of all rules of a shop file. Values are taken as they stand. */
export const shopRulesForm = Joi.object(
  Object.fromEntries(
    STAGE_RULES.flatMap(({ rules, needed, gone }) =>
      Object.entries(rules).map(([place, one]): [string, Joi.Schema] => {
        const form = isRule(one) ? ruleForm(one) : withDefaults(one, gone?.[place]);
        return [place, needed?.includes(place) ? form.required() : form.default(SHOP_RULES[place as keyof Rules])];
      }),
    ),
  ),
) as ObjectForm<Rules>;

/** The form of what a job says of rules for itself. */
export const ownRulesForm = Joi.object(
  Object.fromEntries([...OWN].map(([place, { form }]) => [place, form])),
) as ObjectForm<RuleOverrides>;

/** The shop's rules with a job's own on top. */
export function rulesFor(shop: Rules, job: RuleOverrides): Rules {
  const laid = { ...shop };
  for (const [place, own] of OWN)
    // Worked out when it is first asked for: who has no use for it does not hang on it.
    Object.defineProperty(laid, place, {
      enumerable: true,
      configurable: true,
      get() {
        const [of, said] = [shop[place as keyof Rules], job[place as keyof RuleOverrides]];
        const value =
          said === undefined ? of : own.over ? own.over(of as never, said as never) : { ...(of as object), ...said };
        Object.defineProperty(laid, place, { enumerable: true, value });
        return value;
      },
    });
  return laid;
}
