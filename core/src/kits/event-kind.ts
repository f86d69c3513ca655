import Joi from "joi";
import { UNDOES, type EventKind } from "../frame/event-kind";
import { PICK_WHAT, type PickEvent } from "./events";

/** Parts and texts have no bound of their own: what names a line has. */
const text = Joi.string().max(700);

/** What is picked into kits. */
export const PICK: EventKind<PickEvent> = {
  kind: "pick",
  thing: { field: "kit", form: text.min(1) },
  says: {
    line: text.allow("").required(),
    what: Joi.string()
      .valid(...PICK_WHAT)
      .required(),
    quantity: Joi.when("what", {
      is: Joi.valid("picked", "short", "put back"),
      then: Joi.number().greater(0).max(1e9).required(),
      otherwise: Joi.forbidden(),
    }),
    of: UNDOES,
    reason: Joi.when("what", { is: "short", then: Joi.string().max(200).required(), otherwise: Joi.forbidden() }),
  },
};
