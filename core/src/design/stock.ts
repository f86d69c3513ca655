import Joi from "joi";
import { readFile, type FileKind, type FileRead } from "./read";

/** What lies in the store, and what is on its way. Plain JSON, a value; its file is `*.stock.json`. */
export const STOCK_FORMAT = "gray-bench-stock";
export const STOCK_VERSION = 1;

/** What the store says of a part, or of an article of the shop; of a part in several places each adds up. */
export interface Level {
  part: string;
  /** On the shelf, less what is reserved. In the unit of the bill: pieces, or metres. */
  free: number;
}

export interface Delivery {
  part: string;
  quantity: number;
  /** ISO date. */
  due: string;
}

/** What is reserved for a job; it is no part of what is free. */
export interface Reserved {
  job: string;
  part: string;
  quantity: number;
}

export interface Stock {
  format: typeof STOCK_FORMAT;
  version: typeof STOCK_VERSION;
  /** ISO date and time of the levels. */
  at: string;
  items: readonly Level[];
  deliveries: readonly Delivery[];
  reserved: readonly Reserved[];
}

const MOST = 1e9;
const MOST_ITEMS = 200_000;
const part = Joi.string().min(1).max(120).required();
const quantity = Joi.number().min(0).max(MOST).required();
/** A day, or a day and a time, as ISO 8601 writes them. */
const DAY = /^\d{4}-\d{2}-\d{2}$/;
const isDay = (text: string): boolean => DAY.test(text) && !Number.isNaN(Date.parse(text));
const day = Joi.string()
  .custom((text: string, helpers) => (isDay(text) ? text : helpers.error("string.pattern.base")))
  .messages({ "string.pattern.base": "{{#label}} must be a date such as 2027-02-19" });

export const stockSchema: Joi.ObjectSchema<Stock> = Joi.object({
  format: Joi.string().valid(STOCK_FORMAT).required(),
  version: Joi.number().valid(STOCK_VERSION).required(),
  at: Joi.string()
    .max(40)
    .pattern(/^\d{4}-\d{2}-\d{2}([T ][\d:.]+(Z|[+-]\d{2}:\d{2})?)?$/, "date and time")
    .required(),
  items: Joi.array()
    .items(Joi.object<Level, true>({ part, free: quantity }))
    .max(MOST_ITEMS)
    .required(),
  deliveries: Joi.array()
    .items(Joi.object<Delivery, true>({ part, quantity, due: day.required() }))
    .max(MOST_ITEMS)
    .default([]),
  reserved: Joi.array()
    .items(Joi.object<Reserved, true>({ job: Joi.string().min(1).max(120).required(), part, quantity }))
    .max(MOST_ITEMS)
    .default([]),
}).prefs({ abortEarly: false, convert: false });

const STOCK: FileKind<Stock> = {
  what: "a stock list",
  format: STOCK_FORMAT,
  version: STOCK_VERSION,
  schema: stockSchema,
};

/** Reads a stock file. Never throws on any text. */
export const readStock = (text: string): FileRead<Stock> => readFile(text, STOCK);
