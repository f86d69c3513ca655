import { form, listOf, objectOf, oneOf, orNull, type ObjectForm, type ValueOf } from "@gray-bench/core/form/form";
import { type AnyEventKind, eventForm } from "@gray-bench/core/frame/event-kind";
import { type BatchAsked, MOST_PANELS, type MadeBatch } from "@gray-bench/core/wireprep/batch";
import { LEAD } from "@gray-bench/core/wireprep/event-kind";
import type { LeadEvent } from "@gray-bench/core/wireprep/events";
import { type BatchPlan, WAYS } from "@gray-bench/core/wireprep/result";
import Joi from "joi";
import { code, machine, who, words } from "./common";

/** What a machine for leads, or a printer for labels, waits for. */
export interface WireWait {
  kind: "reel" | "magazine" | "jam" | "roll";
  /** Wire or piece that is wanted, or roll. */
  what: string;
  /** The one that was there has run out. */
  out: boolean;
}

export interface WireMachineNow {
  name: string;
  /** What it takes: leads, or labels. */
  takes: "leads" | "labels";
  state: "idle" | "running" | "waiting" | "away";
  /** When it was last heard of; what else is told is of then. */
  heardAt: string | null;
  why?: string;
  wait: WireWait | null;
  reel: { reel: string; metres: number } | null;
  /** Pieces left in each magazine. */
  magazines: { part: string; left: number }[];
  /** Seconds until it is through. */
  readyS: number;
  /** File it is at. */
  file: string | null;
}

export interface WireMachineList {
  machines: WireMachineNow[];
}

/** A file that went to a machine, or is on its way. */
export interface RunNow {
  name: string;
  takes: "leads" | "labels";
  machine: string;
  /** `sending`: it may be there or not, which is found out before it is sent again. */
  state: "sending" | "sent" | "ended" | "refused";
  why: string | null;
  at: string;
  /** Lead and attempt, in the order of the file. */
  leads: [lead: string, attempt: number][];
  /** Who had it sent; empty where that was not written down yet. */
  who: string;
}

export interface BatchSummary {
  name: string;
  machine: string | null;
  panels: number;
  leads: number;
  bench: number;
  made: number;
  again: number;
  who: string;
  at: string;
  /** What was not made is free again. */
  endedAt: string | null;
}

export interface BatchList {
  batches: BatchSummary[];
  /** Leads of the job, and how many of them are in no batch. */
  leads: number;
  free: number;
}

export interface BatchReply {
  summary: BatchSummary;
  batch: MadeBatch;
  events: LeadEvent[];
  runs: RunNow[];
  /** Revision it was made at, and whether leads are made otherwise by now. */
  revision: string;
  changed: string[];
}

/** What a batch would be. */
export interface BatchOutlook {
  plan: BatchPlan;
}

const batchFields = {
  faces: listOf(form(Joi.string().max(300))).max(500),
  panels: form(Joi.number().integer().min(1).max(MOST_PANELS)),
  machine: orNull(form(Joi.string().max(60))),
  way: oneOf(WAYS),
  fallbacks: orNull(objectOf({ who, why: words })),
};

export const batchAsked: ObjectForm<Omit<BatchAsked, "name">> = objectOf(batchFields);

export const batchRequest = objectOf({ ...batchFields, who });
export interface BatchRequest extends ValueOf<typeof batchRequest> {}

const batch = form(Joi.string().pattern(/^B[1-9]\d{0,5}$/, "a batch, such as B1"));

export const batchParams = objectOf({
  job: code,
  batch,
});

export const batchFileParams = objectOf({
  job: code,
  batch,
  name: form(Joi.string().max(120)),
});

export const leadRequest = objectOf({
  events: listOf(eventForm<LeadEvent>(LEAD as AnyEventKind))
    .min(1)
    .max(500),
});
export interface LeadRequest extends ValueOf<typeof leadRequest> {}

export const sendRequest = objectOf({
  who,
});

export const printRequest = objectOf({
  who,
  printer: machine,
});

export const wireMachineParams = objectOf({
  machine,
});

export const reelRequest = objectOf({
  reel: form(Joi.string().trim().min(1).max(120)),
  metres: form(Joi.number().greater(0).max(100_000)),
});

export const magazineRequest = objectOf({
  part: form(Joi.string().trim().min(1).max(120)),
});
