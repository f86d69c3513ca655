import type { AuditEntry } from "@gray-bench/contract/api";
import type { Kysely } from "kysely";
import type { Schema } from "./schema";

/** Writes down what was done. */
export async function appendAudit(db: Kysely<Schema>, entry: Omit<AuditEntry, "seq">): Promise<void> {
  await db.insertInto("audit").values(entry).execute();
}

/** What was done, the last first; before an entry where one is named. */
export const readAudit = (db: Kysely<Schema>, most: number, before?: number): Promise<AuditEntry[]> => {
  let query = db.selectFrom("audit").selectAll().orderBy("seq", "desc").limit(most);
  if (before !== undefined) query = query.where("seq", "<", before);
  return query.execute();
};
