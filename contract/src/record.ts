import { filled, form, maybe, objectOf, oneOf, type ValueOf } from "@gray-bench/core/form/form";
import Joi from "joi";
import { code } from "./common";

/** What was done to the whole: it stays when a job goes. */
export interface AuditEntry {
  seq: number;
  at: string;
  what: "import" | "delete" | "matching" | "library" | "shop" | "stop" | "send" | "print" | "program" | "backup";
  job: string | null;
  /** As the name was given; null where none was. */
  who: string | null;
  /** Where it came from. */
  address: string;
  detail: string;
}

export interface AuditList {
  entries: AuditEntry[];
}

export const auditQuery = objectOf({
  most: filled(form(Joi.number().integer().min(1).max(1000).description("entries of one answer as JSON")), 100),
  before: maybe(
    form(Joi.number().integer().min(1).max(Number.MAX_SAFE_INTEGER).description("number of an entry: those before it")),
  ),
  job: maybe(code.description("what was done to this job alone")),
  as: filled(oneOf(["json", "csv"]), "json"),
});
export interface AuditQuery extends ValueOf<typeof auditQuery> {}
