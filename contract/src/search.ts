import type { Entry } from "@gray-bench/core/design/find";
import Joi from "joi";

export interface SearchHit extends Entry {
  job: string;
}

export interface SearchReply {
  hits: SearchHit[];
  /** Jobs whose tags and numbers were looked through, of all. Names of jobs are always looked through. */
  looked: number;
  jobs: number;
}

export const searchQuery = Joi.object<{ q: string; job?: string; most: number }>({
  q: Joi.string().trim().min(1).max(120).required().description("text, with * for any text and ? for one character"),
  job: Joi.string().max(120),
  most: Joi.number().integer().min(1).max(100).default(30),
});
