import Joi from "joi";
import { parseWith } from "../design/pattern";
import { SHOWN, WORDS } from "../design/signs";
import { form, type Form, type ObjectForm } from "../form/form";
import type { AnyRule, Column, NumberRule, RulesFor, TableRule, TextRule } from "./rule-kinds";

const MOST = 1e9;

/** The form of one cell of a table of rules. */
function cellForm({ as, choices, most, min, max, needed }: Column): Joi.Schema {
  const cell =
    as === "choice"
      ? Joi.string().valid(...choices!)
      : as === "flag"
        ? Joi.boolean()
        : as === "text"
          ? Joi.string().min(1).max(most!).pattern(SHOWN, WORDS)
          : Joi.number()
              .min(min ?? -MOST)
              .max(max ?? MOST);
  return needed ? cell.required() : cell;
}

/** The form of a number, made from its description. */
export const numberForm = ({ min, max }: NumberRule) => form(Joi.number().min(min).max(max));

/** The form of a few words; they may be none. */
export function textForm({ most, fields }: TextRule): Form<string> {
  const words = form(Joi.string().max(most).pattern(SHOWN, WORDS).allow(""));
  return fields
    ? words.custom((text: string) => {
        const parsed = parseWith(text, fields);
        if (parsed.ok) return text;
        throw new Error(`sign ${parsed.at + 1}: ${parsed.reason}`);
      })
    : words;
}

/** Rows of a table of rules: each is gone through for every wire. */
const MOST_ROWS = 2000;

/** The form of one row of a table, made from its columns. */
const rowForm = (columns: readonly Column[]): Joi.ObjectSchema =>
  Joi.object(Object.fromEntries(columns.map((c) => [c.key, cellForm(c)])));

/** The form of the value of a table, as it is kept. */
function tableForm({ columns, kept, least }: TableRule): Joi.Schema {
  const [first, ...others] = columns;
  switch (kept) {
    case "pairs":
      // More than this name one of them again.
      return Joi.array()
        .items(Joi.array().ordered(...columns.map(cellForm)))
        .max(first!.choices!.length ** 2);
    case "by name":
      return Joi.object(Object.fromEntries(first!.choices!.map((name) => [name, rowForm(others)])));
    case undefined: {
      const rows = Joi.array().items(rowForm(columns)).max(MOST_ROWS);
      return least === undefined ? rows : rows.min(least);
    }
  }
}

/** The form of the value of a rule, made from its description. */
export const ruleForm = (rule: AnyRule): Joi.Schema =>
  rule.as === "number" ? numberForm(rule) : rule.as === "text" ? textForm(rule) : tableForm(rule);

const forms = (
  group: Readonly<Record<string, AnyRule>>,
  form: (rule: AnyRule) => Joi.Schema,
): Record<string, Joi.Schema> => Object.fromEntries(Object.entries(group).map(([key, rule]) => [key, form(rule)]));

/** A form for each rule of a group; what is not said is not there. */
export const groupForm = <T>(group: RulesFor<T>): ObjectForm<Partial<T>> =>
  Joi.object(forms(group as Readonly<Record<string, AnyRule>>, ruleForm)) as ObjectForm<Partial<T>>;

/**
 * The same; a rule that is not said is the one that ships with the product.
 * @param gone rules of before that count no more: they are passed over
 */
export const withDefaults = (
  group: Readonly<Record<string, AnyRule>>,
  gone: readonly string[] = [],
): Joi.ObjectSchema =>
  Joi.object({
    ...forms(group, (rule) => ruleForm(rule).default(rule.default as object)),
    ...Object.fromEntries(gone.map((key) => [key, Joi.any().strip()])),
  });
