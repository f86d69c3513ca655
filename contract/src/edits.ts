import type { ThingChanges } from "@gray-bench/core/design/changes";
import type { Thing } from "@gray-bench/core/design/open-points";
import Joi from "joi";
import { code, hash, who } from "./common";
import type { Outlook } from "./shop";

/** An edit as the history shows it. */
export interface EditEntry {
  id: string;
  kind: string;
  payload: unknown;
  sentence: string;
  touches: { thing: Thing; of: string }[];
  who: string;
  when: string;
  why: string | null;
  back: { who: string; when: string } | null;
  /** Why it does not fit the design as received, when it does not. */
  unfitting: { reason: string; remedy: string } | null;
}

export interface EditLog {
  /** Of the design with its edits. */
  designHash: string;
  /** Of the design as received. */
  receivedHash: string;
  edits: EditEntry[];
}

export interface EditRequest {
  /** Hash of the design that was before whoever edits. */
  on: string;
  who: string;
  edits: { kind: string; payload: unknown; why?: string }[];
}

export interface EditReply {
  designHash: string;
  /** One for each edit. */
  ids: string[];
  sentences: string[];
}

/** What edits, or a new revision, would do to a job: what comes, goes and changes, and its numbers. */
export interface DesignOutlook extends Outlook {
  things: ThingChanges[];
}

export const editRequest = Joi.object<EditRequest, true>({
  on: hash,
  who,
  edits: Joi.array()
    .items(
      Joi.object({
        kind: Joi.string().max(60).required(),
        payload: Joi.object().required(),
        why: Joi.string().max(500),
      }),
    )
    .min(1)
    .max(1000)
    .required(),
});

export const outlookRequest = Joi.object<Pick<EditRequest, "edits">>({
  edits: editRequest.extract("edits").required(),
});

export const turnRequest = Joi.object<{ on: string; who: string }, true>({ on: hash, who });

export const editParams = Joi.object<{ job: string; id: string }>({
  job: code,
  id: Joi.string().max(60).required(),
});
