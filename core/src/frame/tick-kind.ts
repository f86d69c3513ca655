import Joi from "joi";
import type { EventKind } from "./event-kind";
import type { TickEvent } from "./ticks";

/** Ticks of lists, of all stages. */
export const TICK: EventKind<TickEvent> = {
  kind: "tick",
  thing: { field: "list", form: Joi.string().min(1).max(200).description("name of the list, such as strip -X2") },
  apart: true,
  says: {
    item: Joi.string().min(1).max(400).required(),
    what: Joi.string().valid("ticked", "unticked").required(),
  },
  kept: {
    of: (says) => {
      const { item, what } = says as TickEvent;
      return { item, done: what === "ticked" };
    },
    back: (kept) => {
      const { item, done } = kept as { item: string; done: boolean };
      return { item, what: done ? "ticked" : "unticked" };
    },
  },
};
