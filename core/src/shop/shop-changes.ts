import { canonicalJson } from "../design/canonical";
import type { AnyRule, Column, Row, TableRule } from "./rule-kinds";
import type { Shop } from "./shop";

/** A rule with its place in the shop's rules: `routes.slackMm`. */
export interface PlacedRule {
  place: string;
  rule: AnyRule;
}

/** The value of a rule in a shop. */
export const ruleValue = ({ rules }: Pick<Shop, "rules">, place: string): unknown =>
  place.split(".").reduce<unknown>((at, key) => (at as Record<string, unknown>)[key], rules);

/** The shop with one rule set to another value. */
export function withRule(shop: Shop, place: string, value: unknown): Shop {
  const [group, key] = place.split(".") as [keyof Shop["rules"], string?];
  const next = key === undefined ? value : { ...(shop.rules[group] as object), [key]: value };
  return { ...shop, rules: { ...shop.rules, [group]: next } };
}

/** A cell as people read it. */
export function cellText(column: Column, value: Row[string]): string {
  if (value === undefined) return column.as === "flag" ? "either" : "any";
  if (typeof value === "boolean") return value ? "yes" : "no";
  return `${value}${column.unit ? ` ${column.unit}` : ""}`;
}

/** `screw, fine, to 16 mm², ferrule` */
export function rowText(rule: TableRule, row: Row): string {
  const said = rule.columns.filter((c) => row[c.key] !== undefined);
  return said
    .map((c) => {
      const text = cellText(c, row[c.key]);
      return c.as === "choice" ? text : `${c.label.toLowerCase()} ${text}`;
    })
    .join(", ");
}

const differs = (one: unknown, other: unknown): boolean => canonicalJson(one) !== canonicalJson(other);

/** What differs between two shops, a sentence for each rule. */
export function shopChanges(before: Shop, after: Shop, rules: readonly PlacedRule[]): string[] {
  const name = before.name === after.name ? [] : [`name: ${after.name} (was ${before.name})`];
  return name.concat(
    rules.flatMap(({ place, rule }) => {
      const [was, is] = [ruleValue(before, place), ruleValue(after, place)];
      return differs(was, is) ? [changeText(rule, was, is, "was")] : [];
    }),
  );
}

/** Places of the rules that differ between two shops, in the order of the rules. */
export const changedPlaces = (before: Shop, after: Shop, rules: readonly PlacedRule[]): string[] =>
  rules.flatMap(({ place }) => (differs(ruleValue(before, place), ruleValue(after, place)) ? [place] : []));

/** In what a rule differs from what the product ships with; null where it does not. */
export const ownText = (rule: AnyRule, value: unknown): string | null =>
  differs(rule.default, value) ? changeText(rule, rule.default, value, "ships with") : null;

function changeText(rule: AnyRule, was: unknown, is: unknown, word: string): string {
  if (rule.as === "number") return `${rule.text}: ${String(is)} ${rule.unit} (${word} ${String(was)})`;
  if (rule.as === "text") return `${rule.text}: ${said(is)} (${word} ${said(was)})`;
  return `${rule.text}: ${tableChange(rule, rule.rows(was), rule.rows(is))}`;
}

const said = (text: unknown): string => (text === "" ? "none" : `"${String(text)}"`);

function tableChange(rule: TableRule, was: readonly Row[], is: readonly Row[]): string {
  const texts = (rows: readonly Row[]): string[] => rows.map((r) => rowText(rule, r));
  const [old, now] = [texts(was), texts(is)];
  const gone = old.filter((t) => !now.includes(t));
  const added = now.filter((t) => !old.includes(t));
  const parts = [
    ...added.map((t) => `"${t}" added`),
    ...gone.map((t) => `"${t}" deleted`),
    ...(added.length + gone.length === 0 ? ["another order"] : []),
  ];
  return parts.join("; ");
}
