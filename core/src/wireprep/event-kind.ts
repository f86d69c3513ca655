import Joi from "joi";
import { UNDOES, type EventKind } from "../frame/event-kind";
import { LEAD_WHAT, type LeadEvent } from "./events";

/** What becomes of leads of a batch. That one failed on a machine the server says itself. */
export const LEAD: EventKind<LeadEvent> = {
  kind: "lead",
  thing: { field: "batch", form: Joi.string().pattern(/^B[1-9]\d{0,5}$/, "a batch, such as B1") },
  apart: true,
  says: {
    lead: Joi.string().min(1).max(300).required(),
    attempt: Joi.number().integer().min(1).max(10_000).required(),
    what: Joi.string()
      .valid(...LEAD_WHAT.filter((w) => w !== "failed"))
      .required(),
    why: Joi.when("what", {
      is: Joi.valid("scrapped", "again"),
      then: Joi.string().trim().min(1).max(500).required(),
      otherwise: Joi.forbidden(),
    }),
    of: UNDOES,
  },
};
