import { form, objectOf, just, type ValueOf } from "../form/form";
import Joi from "joi";
import { checkFile, readFile, type FileKind, type FileRead } from "../design/read";
import { SHOP_RULES, shopRulesForm, wholeRules } from "./rules";

/**
 * The shop: what belongs to it and not to a job. Plain JSON, a value like the design: nothing changes one
 * in place. Its file is `*.shop.json`.
 */

export const SHOP_FORMAT = "gray-bench-shop";
export const SHOP_VERSION = 1;

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
export const shopSchema = objectOf({
  format: just(SHOP_FORMAT),
  version: just(SHOP_VERSION),
  name: form(Joi.string().min(1).max(120)),
  rules: shopRulesForm,
}).prefs({ abortEarly: false, convert: false });
export interface Shop extends ValueOf<typeof shopSchema> {}

const SHOP: FileKind<Shop> = { what: "a shop", format: SHOP_FORMAT, version: SHOP_VERSION, schema: shopSchema };

/** Reads a shop file. Never throws on any text. */
export const readShop = (text: string): FileRead<Shop> => readFile(text, SHOP);

/** The same of a value that is no text any more. */
export const checkShop = (raw: unknown): FileRead<Shop> => checkFile(raw, SHOP);
