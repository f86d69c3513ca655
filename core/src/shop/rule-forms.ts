import Joi from "joi";
import { parseWith } from "../design/pattern";
import { SHOWN, WORDS } from "../design/signs";
import type { Column, NumberRule, TableRule, TextRule } from "./rules";

const MOST = 1e9;

/** The form of one cell of a table of rules. */
function cellForm({ as, choices, most, min, max, needed }: Column): Joi.Schema {
  const form =
    as === "choice"
      ? Joi.string().valid(...choices!)
      : as === "flag"
        ? Joi.boolean()
        : as === "text"
          ? Joi.string().min(1).max(most!).pattern(SHOWN, WORDS)
          : Joi.number()
              .min(min ?? -MOST)
              .max(max ?? MOST);
  return needed ? form.required() : form;
}

/** The form of a number, made from its description. */
export const numberForm = ({ min, max }: NumberRule): Joi.NumberSchema => Joi.number().min(min).max(max);

/** The form of a few words; they may be none. */
export function textForm({ most, fields }: TextRule): Joi.StringSchema {
  const form = Joi.string().max(most).pattern(SHOWN, WORDS).allow("");
  return fields
    ? form.custom((text: string) => {
        const parsed = parseWith(text, fields);
        if (parsed.ok) return text;
        throw new Error(`sign ${parsed.at + 1}: ${parsed.reason}`);
      })
    : form;
}

/** The form of one row of a table, made from its columns. */
export const rowForm = <T>({ columns }: TableRule<T>): Joi.ObjectSchema =>
  Joi.object(Object.fromEntries(columns.map((c) => [c.key, cellForm(c)])));

/** The form of a pair, made from the two columns of its table. */
export const pairForm = <T>({ columns }: TableRule<T>): Joi.ArraySchema =>
  Joi.array().ordered(...columns.map(cellForm));
