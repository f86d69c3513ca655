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

/** Somebody with a kit in the hand. */
export interface Picker {
  /** Of the device. */
  device: string;
  who: string;
  kit: string;
  /** The line that is being fetched; empty between two. */
  line: string;
}

export interface PickReply {
  /** Those after the number that was asked for. */
  events: PickEvent[];
  /** Number of the last one. */
  last: number;
  /** Who is at work now, the asker left out. */
  pickers: Picker[];
}

export interface PickRequest {
  /** Number of the last event that is known. */
  since: number;
  events: PickEvent[];
  here?: Picker;
}

export const pickText = Joi.string().max(700);

const picker = Joi.object<Picker, true>({
  device: Joi.string().min(8).max(60).required(),
  who,
  kit: pickText.min(1).required(),
  line: pickText.allow("").required(),
});

export const pickRequest = Joi.object<PickRequest, true>({
  since: Joi.number().integer().min(0).max(Number.MAX_SAFE_INTEGER).required(),
  events: Joi.array()
    .items(eventForm(PICK as AnyEventKind))
    .max(500)
    .required(),
  here: picker,
});

export const picksQuery = Joi.object<{ since: number }>({
  since: Joi.number().integer().min(0).max(Number.MAX_SAFE_INTEGER).default(0),
});

/** `partly`: where not all is there, what is there. */
export const reserveRequest = Joi.object<{ who: string; partly: boolean }, true>({
  who,
  partly: Joi.boolean().required(),
});

export const revisionQuery = Joi.object<{ revision: string }>({
  revision: Joi.string().min(1).max(120).required(),
});

/** So many jobs are looked at together. */
export const MOST_NEEDING = 50;

/** Named jobs, or the ones that are due first. */
export const needsQuery = Joi.object<{ jobs?: string; as: "json" | "csv" | "purchase" | "xlsx" }>({
  jobs: Joi.string().pattern(new RegExp(`^${CODE}(,${CODE}){0,${MOST_NEEDING - 1}}$`), "codes, such as A,B"),
  as: Joi.string().valid("json", "csv", "purchase", "xlsx").default("json"),
});
