import { EVENT_KINDS } from "@gray-bench/core/event-kinds";
import { MOMENT, eventForm } from "@gray-bench/core/frame/event-kind";
import type { Happened } from "@gray-bench/core/frame/events";
import Joi from "joi";
import { who } from "./common";
import { pickText } from "./kits";
import type { ProgressEvent } from "./results";

/** Ticks in the form of before: `agoMs` says how long ago each was made, by the clock of whoever ticked. */
export interface OldTicks {
  /** `strip -X2` */
  list: string;
  who: string;
  ticks: { id: string; item: string; done: boolean; agoMs?: number }[];
}

/** What happened: of a kind, and of one thing where the things of a kind have logs of their own. */
export interface EventQuery {
  kind: string;
  /** Of ticks their list, of leads their batch. */
  thing?: string;
  /** Number of the last event that is known. */
  since: number;
}

/** Somebody at work with a thing just now, and with what part of it; empty between two. */
export interface Here {
  /** Of the device. */
  device: string;
  who: string;
  thing: string;
  part: string;
}

/** Told on the live line of a job: something of a kind happened, to this thing where things of the kind have logs of their own. */
export interface LiveEvent {
  kind: string;
  thing?: string;
  /** Number of the last event: who knows it need not ask. Absent where somebody is at work with something else. */
  last?: number;
}

/** What is told on the live line of a job, by the name of the event. */
export interface LiveWords {
  happened: LiveEvent;
  /** The job is another one now: its design, or the shop it is computed with. Who knows the key need not ask. */
  changed: { key: string };
  /** How far the computation under a key is. */
  progress: ProgressEvent & { key: string };
}

/** Somebody else at work, and whether they were there before the asker came to what it is at now. */
export type Beside = Here & { before: boolean };

/** Events that came after a number. */
export interface EventReply<E extends Happened = Happened> {
  events: E[];
  /** Number of the last one. */
  last: number;
  /** Who is at work now, the asker left out. */
  here: Beside[];
}

/** As programs read it that know no kind. */
export type AnyEventReply = EventReply;

export interface EventRequest<E extends Happened = Happened> extends EventQuery {
  events: E[];
  /** What the clock of the device says as it sends. */
  clock?: string;
  here?: Here;
}

const list = Joi.string().min(1).max(200).required().description("name of the list, such as strip -X2");

/** Nobody is without a network longer than a quarter of a year. */
const MOST_AGO_MS = 90 * 24 * 3_600_000;

export const tickRequest = Joi.object<OldTicks, true>({
  list,
  who,
  ticks: Joi.array()
    .items(
      Joi.object({
        id: Joi.string().min(8).max(60).required(),
        item: Joi.string().min(1).max(400).required(),
        done: Joi.boolean().required(),
        agoMs: Joi.number().integer().min(0).max(MOST_AGO_MS),
      }),
    )
    .min(1)
    .max(500)
    .required(),
});

const since = Joi.number().integer().min(0).max(Number.MAX_SAFE_INTEGER);

const kind = Joi.string()
  .valid(...EVENT_KINDS.map((k) => k.kind))
  .required();

/** Of kinds whose things have logs of their own, and all of a request are of it. */
const thing = Joi.when("kind", {
  switch: EVENT_KINDS.filter((k) => k.apart).map((k) => ({ is: k.kind, then: k.thing.form.required() })),
  otherwise: Joi.forbidden(),
});

const here = Joi.object<Here, true>({
  device: Joi.string().min(8).max(60).required(),
  who,
  thing: pickText.min(1).required(),
  part: pickText.allow("").required(),
});

export const eventRequest = Joi.object<EventRequest>({
  kind,
  thing,
  since: since.required(),
  clock: MOMENT,
  events: Joi.array()
    .max(500)
    .required()
    .when("kind", {
      switch: EVENT_KINDS.map((k) => {
        const form = eventForm(k);
        const item = k.apart ? form.keys({ [k.thing.field]: Joi.valid(Joi.ref("....thing")).required() }) : form;
        return { is: k.kind, then: Joi.array().items(item) };
      }),
    }),
  here,
});

export const eventQuery = Joi.object<EventQuery>({ kind, thing, since: since.default(0) });
