import { filled, flag, form, listOf, maybe, objectOf, oneOf, type ValueOf } from "@gray-bench/core/form/form";
import { type AnyEventKind, eventForm } from "@gray-bench/core/frame/event-kind";
import { PICK } from "@gray-bench/core/kits/event-kind";
import type { PickEvent } from "@gray-bench/core/kits/events";
import type { Need, StepStart } from "@gray-bench/core/kits/needs";
import type { BillLine, Kit } from "@gray-bench/core/kits/result";
import Joi from "joi";
import { who } from "./common";
import { CODE } from "./metalwork";

/** How the stock service is, as far as it was heard of. */
export interface StockNow {
  /** `none`: the server was started without one. */
  state: "none" | "here" | "away" | "refuses" | "unclear";
  /** When the levels are of, ISO; null while none were ever heard of. */
  at: string | null;
  why?: string;
  /** Picks it has not been told of yet, with what it said to the first of them last; and those it refused. */
  waiting: number;
  waitingWhy?: string | null;
  refused: { job: string; kit: string; line: string; why: string }[];
}

/** What is reserved for a job in the store. */
export interface ReservationNow {
  at: string;
  who: string;
  lines: { part: string; quantity: number }[];
  /** Given back, but the store has not been told yet. */
  releasing: boolean;
}

/** A job as it stands among others that want parts. */
export interface NeedingJob {
  job: string;
  title: string;
  due: string | null;
  /** When its kits are wanted: so many days before it is due. */
  wanted: string | null;
}

/** What one job needs against what is in the store. */
export interface JobNeedsReply {
  stock: StockNow;
  job: NeedingJob;
  needs: Need[];
  starts: StepStart[];
  reservation: ReservationNow | null;
}

export interface AllNeedsReply {
  stock: StockNow;
  jobs: NeedingJob[];
  needs: Need[];
  /** Jobs that are not among them: there are more than are looked at. */
  left: number;
}

/** Bill and kits of an earlier revision of a job. */
export interface BillOf {
  revision: string;
  /** Whether the edits made to it are in it: `none`, if there were none; `lost`, if they are not kept any more. */
  edits: "in" | "none" | "lost";
  bill: BillLine[];
  kits: Kit[];
}

export interface PickReply {
  /** Those after the number that was asked for. */
  events: PickEvent[];
  /** Number of the last one. */
  last: number;
  /** Who is at work now, the asker left out. */
  pickers: Picker[];
}

export const pickText = form(Joi.string().max(700));

const picker = objectOf({
  /** Of the device. */
  device: form(Joi.string().min(8).max(60)),
  who,
  kit: pickText.min(1),
  /** The line that is being fetched; empty between two. */
  line: pickText.allow(""),
});
/** Somebody with a kit in the hand. */
export interface Picker extends ValueOf<typeof picker> {}

export const pickRequest = objectOf({
  /** Number of the last event that is known. */
  since: form(Joi.number().integer().min(0).max(Number.MAX_SAFE_INTEGER)),
  events: listOf(eventForm<PickEvent>(PICK as AnyEventKind)).max(500),
  here: maybe(picker),
});
export interface PickRequest extends ValueOf<typeof pickRequest> {}

export const picksQuery = objectOf({
  since: filled(form(Joi.number().integer().min(0).max(Number.MAX_SAFE_INTEGER)), 0),
});

/** `partly`: where not all is there, what is there. */
export const reserveRequest = objectOf({
  who,
  partly: flag,
});

export const revisionQuery = objectOf({
  revision: form(Joi.string().min(1).max(120)),
});

/** So many jobs are looked at together. */
export const MOST_NEEDING = 50;

/** Named jobs, or the ones that are due first. */
export const needsQuery = objectOf({
  jobs: maybe(
    form(Joi.string().pattern(new RegExp(`^${CODE}(,${CODE}){0,${MOST_NEEDING - 1}}$`), "codes, such as A,B")),
  ),
  as: filled(oneOf(["json", "csv", "purchase", "xlsx"]), "json"),
});
