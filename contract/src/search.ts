import { filled, form, maybe, objectOf } from "@gray-bench/core/form/form";
import type { Found } from "@gray-bench/core/search/entries";
import Joi from "joi";

export interface SearchHit extends Found {
  job: string;
}

export interface SearchReply {
  hits: SearchHit[];
  /** Jobs whose tags and numbers were looked through, of all. Names of jobs are always looked through. */
  looked: number;
  jobs: number;
}

export const searchQuery = objectOf({
  q: form(Joi.string().trim().min(1).max(120).description("text, with * for any text and ? for one character")),
  job: maybe(form(Joi.string().max(120))),
  most: filled(form(Joi.number().integer().min(1).max(100)), 30),
});
