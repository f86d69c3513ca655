import { typed } from "../search/find";
import type { AnyRule } from "./rule-kinds";
import type { PlacedRule } from "./shop-changes";

/** All that is said of a rule: what it is and does, its columns, what may stand in them, its unit. */
const saidOf = (rule: AnyRule): string =>
  [
    rule.text,
    rule.why,
    rule.source,
    ...(rule.as === "number" ? [rule.unit] : []),
    ...(rule.as === "table" ? rule.columns.flatMap((c) => [c.label, ...(c.choices ?? [])]) : []),
    ...(rule.as === "text" ? Object.keys(rule.fields ?? {}) : []),
  ].join(" ");

/**
 * Rules of which every word typed is said somewhere: in what they are called, what they do, their columns, the title of their stage.
 * Those called so come first, then those of which it is only said; else in their order.
 * @param titleOf title of the stage a rule belongs to
 */
export function findRules<R extends PlacedRule>(rules: readonly R[], titleOf: (rule: R) => string, text: string): R[] {
  const words = typed(text)
    .split(/\s+/)
    .filter((w) => w !== "");
  if (words.length === 0) return [];
  const says = (said: string): boolean => {
    const plain = typed(said);
    return words.every((w) => plain.includes(w));
  };
  const called = rules.filter(({ rule }) => says(rule.text));
  const spoken = rules.filter((r) => !called.includes(r) && says(`${titleOf(r)} ${saidOf(r.rule)}`));
  return [...called, ...spoken];
}
