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
 * Rules of which every word typed is said somewhere: in what they are called, what they do, their columns, the title of their stage. In
 * their order. O(letters of all that is said of rules)
 * @param titleOf title of the stage a rule belongs to
 */
export function findRules<R extends PlacedRule>(rules: readonly R[], titleOf: (rule: R) => string, text: string): R[] {
  const words = typed(text)
    .split(/\s+/)
    .filter((w) => w !== "");
  if (words.length === 0) return [];
  return rules.filter((r) => {
    const said = typed(`${titleOf(r)} ${saidOf(r.rule)}`);
    return words.every((w) => said.includes(w));
  });
}
