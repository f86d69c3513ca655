import type { AuditEntry } from "@gray-bench/contract/record";
import type { Kysely } from "kysely";
import type { Schema } from "./schema";

/** So many entries stay; beyond them the oldest go. */
export const MOST_ENTRIES = 100_000;

/** Writes down what was done. */
export async function appendAudit(
  db: Kysely<Schema>,
  entry: Omit<AuditEntry, "seq">,
  most: number = MOST_ENTRIES,
): Promise<void> {
  await db.transaction().execute(async (tx) => {
    const { seq } = await tx.insertInto("audit").values(entry).returning("seq").executeTakeFirstOrThrow();
    await tx
      .deleteFrom("audit")
      .where("seq", "<=", seq - most)
      .execute();
  });
}

/** What was done, the last first: before an entry where one is named, of one job where one is named. */
export const readAudit = (
  db: Kysely<Schema>,
  most: number,
  { before, job }: { before?: number; job?: string } = {},
): Promise<AuditEntry[]> => {
  let query = db.selectFrom("audit").selectAll().orderBy("seq", "desc").limit(most);
  if (before !== undefined) query = query.where("seq", "<", before);
  if (job !== undefined) query = query.where("job", "=", job);
  return query.execute();
};
