import Joi from "joi";
import { form, type ObjectForm } from "../form/form";
import type { Happened } from "./events";

/**
 * A kind of what happens. It belongs to the stage that understands it, and says what of it may be said, by whom it happened to; what only
 * the server says of itself, as that a program was sent, has no form here.
 */
export interface EventKind<E extends Happened> {
  kind: string;
  /** The field that names the thing an event is of: list, kit, batch, face. */
  thing: { field: keyof E & string; form: Joi.StringSchema };
  /** Each thing has a log of its own and is asked for by its name; else all of a job are heard together. */
  apart?: boolean;
  /** What else an event says. */
  says: Joi.SchemaMap;
  /** How what it says is kept, where that is another form. */
  kept?: { of(says: object): object; back(kept: object): object };
}

/** A kind as those see it who go through all of them. */
export type AnyEventKind = EventKind<never>;

/** Given by whoever says what happened: sent twice it counts once. */
export const EVENT_ID = form(Joi.string().min(8).max(60));

/** Of what is undone its event, and of nothing else. */
export const UNDOES = Joi.when("what", { is: "undone", then: EVENT_ID.required(), otherwise: Joi.forbidden() });

/** ISO date and time; of the forms of ISO 8601 those with months and days, which programs read. */
export const MOMENT = form(
  Joi.string()
    .max(40)
    .custom((text: string) => {
      if (!/^\d{4}-\d\d-\d\dT/.test(text) || Number.isNaN(Date.parse(text))) throw new Error("no date and time");
      return text;
    }, "date and time"),
);

/** The form of an event of a kind, as it is said. */
export const eventForm = <E extends Happened = Happened>({ thing, says }: AnyEventKind): ObjectForm<E> =>
  Joi.object({
    id: EVENT_ID.required(),
    [thing.field]: thing.form.required(),
    ...says,
    who: Joi.string().trim().min(1).max(120).required(),
    at: MOMENT.required(),
  }) as ObjectForm<E>;
