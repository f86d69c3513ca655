import { filled, form, listOf, objectOf, just, type ValueOf } from "../form/form";
import Joi from "joi";
import { readFile, type FileKind, type FileRead } from "./read";

/** What lies in the store, and what is on its way. Plain JSON, a value; its file is `*.stock.json`. */
export const STOCK_FORMAT = "gray-bench-stock";
export const STOCK_VERSION = 1;

const MOST = 1e9;
const MOST_ITEMS = 200_000;
const part = form(Joi.string().min(1).max(120));
const quantity = form(Joi.number().min(0).max(MOST));
/** A day, or a day and a time, as ISO 8601 writes them. */
const DAY = /^\d{4}-\d{2}-\d{2}$/;
const isDay = (text: string): boolean => DAY.test(text) && !Number.isNaN(Date.parse(text));
const day = form(
  Joi.string()
    .custom((text: string, helpers) => (isDay(text) ? text : helpers.error("string.pattern.base")))
    .messages({ "string.pattern.base": "{{#label}} must be a date such as 2027-02-19" }),
);

const level = objectOf({
  part,
  /** On the shelf, less what is reserved. In the unit of the bill: pieces, or metres. */
  free: quantity,
});
/** What the store says of a part, or of an article of the shop; of a part in several places each adds up. */
export interface Level extends ValueOf<typeof level> {}

const delivery = objectOf({
  part,
  quantity,
  /** ISO date. */
  due: day,
});
export interface Delivery extends ValueOf<typeof delivery> {}

/** What is reserved for a job; it is no part of what is free. */
const reserved = objectOf({ job: form(Joi.string().min(1).max(120)), part, quantity });
export interface Reserved extends ValueOf<typeof reserved> {}

export const stockSchema = objectOf({
  format: just(STOCK_FORMAT),
  version: just(STOCK_VERSION),
  /** ISO date and time of the levels. */
  at: form(
    Joi.string()
      .max(40)
      .pattern(/^\d{4}-\d{2}-\d{2}([T ][\d:.]+(Z|[+-]\d{2}:\d{2})?)?$/, "date and time"),
  ),
  items: listOf<Level>(level).max(MOST_ITEMS),
  deliveries: filled<Delivery[]>(listOf<Delivery>(delivery).max(MOST_ITEMS), []),
  reserved: filled<Reserved[]>(listOf<Reserved>(reserved).max(MOST_ITEMS), []),
}).prefs({ abortEarly: false, convert: false });
export interface Stock extends ValueOf<typeof stockSchema> {}

const STOCK: FileKind<Stock> = {
  what: "a stock list",
  format: STOCK_FORMAT,
  version: STOCK_VERSION,
  schema: stockSchema,
};

/** Reads a stock file. Never throws on any text. */
export const readStock = (text: string): FileRead<Stock> => readFile(text, STOCK);
