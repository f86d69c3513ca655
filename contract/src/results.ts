import type { Told } from "@gray-bench/core/frame/stage";
import { STAGE_NAMES, type StageName } from "@gray-bench/core/stage-names";
import Joi from "joi";
import { type RunState, code, resultKey } from "./common";

/** What a change came to, between two computations of a job. */
export interface Effect {
  words: Told[];
  /** Open points that are gone, and those that are new. */
  solved: number;
  raised: number;
}

/** Sent as server-sent events while a job is computed. */
export interface ProgressEvent {
  run: RunState;
  stage: StageName | null;
  /** 0 to 1, of this stage. */
  share: number;
  message?: string;
}

export const stageParams = Joi.object<{ job: string; stage: StageName }>({
  job: code,
  stage: Joi.string()
    .valid(...STAGE_NAMES)
    .required(),
});

export const effectQuery = Joi.object<{ since: string; to?: string }>({
  since: resultKey.required().description("key of the earlier computation"),
  to: resultKey.description("key of the later one; without it the one that counts now"),
});

export const fileParams = Joi.object<{ job: string; name: string }>({
  job: code,
  name: Joi.string().max(120).required(),
});
