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

export interface AuditQuery {
  most: number;
  before?: number;
  job?: string;
  as: "json" | "csv";
}

export const auditQuery = Joi.object<AuditQuery>({
  most: Joi.number().integer().min(1).max(1000).default(100).description("entries of one answer as JSON"),
  before: Joi.number().integer().min(1).max(Number.MAX_SAFE_INTEGER).description("number of an entry: those before it"),
  job: code.optional().description("what was done to this job alone"),
  as: Joi.string().valid("json", "csv").default("json"),
});
