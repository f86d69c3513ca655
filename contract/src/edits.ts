import { formOf, form, listOf, maybe, objectOf, type ValueOf } from "@gray-bench/core/form/form";
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

const edits = listOf(
  objectOf({
    kind: form(Joi.string().max(60)),
    payload: formOf<unknown>(Joi.object()),
    why: maybe(form(Joi.string().max(500))),
  }),
)
  .min(1)
  .max(1000);

export const editRequest = objectOf({
  /** Hash of the design that was before whoever edits. */
  on: hash,
  who,
  edits,
});
export interface EditRequest extends ValueOf<typeof editRequest> {}

export const outlookRequest = objectOf({ edits });

export const turnRequest = objectOf({
  on: hash,
  who,
});

export const editParams = objectOf({
  job: code,
  id: form(Joi.string().max(60)),
});
