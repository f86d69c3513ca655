import { form, maybe, objectOf, oneOf } from "@gray-bench/core/form/form";
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

export const stageParams = objectOf({
  job: code,
  stage: oneOf(STAGE_NAMES),
});

export const effectQuery = objectOf({
  since: resultKey.description("key of the earlier computation"),
  to: maybe(resultKey.description("key of the later one; without it the one that counts now")),
});

export const fileParams = objectOf({
  job: code,
  name: form(Joi.string().max(120)),
});
