import type { Fault } from "@gray-bench/core/design/faults";
import Joi from "joi";

/** The one shape of every error. */
export interface ErrorBody {
  /** Stable, e.g. `design.refused` */
  code: string;
  message: string;
  /** Place: a path in the file, a parameter, a job. */
  where: string;
  /** What to do now. */
  remedy: string;
  /** Of a refused file, at most 500. */
  faults?: Fault[];
  /** How many faults there were in all. */
  faultCount?: number;
  /** What others did since, when somebody else was first. */
  changed?: string[];
  /** Edits that stand on the one that was to be undone. */
  standing?: string[];
  /** Of a fault of the server: under this its log has the reason. */
  id?: string;
}

export const errorBody = Joi.object({
  code: Joi.string().required(),
  message: Joi.string().required(),
  where: Joi.string().allow("").required(),
  remedy: Joi.string().required(),
  faults: Joi.array().items(Joi.object({ path: Joi.string(), found: Joi.string(), expected: Joi.string() })),
  faultCount: Joi.number().integer(),
  changed: Joi.array().items(Joi.string()),
  standing: Joi.array().items(Joi.string()),
});
