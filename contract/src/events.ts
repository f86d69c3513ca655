import { filled, flag, form, formOf, listOf, maybe, objectOf, oneOf, type ValueOf } from "@gray-bench/core/form/form";
import { EVENT_KINDS } from "@gray-bench/core/event-kinds";
import { MOMENT, eventForm } from "@gray-bench/core/frame/event-kind";
import type { Happened } from "@gray-bench/core/frame/events";
import Joi from "joi";
import { who } from "./common";
import { pickText } from "./kits";
import type { ProgressEvent } from "./results";

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

const list = form(Joi.string().min(1).max(200).description("name of the list, such as strip -X2"));

/** Nobody is without a network longer than a quarter of a year. */
const MOST_AGO_MS = 90 * 24 * 3_600_000;

export const tickRequest = objectOf({
  /** `strip -X2` */
  list,
  who,
  ticks: listOf(
    objectOf({
      id: form(Joi.string().min(8).max(60)),
      item: form(Joi.string().min(1).max(400)),
      done: flag,
      agoMs: maybe(form(Joi.number().integer().min(0).max(MOST_AGO_MS))),
    }),
  )
    .min(1)
    .max(500),
});
/** Ticks in the form of before: `agoMs` says how long ago each was made, by the clock of whoever ticked. */
export interface OldTicks extends ValueOf<typeof tickRequest> {}

const since = form(Joi.number().integer().min(0).max(Number.MAX_SAFE_INTEGER));

const kind = oneOf(EVENT_KINDS.map((k) => k.kind));

/** Of kinds whose things have logs of their own, and all of a request are of it. */
const thing = formOf<string>(
  Joi.when("kind", {
    switch: EVENT_KINDS.filter((k) => k.apart).map((k) => ({ is: k.kind, then: k.thing.form.required() })),
    otherwise: Joi.forbidden(),
  }),
);

const here = objectOf({
  /** Of the device. */
  device: form(Joi.string().min(8).max(60)),
  who,
  thing: pickText.min(1),
  part: pickText.allow(""),
});
/** Somebody at work with a thing just now, and with what part of it; empty between two. */
export interface Here extends ValueOf<typeof here> {}

export const eventRequest = objectOf({
  kind,
  thing: maybe(thing),
  since,
  /** What the clock of the device says as it sends. */
  clock: maybe(MOMENT),
  events: formOf<Happened[]>(
    Joi.array()
      .max(500)
      .when("kind", {
        switch: EVENT_KINDS.map((k) => {
          const said = eventForm(k);
          const item = k.apart ? said.keys({ [k.thing.field]: Joi.valid(Joi.ref("....thing")).required() }) : said;
          return { is: k.kind, then: Joi.array().items(item) };
        }),
      }),
  ),
  here: maybe<Here>(here),
});
export type EventRequest<E extends Happened = Happened> = Omit<ValueOf<typeof eventRequest>, "events"> & {
  events: E[];
};

export const eventQuery = objectOf({
  kind,
  /** Of ticks their list, of leads their batch. */
  thing: maybe(thing),
  /** Number of the last event that is known. */
  since: filled(since, 0),
});
/** What happened: of a kind, and of one thing where the things of a kind have logs of their own. */
export interface EventQuery extends ValueOf<typeof eventQuery> {}
