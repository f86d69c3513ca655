import Joi from "joi";
import { checkFile, readFile, type FileKind, type FileRead } from "../design/read";
import { SHOP_RULES, shopRulesForm, wholeRules, type Rules } from "./rules";

/**
 * The shop: what belongs to it and not to a job. Plain JSON, a value like the design: nothing changes one
 * in place. Its file is `*.shop.json`.
 */

export const SHOP_FORMAT = "gray-bench-shop";
export const SHOP_VERSION = 1;

export interface Shop {
  format: typeof SHOP_FORMAT;
  version: typeof SHOP_VERSION;
  name: string;
  rules: Rules;
}

/** The shop that ships with the product. */
export const DEFAULT_SHOP: Shop = {
  format: SHOP_FORMAT,
  version: SHOP_VERSION,
  name: "shop as shipped",
  rules: SHOP_RULES,
};

/** A shop as it was kept, with what later ones say too: where it does not, what ships with the product counts. */
export const wholeShop = (shop: Shop): Shop => ({ ...shop, rules: wholeRules(shop.rules) });

/** The whole shop file. Values are taken as they stand. */
export const shopSchema = Joi.object<Shop, true>({
  format: Joi.string().valid(SHOP_FORMAT).required(),
  version: Joi.number().valid(SHOP_VERSION).required(),
  name: Joi.string().min(1).max(120).required(),
  rules: shopRulesForm.required(),
}).prefs({ abortEarly: false, convert: false });

const SHOP: FileKind<Shop> = { what: "a shop", format: SHOP_FORMAT, version: SHOP_VERSION, schema: shopSchema };

/** Reads a shop file. Never throws on any text. */
export const readShop = (text: string): FileRead<Shop> => readFile(text, SHOP);

/** The same of a value that is no text any more. */
export const checkShop = (raw: unknown): FileRead<Shop> => checkFile(raw, SHOP);
