import Joi from "joi";
import { UNDOES, type EventKind } from "../frame/event-kind";
import { SHEET_WHAT, type SheetEvent } from "./events";

/** What becomes of sheets. That a program was sent the server says itself. */
export const SHEET: EventKind<SheetEvent> = {
  kind: "sheet",
  thing: { field: "face", form: Joi.string().min(1).max(300) },
  says: {
    sheet: Joi.number().integer().min(1).max(100_000).required(),
    what: Joi.string()
      .valid(...SHEET_WHAT.filter((w) => w !== "sent"))
      .required(),
    reason: Joi.when("what", {
      is: "scrapped",
      then: Joi.string().trim().min(1).max(200).required(),
      otherwise: Joi.forbidden(),
    }),
    of: UNDOES,
  },
};
